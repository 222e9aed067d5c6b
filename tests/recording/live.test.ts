import { expect, test, vi } from 'vitest';
import { Arena } from '../../src/arena/index.js';
import { Character, characterIn, flatGround, swapMoveset, tickAll } from '../../src/index.js';
import { keepLive, swapLive } from '../../src/module/index.js';
import { compare, Recording } from '../../src/recording/index.js';
import { plan as planOf, SMALL } from '../support.js';

const dash = (speed: number, more = '') =>
  planOf(
    `${SMALL}abilities:\n  dash: { start: { press: gale }, phases: [{ for: 6f, move: { along: facing, speed: ${speed} } }] }\n${more}`,
  );

test('whoever was made from a live moveset has the changed one: alone, in arenas, who may be called, in crowds', () => {
  const first = keepLive(dash(12));
  const world = flatGround();
  const alone = new Character(first, { world });
  const arena = new Arena({ world, summons: { double: first } });
  const member = arena.add('pell', first).character;
  const records = new Float64Array(first.arraySize() * 3);
  tickAll(first, records, 3, world, { at: (i) => [i * 10, 0] });
  const one = characterIn(first, records, 1, world);

  let plan = swapLive(first, dash(18));
  plan = swapLive(plan, dash(24));
  for (const c of [alone, member]) c.door.press('gale');
  alone.tick();
  arena.tick();
  expect([alone.readout.vx, member.readout.vx]).toEqual([24, 24]);
  const speeds: number[] = [];
  tickAll(plan, records, 3, world, {
    before: (c) => c.door.press('gale'),
    after: (c) => speeds.push(c.readout.vx),
  });
  expect([speeds, one === characterIn(plan, records, 1, world)]).toEqual([[24, 24, 24], true]);
  expect(new Character(plan, { world }).plan).toBe(plan);
});

test('what looks back keeps what was then, and so does who has another moveset since', () => {
  const warn = vi.spyOn(console, 'warn').mockImplementation(() => {});
  const first = keepLive(dash(12));
  const world = flatGround();
  const arena = new Arena({ world });
  arena.add('pell', first);
  const recording = new Recording(arena);
  const other = new Character(first, { world });
  const heavy = dash(3);
  swapMoveset(other, heavy);
  for (let t = 0; t < 5; t++) arena.tick();
  const seen = recording.at(2).of();
  const again = recording.play({ from: 1 });
  const next = swapLive(first, dash(18));
  expect([seen.plan, again.at(3).of().plan, other.plan]).toEqual([first, first, heavy]);
  arena.tick();
  expect([recording.at(5).of().plan, arena.find('pell')?.character.plan]).toEqual([next, next]);
  expect(compare(recording, recording.play()).same).toBe(true);
  expect(warn).not.toHaveBeenCalled();
  warn.mockRestore();
});

test('who cannot take it keeps the old one, and it is told why', () => {
  const warn = vi.spyOn(console, 'warn').mockImplementation(() => {});
  const first = keepLive(dash(12));
  const c = new Character(first, { world: flatGround() });
  swapLive(first, dash(24, 'rate: 30\n'));
  expect(c.plan).toBe(first);
  expect(warn.mock.calls[0][0]).toMatch(/30 ticks per second instead of 60\. Load the page again to play it\.$/);
  warn.mockRestore();
});
