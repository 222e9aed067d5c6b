import { describe, expect, test } from 'vitest';
import {
  Character,
  checkMoveset,
  compileMoveset,
  flatGround,
  type Moveset,
  UsageError,
  wordDiagnostic,
} from '../../src/index.js';
import { T } from '../../src/record/slots.js';
import { makeCharacter, tap, tick } from '../support.js';

const SIMPLE =
  'pools: { wind: { max: 9 } }\nabilities: { jab: { start: { press: gaff }, cost: { wind: 4 }, phases: [{ for: 1f }] } }';

describe('numbers from outside are checked where they enter', () => {
  test('a bad number or name is a UsageError that says what is allowed, and changes nothing', () => {
    const c = makeCharacter(SIMPLE);
    tick(c);
    const before = c.checksum();
    const { door } = c;
    for (const call of [
      () => door.pool('wind', Number.NaN),
      () => door.pool('wind', undefined as never),
      () => door.place(Number.NaN, 0),
      () => door.place(0, Number.POSITIVE_INFINITY),
      () => door.velocity(0, Number.NaN),
      () => door.camera(Number.NaN, 1),
      () => door.camera(0, 0),
      () => door.camera(10n as never, 1),
      () => door.velocity(1, 2, Symbol('x') as never),
      () => c.snapshot(null as never),
      () => c.facts.held(Symbol('x') as never),
      () => new Character(c.plan, { at: null as never }),
      () => new Character(c.plan, { into: [] as never }),
      () => door.stick('move', Number.NaN, 0),
      () => door.freeze(1.5),
      () => door.freeze(-1),
      () => door.press(5 as never),
      () => door.press(Symbol('x') as never),
      () => door.event(undefined as never),
      () => c.explain(null as never),
      () => new Character(undefined as never),
      () => new Character(c.plan, { at: [Number.NaN, 0] }),
      () => new Character(c.plan, { facing: 0 as never }),
      () => door.contacts({ x: 0, y: 0, vx: 0, vy: 0, grounded: true }),
    ])
      expect(call, String(call)).toThrow(UsageError);
    tick(c);
    const other = makeCharacter(SIMPLE);
    tick(other, 2);
    expect([c.checksum() === before, c.checksum()]).toEqual([false, other.checksum()]);
    expect(() => compileMoveset(null as unknown)).toThrow('The moveset has 1 error:');
  });

  test('contacts are taken whole or not at all', () => {
    const c = makeCharacter(SIMPLE, {});
    expect(() => c.door.contacts({ x: 1, y: 2, vx: 0, vy: Number.NaN, grounded: true })).toThrow(
      'contacts: NaN is not a number from',
    );
    tick(c);
    expect([c.readout.x, c.readout.y]).toEqual([0, 0]);
  });

  test('a world that answers nonsense is told so', () => {
    const world = { ...flatGround(), still: false, ray: () => false, overlap: () => false };
    const nonsense = { ...world, sweep: () => true };
    expect(() => makeCharacter(SIMPLE, { world: nonsense as never })).toThrow('World.sweep: an answer needs a part');
  });

  test('-0 is 0', () => {
    const [a, b] = [makeCharacter(SIMPLE), makeCharacter(SIMPLE)];
    a.door.stick('move', -0, -0);
    b.door.stick('move', 0, 0);
    a.door.velocity(-0, 0);
    b.door.velocity(0, 0);
    tick(a);
    tick(b);
    expect([...a.record].some((n) => Object.is(n, -0))).toBe(false);
    expect(a.checksum()).toBe(b.checksum());
  });
});

describe('functions that give no number', () => {
  const moveset = (cost: () => unknown): Moveset => ({
    loggia: 1,
    name: 'Pell',
    pools: { wind: { max: 9 } },
    inputs: { gaff: { button: 'KeyJ' } },
    stances: { fall: {} },
    abilities: {
      jab: {
        start: { press: 'gaff' },
        cost: { wind: cost as () => number },
        gravity: cost as () => number,
        phases: [{ for: '9f' }],
      },
    },
  });
  test.each([undefined, 'four', Number.NaN, {}])('as a cost, %s refuses the ability with a reason', (value) => {
    const c = new Character(compileMoveset(moveset(() => value)), { world: flatGround() });
    expect(tap(c, 'gaff')).toEqual(['!jab cost']);
    expect(c.explain('jab').text).toBe('jab may not start: the function for its cost in wind returned no number.');
    expect(c.readout.pool('wind')).toBe(9);
  });
  test('as an effect, it does nothing', () => {
    let value: unknown = 2;
    const c = new Character(compileMoveset(moveset(() => value)), { world: flatGround() });
    c.door.press('gaff');
    tick(c);
    expect(c.facts.fact('gravity')).toBe(2);
    value = undefined;
    tick(c);
    expect(c.facts.fact('gravity')).toBe(25);
  });
});

