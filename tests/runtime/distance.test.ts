import { describe, expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import { Character, flatGround, type Plan } from '../../src/index.js';
import { generatedWhole } from '../emit/generated.js';
import { plan, SMALL, sentences, tick } from '../support.js';

const KINDS: [kind: string, of: (plan: Plan) => Plan][] = [
  ['interpreted', (plan) => plan],
  ['a module', generatedWhole],
];

describe.each(KINDS)('a distance: %s', (_, of) => {
  const run = (more: string, ticks: number, before?: (c: Character) => void) => {
    const c = new Character(of(plan(SMALL + more)), { world: flatGround() });
    before?.(c);
    c.door.press('gale');
    tick(c, ticks);
    return c.readout;
  };

  test('is gone in the time of its phase, whatever the rate, and nothing is kept', () => {
    for (const rate of [10, 30, 60, 240]) {
      const { x, vx } = run(
        `rate: ${rate}\nabilities: { dash: { start: { press: gale }, phases: [{ for: 0.2s, move: { along: facing, distance: 3.6 } }] } }`,
        rate,
      );
      expect(x).toBeCloseTo(3.6, 9);
      expect(vx).toBe(0);
    }
  });

  test('may be a formula, of a whole ability, backwards, and keep some of its speed', () => {
    const back =
      '{ start: { press: gale }, move: { along: facing, distance: 0 - 2 - charges(dash) }, charges: { max: 1, every: 9s }, phases: [{ for: 6f }, { for: 9f }] }';
    expect(run(`abilities: { dash: ${back} }`, 40).x).toBeCloseTo(-2, 9);
    const kept =
      '{ start: { press: gale }, steer: 0, walk: { brake: 0 }, phases: [{ for: 12f, move: { along: facing, distance: 3.6, keep: 50% } }] }';
    expect(run(`abilities: { dash: ${kept} }\nbody: { walk: { brake: 0 } }`, 13).vx).toBeCloseTo(9, 9);
  });
});

test('needs a time, and is neither a speed nor added', () => {
  const faults = (phase: string) =>
    sentences(
      parseMoveset(`${SMALL}abilities: { dash: { start: { press: gale }, end: airborne, phases: [${phase}] } }`),
    )
      .map((text) => text.replace(/^\S+ /, ''))
      .filter((text) => !text.startsWith('unread-input'));
  expect(faults('{ for: 9f, move: { along: facing, distance: 1 } }')).toEqual([]);
  expect(faults('{ move: { along: facing, distance: 1 } }')).toEqual([
    'missing-key What goes a distance needs "for": how long its phase lasts, or each phase of its ability, as a time and no formula.',
  ]);
  expect(faults('{ for: 9f, move: { along: facing, distance: 1, speed: 2 } }')).toEqual([
    'pointless-key "distance" does nothing here: "distance" and "speed" say the same in two ways; remove one of them.',
  ]);
  expect(faults('{ for: 9f, move: { along: facing, distance: 1, mode: accelerate } }')).toEqual([
    'pointless-key "distance" does nothing here: with "mode: accelerate" nothing is held that would lead so far; leave the mode out.',
  ]);
  expect(faults('{ for: 9f, move: { along: facing } }')).toEqual([
    'missing-key "along" of move needs "speed": how fast it goes in that direction (or "distance": how far).',
  ]);
});

describe.each(KINDS)('a stick that does not steer: %s', (_, of) => {
  const stops = (more: string, options: { at?: [number, number]; body?: string } = {}) => {
    const body = options.body ?? 'body: { gravity: 0 }';
    const c = new Character(
      of(plan(`${SMALL}${body}\nabilities: { jab: { start: { press: gale }, ${more} phases: [{ for: 30f }] } }`)),
      {
        world: flatGround(),
        at: options.at ?? [0, 0],
      },
    );
    c.door.stick('move', 1, 0);
    tick(c, 20);
    c.door.press('gale');
    tick(c, 1);
    return [c.readout.vx, tick(c, 6) && c.readout.vx];
  };

  test('rests: the body brakes as it does without a push, on the ground and in the air', () => {
    expect(stops('')).toEqual([5, 5]);
    expect(stops('steer: 0,')).toEqual([4, 0]);
    expect(stops('steer: 0, walk: { brake: 0 },')).toEqual([5, 5]);
    expect(stops('steer: 0,', { at: [0, 9] })).toEqual([4, 0]);
  });

  test('and one that rests brakes fully, however little it would steer', () => {
    const c = new Character(
      of(plan(`${SMALL}abilities: { ice: { start: { press: gale }, steer: 10%, phases: [{ for: 90f }] } }`)),
      {
        world: flatGround(),
      },
    );
    c.door.press('gale');
    c.door.stick('move', 1, 0);
    tick(c, 10);
    expect(c.readout.vx).toBeCloseTo(1, 9);
    c.door.stick('move', 0, 0);
    tick(c, 1);
    expect(c.readout.vx).toBe(0);
  });

  test('what has no stick brakes on the ground only', () => {
    const crate = new Character(of(plan('loggia: 1\nname: Crate\nstances: { rest: {} }')), { world: flatGround() });
    crate.door.velocity(3, 0);
    tick(crate, 2);
    expect(crate.readout.vx).toBeCloseTo(1, 9);
    crate.door.place(0, 9);
    crate.door.velocity(3, 0);
    tick(crate, 5);
    expect(crate.readout.vx).toBe(3);
  });
});
