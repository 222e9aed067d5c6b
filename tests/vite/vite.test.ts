import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { build, createServer, type Plugin } from 'vite';
import { afterEach, expect, test } from 'vitest';
import { parse } from 'yaml';
import { movesets } from '../../src/vite/index.js';
import { ROOT, SMALL } from '../support.js';

const folders: string[] = [];
afterEach(() => {
  for (const folder of folders.splice(0)) rmSync(folder, { recursive: true });
});

/** A small game: a page script that imports a moveset. */
function game(moveset: string, more: Record<string, string> = {}): string {
  mkdirSync(join(ROOT, 'build'), { recursive: true });
  const folder = mkdtempSync(join(ROOT, 'build/vite-'));
  folders.push(folder);
  const files = {
    'pell.yaml': moveset,
    'main.js': "import pell from './pell.yaml';\nconsole.log(pell.name);\n",
    ...more,
  };
  for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text);
  return folder;
}

const SOURCES = [
  { find: 'loggia/module', replacement: join(ROOT, 'src/module/index.ts') },
  { find: 'loggia/arena', replacement: join(ROOT, 'src/arena/index.ts') },
  { find: /^loggia$/, replacement: join(ROOT, 'src/index.ts') },
];

const MOVESET = `${SMALL}abilities:\n  hop: { start: { press: jump }, cooldown: 1s, phases: [{ for: 9f }] }\n`;
const external = [/^loggia/];

async function built(folder: string, plugin: Plugin = movesets(), outDir = 'dist'): Promise<string> {
  await build({
    root: folder,
    logLevel: 'silent',
    configFile: false,
    plugins: [plugin],
    build: {
      lib: { entry: 'main.js', formats: ['es'], fileName: 'out' },
      outDir,
      emptyOutDir: false,
      minify: false,
      rolldownOptions: { external },
    },
  });
  return readFileSync(join(folder, outDir, 'out.js'), 'utf8');
}

test('a game carries what its moveset needs of the library, and no more', async () => {
  const main = `import { Character, flatGround } from 'loggia';
import pell from './pell.yaml';
const c = new Character(pell, { world: flatGround() });
c.door.press('jump');
c.tick();
export const running = c.readout.ability();
export let told = '';
try { c.door.press('jmp'); } catch (error) { told = error.message; }
`;
  const folder = game(MOVESET, { 'main.js': main });
  await build({
    root: folder,
    logLevel: 'silent',
    configFile: false,
    plugins: [movesets()],
    resolve: {
      alias: [
        { find: 'loggia/module', replacement: join(ROOT, 'src/module/index.ts') },
        { find: /^loggia$/, replacement: join(ROOT, 'src/index.ts') },
      ],
    },
    build: { lib: { entry: 'main.js', formats: ['es'], fileName: 'out' }, minify: false },
  });
  const file = join(folder, 'dist/out.js');
  const { running, told } = await import(file);
  expect(running).toBe('hop');
  expect(told).toContain('press: there is no button "jmp". There are ');
  const text = readFileSync(file, 'utf8');
  const spared = ['foldEffects', 'noteGrace', 'findWarp', 'askProbe', 'handleMessages', 'showVolumes', 'nearestName'];
  expect(spared.filter((name) => text.includes(`function ${name}(`))).toEqual([]);
  expect(text).toContain('const T = 0,');
});

test('a build takes the generated module, the development server the interpreter', async () => {
  const folder = game(MOVESET);
  const out = await built(folder);
  expect(out).toContain('function judgeRequests(c, which, from)');
  expect(out).not.toContain('unpackMoveset');
  const server = await createServer({
    root: folder,
    logLevel: 'silent',
    configFile: false,
    plugins: [movesets()],
    server: { middlewareMode: true, ws: false },
    optimizeDeps: { noDiscovery: true },
    resolve: { alias: SOURCES },
  });
  const served = await server.transformRequest('/pell.yaml');
  await server.close();
  expect(served?.code).toContain('unpackMoveset(');
  expect(served?.code).not.toContain('function judgeRequests');
});

test('faults are told with their places, all at once', async () => {
  const folder = game(MOVESET.replace('press: jump', 'press: jumpp').replace('1s', '1x'));
  const fault = await built(folder).catch((error) => error);
  expect(fault.message).toContain('pell.yaml:13:26 There is no button "jumpp". Did you mean "jump"?');
  expect(fault.message).toContain('pell.yaml:13:45 ');
  expect(fault.message).toContain('13 | hop: { start: { press: jumpp }');
});

test('files that a moveset includes are watched, and other YAML is left alone', async () => {
  const folder = game(`include: legs.yaml\nloggia: 1\nname: Pell\n`, {
    'legs.yaml': MOVESET,
    'notes.yaml': 'tea: at four\n',
    'main.js': "import pell from './pell.yaml';\nimport notes from './notes.yaml';\nconsole.log(pell.name, notes);\n",
  });
  const watched: string[] = [];
  const plugin = movesets();
  const load = plugin.load as (this: unknown, id: string) => Promise<unknown>;
  const host = { addWatchFile: (file: string) => watched.push(file), warn() {}, error: (fault: unknown) => fault };
  await load.call(host, join(folder, 'pell.yaml'));
  expect(watched).toEqual([join(folder, 'pell.yaml'), join(folder, 'legs.yaml')]);
  expect(await load.call(host, join(folder, 'notes.yaml'))).toBeNull();
});

