import type { IncomingMessage } from 'node:http';
import { type Answer, fault, MOST_BYTES, type ServedFiles } from './served-files.js';

/** What the page opens, and where it may be tried. */
export interface ServedProject {
  readonly file: string;
  scenarios(): readonly { readonly file: string; readonly scenario: string }[];
}

/** Answers what a page asks of files: `project`, `file`, `stamp`, `scenario`. Whoever calls it has seen that the page is its own. */
export async function answerFiles(
  files: ServedFiles,
  project: ServedProject,
  request: IncomingMessage,
  what: string,
  asked: URLSearchParams,
): Promise<Answer> {
  const { method } = request;
  if (method === 'GET' && what === 'project')
    return { status: 200, data: { file: project.file, scenarios: project.scenarios() } };
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
