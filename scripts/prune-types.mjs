// Takes out of dist/ the declarations that none of the published ones leads to: nobody can import them, and they are a tenth of the package.
import { existsSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';

const root = join(import.meta.dirname, '..');
const { exports } = JSON.parse(readFileSync(join(root, 'package.json'), 'utf8'));
const reached = new Set();
const waiting = Object.values(exports).map(({ types }) => resolve(root, types));
for (let file = waiting.pop(); file; file = waiting.pop()) {
  if (reached.has(file) || !existsSync(file)) continue;
  reached.add(file);
  for (const [, path] of readFileSync(file, 'utf8').matchAll(/(?:from|import\()\s*['"](\.[^'"]+)\.js['"]/g))
    waiting.push(resolve(dirname(file), `${path}.d.ts`));
}
for (const name of readdirSync(join(root, 'dist'), { recursive: true, encoding: 'utf8' })) {
  const file = resolve(root, 'dist', name);
  if (file.endsWith('.d.ts') && !reached.has(file)) rmSync(file);
}
