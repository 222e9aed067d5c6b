// Size of the core with its mover: `loggia` bundled with all it imports, minified, gzipped. Fails on a Node built-in.
import { mkdirSync, writeFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { build } from 'vite';

const result = await build({
  configFile: false,
  logLevel: 'error',
  build: {
    write: false,
    minify: true,
    target: 'es2022',
    lib: { entry: 'src/index.ts', formats: ['es'], fileName: 'core' },
    // Libraries keep their white space unless the output itself is told to be minified.
    rolldownOptions: { optimization: { inlineConst: { mode: 'all', pass: 3 } }, output: { minify: true } },
  },
});
const [{ output }] = Array.isArray(result) ? result : [result];
const code = output[0].code;
if (/from\s*["']node:/.test(code)) throw new Error('the core imports a Node built-in');
mkdirSync('build/core', { recursive: true });
writeFileSync('build/core/core.js', code);
writeFileSync('build/core/core.js.gz.size', `${(gzipSync(code, { level: 9 }).length / 1000).toFixed(1)} kB`);
