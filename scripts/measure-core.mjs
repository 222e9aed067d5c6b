// Sizes of what is published, minified and gzipped: what a game needs at least that ships a packed moveset, and all
// that `loggia` exports. Fails on a Node built-in.
import { mkdirSync, writeFileSync } from 'node:fs';
import { gzipSync } from 'node:zlib';
import { build } from 'vite';

mkdirSync('build', { recursive: true });

async function measure(exported) {
  const entry = 'build/game.js';
  writeFileSync(entry, `export ${exported} from '../dist/index.js';\n`);
  const result = await build({
    configFile: false,
    logLevel: 'error',
    build: {
      write: false,
      minify: true,
      target: 'es2022',
      lib: { entry, formats: ['es'], fileName: 'game' },
      // Libraries keep their white space unless the output itself is told to be minified.
      rolldownOptions: { output: { minify: true } },
    },
  });
  const [{ output }] = Array.isArray(result) ? result : [result];
  const { code } = output[0];
  if (/from\s*["']node:/.test(code)) throw new Error('the core imports a Node built-in');
  return gzipSync(code, { level: 9 }).length;
}

const core = await measure('{ Character, flatGround, unpackMoveset }');
const whole = await measure('*');
writeFileSync('build/sizes.json', JSON.stringify({ core, whole }));
