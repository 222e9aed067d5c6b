import { describe, expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import { Character, checkMoveset, describe as describeMoveset, flatGround, type Plan } from '../../src/index.js';
import { generatedWhole } from '../emit/generated.js';
import { plan, SMALL, sentences, tap, tick } from '../support.js';

const RANKS = `
pools: { rank: { max: 9, start: 1 } }
abilities:
  cast:
    start: { press: gaff }
    cooldown: 60f - 10f * pool.rank
    phases: [{ name: windup, for: "max(2f, 12f - 2f * pool.rank)", clip: cast }, { name: active, for: 3f }]
  dash: { lane: legs, start: { press: gale }, cooldown: { for: pick(grounded, 9f, 0f), from: start }, phases: [{ for: 2f }] }
lanes: [body, legs]
`.replace('pick(grounded, 9f, 0f)', '"pick(grounded, 9f, 0f)"');

const UPGRADES = `
pools: { rank: { max: 3, start: 1 }, wind: { max: 24 } }
abilities:
  dash: { start: { press: gale }, charges: { max: pool.rank + 0.6, every: "pick(pool.rank > 1, 4f, 9f)" }, phases: [{ for: 1f }] }
  sweep: { start: { press: gaff }, follows: { dash: 2f * pool.rank }, phases: [{ for: 1f }] }
  sprint: { lane: legs, start: { hold: jump }, upkeep: { wind: 60 / pool.rank }, phases: [{ for: 9s }] }
  coil: { lane: hands, start: { code: only }, phases: [{ charge: { over: 12f / pool.rank, full: go } }, { for: 99f }] }
lanes: [body, legs, hands]
`;

describe.each([
  ['interpreted', (made: Plan) => made],
  ['a module', generatedWhole],
])('times that are formulas: %s', (_, of) => {
  const make = (rank: number, text = RANKS) => {
    const c = new Character(of(plan(SMALL + text)), { world: flatGround() });
    c.door.pool('rank', rank);
    tick(c, 2);
    return c;
  };

  test('are read as a phase begins and as a cooldown begins to count, and kept', () => {
    const run = (rank: number) => {
      const c = make(rank);
      tap(c, 'gaff');
      c.door.pool('rank', 9);
      const told: string[] = [];
      let ticks = 1;
      while (!told.includes('cast.active')) told.push(...tick(c), String(++ticks));
      const windup = ticks;
      c.door.pool('rank', rank);
      while (!told.includes('-cast time')) told.push(...tick(c));
      return [windup, Math.round(c.readout.cooldown('cast') * 60), c.readout.cooldownPart('cast')];
    };
    expect(run(1)).toEqual([10, 50, 1]);
    expect(run(3)).toEqual([6, 30, 1]);
    expect(run(9)).toEqual([2, 0, 0]);
  });

  test('say how far a phase and its clip are', () => {
    const c = make(1);
    tap(c, 'gaff');
    tick(c, 4);
    expect([c.readout.progress(), c.readout.clipProgress]).toEqual([0.5, 0.5]);
  });

  test('of 0 make no cooldown', () => {
    const c = make(1);
    tap(c, 'gale');
    tick(c, 3);
    expect(Math.round(c.readout.cooldown('dash') * 60)).toBe(5);
    tick(c, 9);
    c.door.place(0, 30);
    tick(c);
    tap(c, 'gale');
    expect(c.readout.cooldown('dash')).toBe(0);
  });

  test('that are no times last a tick, and that have no end an hour', () => {
    for (const [time, ticks] of [
      [Number.NaN, 1],
      [-3, 1],
      [Number.POSITIVE_INFINITY, 216000],
    ] as const) {
      const made = checkMoveset({
        loggia: 1,
        name: 'Pell',
        stances: { stand: {} },
        abilities: { wait: { start: { code: 'only' }, phases: [{ for: () => time }] } },
      }).plan as Plan;
      const c = new Character(made, { world: flatGround() });
      c.door.request('wait');
      tick(c);
      expect(c.readout.progress()).toBe(0);
      tick(c);
      expect(c.readout.progress()).toBe(ticks === 1 ? 0 : 1 / ticks);
      expect(c.readout.isRunning('wait')).toBe(ticks > 1);
    }
  });

  test('uses, what they wait for, windows, drains and charges are formulas too: a rank is a pool', () => {
    const c = make(1, UPGRADES);
    const ofRank = (to: number) => {
      c.door.pool('rank', to);
      c.tick();
    };
    const dash = () => {
      tap(c, 'gale');
      return c.readout.charges('dash');
    };
    expect([c.readout.charges('dash'), dash()]).toEqual([1, 0]);
    // It waits for what was asked as the wait began: nine ticks, of which tapping was two.
    tick(c, 6);
    expect(c.readout.charges('dash')).toBe(0);
    ofRank(3);
    tick(c, 2);
    expect(c.readout.charges('dash')).toBe(1);
    // From here on, four each, up to three.
    expect([4, 4, 4, 4].map((n) => [tick(c, n), c.readout.charges('dash')][1])).toEqual([2, 3, 3, 3]);
    dash();
    const window = Array.from({ length: 8 }, () => [c.may('sweep'), c.tick()][0]);
    // From the tick in which it ended to the sixth after it.
    expect(window.filter(Boolean)).toHaveLength(7);
    ofRank(1);
    expect([dash(), dash()]).toEqual([0, 0]);

    c.door.press('jump');
    const drained = () => {
      const before = c.readout.pool('wind');
      c.tick();
      return before - c.readout.pool('wind');
    };
    c.tick();
    expect(drained()).toBe(1);
    c.door.pool('rank', 3);
    // What it drained up to the tick in which the rank changes is as it was.
    expect([drained(), drained()].map((n) => n.toFixed(9))).toEqual(['1.000000000', '0.333333333']);
    c.door.request('coil');
    c.tick();
    c.door.pool('rank', 1);
    tick(c, 2);
    // Its length was read as it began.
    expect(c.readout.charge('coil')).toBe(0.5);
    tick(c, 2);
    expect([c.readout.charge('coil'), c.readout.phase('hands')]).toEqual([1, '2']);
    const described = (name: string) => describeMoveset(c.plan).abilities[name];
    expect(described('dash')).toMatchObject({ charges: { max: null, every: null } });
    expect(described('sprint')?.upkeep).toEqual({ wind: null });
  });
});

test('a time that is no formula is told as a time, and one that is none of times as a formula', () => {
  const faults = (time: string) =>
    sentences(parseMoveset(`${SMALL}abilities: { hop: { start: { press: jump }, phases: [{ for: ${time} }] } }`))
      .map((line) => line.replace(/^\S+ /, ''))
      .filter((line) => !line.startsWith('unread'));
  expect(faults('0.2')[0]).toContain('0.2 is not a time: write seconds, milliseconds or ticks');
  expect(faults('1x')[0]).toContain('"1x" is not a time');
  expect(faults('0f')[0]).toContain('out of range');
  expect(faults('2f * heldFor(jump)')[0]).toContain('formula-type');
  expect(faults('speed + 1')[0]).toContain('formula-type');
  expect(faults('40%')[0]).toContain('percent');
  const { abilities } = describeMoveset(plan(SMALL + RANKS));
  expect(abilities.cast).toMatchObject({
    lasts: null,
    cooldown: { lasts: null },
    phases: [{ lasts: null }, { lasts: 0.05 }],
  });
});

test.each([
  ['interpreted', (made: Plan) => made],
  ['a module', generatedWhole],
])('events shorten a cooldown as they are received, never below nothing: %s', (_, of) => {
  const c = new Character(
    of(
      plan(`${SMALL}events: { hit: {}, own: { hears: own } }
lanes: [body, hands]
abilities:
  dash: { start: { press: gale }, cooldown: { for: 60f, less: { hit: 20f, own: 5f } }, phases: [{ for: 1f }] }
  tell: { lane: hands, start: { press: gaff }, emit: own, phases: [{ for: 1f }] }
`),
    ),
    { world: flatGround() },
  );
  const left = () => Math.round(c.readout.cooldown('dash') * 60);
  c.door.event('hit'); // none counts yet
  tick(c, 2);
  tap(c, 'gale');
  expect(left()).toBe(60);
  c.door.event('hit');
  tick(c);
  expect(left()).toBe(39);
  tap(c, 'gaff');
  tick(c, 2);
  expect(left()).toBe(39 - 4 - 5);
  for (let i = 0; i < 4; i++) c.door.event('hit');
  tick(c);
  expect([left(), c.may('dash')]).toEqual([0, true]);
});
