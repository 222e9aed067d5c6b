import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Browser, Page } from 'playwright-core';
import { createServer, type ViteDevServer } from 'vite';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { movesets } from '../../src/vite/index.js';
import { launch } from '../browser/chromium.js';
import { ROOT, SMALL } from '../support.js';

mkdirSync(join(ROOT, 'build'), { recursive: true });
const FOLDER = mkdtempSync(join(ROOT, 'build/live-'));
const legs = (speed: number | string, more = '') => `pools: { wind: { max: 9, start: 5 } }
abilities:
  dash: { start: { press: gale }, phases: [{ for: 0.1s, move: { along: facing, speed: ${speed} } }] }
${more}`;
const write = (name: string, text: string) => writeFileSync(join(FOLDER, name), text);

/** A game whose two modules import the same moveset; it ticks when it is asked to. */
const FILES = {
  'index.html': '<!doctype html><body><script type="module" src="/main.js"></script></body>',
  'pell.yaml': `include: legs.yaml\n${SMALL}`,
  'legs.yaml': legs(12),
  'other.js': "import pell from './pell.yaml';\nexport const plan = () => pell;\n",
  'main.js': `import { Character, flatGround } from 'loggia';
import { Recording } from 'loggia/recording';
import pell from './pell.yaml';
import { plan } from './other.js';
const c = new Character(pell, { world: flatGround() });
const recording = new Recording(c);
c.door.pool('wind', 3);
window.game = {
  born: Math.random(),
  dash(times = 1) {
    for (let i = 0; i < times; i++) {
      c.door.press('gale');
      for (let t = 0; t < 20; t++) c.tick();
      c.door.release('gale');
      c.tick();
    }
    return [c.readout.x, c.readout.pool('wind')];
  },
  same: () => pell === plan() && c.plan === pell && new Character(pell, { world: flatGround() }).plan === c.plan,
  where: () => c.readout.x,
  speed: () => JSON.stringify(pell.parsed.abilities.dash.phases[0].move.speed.source),
  line: () => recording.why(recording.last, 'dash').reasons.length + ' ' + recording.find({ started: 'dash' }).length,
};
`,
};

let server: ViteDevServer;
let browser: Browser;
let page: Page;
beforeAll(async () => {
  for (const [name, text] of Object.entries(FILES)) write(name, text);
  const alias = ['recording', 'module', 'arena'].map((name) => ({
    find: `loggia/${name}`,
    replacement: join(ROOT, `src/${name}/index.ts`),
  }));
  server = await createServer({
    root: FOLDER,
    logLevel: 'silent',
    configFile: false,
    plugins: [movesets()],
    server: { port: 0, host: '127.0.0.1', fs: { allow: [ROOT] }, watch: { usePolling: true, interval: 20 } },
    optimizeDeps: { noDiscovery: true },
    resolve: { alias: [...alias, { find: /^loggia$/, replacement: join(ROOT, 'src/index.ts') }] },
  });
  await server.listen();
  browser = await launch();
  page = await browser.newPage();
  await page.goto(server.resolvedUrls?.local[0] ?? '');
  await page.waitForFunction('window.game');
});
afterAll(async () => {
  await browser.close();
  await server.close();
  rmSync(FOLDER, { recursive: true, force: true });
});

const ask = <T>(code: string): Promise<T> => page.evaluate(`window.game.${code}`) as Promise<T>;
const hasSpeed = (speed: number) => page.waitForFunction(`window.game.speed() === '${speed}'`);

test('a changed file changes the running game: the next dash is longer, place and pools stay', async () => {
  const born = await ask<number>('born');
  const [x, wind] = await ask<[number, number]>('dash()');
  expect([Math.round(x * 100) / 100 > 1.1, wind]).toEqual([true, 3]);
  write('legs.yaml', legs(24));
  await hasSpeed(24);
  expect([await ask('where()'), await ask('born'), await ask('same()')]).toEqual([x, born, true]);
  const [further, after] = await ask<[number, number]>('dash()');
  expect([further - x > 1.9 * x, after]).toEqual([true, 3]);
});

test('with faults the old one runs on under the overlay, until the file is right again', async () => {
  write('legs.yaml', legs('fast'));
  await page.waitForSelector('vite-error-overlay', { state: 'attached' });
  const shown = await page.evaluate("document.querySelector('vite-error-overlay').shadowRoot.textContent");
  expect(shown).toContain('legs.yaml:3');
  expect(shown).not.toContain(ROOT);
  const before = await ask<number>('where()');
  expect((await ask<[number, number]>('dash()'))[0]).toBeGreaterThan(before + 2);
  const born = await ask<number>('born');
  write('legs.yaml', legs(18));
  await hasSpeed(18);
  await page.waitForSelector('vite-error-overlay', { state: 'detached' });
  expect(await ask('born')).toBe(born);
});

test('a server that renders has the changed one the next time it asks, and nobody there is swapped', async () => {
  const { plan } = await server.ssrLoadModule('/other.js');
  expect(plan().live).toBeUndefined();
  write('legs.yaml', legs(15));
  await hasSpeed(15);
  await expect
    .poll(
      async () => (await server.ssrLoadModule('/other.js')).plan().parsed.abilities.dash.phases[0].move.speed.source,
    )
    .toBe(15);
});

test('hundreds of changes later, the page has no more in memory', async () => {
  const client = await page.context().newCDPSession(page);
  const used = async () => {
    await client.send('HeapProfiler.collectGarbage');
    return (await client.send('Runtime.getHeapUsage')).usedSize;
  };
  const { packed, origin } = (await page.evaluate(`(async () => {
    const text = await (await fetch('/pell.yaml?import')).text();
    return { packed: JSON.parse(/unpackMoveset\\((\\{.*\\})\\), \\{/.exec(text)[1]), origin: {} };
  })()`)) as { packed: object; origin: object };
  const edit = async (times: number) => {
    for (let i = 0; i < times; i++)
      server.ws.send({ type: 'custom', event: 'loggia:moveset', data: { asked: 'pell.yaml', packed, origin } });
    // They come in their order: this one is the last.
    write('legs.yaml', legs(times));
    await hasSpeed(times);
  };
  // What is done for the first time takes room once.
  await edit(700);
  await page.waitForFunction(`window.game.dash(400) && window.game.same()`);
  const before = await used();
  await edit(500);
  await page.waitForFunction(`window.game.dash(400) && window.game.same()`);
  expect((await used()) / before).toBeLessThan(1.1);
});
