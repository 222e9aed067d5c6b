import { execFileSync } from 'node:child_process';
import { cpSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import type { Browser, BrowserContext, Locator, Page } from 'playwright-core';
import { createServer, type ViteDevServer } from 'vite';
import { afterAll, afterEach, beforeAll, expect, test } from 'vitest';
import { servedPage } from '../../src/draw/report-page.js';
import { LocalServer } from '../../src/format/local-server.js';
import { ROOT } from '../support.js';
import { launch } from './chromium.js';

const folder = mkdtempSync(join(tmpdir(), 'loggia-viewer-'));
const DEMO = join(folder, 'boatyard');
mkdirSync(join(ROOT, 'build'), { recursive: true });
/** A game finds its packages from here. */
const game = mkdtempSync(join(ROOT, 'build/shown-'));
let browser: Browser;
let context: BrowserContext;
const faults: string[] = [];

beforeAll(async () => {
  cpSync(join(ROOT, 'demo/boatyard'), DEMO, { recursive: true });
  writeFileSync(join(folder, 'package.json'), '{}');
  browser = await launch();
  context = await browser.newContext({ viewport: { width: 1024, height: 700 } });
  context.on('page', (page) => {
    page.on('pageerror', (error) => faults.push(error.message));
    page.on('console', (message) => message.type() === 'error' && faults.push(message.text()));
  });
});
afterAll(async () => {
  await browser?.close();
  rmSync(game, { recursive: true, force: true });
});

afterEach(() => context.setOffline(false));

/** Waits until something in the page reads like that, and gives what it read. */
async function reads(at: Locator, text: RegExp): Promise<string> {
  let read: string | null = '';
  const look = async () => {
    read = await at.first().textContent();
    return read;
  };
  await expect.poll(look, { timeout: 60_000 }).toMatch(text);
  return read;
}

/** Opens a moveset in the lab; Rapier is there. */
async function openLab(file: string): Promise<{ page: Page; server: LocalServer }> {
  const template = readFileSync(join(ROOT, 'dist/viewer/viewer.html'), 'utf8');
  const server = new LocalServer({
    root: folder,
    file,
    page: (token) => servedPage(template, 'lab', token),
    rapier: join(ROOT, 'node_modules/@dimforge/rapier3d-compat/dist/rapier.mjs'),
    port: 0,
  });
  const page = await context.newPage();
  await page.goto(await server.listen());
  return { page, server };
}

/** Drags the first number of a line of the text so many steps. */
async function drag(page: Page, line: string, number: number, steps: number): Promise<void> {
  const box = await page.locator('.cm-line', { hasText: line }).first().locator('.number').nth(number).boundingBox();
  if (!box) throw new Error(`there is no number in ${line}`);
  const [x, y] = [box.x + 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + steps * 6, y, { steps: 4 });
  await page.mouse.up();
}

test('a report opens from the disk without a network: a refusal is found, its number dragged, and the dash starts', async () => {
  const out = join(folder, 'report.html');
  const scenario = join(folder, 'boatyard/scenarios/tired.yaml');
  writeFileSync(
    scenario,
    `loggia: 1
scenario: A dash is refused because wind is lacking
moveset: ../pell.yaml
world: { rows: ["..@.................", "....................", "####################"] }
start: { pools: { wind: 5 } }
run: 60f
inputs: [{ at: 4f, tap: gale }]
expect: [{ refused: galeDash }]
`,
  );
  execFileSync('node', [join(ROOT, 'dist/cli/bin.js'), 'report', scenario, '--out', out], { cwd: folder });
  await context.setOffline(true);
  const page = await context.newPage();
  await page.goto(pathToFileURL(out).href);
  await reads(page.locator('h1'), /^A dash is refused because wind is lacking$/);
  await page.keyboard.press('r');
  await reads(page.locator('.why'), /galeDash was refused at 0\.07 s.*wind 5\.\d* of 9/);
  await reads(page.locator('.cm-line.lit.against'), /cost: \{ wind: 9 \}.*wind 5\.\d* of 9/);
  await drag(page, 'cost: { wind: 9 }', 0, -5);
  await reads(page.locator('.notes'), /First difference at 0\.07 s: .*galeDash/);
  await reads(page.locator('.abilities .runs b'), /^galeDash$/);
  // One drag is one step of undo.
  await page.locator('.cm-line', { hasText: 'cost: { wind: 4 }' }).click();
  await page.keyboard.press('Control+z');
  await expect.poll(() => page.locator('.notes').count(), { timeout: 60_000 }).toBe(0);
  await page.close();
  expect(faults).toEqual([]);
}, 300_000);

test('in the lab, real keys play; what is dragged and saved is that number in the file and nothing else; a run is kept', async () => {
  const { page, server } = await openLab('boatyard/pell.yaml');
  await reads(page.locator('h1'), /pell\.yaml in the yard/);
  await page.keyboard.down('KeyD');
  await reads(page.locator('.keys .held'), /D\s*move\.right/);
  await page.keyboard.press('KeyJ', { delay: 60 });
  await page.keyboard.up('KeyD');
  // The pointer plays, too: its button is bound to the same input.
  await page.mouse.move(200, 250);
  await page.mouse.down();
  await reads(page.locator('.keys .held'), /J\s*gaff/);
  await page.mouse.up();
  await page.keyboard.press('Escape');
  await reads(page.locator('.transport .main'), /^Play$/);
  // Keys are the viewer's now.
  await page.keyboard.press('Shift+S');
  await reads(page.locator('.abilities .runs b'), /^(gaffJab|gaffSweep)$/);

  const file = join(DEMO, 'pell.yaml');
  const before = readFileSync(file, 'utf8');
  await page.getByRole('tab', { name: 'pell.yaml', exact: true }).click();
  await drag(page, 'oil: { max: 40', 0, 3);
  await page.getByRole('button', { name: 'Save' }).click();
  await reads(page.locator('.notes'), /Written: boatyard\/pell\.yaml/);
  expect(readFileSync(file, 'utf8')).toBe(before.replace('oil: { max: 40', 'oil: { max: 43'));

  // Somebody else writes the file, while it is changed here.
  await drag(page, 'oil: { max: 43', 0, 2);
  writeFileSync(file, before);
  await reads(page.locator('.conflict'), /has changed on the disk, and here/);
  await page.getByRole('button', { name: 'take the one on the disk' }).click();
  await expect.poll(() => page.locator('.cm-line', { hasText: 'oil: { max: 40' }).count(), { timeout: 60_000 }).toBe(1);

  // A run with one moveset from its start can be kept, whatever was pressed in it.
  await page.getByRole('button', { name: 'from the start' }).click();
  await reads(page.locator('.transport .main'), /^Pause$/);
  await page.locator('h1').click();
  await page.keyboard.press('KeyJ', { delay: 60 });
  await page.waitForTimeout(500);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'keep as scenario…' }).click();
  await reads(page.locator('dialog.keep pre'), /^loggia: 1\nscenario: .*gaffJab/s);
  await page.getByLabel('file', { exact: true }).fill('boatyard/scenarios/kept.yaml');
  await page.getByRole('button', { name: 'Write it' }).click();
  await reads(page.locator('.notes'), /Written: boatyard\/scenarios\/kept\.yaml/);
  const ran = execFileSync('node', [join(ROOT, 'dist/cli/bin.js'), 'run', 'boatyard/scenarios/kept.yaml'], {
    cwd: folder,
    encoding: 'utf8',
  });
  expect(ran).toMatch(/^as expected/);
  await page.close();
  await server.close();
  expect(faults).toEqual([]);
}, 300_000);

