import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Opened, openExample } from './page.js';

let opened: Opened;
beforeAll(async () => {
  opened = await openExample('slipway', 0.2);
}, 300_000);
afterAll(() => opened?.close());

const shows = (key: string, text: string | RegExp) => opened.shows(key, text);

test('real keys walk, hop, dash and sprint, and the page shows it', async () => {
  const { page } = opened;
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
  const { page } = opened;
  await page.keyboard.press('KeyF', { delay: 50 });
  await shows('refusal', 'galeDash.*only in air, not in stand');
});

test('a button on the screen presses its input, and releases when the pointer does', async () => {
  const { page } = opened;
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
  const { page } = opened;
  await page.keyboard.down('KeyA');
  await shows('stance', 'stride');
  await page.evaluate(() => window.dispatchEvent(new Event('blur')));
  await shows('stance', 'stand');
  await page.keyboard.up('KeyA');
  expect(opened.faults).toEqual([]);
});

test('the page lives with a strict content policy', async () => {
  // Later, since what a debugger evaluates is excepted.
  const evaluates = await opened.page.evaluate(
    () =>
      new Promise((done) => {
        setTimeout(() => {
          try {
            done(new Function('return true')());
          } catch (error) {
            done(String(error));
          }
        });
      }),
  );
  expect(evaluates).toMatch(/^EvalError/);
});
