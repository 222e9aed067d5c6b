import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { basename, dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { CommandSpec } from './command.js';
import { type ExitCode, type Io, safe } from './io.js';

/** What is made: the folders of templates/ whose files it has, and what its page says. */
interface Template {
  readonly what: string;
  readonly parts: readonly string[];
  readonly keys?: string;
  readonly height?: number;
}
const TEMPLATES: Readonly<Record<string, Template>> = {
  side: {
    what: 'a page seen from the side, drawn on a canvas',
    parts: ['all', 'page', 'air', 'side'],
    keys: 'A, D: walk. Space: hop. F: gale dash.',
    height: 400,
  },
  open: {
    what: 'a page in the open, drawn with three',
    parts: ['all', 'page', 'open'],
    keys: 'W, A, S, D: walk. Drag: look. Space: hop. F: gale dash.',
    height: 540,
  },
  duel: {
    what: 'a page with a rival to fight',
    parts: ['all', 'page', 'duel'],
    keys: 'A, D: walk. J: strike, twice for a combo. K: brace.',
    height: 400,
  },
  server: { what: 'a program that ticks two hundred characters', parts: ['all', 'air', 'server'] },
};

const here = dirname(fileURLToPath(import.meta.url));
/** The package's own folder: this is in dist/cli. */
const ROOT = join(here, '../..');

export const make: CommandSpec = {
  name: 'new',
  summary: 'Make a folder that runs at once: a moveset, two scenarios, their tests, and a page or a program.',
  args: '<folder>',
  argsDoc: 'the folder to make, or one that is empty',
  options: [
    [
      '--template <name>',
      `${Object.entries(TEMPLATES)
        .map(([name, { what }]) => `${name}: ${what}`)
        .join('; ')} (default: side)`,
    ],
    ['--name <name>', 'what the character is called (default: the name of the folder)'],
    ['--from <file>', 'a state chart (SCXML) to take as the skeleton of the moveset'],
  ],
  example: 'loggia new rigger --template duel',
  async run([folder], { template = 'side', name, from }, io) {
    if (!Object.hasOwn(TEMPLATES, String(template))) {
      io.err(
        `loggia new: there is no template "${safe(String(template))}". There are ${Object.keys(TEMPLATES).join(', ')}.`,
      );
      return 2;
    }
    if (existsSync(folder) && readdirSync(folder).length > 0) {
      io.err(safe(`loggia new: ${folder} is not empty; name a new folder.`));
      return 1;
    }
    const called = name === undefined ? nameFor(folder) : String(name);
    if (!/^[\p{L}\p{N}][\p{L}\p{N} _-]{0,40}$/u.test(called)) {
      io.err(`loggia new: --name takes letters, digits and spaces, not ${safe(called)}.`);
      return 2;
    }
    let skeleton: string | undefined;
    if (from !== undefined) {
      const { readScxml, ScxmlFault } = await import('./read-scxml.js');
      try {
        skeleton = readScxml(readFileSync(String(from), 'utf8'), called);
      } catch (error) {
        const { code, message } = error as NodeJS.ErrnoException;
        const why = error instanceof ScxmlFault ? message : `it cannot be read: ${code ?? message}`;
        io.err(safe(`loggia new: ${String(from)}: ${why}.`));
        return 1;
      }
    }
    return write(folder, String(template), called, skeleton, io);
  },
};

/** The name of a folder as that of somebody: with a capital. */
function nameFor(folder: string): string {
  const word = basename(folder).replace(/[^\p{L}\p{N} _-]/gu, '') || 'Pell';
  return word[0].toUpperCase() + word.slice(1);
}

async function write(
  folder: string,
  template: string,
  name: string,
  skeleton: string | undefined,
  io: Io,
): Promise<ExitCode> {
  const { writeFolder } = await import('./write-out.js');
  const { movesetSchema } = await import('../format/index.js');
  const { scenarioSchema } = await import('../scenario/index.js');
  const files = new Map<string, string>();
  const { parts, keys = '', height = 0 } = TEMPLATES[template];
  for (const part of parts) {
    const base = join(ROOT, 'templates', part);
    for (const entry of readdirSync(base, { recursive: true, withFileTypes: true })) {
      if (!entry.isFile()) continue;
      const inside = join(entry.parentPath, entry.name)
        .slice(base.length + 1)
        .replaceAll('\\', '/');
      // Names that a package may not hold as they are.
      const to = inside.replace(/^_vscode\//, '.vscode/').replace(/^gitignore$/, '.gitignore');
      const text = readFileSync(join(base, inside), 'utf8').replaceAll('NAME', name);
      files.set(to, text.replace('KEYS', keys).replace('HEIGHT', String(height)));
    }
  }
  if (skeleton !== undefined) {
    files.set('moveset.yaml', skeleton);
    // The scenarios of the template are about its own moveset.
    for (const file of [...files.keys()]) if (file.startsWith('scenarios/')) files.delete(file);
    files.set('scenarios/stands.yaml', STANDS);
    files.delete('main.ts');
    files.delete('main.mjs');
    files.delete('index.html');
  }
  files.set('schema/moveset.json', `${JSON.stringify(movesetSchema())}\n`);
  files.set('schema/scenario.json', `${JSON.stringify(scenarioSchema())}\n`);
  files.set('package.json', `${JSON.stringify(packageOf(folder, template, skeleton !== undefined), null, 2)}\n`);
  if (!writeFolder('new', folder, files, [], io)) return 1;
  io.out(
    safe(
      `made ${folder}: ${[...files.keys()]
        .filter((file) => !file.startsWith('.'))
        .sort()
        .join(', ')}`,
    ),
  );
  const start = skeleton === undefined ? (template === 'server' ? 'npm start' : 'npm run dev') : 'npm run check';
  io.out(
    safe(
      `next: cd ${/^[\w./-]+$/.test(folder) ? folder : JSON.stringify(folder)} && npm install && ${start}; npm test runs the scenarios`,
    ),
  );
  return 0;
}

const STANDS = `loggia: 1
scenario: It stands; write here what it should do
moveset: ../moveset.yaml
world: { rows: ["............", "..@.........", "############"] }
run: 0.5s
expect:
  - { at: end, that: grounded }
`;

/** Versions of other packages are those that Loggia is tried with. */
function packageOf(folder: string, template: string, isSkeleton: boolean): object {
  const own = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8'));
  const isPage = template !== 'server' && !isSkeleton;
  return {
    name:
      basename(folder)
        .toLowerCase()
        .replace(/[^a-z0-9-]+/g, '-')
        .replace(/^-+|-+$/g, '') || 'loggia-game',
    private: true,
    type: 'module',
    scripts: {
      ...(isPage && { dev: 'vite', build: 'tsc && vite build' }),
      ...(template === 'server' && !isSkeleton && { start: 'node main.mjs' }),
      test: 'vitest run',
      check: 'loggia check moveset.yaml',
    },
    dependencies: { loggia: `^${own.version}`, ...(template === 'open' && isPage && { three: '^0.187.0' }) },
    devDependencies: {
      ...(isPage && { typescript: '^6.0.3', ...(template === 'open' && { '@types/three': '^0.187.0' }) }),
      ...(isPage && { vite: '^8.3.0' }),
      vitest: '4.1.11',
    },
  };
}