test('types are written beside the moveset where they are wanted', async () => {
  const folder = game(MOVESET);
  await built(folder, movesets({ types: true }));
  const types = readFileSync(join(folder, 'pell.d.yaml.ts'), 'utf8');
  expect(types).toContain('ability: "hop";');
  expect(types).toContain('declare const plan: Plan<PellNames>;');
});

test('a moveset is one however it is written, and only files are read', async () => {
  const flow = `\uFEFF  {loggia: 1, name: Pell, "stances": {stand: {}}}`;
  expect(await built(game(flow))).toContain('function pickStance(c)');
  const indented = '  loggia: 1\n  name: Pell\n  stances: { stand: {} }\n';
  expect(await built(game(indented))).toContain('function pickStance(c)');
  const made: Plugin = {
    name: 'makes-it-up',
    resolveId: (id) => (id === 'virtual:pell.yaml' ? '\0virtual:pell.yaml' : null),
    load: (id) => (id === '\0virtual:pell.yaml' ? "export default { name: 'made up' };" : null),
  };
  const folder = game('', { 'main.js': "import pell from 'virtual:pell.yaml';\nconsole.log(pell.name);\n" });
  await build({
    root: folder,
    logLevel: 'silent',
    configFile: false,
    plugins: [movesets(), made],
    build: { lib: { entry: 'main.js', formats: ['es'], fileName: 'out' }, minify: false },
  });
  expect(readFileSync(join(folder, 'dist/out.js'), 'utf8')).toContain('made up');
});

const RIVAL = 'loggia: 1\nacts: [{ when: grounded, press: jump, after: 3f }]\n';
const PLAY = `import { compileOpponent } from 'loggia/arena';
import rival from './rival.yaml?opponent';
import pell from './pell.json?moveset';
export const opponent = compileOpponent(pell, rival);
`;

test('a build takes along what reads formulas where the program uses that, as the development server does', async () => {
  const json = JSON.stringify({ ...parse(MOVESET) });
  const folder = game(MOVESET, { 'pell.json': json, 'rival.yaml': RIVAL, 'main.js': PLAY });
  await build({
    root: folder,
    logLevel: 'silent',
    configFile: false,
    plugins: [movesets()],
    resolve: { alias: SOURCES },
    build: { lib: { entry: 'main.js', formats: ['es'], fileName: 'out' }, minify: false },
  });
  const { opponent } = await import(join(folder, 'dist/out.js'));
  expect(opponent.plan.names.ability).toEqual(['hop']);
  const server = await createServer({
    root: folder,
    logLevel: 'silent',
    configFile: false,
    plugins: [movesets()],
    server: { middlewareMode: true, ws: false, hmr: false },
    optimizeDeps: { noDiscovery: true },
    resolve: { alias: SOURCES },
  });
  const { opponent: served } = await server.ssrLoadModule('/main.js');
  await server.close();
  expect(served.size).toBe(opponent.size);
  // Tests of a game are no part of it, and no file of the game names what reads formulas.
  const small = game(MOVESET, { 'pell.test.js': "import { compileOpponent } from 'loggia/arena';\n" });
  expect(await built(small)).not.toContain('planOf');
  expect(await built(small, movesets({ formulas: true }))).toContain('planOf');
  const asked = game(MOVESET, { 'hud.ts': 'export const isUp = (pell) => pell.facts.grounded;\n' });
  expect(await built(asked)).toContain('planOf');
  expect(await built(asked, movesets({ formulas: false }))).not.toContain('planOf');
  // Nor is what an earlier build has written, wherever that is.
  const again = game(MOVESET);
  mkdirSync(join(again, 'www'));
  writeFileSync(join(again, 'www/old.js'), 'export const facts = 1;');
  expect(await built(again, movesets(), 'www')).not.toContain('planOf');
});

test('faults of an opponent are told with their places, as far as they show without its moveset', async () => {
  const folder = game(MOVESET, { 'pell.json': '{}', 'rival.yaml': RIVAL.replace('press', 'pres'), 'main.js': PLAY });
  const fault = await built(folder).catch((error) => error);
  expect(fault.message).toContain('rival.yaml:2:26 An act has no key "pres". Did you mean "press"?');
});

test('the development server gives nobody a moveset that it may not serve', async () => {
  const [folder, outside] = [game(MOVESET), game(MOVESET)];
  const server = await createServer({
    root: folder,
    logLevel: 'silent',
    configFile: false,
    plugins: [movesets()],
    server: { middlewareMode: true, ws: false, fs: { allow: [folder] } },
    optimizeDeps: { noDiscovery: true },
    resolve: { alias: SOURCES },
  });
  const served = await server.transformRequest(`/@fs${outside}/pell.yaml`).catch(() => null);
  const own = await server.transformRequest('/pell.yaml');
  const query = `/@id/__x00__loggia-moveset:${outside}/pell.yaml.js`;
  const queried = await server.transformRequest(query).catch(() => null);
  await server.close();
  expect(queried?.code ?? '').not.toContain('unpackMoveset');
  expect(served?.code ?? '').not.toContain('gravity');
  expect(served?.code ?? '').not.toContain('unpackMoveset');
  expect(own?.code).toContain('unpackMoveset(');
});
