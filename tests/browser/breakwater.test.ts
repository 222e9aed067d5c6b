import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Opened, openExample } from './page.js';

let opened: Opened;
beforeAll(async () => {
  opened = await openExample('breakwater', 0.5);
}, 300_000);
afterAll(() => opened?.close());

test('two on one keyboard: real keys strike, guard, and begin again', async () => {
  const { page, shows, ticks } = opened;
  await page.keyboard.press('Digit2');
  await shows('right-does', 'stand');
  await page.keyboard.down('KeyD');
  await page.keyboard.down('ArrowLeft');
  await shows('right-does', 'stride');
  await ticks(45);
  await page.keyboard.up('KeyD');
  await page.keyboard.up('ArrowLeft');
  await page.keyboard.press('KeyF', { delay: 60 });
  await shows('right-grit', '^3[0-9]$');
  await shows('right-does', 'stand');
  await page.keyboard.down('Period');
  await shows('right-does', 'brace');
  await ticks(9); // too long for a parry
  await page.keyboard.press('KeyF', { delay: 60 });
  await shows('right-wind', /^(1\d|2[0-3])$/);
  await page.keyboard.up('Period');
  await page.keyboard.press('Enter');
  await shows('right-grit', '^40$');
  expect(await page.locator('#history-left li').allTextContents()).toContain('gaff');
}, 90_000);

test('the sentry strikes back by itself, slow motion or not', async () => {
  const { page, shows, ticks } = opened;
  await page.keyboard.press('Digit1');
  await shows('right-hull', '^40$');
  await page.keyboard.press('KeyN');
  await ticks(9);
  await page.keyboard.press('KeyN');
  await page.keyboard.press('KeyV');
  await shows('left-grit', '^3[0-9]$');
  expect(opened.faults).toEqual([]);
}, 90_000);
