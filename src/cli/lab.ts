import { existsSync } from 'node:fs';
import { createRequire } from 'node:module';
import { dirname, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';
import { type CommandSpec, rootOf } from './command.js';
import { safe } from './io.js';

export const lab: CommandSpec = {
  name: 'lab',
  summary: 'Open a page to play a moveset in: watch it, ask why not, change its text, and keep runs as scenarios.',
  args: '[file]',
  argsDoc: "a moveset file, YAML or JSON (default: Pell's, of the demo)",
  options: [
    ['--port <port>', 'where to listen on this machine (default: any that is free)'],
    [
      '--root <folder>',
      'the folder that files are read and written in (default: the nearest with package.json or .git)',
    ],
  ],
  example: 'loggia lab demo/boatyard/pell.yaml',
  async run([given], options, io) {
    const port = options.port === undefined ? 0 : Number(options.port);
    if (!(Number.isInteger(port) && port >= 0 && port < 65536)) {
      io.err(`loggia lab: --port takes a number from 0 to 65535, not ${safe(String(options.port))}.`);
      return 2;
    }
    const file = given ?? fileURLToPath(new URL(/* @vite-ignore */ '../../demo/boatyard/pell.yaml', import.meta.url));
    if (!existsSync(file)) {
      io.err(safe(`loggia lab: there is no file ${file}.`));
      return 1;
    }
    const { findRoot, isInFolder } = await import('../format/root.js');
    const root = rootOf(options).root ?? (given === undefined ? dirname(file) : findRoot(file));
    if (!isInFolder(root, file)) {
      io.err(safe(`loggia lab: ${file} is not in ${root}; give its folder by --root.`));
      return 2;
    }
    const { nameOf } = await import('../format/served-files.js');
    const { LocalServer } = await import('../format/local-server.js');
    const { servedPage } = await import('../draw/report-page.js');
    const template = (await import('../format/viewer-page.js')).readViewerPage() ?? '';
    const server = new LocalServer({
      root: resolve(root),
      file: nameOf(root, file),
      page: (token) => servedPage(template, 'lab', token),
      rapier: findRapier(root),
      port,
    });
    let address: string;
    try {
      address = await server.listen();
    } catch (error) {
      io.err(`loggia lab: port ${port} cannot be used: ${(error as NodeJS.ErrnoException).code}.`);
      return 1;
    }
    io.out(`the lab is at ${address}`);
    io.out(safe(`it reads and writes movesets and scenarios in ${root}; Ctrl-C ends it`));
    await new Promise<void>((done) => {
      process.once('SIGINT', done);
      process.once('SIGTERM', done);
    });
    await server.close();
    return 0;
  },
};

/** The program of Rapier that a project has, if any: as a module. */
function findRapier(root: string): string | undefined {
  try {
    const found = createRequire(join(resolve(root), 'package.json')).resolve('@dimforge/rapier3d-compat');
    const program = found.replace(/\.cjs$/, '.mjs');
    return program.endsWith('.mjs') && existsSync(program) ? program : undefined;
  } catch {
    return undefined;
  }
}
