import { readFileSync } from 'node:fs';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { MOST_BYTES, type ScenarioFile } from './project-files.js';
import { type Answer, fault, type ServedFiles } from './served-files.js';

/** What the page opens, and where it may be tried. */
export interface ServedProject {
  readonly file: string;
  scenarios(): readonly ScenarioFile[];
  /** The program of Rapier in 3D, a module, where the project has it. */
  readonly rapier?: string | undefined;
}

/** Answers what a page asks of files: `project`, `program`, `file`, `stamp`, `scenario`. Whoever calls it has seen that the page is its own. */
export async function answerFiles(
  files: ServedFiles,
  project: ServedProject,
  request: IncomingMessage,
  response: ServerResponse,
  what: string,
  asked: URLSearchParams,
): Promise<void> {
  const { status, data } = await answerTo(files, project, request, what, asked);
  send(response, status, 'application/json', JSON.stringify(data));
}

/** Sends a text that no other page may show, keep or take for something else. */
export function send(response: ServerResponse, status: number, type: string, text: string): void {
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

async function answerTo(
  files: ServedFiles,
  project: ServedProject,
  request: IncomingMessage,
  what: string,
  asked: URLSearchParams,
): Promise<Answer> {
  const { method } = request;
  if (method === 'GET' && what === 'project')
    return {
      status: 200,
      data: { file: project.file, scenarios: project.scenarios(), rapier: project.rapier !== undefined },
    };
  if (method === 'GET' && what === 'program' && asked.get('name') === 'rapier' && project.rapier !== undefined)
    return { status: 200, data: { text: readFileSync(project.rapier, 'utf8') } };
  if (method === 'GET' && what === 'file') return files.read(asked.get('file') ?? '');
  if (method === 'GET' && what === 'stamp') return files.stamps(asked.getAll('file').slice(0, 100));
  if (method !== 'POST' || (what !== 'file' && what !== 'scenario')) return fault(404, 'There is nothing here.');
  const body = await readBody(request);
  if (body === undefined) return fault(413, `A file may have ${MOST_BYTES} bytes.`);
  let data: unknown;
  try {
    data = JSON.parse(body);
  } catch {
    return fault(400, 'What is written must be JSON.');
  }
  const { file, text, before } = (data ?? {}) as { file?: unknown; text?: unknown; before?: unknown };
  if (typeof file !== 'string' || typeof text !== 'string') return fault(400, 'A file and its text are wanted.');
  return what === 'file' ? files.write(file, text, before) : files.create(file, text);
}

/** As JSON, a text may be some times as long. */
const MOST_BODY = 4 * MOST_BYTES;

/** The whole body, or undefined where it is larger than any file may be: what is too much is heard out, and forgotten. */
async function readBody(request: IncomingMessage): Promise<string | undefined> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request) {
    size += (part as Buffer).length;
    if (size > 16 * MOST_BODY) request.destroy();
    else if (size <= MOST_BODY) parts.push(part as Buffer);
  }
  return size > MOST_BODY ? undefined : Buffer.concat(parts).toString('utf8');
}
