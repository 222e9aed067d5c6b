// Sizes, minified and gzipped: of what a game needs that ships a packed moveset, and of all that `loggia` exports.
// Fails on a Node built-in.
import { mkdirSync, writeFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { build } from 'vite';

async function measure(entry) {
  const result = await build({
    configFile: false,
    logLevel: 'error',
    build: {
      write: false,
      minify: true,
      target: 'es2022',
      lib: { entry, formats: ['es'], fileName: 'core' },
      // Libraries keep their white space unless the output itself is told to be minified.
      rolldownOptions: { optimization: { inlineConst: { mode: 'all', pass: 3 } }, output: { minify: true } },
    },
  });
  const [{ output }] = Array.isArray(result) ? result : [result];
  const { code } = output[0];
  if (/from\s*["']node:/.test(code)) throw new Error('the core imports a Node built-in');
  return gzipSync(code, { level: 9 }).length;
}

mkdirSync('build/core', { recursive: true });
writeFileSync(
  'build/core/sizes.json',
  JSON.stringify({ core: await measure('bench/core.ts'), whole: await measure('src/index.ts') }),
);