describe('formulas keep to the range of their place', () => {
  test('constants written as text and percentages are checked', () => {
    const faults = (more: string) => {
      const { diagnostics } = checkMoveset(parse(more));
      return diagnostics.map((d) => wordDiagnostic(d));
    };
    const parse = (more: object | string) => JSON.parse(JSON.stringify(more));
    const ability = (more: object) => ({
      loggia: 1,
      name: 'Pell',
      pools: { wind: { max: 9 } },
      inputs: { gaff: { button: 'KeyJ' } },
      stances: { fall: {} },
      abilities: { jab: { start: { press: 'gaff' }, phases: [{ for: '1f' }], ...more } },
    });
    for (const more of [
      { refund: '2' },
      { refund: '150%' },
      { cost: { wind: '-5' } },
      { steer: '7' },
      { gravity: '1 - 9' },
    ])
      expect([more, faults(ability(more) as never)]).toEqual([more, [expect.stringContaining('is out of range')]]);
    expect(faults(ability({ refund: '50%', cost: { wind: '5' }, steer: '0.5' }) as never)).toEqual([]);
  });

  test('what a formula comes to is brought within, and a share is at most whole', () => {
    const c = makeCharacter(`
pools: { wind: { max: 9 }, oil: { max: 99, start: 40 } }
abilities:
  jab: { start: { press: gaff }, cost: { wind: 0 - pool.oil }, phases: [{ for: 1f }] }
  cast: { start: { press: gale }, cost: { wind: 4 }, refund: pool.oil, steer: pool.oil, phases: [{ for: 20f, interrupt: held(jump) }] }`);
    c.door.pool('wind', 5);
    tap(c, 'gaff');
    expect(c.readout.pool('wind')).toBe(5);
    tick(c, 2);
    c.door.press('gale');
    tick(c);
    expect([c.readout.pool('wind'), c.facts.fact('steer')]).toEqual([1, 1]);
    c.door.press('jump');
    tick(c);
    expect(c.readout.pool('wind')).toBe(5);
  });

  test('no formula makes a number that is none', () => {
    const c = makeCharacter(`
abilities:
  leap: { start: { rule: grounded or vy > 0 }, phases: [{ for: 1f, move: { up: 2 + vy * vy } }] }
  tip: { lane: hands, start: { rule: since(leap) * 0 == 0s or true }, phases: [{ for: 2f, gravity: since(tip) / 0.1s }] }
lanes: [body, hands]`);
    for (let i = 0; i < 400; i++) {
      c.tick();
      expect(c.record.some(Number.isNaN)).toBe(false);
      expect(Math.abs(c.readout.y)).toBeLessThan(1e6);
    }
  });
});

test('vy > 0 and 0 < vy say the same, also in a tick in which something changes vy', () => {
  const c = makeCharacter(`
lanes: [body, hands, legs]
abilities:
  cut: { start: { press: gale }, phases: [{ for: 1f, move: { up: 0% } }] }
  one: { lane: hands, start: { press: gaff }, when: vy > 0, phases: [{ for: 1f }] }
  two: { lane: legs, start: { press: jump }, when: 0 < vy, phases: [{ for: 1f }] }`);
  c.door.velocity(0, 9);
  tick(c);
  for (const input of ['gale', 'gaff', 'jump']) c.door.press(input);
  expect(tick(c)).toEqual(['stance fall', '+cut', 'cut.1', '!one when', '!two when']);
});

test('a need is rounded up and what one has is rounded down: 9 of 9 is never refused', () => {
  const c = makeCharacter(
    'pools: { wind: { max: 20, start: 9 } }\nabilities: { jab: { start: { press: gaff }, cost: { wind: 9.004 }, phases: [{ for: 1f }] } }',
  );
  expect(c.explain('jab').text).toBe('jab may not start: wind 9 of 9.01.');
});

test('after a thousand million ticks, nothing falls due that should not', () => {
  const c = makeCharacter(SIMPLE);
  tick(c);
  c.record[T] = 1.5e9;
  expect(tap(c, 'gaff')).toEqual(['+jab', 'jab.1', '-jab time']);
  tick(c, 10);
});

test('keep scales only the parts that the move named, and leaves what another lane does', () => {
  const c = makeCharacter(
    `
lanes: [body, legs]
body: { gravity: 0 }
abilities:
  dash: { lane: legs, start: { press: gale }, steer: 0, phases: [{ for: 3f, move: { forward: 8, keep: 0 } }] }
  dive: { lane: legs, start: { press: gaff }, steer: 0, walk: { brake: 0 }, phases: [{ for: 3f, move: { up: 6, keep: 0.5 } }] }`,
    {
      world: flatGround(),
      at: [0, 50],
    },
  );
  const after = (press: string, vx: number, vy: number) => {
    c.door.velocity(vx, vy);
    tap(c, press);
    tick(c, 1);
    // It ends in this tick, in which nothing but the brake of walking changes the level velocity.
    expect(tick(c, 1).some((line) => line.endsWith('time'))).toBe(true);
    return [c.readout.vx, c.readout.vy];
  };
  expect(after('gale', 0, -12.5)).toEqual([0, -12.5]);
  expect(after('gaff', 4, 0)).toEqual([3, 3]);
});

test('an upper limit that gives no number stays where it was, but never below the lower one', () => {
  let top: number | undefined = 2;
  let bottom = 0;
  const plan = compileMoveset({
    loggia: 1,
    name: 'Pell',
    pools: { wind: { min: () => bottom, max: () => top as number } },
    stances: { stand: {} },
  });
  const c = new Character(plan, { world: flatGround() });
  c.tick();
  top = undefined;
  bottom = 5;
  c.tick();
  expect([c.readout.poolLimits('wind'), c.readout.pool('wind')]).toEqual([{ min: 5, max: 5 }, 5]);
});
