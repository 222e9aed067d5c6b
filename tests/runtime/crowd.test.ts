import { expect, test } from 'vitest';
import { Character, characterIn, flatGround, TileWorld, tickAll } from '../../src/index.js';
import { generated } from '../emit/generated.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { makeMoveset } from '../random/moveset.js';
import { makeScript, tell } from '../random/play.js';
import { makeCharacter, pellPlan } from '../support.js';

const COUNT = 4;
const WORLD = new TileWorld(
  ['################', '#..............#', '#....--........#', '#@........##...#', '################'],
  { places: { slip: '@', mast: [9, 1] } },
);

test('random movesets: many in one array do what each would do by itself, and a copy of the array brings all back', () => {
  forRandom(MOVESETS / 5, (random) => {
    const made = makeMoveset(random, { functions: false });
    const plan = random.chance(0.5) ? generated(made) : made;
    const scripts = Array.from({ length: COUNT }, () => makeScript(random, plan, TICKS));
    const at = (i: number) => [2 + i, 1] as const;
    const alone = scripts.map((_, i) => new Character(plan, { world: WORLD, at: at(i) }));
    const size = plan.arraySize();
    const records = new Float64Array(COUNT * size);
    // One of them is a character of its own from the start.
    const asked = characterIn(plan, records, 1, WORLD, { at: at(1) });
    const run = (t: number, told: string[]) => {
      for (const deed of scripts[1].actions[t]) deed(asked);
      tickAll(plan, records, COUNT, WORLD, {
        at,
        before: (c, i) => {
          for (const deed of i === 1 ? [] : scripts[i].actions[t]) deed(c);
        },
        after: (c) => told.push(tell(c)),
      });
    };
    const middle = random.whole(1, TICKS - 1);
    let copy = records;
    const late: string[] = [];
    for (let t = 0; t < TICKS; t++) {
      if (t === middle) copy = records.slice();
      const told: string[] = [];
      run(t, told);
      expect(told).toEqual(
        alone.map((c, i) => {
          for (const deed of scripts[i].actions[t]) deed(c);
          c.tick();
          return tell(c);
        }),
      );
      if (t >= middle) late.push(...told);
    }
    for (const [i, c] of alone.entries())
      expect(records.subarray(i * size, i * size + plan.recordSize)).toEqual(c.record);
    records.set(copy);
    const again: string[] = [];
    for (let t = middle; t < TICKS; t++) run(t, again);
    expect(again).toEqual(late);
  });
}, 120_000);

test('a key that goes down after the tick waits for the next one of its own character', () => {
  const plan = pellPlan();
  const records = new Float64Array(3 * plan.arraySize());
  const world = flatGround();
  const started: number[] = [];
  for (let t = 0; t < 3; t++)
    tickAll(plan, records, 3, world, {
      after: (c, i) => {
        if (t === 0 && i === 1) c.door.press('jump');
        if (c.readout.isRunning('hop')) started.push(t * 10 + i);
      },
    });
  expect(started).toEqual([11, 21]);
  expect(characterIn(plan, records, 1, world).readout.grounded).toBe(false);
});

test('who is lent has no events of others, and what somebody calls for is not kept', () => {
  const { plan } = makeCharacter(`summons: [gull]
abilities: { call: { start: { press: gaff }, summon: { who: gull }, phases: [{ for: 2f }] } }
`);
  const records = new Float64Array(2 * plan.arraySize());
  const before: number[] = [];
  const after: string[] = [];
  for (let t = 0; t < 40; t++)
    tickAll(plan, records, 2, flatGround(), {
      before: (c, i) => {
        before.push(c.readout.eventCount);
        if (i === 0) c.door.press('gaff');
        if (i === 0 && t % 4 === 3) c.door.release('gaff');
      },
      after: (c, i) => {
        if (c.readout.eventCount > 0) after.push(`${i} ${c.calls.length}`);
      },
    });
  expect(new Set(before)).toEqual(new Set([0]));
  expect(new Set(after)).toEqual(new Set(['0 1', '0 0']));
});

test('what is left out of the array, of the count or of the world is told', () => {
  const plan = pellPlan();
  const size = plan.arraySize();
  const world = flatGround();
  expect(() => tickAll(plan, new Float64Array(size), 2, world)).toThrow(
    `tickAll: the array must be a Float64Array of at least ${2 * size} numbers for 2 of Pell; it holds ${size} numbers.`,
  );
  expect(() => tickAll(plan, new Float64Array(size), 0.5, world)).toThrow('there cannot be 0.5 characters');
  expect(() => tickAll(plan, new Float64Array(size), 1, undefined as never)).toThrow('it takes a world');
  expect(() => characterIn(plan, new Float64Array(size), 1, world)).toThrow('characterIn: the array must be');
  expect(() => characterIn(plan, new Float64Array(size), -1, world)).toThrow('-1 is no place of a character');
  expect(() => tickAll({} as never, new Float64Array(size), 1, world)).toThrow('must be a compiled moveset');
  const records = new Float64Array(size);
  tickAll(plan, records, 1, world);
  expect(() => tickAll(makeCharacter('events: [bell]').plan, records, 1, world)).toThrow(
    'the numbers of character 0 are of another moveset than Pell; fill them with 0',
  );
});

test('refusals that are not told change nothing else', () => {
  const plan = pellPlan();
  const [told, untold] = [true, false].map((refusals) => {
    const c = new Character(plan, { world: flatGround(), refusals });
    const events: unknown[] = [];
    for (let t = 0; t < 90; t++) {
      if (t % 5 === 0) c.door.press(['jump', 'gale'][t % 2]);
      if (t % 5 === 3) c.door.releaseAll();
      c.tick();
      events.push(...c.readout.events);
    }
    return { events: events as { kind: string }[], at: [c.readout.x, c.readout.y, c.readout.pool('wind')] };
  });
  expect(told.events.some(({ kind }) => kind === 'refused')).toBe(true);
  expect(untold.events).toEqual(told.events.filter(({ kind }) => kind !== 'refused'));
  expect(untold.at).toEqual(told.at);
  expect(() => new Character(plan, { world: flatGround(), refusals: 1 as never })).toThrow(
    '"refusals" must be true or false',
  );
});