test('in the lab, somebody is invited, another one is played, bodies move in a room of Rapier, keys are touched, and the run is kept as a file', async () => {
  const { page, server } = await openLab('boatyard/pell-breakwater.yaml');
  await page.getByLabel('Invite somebody').selectOption({ label: 'sentry (sentry.yaml), plays patient.yaml' });
  await reads(page.locator('.story, .now .members'), /Pellsentry/);
  await page.getByLabel('What moves bodies').selectOption('rapier');
  await reads(page.locator('h1'), /, by Rapier$/);
  await page.getByLabel('Who is played').selectOption('sentry');
  await reads(page.locator('.keys'), /claw/);
  const claw = page.locator('.keys li', { hasText: 'claw' });
  await claw.hover();
  await page.mouse.down();
  await reads(page.locator('.keys .held'), /claw/);
  await page.mouse.up();
  await page.keyboard.press('Escape');
  await page.keyboard.press('Shift+S');
  await reads(page.locator('.abilities .runs b'), /^claw$/);
  // What is made again asks the room itself.
  await page.getByRole('button', { name: 'play on from here' }).click();
  await reads(page.locator('.transport .main'), /^Pause$/);
  await page.keyboard.press('Escape');
  await page.getByLabel('Draw a curve of a fact').fill('timeIn(claw)');
  await page.keyboard.press('Enter');
  await reads(page.locator('.curves'), /timeIn\(claw\)/);
  await page.keyboard.press('Escape');

  await page.locator('summary', { hasText: 'run' }).click();
  const [kept] = await Promise.all([
    page.waitForEvent('download'),
    page.getByRole('button', { name: 'save it as a file' }).click(),
  ]);
  const run = join(folder, 'run.jsonl.gz');
  await kept.saveAs(run);
  await page.locator('summary', { hasText: 'run' }).click();
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByRole('button', { name: 'open one from a file…' }).click(),
  ]);
  await chooser.setFiles(run);
  await reads(page.locator('h1'), /^run\.jsonl\.gz$/);
  await page.keyboard.press('m');
  await page.keyboard.press('s');
  await reads(page.locator('.abilities .runs b'), /^claw$/);
  await page.getByRole('button', { name: /^back to / }).click();
  await reads(page.locator('h1'), /, by Rapier$/);
  await page.close();
  await server.close();
  expect(faults).toEqual([]);
}, 300_000);

