// The packed tarball as its users get it: installed into an empty folder, imported by every subpath, type-checked.
import { execFileSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const root = join(import.meta.dirname, '..');
const folder = mkdtempSync(join(tmpdir(), 'loggia-package-'));
try {
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
  const { dependencies, exports } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
  for (const name of [...Object.keys(dependencies), '@types'])
    symlinkSync(join(root, 'node_modules', name), join(folder, 'node_modules', name));
  // loggia/vitest is for tests only: outside of them, vitest cannot be imported.
  const subpaths = Object.keys(exports)
    .filter((key) => key !== './vitest')
    .map((key) => key.replace(/^\./, 'loggia'));
  const text = subpaths.map(
    (path, i) =>
      `import * as part${i} from '${path}';\nif (Object.keys(part${i}).length === 0) throw new Error('${path} is empty');`,
  );
  writeFileSync(join(folder, 'package.json'), '{ "type": "module" }');
  writeFileSync(join(folder, 'use.mts'), text.join('\n'));
  writeFileSync(join(folder, 'use.mjs'), text.join('\n'));
  execFileSync('node', ['use.mjs'], { cwd: folder, stdio: 'inherit' });
  // The types catch what they should, in the oldest TypeScript that is promised, too, and however modules are resolved.
  const types = readFileSync(join(root, 'tests/moveset.types.ts'), 'utf8');
  writeFileSync(join(folder, 'types.mts'), types.replace("'../src/index.js'", "'loggia'"));
  const common = ['--noEmit', '--strict', '--target', 'es2022', '--lib', 'es2023,dom', '--types', 'node'];
  for (const typescript of ['typescript', 'typescript-oldest'])
    for (const modules of [
      ['--module', 'nodenext'],
      ['--module', 'esnext', '--moduleResolution', 'bundler'],
    ])
      execFileSync(
        'node',
        [join(root, 'node_modules', typescript, 'bin/tsc'), ...common, ...modules, 'use.mts', 'types.mts'],
        { cwd: folder, stdio: 'inherit' },
      );
  console.log(
    `package: ${subpaths.join(', ')} import from the packed tarball, and type-check in every way that is promised`,
  );
} finally {
  rmSync(folder, { recursive: true, force: true });
}
