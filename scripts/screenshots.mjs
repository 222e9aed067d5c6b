// Makes the pictures of docs/screenshots from the demo data.
import { execFileSync, spawn } from 'node:child_process';
import { existsSync, mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { chromium } from 'playwright-core';
import { createServer, preview } from 'vite';

const root = join(import.meta.dirname, '..');
const out = join(root, 'docs/screenshots');
mkdirSync(out, { recursive: true });
const executablePath = process.env.CHROMIUM ?? '/usr/bin/chromium';
if (!existsSync(executablePath)) throw new Error('Install the package "chromium", or set CHROMIUM to its path.');

const browser = await chromium.launch({
  executablePath,
  args: [
    ...[
      '--no-sandbox',
      '--disable-gpu',
      '--disable-quic',
      '--no-first-run',
      '--disable-sync',
      '--disable-background-networking',
    ],
    ...['--disable-component-update', '--use-angle=swiftshader', '--enable-unsafe-swiftshader'],
  ],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });

const STYLES = {
  1: 'font-weight:bold',
  2: 'opacity:.6',
  31: 'color:#ee6c4d',
  32: 'color:#94d2a2',
  33: 'color:#e9b44c',
  36: 'color:#9fd8cb',
};

const safe = (s) => s.replace(/[&<>]/g, (c) => `&#${c.charCodeAt(0)};`);

/** A command's output, as a terminal would show it. */
async function shootCommand(name, words) {
  let text;
  try {
    const env = { ...process.env, FORCE_COLOR: '1' };
    text = execFileSync('node', [join(root, 'dist/cli/bin.js'), ...words], { cwd: root, encoding: 'utf8', env });
  } catch (error) {
    text = error.stdout;
  }
  const painted = safe(text).replace(
    // biome-ignore lint/suspicious/noControlCharactersInRegex: that is what colours of a terminal are
    /\u001b\[(\d+)m/g,
    (_, code) => (STYLES[code] ? `<span style="${STYLES[code]}">` : '</span>'),
  );
  await shootText(
    name,
    `$ loggia ${words.map((word) => (word.includes(' ') ? `"${word}"` : word)).join(' ')}`,
    painted,
  );
}

async function shootText(name, title, painted) {
  await page.setContent(`<body style="margin:0;background:#0e1c22;color:#e9d8a6;padding:20px 24px;box-sizing:border-box">
    <pre style="font:14px/1.5 'DejaVu Sans Mono',monospace;white-space:pre-wrap;margin:0"><span style="color:#9fd8cb">${safe(title)}</span>\n${painted}</pre></body>`);
  await page.screenshot({ path: join(out, `${name}.png`) });
}

await shootCommand('check', ['check', 'docs/screenshots/faulty.yaml']);
await shootCommand('facts', ['facts', 'demo/boatyard/pell-basics.yaml']);
await shootCommand('pack', ['pack', 'demo/boatyard/pell.yaml', '--module', '--out', 'build/pell.js']);
await shootCommand('timing', ['timing', 'demo/boatyard/pell-breakwater.yaml']);
await shootCommand('run-duel', ['run', 'demo/boatyard/scenarios/parry.yaml']);
const refused = 'demo/boatyard/scenarios/second-dash-refused.yaml';
await shootCommand('run', ['run', refused]);
await shootCommand('compare', [
  'compare',
  'demo/boatyard/scenarios/parry.yaml',
  'demo/boatyard/scenarios/parry-one-tick-late.yaml',
]);

/** A picture or a page that a command writes. */
async function shootFile(name, words, file) {
  execFileSync('node', [join(root, 'dist/cli/bin.js'), ...words, '--out', file], { cwd: root });
  await page.goto(`file://${join(root, file)}`);
  await page.screenshot({ path: join(out, `${name}.png`) });
}

await shootFile('chart', ['chart', 'demo/boatyard/pell-breakwater.yaml'], 'build/chart.html');
await shootFile('legal', ['legal', 'demo/boatyard/pell-breakwater.yaml'], 'build/legal.html');
const dash = [
  'demo/boatyard/scenarios/dash-neutral.yaml',
  '--vary',
  'abilities.galeDash.phases.go.move.speed=10..30/11',
];
await shootCommand('sweep', ['sweep', ...dash, '--measure', 'distance', 'min vx', '--aim', 'distance == 6']);
await shootCommand('explore', ['explore', 'demo/boatyard/pell-hull.yaml', '--states', '8000']);

/** Opens the page of an example and has `act` play on it; then the picture is taken. */
async function shootPage(name, act) {
  const server = await preview({
    configFile: join(root, `examples/${name}/vite.config.ts`),
    logLevel: 'error',
    preview: { port: 0 },
  });
  await page.goto(server.resolvedUrls.local[0]);
  await page.waitForSelector('canvas');
  await page.waitForTimeout(300);
  await act(page.keyboard);
  await page.screenshot({ path: join(out, `${name}.png`) });
  await server.close();
}

await shootPage('slipway', async (keys) => {
  await keys.press('KeyF', { delay: 40 });
  await keys.down('KeyD');
  await page.waitForTimeout(900);
  await keys.press('Space', { delay: 180 });
  await keys.press('Space', { delay: 120 });
  await keys.press('KeyF', { delay: 30 });
  await page.waitForTimeout(60);
});
await keysUp();
await shootPage('mast-row', async (keys) => {
  for (const key of ['KeyV', 'Digit2', 'KeyT']) await keys.press(key, { delay: 60 });
  await page.mouse.move(330, 500);
  await keys.down('KeyA');
  await page.waitForTimeout(40);
  await keys.press('Space', { delay: 120 });
  await keys.down('KeyJ');
  await page.waitForTimeout(500); // pulled to the wall, and up to its ledge
});
await keysUp();
await shootPage('hull-climb', async (keys) => {
  await keys.down('KeyW');
  await page.waitForTimeout(1500);
  await keys.down('KeyE');
  await page.waitForTimeout(700);
});

await keysUp();
await shootPage('breakwater', async (keys) => {
  await keys.press('Digit2');
  await page.waitForTimeout(1200);
  await keys.down('KeyD');
  await keys.down('ArrowLeft');
  await page.waitForTimeout(760);
  await keys.up('KeyD');
  await keys.up('ArrowLeft');
  await keys.press('KeyN'); // in slow motion, so that the blow is seen
  await keys.press('KeyF', { delay: 150 });
  await page.waitForTimeout(40);
});

await keysUp();
await shootLab();
await shootReport();
await shootGame();

/** Somebody plays in the lab, and looks why a dash was refused. */
async function shootLab() {
  const lab = spawn('node', [join(root, 'dist/cli/bin.js'), 'lab', 'demo/boatyard/pell.yaml'], { cwd: root });
  const address = await new Promise((done) => {
    lab.stdout.on('data', (text) => done(/http\S+/.exec(String(text))?.[0]));
  });
  await page.goto(address);
  await page.waitForSelector('.keys');
  const keys = page.keyboard;
  await keys.down('KeyD');
  await page.waitForTimeout(350);
  await keys.press('Space', { delay: 220 });
  await keys.press('KeyF', { delay: 60 });
  await page.waitForTimeout(300);
  await keys.press('KeyF', { delay: 60 });
  await page.waitForTimeout(500);
  await keys.up('KeyD');
  await keys.press('KeyJ', { delay: 60 });
  await page.waitForTimeout(200);
  await keys.press('KeyJ', { delay: 60 });
  await page.waitForTimeout(900);
  await keys.press('Escape');
  await keys.press('Shift+R');
  for (let i = 0; i < 2; i++) await keys.press('+');
  await page.waitForTimeout(300);
  await page.screenshot({ path: join(out, 'lab.png') });
  lab.kill('SIGINT');
}

/** A duel, at the tick of a blow. */
async function shootReport() {
  const file = 'build/report.html';
  const words = ['report', 'demo/boatyard/scenarios/sentry-fights.yaml', '--out', file];
  execFileSync('node', [join(root, 'dist/cli/bin.js'), ...words], { cwd: root });
  await page.goto(`file://${join(root, file)}`);
  await page.waitForSelector('.now');
  for (let i = 0; i < 2; i++) await page.keyboard.press('b');
  for (let i = 0; i < 3; i++) await page.keyboard.press('+');
  await page.waitForTimeout(300);
  await page.screenshot({ path: join(out, 'report.png') });
}

/** The breakwater in one window, and its viewer in another: both in one picture. */
async function shootGame() {
  const server = await createServer({
    configFile: join(root, 'examples/breakwater/vite.config.ts'),
    logLevel: 'error',
    server: { port: 0 },
  });
  await server.listen();
  const address = server.resolvedUrls.local[0];
  const context = await browser.newContext({ viewport: { width: 900, height: 640 } });
  const game = await context.newPage();
  await game.goto(address);
  await game.waitForSelector('canvas');
  await game.waitForTimeout(1500);
  const viewer = await context.newPage();
  await viewer.setViewportSize({ width: 1024, height: 700 });
  await viewer.goto(`${address}__loggia/`);
  await viewer.waitForSelector('.now');
  await game.bringToFront();
  await game.keyboard.down('KeyD');
  await game.waitForTimeout(450);
  await game.keyboard.up('KeyD');
  await game.keyboard.press('KeyF', { delay: 60 });
  await game.waitForTimeout(60);
  const seen = await game.screenshot();
  await viewer.bringToFront();
  await viewer.waitForTimeout(600);
  await viewer.keyboard.press('Space');
  await viewer.keyboard.press('Shift+S');
  await viewer.waitForTimeout(300);
  const shown = await viewer.screenshot();
  await page.setContent(`<body style="margin:0;background:#40545c;position:relative;width:1280px;height:800px">
    <img style="position:absolute;left:20px;top:20px;width:640px;box-shadow:0 2px 12px #0008" src="data:image/png;base64,${seen.toString('base64')}">
    <img style="position:absolute;right:20px;bottom:20px;width:900px;box-shadow:0 2px 12px #0008" src="data:image/png;base64,${shown.toString('base64')}">`);
  await page.screenshot({ path: join(out, 'running-game.png') });
  await context.close();
  await server.close();
}

async function keysUp() {
  for (const key of ['KeyA', 'KeyJ', 'KeyW', 'KeyE']) await page.keyboard.up(key);
}
await browser.close();
process.exit(0);
