// The packed tarball as its users get it: installed into an empty folder, imported by every subpath, type-checked.
import { execFile, execFileSync } from 'node:child_process';
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { promisify } from 'node:util';
import { fragmentsOf } from './guide.mjs';

/** Bytes of the tarball. */
const MOST = 1_800_000;

const root = join(import.meta.dirname, '..');
const folder = mkdtempSync(join(tmpdir(), 'loggia-package-'));
try {
  if (!existsSync(join(root, 'dist/index.d.ts')))
    throw new Error('there is no built package; run "npm run build" before');
  execFileSync('npx', ['--no-install', 'publint', '--strict'], { cwd: root, stdio: 'inherit' });
  const [{ filename }] = JSON.parse(
    execFileSync('npm', ['pack', '--json', '--ignore-scripts', '--pack-destination', folder], { cwd: root }).toString(),
  );
  mkdirSync(join(folder, 'node_modules/loggia'), { recursive: true });
  execFileSync('tar', [
    '-xzf',
    join(folder, filename),
    '-C',
    join(folder, 'node_modules/loggia'),
    '--strip-components=1',
  ]);
  const { size } = statSync(join(folder, filename));
  if (size > MOST) throw new Error(`the package weighs ${size} bytes; at most ${MOST} are wanted`);
  const { dependencies, exports } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
  for (const name of [...Object.keys(dependencies), '@types']) {
    mkdirSync(dirname(join(folder, 'node_modules', name)), { recursive: true });
    symlinkSync(join(root, 'node_modules', name), join(folder, 'node_modules', name));
  }
  // Those for Vite and Vitest need them, and loggia/yaml is types only.
  const subpaths = Object.keys(exports)
    .filter((key) => key !== './vitest' && key !== './vite' && key !== './yaml')
    .map((key) => key.replace(/^\./, 'loggia'));
  const text = subpaths.map(
    (path, i) =>
      `import * as part${i} from '${path}';\nif (Object.keys(part${i}).length === 0) throw new Error('${path} is empty');`,
  );
  writeFileSync(join(folder, 'package.json'), '{ "type": "module" }');
  writeFileSync(join(folder, 'use.mts'), text.join('\n'));
  writeFileSync(join(folder, 'use.mjs'), text.join('\n'));
  execFileSync('node', ['use.mjs'], { cwd: folder, stdio: 'inherit' });
  // A generated module, as a game has it: it runs, and its types know its names.
  const cli = join(folder, 'node_modules/loggia/dist/cli/bin.js');
  const moveset = join(root, 'demo/boatyard/pell.yaml');
  execFileSync('node', [cli, 'pack', moveset, '--module', '--out', 'pell.js'], { cwd: folder });
  const play = [
    "import { Character, flatGround } from 'loggia';",
    "import pell from './pell.js';",
    'const c = new Character(pell, { world: flatGround() });',
    "c.door.press('jump');",
    'c.tick();',
    "if (!c.readout.isRunning('hop')) throw new Error('the generated module does not hop');",
  ];
  writeFileSync(join(folder, 'play.mjs'), play.join('\n'));
  execFileSync('node', ['play.mjs'], { cwd: folder, stdio: 'inherit' });
  const faulty = ['// @ts-expect-error there is no such ability', "c.readout.isRunning('hopp');"];
  writeFileSync(join(folder, 'play.mts'), [...play, ...faulty].join('\n'));
  // A folder that "loggia new" makes runs at once.
  execFileSync('node', [cli, 'new', 'rigger'], { cwd: folder });
  for (const name of ['vite', 'vitest', '@dimforge'])
    symlinkSync(join(root, 'node_modules', name), join(folder, 'node_modules', name));
  const rigger = join(folder, 'rigger');
  execFileSync('node', [cli, 'check', 'moveset.yaml'], { cwd: rigger });
  execFileSync('node', [join(root, 'node_modules/vitest/vitest.mjs'), 'run'], { cwd: rigger });
  execFileSync('node', [join(root, 'node_modules/typescript/bin/tsc')], { cwd: rigger });
  // What is shown in development is not in a build: not a byte of it.
  const main = readFileSync(join(rigger, 'main.ts'), 'utf8');
  const sizes = [];
  for (const more of [
    '',
    "\nimport { show } from 'loggia/show';\nimport { Character as Shown } from 'loggia';\nif (location.hash) show(undefined as unknown as Shown, 'Pell');\n",
  ]) {
    writeFileSync(join(rigger, 'main.ts'), main + more);
    execFileSync('node', [join(root, 'node_modules/vite/bin/vite.js'), 'build', '--logLevel', 'error'], {
      cwd: rigger,
    });
    const built = readdirSync(join(rigger, 'dist/assets')).filter((file) => file.endsWith('.js'));
    const code = built.map((file) => readFileSync(join(rigger, 'dist/assets', file), 'utf8')).join('');
    if (/BroadcastChannel|__loggia/.test(code)) throw new Error('what is shown in development is in a build');
    sizes.push(code.length);
  }
  if (sizes[1] - sizes[0] > 100) throw new Error(`show adds ${sizes[1] - sizes[0]} bytes to a build`);
  // The types catch what they should, in the oldest TypeScript that is promised, too, and however modules are resolved.
  const types = readFileSync(join(root, 'tests/moveset.types.ts'), 'utf8');
  writeFileSync(join(folder, 'types.mts'), types.replace("'../src/index.js'", "'loggia'"));
  execFileSync('node', [join(folder, 'node_modules/loggia/examples/host-loop/main.mjs')], { cwd: folder });
  // What the pages link to is in the package, but for what they say is in the repository only.
  const inside = join(folder, 'node_modules/loggia');
  const pages = [
    'README.md',
    ...['guide', 'reference'].flatMap((kind) =>
      readdirSync(join(inside, 'docs', kind)).map((page) => `docs/${kind}/${page}`),
    ),
  ];
  for (const page of pages) {
    const [text] = readFileSync(join(inside, page), 'utf8').split('## In the repository');
    for (const [, target] of text.matchAll(/\]\((?!https?:)([^)#]+)/g))
      if (!existsSync(join(inside, dirname(page), target)))
        throw new Error(`${page} links to ${target}, which is not in the package`);
  }
  // Every program of the docs, too, as strict as tsc --init makes it, and with all that they import.
  const programs = [
    ...docs('README.md'),
    ...readdirSync(join(root, 'docs/guide')).flatMap((page) => docs(`docs/guide/${page}`)),
  ];
  const common = ['--noEmit', '--strict', '--target', 'es2022', '--lib', 'es2023,dom', '--types', 'node'];
  // In each run, both compilers and both ways; with --all, each compiler with each way.
  const ways = { nodenext: ['--module', 'nodenext'], bundler: ['--module', 'esnext', '--moduleResolution', 'bundler'] };
  const pairs = [
    ['typescript', 'nodenext'],
    ['typescript-oldest', 'bundler'],
    ...(process.argv.includes('--all')
      ? [
          ['typescript', 'bundler'],
          ['typescript-oldest', 'nodenext'],
        ]
      : []),
  ];
  const compilations = pairs.map(([typescript, way]) => [
    join(root, 'node_modules', typescript, 'bin/tsc'),
    ...[...common, ...ways[way], 'use.mts', 'types.mts', 'play.mts'],
  ]);
  const strictest = [
    '--exactOptionalPropertyTypes',
    '--noUncheckedIndexedAccess',
    '--module',
    'esnext',
    '--moduleResolution',
    'bundler',
  ];
  // The longest first: two run side by side.
  compilations.unshift([
    join(root, 'node_modules/typescript/bin/tsc'),
    ...common.slice(0, -1),
    'node,vite/client,loggia/yaml',
    ...strictest,
    ...programs,
    'use.mts',
    'types.mts',
  ]);
  const next = async () => {
    for (let words = compilations.shift(); words; words = compilations.shift()) await compile(words);
  };
  await Promise.all([next(), next()]);
  console.log(
    `package: ${subpaths.join(', ')} import from the packed tarball, and type-check in every way that is promised`,
  );

  /** One run of the compiler; what it finds fails the check. */
  async function compile(words) {
    try {
      await promisify(execFile)('node', words, { cwd: folder });
    } catch (error) {
      throw new Error(error.stdout || error.message);
    }
  }

  /** Writes the programs of a page, and gives their files. */
  function docs(page) {
    const text = readFileSync(join(root, page), 'utf8');
    const programs = fragmentsOf(text).filter(({ language }) => language === 'ts');
    return programs.map((program, i) => {
      const file = `${page.replaceAll('/', '-')}-${i}.ts`;
      writeFileSync(join(folder, file), program.text);
      return file;
    });
  }
} catch (error) {
  console.error(`package: ${error.message}`);
  process.exitCode = 1;
} finally {
  rmSync(folder, { recursive: true, force: true });
}
