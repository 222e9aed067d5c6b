// Builds dist/: the library, the command line, the viewer and the types, side by side, since none waits for another. Tests need no types:
// with --code they are left out. Whether they are right is for "npm run types".
import { spawn } from 'node:child_process';
import { rmSync, utimesSync } from 'node:fs';
import { join } from 'node:path';

const root = join(import.meta.dirname, '..');
const codeOnly = process.argv.includes('--code');
const vite = join(root, 'node_modules/vite/bin/vite.js');

function run(...args) {
  return new Promise((resolve) => {
    spawn(process.execPath, args, { cwd: root, stdio: 'inherit' }).on('close', (code) => resolve(code === 0));
  });
}

rmSync(join(root, 'dist'), { recursive: true, force: true });
const done = await Promise.all([
  run(vite, 'build', '--emptyOutDir=false', '--logLevel', 'warn'),
  run(vite, 'build', '-c', 'vite.cli.config.ts', '--logLevel', 'warn'),
  run(vite, 'build', '-c', 'vite.viewer.config.ts', '--logLevel', 'warn'),
  codeOnly || run(join(root, 'node_modules/typescript/bin/tsc'), '-p', 'tsconfig.build.json'),
]);
if (done.includes(false)) process.exit(1);
if (!codeOnly && !(await run(join(root, 'scripts/prune-types.mjs')))) process.exit(1);
// The last that is written: whoever asks whether all is built looks at it.
const now = new Date();
utimesSync(join(root, 'dist/index.js'), now, now);
