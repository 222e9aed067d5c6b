import { randomBytes, timingSafeEqual } from 'node:crypto';
import { existsSync, lstatSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { dirname, join, relative, resolve } from 'node:path';
import { isInFolder, realPath } from '../format/root.js';
import { writeWhole } from '../format/write-whole.js';

/** A text that is read or written may have so many bytes, and a folder is looked through so far. */
const MOST_BYTES = 1 << 20;
const MOST_FILES = 2000;
const DEEPEST = 8;
const NAMES = /\.(ya?ml|json)$/;

export interface LabOptions {
  /** The folder in which movesets and scenarios are read and written. */
  readonly root: string;
  /** The moveset that is opened, from the root on. */
  readonly file: string;
  /** The viewer's page. */
  readonly page: string;
  /** Where to listen; 0 for any. */
  readonly port: number;
}

/** What the page asks for is answered with data or with a fault in a sentence. */
type Answer = { readonly status: number; readonly data: unknown };

/**
 * The small server of the lab. It reads and writes movesets and scenarios under its root, and nothing else: it listens on this
 * machine only, wants the token of its address, and refuses what comes from another page.
 */
export class LabServer {
  readonly token = randomBytes(24).toString('base64url');
  private readonly server: Server;
  private port = 0;

  constructor(private readonly options: LabOptions) {
    this.server = createServer((request, response) => {
      this.answer(request, response).catch(() => {
        if (!response.headersSent) response.writeHead(500);
        response.end();
      });
    });
    this.server.requestTimeout = 10_000;
  }

  /** Its address, once it listens. */
  async listen(): Promise<string> {
    await new Promise<void>((done, fail) => {
      this.server.once('error', fail);
      this.server.listen(this.options.port, '127.0.0.1', done);
    });
    const address = this.server.address();
    this.port = typeof address === 'object' && address !== null ? address.port : 0;
    return `http://127.0.0.1:${this.port}/?token=${this.token}`;
  }

  close(): Promise<void> {
    this.server.closeAllConnections();
    return new Promise((done) => {
      this.server.close(() => done());
    });
  }

  private async answer(request: IncomingMessage, response: ServerResponse): Promise<void> {
    const { pathname, searchParams } = new URL(request.url ?? '/', 'http://127.0.0.1');
    // A page that only has a name for this machine, or comes from elsewhere, is refused before anything is looked at.
    if (!this.isOurs(request)) {
      send(response, 403, 'text/plain', 'Not from here.');
      return;
    }
    const given = request.headers['x-loggia-token'] ?? searchParams.get('token');
    if (!this.knows(typeof given === 'string' ? given : '')) {
      send(response, 403, 'text/plain', 'Open the address that "loggia lab" printed; it holds a token.');
      return;
    }
    if (pathname === '/' && request.method === 'GET') {
      send(response, 200, 'text/html; charset=utf-8', this.options.page);
      return;
    }
    // Data is asked for with the token as a header, which no other page can send.
    if (request.headers['x-loggia-token'] === undefined) {
      send(response, 403, 'text/plain', 'The token must be a header.');
      return;
    }
    const { status, data } = await this.dataFor(request, pathname, searchParams);
    send(response, status, 'application/json', JSON.stringify(data));
  }

  private isOurs({ headers }: IncomingMessage): boolean {
    const hosts = [`127.0.0.1:${this.port}`, `localhost:${this.port}`];
    if (!hosts.includes(headers.host ?? '')) return false;
    if (headers['sec-fetch-site'] === 'cross-site' && headers['sec-fetch-mode'] !== 'navigate') return false;
    return headers.origin === undefined || hosts.some((host) => headers.origin === `http://${host}`);
  }

  private knows(given: string): boolean {
    const [a, b] = [Buffer.from(given), Buffer.from(this.token)];
    return a.length === b.length && timingSafeEqual(a, b);
  }

  private async dataFor(request: IncomingMessage, path: string, asked: URLSearchParams): Promise<Answer> {
    const { method } = request;
    const name = asked.get('file') ?? '';
    if (method === 'GET' && path === '/lab/project')
      return { status: 200, data: { file: this.options.file, scenarios: this.scenarios() } };
    if (method === 'GET' && path === '/lab/file') return this.read(name);
    if (method === 'GET' && path === '/lab/stamp') return this.stamp(asked.getAll('file').slice(0, 100));
    if (method === 'POST' && (path === '/lab/file' || path === '/lab/scenario')) {
      const body = await readBody(request);
      if (body === undefined) return fault(413, `A file may have ${MOST_BYTES} bytes.`);
      let data: { file?: unknown; text?: unknown; before?: unknown };
      try {
        data = JSON.parse(body);
      } catch {
        return fault(400, 'What is written must be JSON.');
      }
      const { file, text, before } = data ?? {};
      if (typeof file !== 'string' || typeof text !== 'string') return fault(400, 'A file and its text are wanted.');
      return path === '/lab/file' ? this.write(file, text, before) : this.create(file, text);
    }
    return fault(404, 'There is nothing here.');
  }

  /** The path of a file that may be read or written; undefined for any other. */
  private find(name: string): string | undefined {
    if (!NAMES.test(name) || name.includes('\0')) return undefined;
    const path = resolve(this.options.root, name);
    if (!isInFolder(this.options.root, path) || !isInFolder(this.options.root, dirname(path))) return undefined;
    // What a link leads to may be elsewhere by the time it is written.
    if (existsSync(path) && (lstatSync(path).isSymbolicLink() || !lstatSync(path).isFile())) return undefined;
    return path;
  }

  private read(name: string): Answer {
    const path = this.find(name);
    if (path === undefined) return fault(403, `${name} is no moveset or scenario under the folder of the lab.`);
    try {
      if (statSync(path).size > MOST_BYTES) return fault(413, `${name} has more than ${MOST_BYTES} bytes.`);
      return { status: 200, data: { file: name, text: readFileSync(path, 'utf8') } };
    } catch (error) {
      return fault(404, `${name} cannot be read: ${codeOf(error)}.`);
    }
  }

  /** When files were changed last, so that the page sees what others write. */
  private stamp(names: readonly string[]): Answer {
    return {
      status: 200,
      data: Object.fromEntries(
        names.map((name) => {
          const path = this.find(name);
          try {
            return [name, path === undefined ? 0 : statSync(path).mtimeMs];
          } catch {
            return [name, 0];
          }
        }),
      ),
    };
  }

  /** Writes a file that was changed in the page, if nobody else has changed it meanwhile. */
  private write(name: string, text: string, before: unknown): Answer {
    const path = this.find(name);
    if (path === undefined) return fault(403, `${name} is no moveset or scenario under the folder of the lab.`);
    if (Buffer.byteLength(text) > MOST_BYTES) return fault(413, `${name} would have more than ${MOST_BYTES} bytes.`);
    const now = existsSync(path) ? readFileSync(path, 'utf8') : undefined;
    if (now !== before) return { status: 409, data: { fault: `${name} has changed on the disk.`, text: now ?? '' } };
    const why = writeWhole(path, text, []);
    return why ? fault(500, `${name} cannot be written: ${why}.`) : { status: 200, data: { file: name } };
  }

  /** Writes a new scenario; one that is there stays. */
  private create(name: string, text: string): Answer {
    const path = this.find(name);
    if (path === undefined) return fault(403, `${name} is no name of a scenario under the folder of the lab.`);
    if (Buffer.byteLength(text) > MOST_BYTES) return fault(413, `${name} would have more than ${MOST_BYTES} bytes.`);
    if (existsSync(path)) return fault(409, `${name} is there already; choose another name.`);
    if (!existsSync(dirname(path)))
      return fault(404, `There is no folder ${relative(this.options.root, dirname(path))}.`);
    const why = writeWhole(path, text, []);
    return why ? fault(500, `${name} cannot be written: ${why}.`) : { status: 200, data: { file: name } };
  }

  /** Scenarios under the root, with their sentences. */
  private scenarios(): { file: string; scenario: string }[] {
    const found: { file: string; scenario: string }[] = [];
    let looked = 0;
    const visit = (folder: string, deep: number) => {
      for (const entry of readdirSync(folder, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
        if (++looked > MOST_FILES) return;
        const path = join(folder, entry.name);
        if (entry.isDirectory()) {
          if (deep < DEEPEST && !entry.name.startsWith('.') && !SKIPPED.has(entry.name)) visit(path, deep + 1);
        } else if (entry.isFile() && NAMES.test(entry.name) && statSync(path).size <= MOST_BYTES) {
          const sentence = /^scenario:[ \t]*(.+)$/m.exec(readFileSync(path, 'utf8'))?.[1];
          if (sentence)
            found.push({
              file: nameOf(this.options.root, path),
              scenario: sentence.replace(/^(['"])(.*)\1$/, '$2').slice(0, 200),
            });
        }
      }
    };
    visit(realPath(this.options.root), 0);
    return found;
  }
}

const SKIPPED = new Set(['node_modules', 'dist', 'build']);

/** A path as the page names it: from the root on. */
export function nameOf(root: string, path: string): string {
  return relative(realPath(root), realPath(path)).replaceAll('\\', '/');
}

function fault(status: number, text: string): Answer {
  return { status, data: { fault: text } };
}

function codeOf(error: unknown): string {
  return (error as NodeJS.ErrnoException).code ?? String(error);
}

function send(response: ServerResponse, status: number, type: string, text: string): void {
  response.writeHead(status, {
    'content-type': type,
    'cache-control': 'no-store',
    'x-content-type-options': 'nosniff',
    'referrer-policy': 'no-referrer',
    'cross-origin-resource-policy': 'same-origin',
    'x-frame-options': 'DENY',
  });
  response.end(text);
}

/** The whole body, or undefined where it is larger than any file may be. */
async function readBody(request: IncomingMessage): Promise<string | undefined> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request) {
    size += (part as Buffer).length;
    // As JSON, a text may be some times as long.
    if (size > 4 * MOST_BYTES) return undefined;
    parts.push(part as Buffer);
  }
  return Buffer.concat(parts).toString('utf8');
}
