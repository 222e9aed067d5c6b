import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Opened, openExample } from './page.js';

let opened: Opened;
beforeAll(async () => {
  opened = await openExample('hull-climb', 0.6);
}, 300_000);
afterAll(() => opened?.close());

test('real keys climb a hull of a physics engine, over its edge onto the deck, and rush on', async () => {
  const { page, shows } = opened;
  await shows('stance', 'stand');
  await page.keyboard.down('KeyW');
  await shows('stance', 'stride');
  await page.keyboard.down('KeyE');
  await shows('ability', 'hullClimb');
  await shows('height', /height [1-4]/);
  await shows('height', /height 5/);
  await page.keyboard.up('KeyE');
  await page.keyboard.up('KeyW');
  await shows('stance', 'stand');
  await page.keyboard.down('KeyR');
  await shows('ability', 'keelRush');
  await page.keyboard.up('KeyR');
  await shows('ability', 'nothing else');
  expect(opened.faults).toEqual([]);
}, 90_000);
