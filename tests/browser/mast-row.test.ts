import { afterAll, beforeAll, expect, test } from 'vitest';
import { type Opened, openExample } from './page.js';

let opened: Opened;
beforeAll(async () => {
  opened = await openExample('mast-row', 0.35, 1280);
}, 300_000);
afterAll(() => opened?.close());

test('real keys slide, hop and blink; what is refused is told', async () => {
  const { page, shows, ticks } = opened;
  await shows('stance', 'stand');
  await page.keyboard.press('KeyR', { delay: 60 });
  await page.waitForFunction(() => /moorReturn: there is no moored to go to/.test(document.body.textContent));
  // Pell slides only at a run: a machine that is late lets it run up to a wall, so it goes back then.
  const slide = async (way: string) => {
    await page.keyboard.down(way);
    await shows('stance', 'stride');
    await ticks(17);
    await page.keyboard.down('KeyS');
    const slid = await shows('ability', 'boomSlide', 4000).then(
      () => true,
      () => false,
    );
    await page.keyboard.up('KeyS');
    await page.keyboard.up(way);
    return slid;
  };
  expect((await slide('KeyD')) || (await slide('KeyA')) || (await slide('KeyD'))).toBe(true);
  await shows('stance', 'stand|duck');
  await page.mouse.move(900, 300);
  await page.keyboard.press('KeyQ', { delay: 60 });
  await shows('oil', /^2\d$/);
}, 60_000);

test('a berth is chosen by a key and reached; the hook goes to where the pointer is', async () => {
  const { page, shows } = opened;
  await page.keyboard.down('KeyS'); // lets go of any ledge
  await shows('stance', 'duck');
  await page.keyboard.up('KeyS');
  await page.keyboard.press('Digit2', { delay: 60 });
  await shows('berth', 'mastTop');
  await page.keyboard.press('KeyT', { delay: 60 });
  await shows('ability', 'berthCall|nothing else');
  await page.keyboard.press('KeyV');
  await page.mouse.move(1230, 200);
  await page.keyboard.down('KeyJ');
  await shows('ability', 'hookLine');
  await page.keyboard.up('KeyJ');
  await shows('ability', 'nothing else');
  expect(opened.faults).toEqual([]);
}, 60_000);
