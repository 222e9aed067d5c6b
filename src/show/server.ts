import type { IncomingMessage, ServerResponse } from 'node:http';
import { servedPage } from '../draw/report-page.js';
import { LocalServer } from '../format/local-server.js';
import { findRoot } from '../format/root.js';
import { readViewerPage } from '../format/viewer-page.js';
import { wantOptions, wantText } from '../report/arguments.js';
import { checkNumber } from '../report/usage-error.js';
import { CHANNEL, type FromGame, readMessage, writeMessage } from './messages.js';

/** How the viewer is served. */
export interface ServeOptions {
  /** Where to listen on this machine. Default: any port that is free. */
  port?: number | undefined;
  /** The folder in which movesets may be read and written. Default: the nearest with package.json or .git, from where the program runs. */
  root?: string | undefined;
}

/** A viewer that is served. */
export interface ServedViewer {
  /** Open it in a browser of this machine: it holds a token. */
  readonly address: string;
  close(): Promise<void>;
}

/** A message may have so many bytes. */
const MOST_BYTES = 8 << 20;

/**
 * Serves the viewer for a program without pages, such as a game server, in development: characters and arenas that are shown by
 * `loggia/show` from then on are listed there. Run it with `node --conditions=development`: else `show` does nothing.
 * @param options Where, and which files.
 */
export async function serveViewer(options: ServeOptions = {}): Promise<ServedViewer> {
  wantOptions('serveViewer', options, ['port', 'root']);
  const { port = 0, root = findRoot(`${process.cwd()}/package.json`) } = options;
  checkNumber('serveViewer', 'port', port, 0, 65_535);
  wantText('serveViewer', 'root', root);
  (globalThis as { __loggia?: unknown }).__loggia = true;
  const channel = new BroadcastChannel(CHANNEL);
  // It does not keep a program alive.
  (channel as unknown as { unref(): void }).unref();
  const pages = new Set<ServerResponse>();
  channel.onmessage = ({ data }: MessageEvent<FromGame>) => {
    if (pages.size === 0) return;
    const line = `${writeMessage(data)}\n`;
    for (const page of pages) page.write(line);
  };
  const template = readViewerPage() ?? 'The viewer is not built.';
  const server = new LocalServer({
    root,
    file: '',
    port,
    page: (token) => servedPage(template, 'games', token, true),
    further(what, request, response) {
      if (what === 'games' && request.method === 'GET') {
        response.writeHead(200, { 'content-type': 'application/x-ndjson', 'cache-control': 'no-store' });
        response.flushHeaders();
        pages.add(response);
        response.on('close', () => pages.delete(response));
        return true;
      }
      if (what !== 'say' || request.method !== 'POST') return false;
      void take(request).then((message) => {
        if (message !== undefined) channel.postMessage(message);
        response.writeHead(message === undefined ? 400 : 204);
        response.end();
      });
      return true;
    },
  });
  const address = await server.listen();
  return {
    address,
    async close() {
      channel.close();
      await server.close();
    },
  };
}

/** What a page says; undefined for what is none of its messages. */
async function take(request: IncomingMessage): Promise<unknown> {
  let text = '';
  for await (const part of request) {
    if (text.length > MOST_BYTES) continue;
    text += String(part);
  }
  if (text.length > MOST_BYTES) return undefined;
  try {
    return readMessage(text);
  } catch {
    return undefined;
  }
}
