// Sizes of what is published, minified and gzipped: what a game needs at least that ships a packed moveset, all that `loggia`
// exports, and a whole game with one character that is a module. Fails on a Node built-in.
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { resolve } from 'node:path';
import { gzipSync } from 'node:zlib';
import { build } from 'vite';
import { packModule, parseMoveset } from '../dist/format/text.js';

mkdirSync('build', { recursive: true });

async function measure(text) {
  const entry = 'build/game.js';
  writeFileSync(entry, text);
  const result = await build({
    configFile: false,
    logLevel: 'error',
    resolve: { alias: { 'loggia/module': resolve('dist/module/index.js') } },
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

const core = await measure("export { Character, flatGround, unpackMoveset } from '../dist/index.js';\n");
const whole = await measure("export * from '../dist/index.js';\n");
const { plan } = parseMoveset(readFileSync('demo/boatyard/pell-basics.yaml', 'utf8'));
writeFileSync('build/pell.js', packModule(plan).code);
const game = await measure(`import { Character, flatGround } from '../dist/index.js';
import pell from './pell.js';
const character = new Character(pell, { world: flatGround() });
onkeydown = ({ code }) => code === 'Space' && character.door.press('jump');
setInterval(() => {
  character.tick();
  document.title = character.readout.x;
}, 1000 / 60);
`);
writeFileSync('build/sizes.json', JSON.stringify({ core, whole, game }));
