import { randomBytes, timingSafeEqual } from 'node:crypto';
import { createServer, type IncomingMessage, type Server, type ServerResponse } from 'node:http';
import { answerFiles, send } from './files-over-http.js';
import { ServedFiles } from './served-files.js';

export interface LocalOptions {
  /** The folder in which movesets and scenarios are read and written. */
  readonly root: string;
  /** The moveset that is opened, from the root on. */
  readonly file: string;
  /** The viewer's page, with the token that it asks with. */
  page(token: string): string;
  /** The program of Rapier, which the page may run. Default: none. */
  readonly rapier?: string | undefined;
  /** Where to listen; 0 for any. */
  readonly port: number;
  /** Answers what is asked for besides files, and says whether it did. */
  further?(what: string, request: IncomingMessage, response: ServerResponse): boolean;
}

/**
 * A small server for the viewer: of the lab, or of a program that shows its games. It reads and writes movesets and scenarios under its root, and nothing else: it listens on this
 * machine only, wants the token of its address, and refuses what comes from another page.
 */
export class LocalServer {
  readonly token = randomBytes(24).toString('base64url');
  private readonly files: ServedFiles;
  private readonly server: Server;
  private port = 0;

  constructor(private readonly options: LocalOptions) {
    this.files = new ServedFiles(options.root);
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
      send(response, 403, 'text/plain', 'Open the address that was printed; it holds a token.');
      return;
    }
    if (pathname === '/' && request.method === 'GET') {
      send(response, 200, 'text/html; charset=utf-8', this.options.page(this.token));
      return;
    }
    // Data is asked for with the token as a header, which no other page can send.
    if (request.headers['x-loggia-token'] === undefined) {
      send(response, 403, 'text/plain', 'The token must be a header.');
      return;
    }
    const what = pathname.replace(/^\/lab\//, '');
    if (this.options.further?.(what, request, response)) return;
    const { file, rapier } = this.options;
    const project = { file, rapier, scenarios: () => this.files.scenarios() };
    await answerFiles(this.files, project, request, response, what, searchParams);
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
}