test('without a server, an example of the guide opens in the lab, and is played', async () => {
  execFileSync('node', ['scripts/build-lab.mjs'], { cwd: ROOT });
  await context.setOffline(true);
  const page = await context.newPage();
  await page.goto(pathToFileURL(join(ROOT, 'build/lab/guide/20-make-an-opponent.html')).href);
  await page.getByRole('link', { name: 'Play in it, and change its numbers' }).click();
  await reads(page.locator('h1'), /^guide-20-2\/scenario\.yaml$/);
  await page.keyboard.press('KeyJ', { delay: 60 });
  await reads(page.locator('.abilities .runs b'), /^jab$/);
  // The rival strikes by itself.
  await reads(page.locator('.now .pool'), /grit1?\d of 20/);
  await page.close();
  expect(faults).toEqual([]);
}, 300_000);

test('a running game is shown live in another page, takes what is changed there, and goes back to a tick', async () => {
  cpSync(join(DEMO, 'pell-basics.yaml'), join(game, 'pell.yaml'));
  writeFileSync(join(game, 'package.json'), '{}');
  writeFileSync(
    join(game, 'index.html'),
    '<!doctype html><link rel="icon" href="data:,"><script type="module" src="/main.js"></script>',
  );
  writeFileSync(
    join(game, 'main.js'),
    `import { Character, flatGround } from 'loggia';
import { show } from 'loggia/show';
import moveset from './pell.yaml';
const pell = new Character(moveset, { world: flatGround() });
let paused = false;
show(pell, 'Pell', { pause(on) { paused = on; }, restore: true });
let presses = 0;
// Not by frames: a page behind another one draws none.
setInterval(() => {
  if (paused) return;
  if (++presses % 60 === 1) pell.door.press('jump');
  if (presses % 60 === 20) pell.door.release('jump');
  pell.tick();
  window.lowest = Math.min(window.lowest, pell.readout.tick);
}, 16);
window.pell = pell;
window.lowest = Infinity;
`,
  );
  const at = (path: string) => join(ROOT, path);
  const server: ViteDevServer = await createServer({
    root: game,
    configFile: false,
    logLevel: 'error',
    server: { port: 0, hmr: { port: 24_699 } },
    plugins: [(await import('../../src/vite/index.js')).movesets()],
    resolve: {
      alias: [
        { find: /^loggia$/, replacement: at('src/index.ts') },
        { find: 'loggia/module', replacement: at('src/module/index.ts') },
        { find: 'loggia/show', replacement: at('src/show/live.ts') },
      ],
    },
  });
  await server.listen();
  const address = server.resolvedUrls?.local[0] ?? '';
  const page = await context.newPage();
  await page.goto(address);
  await page.waitForFunction(() => (window as unknown as { pell?: unknown }).pell !== undefined);
  const viewer = await context.newPage();
  await viewer.goto(`${address}__loggia/`);
  await reads(viewer.locator('h1'), /^Pell$/);
  const tickOf = async () => Number(/tick (\d+)/.exec((await viewer.locator('output').textContent()) ?? '')?.[1]);
  const first = await tickOf();
  await expect.poll(tickOf, { timeout: 60_000 }).toBeGreaterThan(first + 10);

  // What is changed in the page is so in the game, and not in the file.
  await drag(viewer, 'max: 24', 0, 10);
  await expect
    .poll(
      () =>
        page.evaluate(
          () =>
            (
              window as unknown as { pell: { readout: { poolLimits(name: string): { max: number } } } }
            ).pell.readout.poolLimits('wind').max,
        ),
      { timeout: 60_000 },
    )
    .toBe(34);
  expect(readFileSync(join(game, 'pell.yaml'), 'utf8')).toContain('max: 24');
  await viewer.getByRole('button', { name: 'Save' }).click();
  await reads(viewer.locator('.notes'), /Written: pell\.yaml/);
  expect(readFileSync(join(game, 'pell.yaml'), 'utf8')).toContain('max: 34');

  // Looking back pauses it; it goes on from where one looks.
  await viewer.locator('h1').click();
  await viewer.keyboard.press('Space');
  await reads(viewer.locator('.transport .main'), /^Play$/);
  for (let i = 0; i < 3; i++) await viewer.keyboard.press('Shift+ArrowLeft');
  const back = await tickOf();
  // Of all ticks that it plays from now on, the first is the one behind it.
  const lowest = () => page.evaluate(() => (window as unknown as { lowest: number }).lowest);
  await page.evaluate(() => {
    (window as unknown as { lowest: number }).lowest = Number.POSITIVE_INFINITY;
  });
  await viewer.getByRole('button', { name: 'the game goes on from here' }).click();
  await expect.poll(lowest, { timeout: 60_000 }).toBe(back + 1);

  // The same game in two tabs is two games: each can be looked at.
  const twin = await context.newPage();
  await twin.goto(address);
  const names = viewer.locator('.games button');
  await expect.poll(() => names.count(), { timeout: 60_000 }).toBe(2);
  await names.last().click();
  await expect.poll(() => names.last().getAttribute('aria-pressed'), { timeout: 60_000 }).toBe('true');
  await names.first().click();
  await expect.poll(() => names.first().getAttribute('aria-pressed'), { timeout: 60_000 }).toBe('true');
  await twin.close();
  await expect.poll(() => names.count(), { timeout: 60_000 }).toBe(1);

  // A page that is loaded again is found again; one that is closed is gone.
  const before = await tickOf();
  await page.reload();
  await expect.poll(tickOf, { timeout: 60_000 }).toBeLessThan(before);
  await page.close();
  await reads(viewer.locator('.lab'), /The game is gone/);

  // Another page of the same machine gets nothing.
  const asked = (headers: Record<string, string>) => fetch(`${address}__loggia/file?file=pell.yaml`, { headers });
  expect((await asked({})).status).toBe(403);
  expect((await asked({ origin: 'http://evil.example', 'x-loggia-token': 'x' })).status).toBe(403);
  await viewer.close();
  await server.close();
  expect(faults.filter((fault) => !/404/.test(fault))).toEqual([]);
}, 300_000);
