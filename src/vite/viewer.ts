import { randomBytes } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import { join } from 'node:path';
import { servedPage } from '../draw/report-page.js';
import { answerFiles, send } from '../format/files-over-http.js';
import { findRoot } from '../format/root.js';
import { ServedFiles } from '../format/served-files.js';
import { readViewerPage } from '../format/viewer-page.js';

const LOOPBACK = /^(::1|(::ffff:)?127(\.\d+){3})$/;
const LOCAL = /^(localhost|127\.0\.0\.1|\[::1\])(:\d+)?$/;

/**
 * Serves the viewer to this machine, and lets it read and write movesets and scenarios of the project: nobody else, and no other page.
 * @param root Vite's root; the project is the nearest folder from there up with a package.json or .git.
 */
export function serveViewer(root: string) {
  const token = randomBytes(24).toString('base64url');
  const files = new ServedFiles(findRoot(join(root, 'index.html')), root);
  return async (request: IncomingMessage, response: ServerResponse): Promise<void> => {
    const { pathname, searchParams } = new URL(request.url ?? '/', 'http://localhost');
    const { host = '', origin } = request.headers;
    const isOurs =
      LOOPBACK.test(request.socket.remoteAddress ?? '') &&
      LOCAL.test(host) &&
      (origin === undefined || origin === `http://${host}` || origin === `https://${host}`);
    if (!isOurs) {
      send(response, 403, 'text/plain', 'The viewer is for pages of this machine only.');
      return;
    }
    if (pathname === '/' && request.method === 'GET') {
      const page = readViewerPage();
      if (page) send(response, 200, 'text/html; charset=utf-8', servedPage(page, 'games', token));
      else send(response, 404, 'text/plain', 'The viewer is not built: run "npm run build".');
      return;
    }
    // A page of elsewhere can send no such header.
    if (request.headers['x-loggia-token'] !== token) {
      send(response, 403, 'text/plain', 'Load the viewer again: the server was started anew.');
      return;
    }
    const project = { file: '', scenarios: () => files.scenarios() };
    await answerFiles(files, project, request, response, pathname.slice(1), searchParams);
  };
}
