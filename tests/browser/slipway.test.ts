import { join } from 'node:path';
import type { Browser, Page } from 'playwright-core';
import { build, type PreviewServer, preview } from 'vite';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { ROOT } from '../support.js';
import { launch } from './chromium.js';

const configFile = join(ROOT, 'examples/slipway/vite.config.ts');
let server: PreviewServer;
let browser: Browser;
let page: Page;
const faults: string[] = [];

beforeAll(async () => {
  browser = await launch();
  await build({ configFile, logLevel: 'error' });
  server = await preview({ configFile, logLevel: 'error', preview: { port: 0 } });
  page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  page.on('pageerror', (error) => faults.push(error.message));
  // In slow motion, so that a dash of twelve ticks is seen even where a machine draws few frames.
  await page.goto(`${server.resolvedUrls?.local[0]}?speed=0.2`);
  await page.waitForSelector('canvas');
}, 300_000);

afterAll(async () => {
  await browser?.close();
  await server?.close();
});

const shows = (key: string, text: string | RegExp) =>
  page.waitForFunction(
    ([key, source]) => new RegExp(source).test(document.querySelector(`[data-show="${key}"]`)?.textContent ?? ''),
    [key, typeof text === 'string' ? text : text.source] as const,
    { timeout: 15_000 },
  );

test('real keys walk, hop, dash and sprint, and the page shows it', async () => {
  await shows('stance', 'stand');
  await page.keyboard.down('KeyD');
  await shows('stance', 'stride');
  await page.keyboard.down('ShiftLeft');
  await shows('lane-legs', 'sprint');
  await page.keyboard.up('ShiftLeft');
  await shows('lane-legs', 'free');
  await page.keyboard.up('KeyD');
  await shows('stance', 'stand');
  await page.keyboard.down('Space');
  await shows('stance', 'rise');
  await page.keyboard.down('KeyF');
  await shows('lane-body', 'galeDash, go');
  await page.keyboard.up('Space');
  await page.keyboard.up('KeyF');
  await shows('stance', 'stand');
}, 60_000);

test('a press that is refused shows its reasons', async () => {
  await page.keyboard.press('KeyF', { delay: 50 });
  await shows('refusal', 'galeDash.*only in air, not in stand');
});

test('a button on the screen presses its input, and releases when the pointer does', async () => {
  await page.hover('[data-press="move.left"]');
  await page.mouse.down();
  await shows('stance', 'stride');
  await page.mouse.up();
  await shows('stance', 'stand');
  await page.click('[data-press="lantern"]');
  await shows('lane-form', 'lanternForm');
  await page.click('[data-press="lantern"]');
  await shows('lane-form', 'free');
});

test('a window that loses its focus lets go of what it held', async () => {
  await page.keyboard.down('KeyA');
  await shows('stance', 'stride');
  await page.evaluate(() => window.dispatchEvent(new Event('blur')));
  await shows('stance', 'stand');
  await page.keyboard.up('KeyA');
  expect(faults).toEqual([]);
});
