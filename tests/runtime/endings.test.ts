import { describe, expect, test } from 'vitest';
import { checkMoveset, wordDiagnostic } from '../../src/index.js';
import { makeCharacter, tap, tick } from '../support.js';

describe('phases', () => {
  test('one that is entered through an until ends by its own condition that already holds', () => {
    const c = makeCharacter(`
abilities:
  dive:
    start: { press: gaff }
    phases: [{ name: drop, until: grounded, move: { up: -5 } }, { name: crouch, until: not held(gaff) }]
  stop:
    lane: hands
    start: { press: gaff }
    phases: [{ until: grounded }, { for: 99f, interrupt: grounded }]
lanes: [body, hands]`);
    c.door.place(0, 0.5);
    tap(c, 'gaff');
    expect(tick(c, 12)).toContain('dive.crouch');
    expect(c.readout.ability()).toBeNull();
  });
  test('an ability or a phase is interrupted when it says so', () => {
    const c = makeCharacter(`
abilities:
  cast: { start: { press: gaff }, interrupt: held(gale), phases: [{ for: 30f }, { for: 30f, interrupt: held(jump) }] }`);
    tap(c, 'gaff');
    c.door.press('jump');
    expect(tick(c, 3)).toEqual([]);
    c.door.release('jump');
    c.door.press('gale');
    expect(tick(c)).toEqual(['-cast interrupted']);
    c.door.release('gale');
    tap(c, 'gaff');
    tick(c, 40);
    c.door.press('jump');
    expect(tick(c)).toEqual(['-cast interrupted']);
  });
  test('a phase bars while it lasts', () => {
    const c = makeCharacter(`
lanes: [body, hands]
abilities:
  brace: { start: { press: gale }, phases: [{ for: 5f, bars: throw }, { for: 5f }] }
  throw: { lane: hands, start: { press: gaff }, phases: [{ for: 1f }] }`);
    c.door.press('gale');
    tick(c);
    expect(tap(c, 'gaff')).toEqual(['!throw barred']);
    tick(c, 4);
    expect(tap(c, 'gaff')).toContain('+throw');
  });
});

describe('costs', () => {
  const CAST = `
pools: { oil: { min: 2, max: 20 } }
abilities:
  cast:
    start: { press: gaff }
    cost: { oil: 6 }
    pay: hit
    refund: 50%
    interrupt: held(jump)
    phases: [{ name: windup, for: 3f }, { name: hit, for: 9f, when: not held(gale) }, { name: rest, for: 9f, when: not held(move.up) }]`;
  test('a phase that pays and is skipped does not make the ability free', () => {
    const c = makeCharacter(CAST);
    c.door.press('gale');
    tap(c, 'gaff');
    expect(c.readout.pool('oil')).toBe(20);
    expect(tick(c, 2)).toEqual(['cast.rest']);
    expect(c.readout.pool('oil')).toBe(14);
    tick(c, 20);
    c.door.press('move.up');
    tap(c, 'gaff');
    expect(tick(c, 2)).toEqual(['-cast time']);
    expect(c.readout.pool('oil')).toBe(8);
  });
  test('what was not paid yet costs nothing, and only what was paid comes back', () => {
    const c = makeCharacter(CAST);
    tap(c, 'gaff');
    c.door.press('jump');
    expect(tick(c)).toEqual(['-cast interrupted']);
    expect(c.readout.pool('oil')).toBe(20);
    c.door.release('jump');
    tap(c, 'gaff');
    tick(c, 4);
    c.door.press('jump');
    tick(c);
    expect(c.readout.pool('oil')).toBe(17);
    c.door.release('jump');
    // What an earlier use paid does not come back a second time.
    tap(c, 'gaff');
    c.door.press('jump');
    tick(c);
    expect(c.readout.pool('oil')).toBe(17);
  });
  test('a lower limit above 0 is kept, for costs, upkeeps and thresholds', () => {
    const c = makeCharacter(`
pools: { oil: { min: 2, max: 20, start: 7, regen: 60 } }
abilities:
  jab: { start: { press: gaff }, cost: { oil: 6 }, phases: [{ for: 1f }] }
  glow: { lane: hands, start: { hold: gale }, upkeep: { oil: { rate: 300, restart: 4 } } }
lanes: [body, hands]`);
    expect(c.explain('jab').reasons).toEqual([{ code: 'pool', pool: 'oil', have: 7, need: 8 }]);
    c.door.press('gale');
    tick(c);
    expect(tick(c, 2)).toEqual(['emptied oil', '-glow ranOut', '!glow restart']);
    expect(c.readout.pool('oil')).toBe(2);
    const threshold = { code: 'restart', pool: 'oil', need: 6 };
    expect(c.explain('glow').reasons).toEqual([expect.objectContaining(threshold)]);
    expect(tick(c, 4)).toEqual(['+glow']);
  });
  test('two upkeeps drain one pool together, and running dry gives nothing back', () => {
    const c = makeCharacter(`
pools: { oil: { max: 20 } }
lanes: [body, hands]
abilities:
  glow: { start: { hold: gale }, upkeep: { oil: 60 }, cost: { oil: 4 }, refund: 100% }
  hum: { lane: hands, start: { hold: gaff }, upkeep: { oil: 120 } }`);
    c.door.press('gale');
    c.door.press('gaff');
    tick(c, 3);
    expect(c.readout.pool('oil')).toBe(10);
    expect(tick(c, 4)).toEqual(['emptied oil', '-glow ranOut', '-hum ranOut', '!glow pool,pool', '!hum pool']);
    expect(c.readout.pool('oil')).toBe(0);
  });
  test('a pool within a rounding of its limit is empty, and says so', () => {
    const c = makeCharacter(`
pools: { oil: { max: 1, start: 0.9 } }
abilities: { glow: { start: { hold: gale }, upkeep: { oil: 18 } } }`); // 0.9 - 3 * 0.3 is a hair above 0
    c.door.press('gale');
    expect(tick(c, 4)).toEqual(['+glow', 'emptied oil', '-glow ranOut', '!glow pool']);
    expect(c.readout.pool('oil')).toBe(0);
  });
  test('in a freeze a pool stands still, whatever comes in', () => {
    const c = makeCharacter(`
pools: { oil: { max: 99, start: 10, regen: 120 } }
abilities: { glow: { start: { hold: gale }, upkeep: { oil: 60 } } }`);
    c.door.press('gale');
    tick(c, 3);
    c.door.freeze(5);
    const before = c.readout.pool('oil');
    tick(c);
    expect(c.readout.pool('oil')).toBe(before);
    c.door.pool('oil', 20);
    tick(c, 2);
    expect(c.readout.pool('oil')).toBe(20);
    tick(c, 4);
    expect(c.readout.pool('oil')).toBe(21);
  });
});

describe('cooldowns', () => {
  test('of a group: the later one counts, and none is ready without its event', () => {
    const c = makeCharacter(`
events: [home]
lanes: [a, b, c]
abilities:
  long: { lane: a, start: { press: gaff }, cooldown: { for: 60f, group: tools }, phases: [{ for: 1f }] }
  short: { lane: b, start: { press: gale }, cooldown: { for: 5f, group: tools }, phases: [{ for: 30f }] }
  hook: { lane: c, start: { press: jump }, cooldown: { for: 9f, from: home, group: tools }, phases: [{ for: 1f }] }`);
    c.door.press('gale');
    c.door.press('gaff');
    tick(c, 2);
    expect(c.readout.cooldown('short')).toBe(1);
    expect(c.readout.cooldownPart('short')).toBe(1);
    tick(c, 30);
    expect(c.readout.cooldown('short')).toBeCloseTo(0.5);
    expect(c.readout.cooldownPart('short')).toBeCloseTo(0.5);
    tick(c, 40);
    expect([c.readout.cooldown('short'), c.readout.cooldownPart('short')]).toEqual([0, 0]);
    c.door.releaseAll();
    tick(c);
    c.door.press('gale');
    c.door.press('jump');
    tick(c, 40);
    expect([c.readout.cooldown('hook'), c.readout.cooldownPart('long')]).toEqual([Number.POSITIVE_INFINITY, 1]);
    c.door.event('home');
    tick(c);
    expect(c.readout.cooldown('long')).toBeCloseTo(9 / 60);
    c.door.reset('long');
    tick(c);
    expect(c.readout.cooldown('hook')).toBe(0);
  });
  test('from an event that the ability emits itself: only if it went off', () => {
    const c = makeCharacter(`
events: [flash]
abilities:
  cast: { start: { press: gaff }, cooldown: { for: 30f, from: flash }, interrupt: held(jump), phases: [{ for: 5f }, { for: 5f, emit: flash }] }`);
    tap(c, 'gaff');
    c.door.press('jump');
    expect(tick(c)).toEqual(['-cast interrupted']);
    expect(c.readout.cooldown('cast')).toBe(0);
    c.door.release('jump');
    tap(c, 'gaff');
    tick(c, 5);
    expect(c.readout.cooldown('cast')).toBeCloseTo(29 / 60);
  });
  test('names that mean something else by themselves are faults', () => {
    const { diagnostics } = checkMoveset({
      loggia: 1,
      name: 'Pell',
      events: ['end'],
      inputs: { up: { stick: { left: 'KeyA' } }, down: { button: 'KeyS' } },
      stances: { fall: {} },
    });
    expect(diagnostics.filter((d) => d.code === 'name-clash').map(wordDiagnostic)).toEqual([
      '"up" is the name of both a stick and a direction; rename one of them.',
      '"end" is the name of both an event and a moment of an ability; rename one of them.',
      '"down" is the name of both a button and a direction; rename one of them.',
    ]);
  });
  test.each([
    ['', 0],
    [', keep: true', 0.5],
  ])('a charge that is interrupted is 0 at once, unless it says keep%s', (keep, left) => {
    const c = makeCharacter(`
abilities:
  rush: { start: { press: gaff }, phases: [{ charge: { over: 10f${keep} } }, { for: 5f }] }
  flinch: { start: { code: only }, breaks: rush, phases: [{ for: 2f }] }`);
    c.door.press('gaff');
    tick(c, 5);
    c.door.request('flinch');
    tick(c);
    expect([c.readout.charge('rush'), c.facts.fact('charge(rush)')]).toEqual([left, left]);
  });

  test('charges count the time to the next', () => {
    const c = makeCharacter(
      'abilities: { throw: { start: { press: gaff }, charges: { max: 2, every: 30f }, phases: [{ for: 1f }] } }',
    );
    tap(c, 'gaff');
    tap(c, 'gaff');
    expect(c.explain('throw').text).toBe('throw may not start: no charges left, the next in 0.45 s.');
  });
});

describe('charging', () => {
  const charging = (more: string) =>
    makeCharacter(
      `abilities: { rush: { start: { press: gaff }, phases: [{ name: build, charge: { over: 10f, ${more} } }, { name: go, for: 5f }] } }`,
    );
  const hold = (c: ReturnType<typeof charging>, ticks: number) => {
    c.door.press('gaff');
    tick(c, ticks);
    c.door.release('gaff');
    return tick(c);
  };
  test.each([
    ['even', 0.5],
    ['late', 0.25],
    ['early', 0.75],
    ['smooth', 0.5],
  ])('%s', (curve, half) => {
    const c = charging(`curve: ${curve}`);
    hold(c, 5);
    expect(c.readout.charge('rush')).toBeCloseTo(half);
    tick(c, 9);
    expect(c.readout.charge('rush')).toBeCloseTo(half);
    c.door.press('gaff');
    tick(c, 4);
    const at = 3 / 10;
    const want = { even: at, late: at * at, early: at * (2 - at), smooth: at * at * (3 - 2 * at) }[curve] as number;
    expect(c.readout.charge('rush')).toBeCloseTo(want);
  });
  test('let go before full it is cancelled if it says so, and at full it is not', () => {
    const c = charging('early: cancel');
    expect(hold(c, 9)).toEqual(['-rush interrupted']);
    tick(c);
    expect(hold(c, 10)).toEqual(['rush.go']);
    expect(c.readout.charge('rush')).toBe(1);
  });
});

describe('grace', () => {
  const JUMP = `
abilities:
  hop: { start: { press: jump }, from: floor, grace: 6f, buffer: 0f, phases: [{ for: 3f }, { for: 1f, move: { up: 9 } }] }`;
  test('a jump with a windup has no second one in the air', () => {
    const c = makeCharacter(JUMP);
    tap(c, 'jump');
    tick(c, 3);
    expect(c.readout.grounded).toBe(false);
    tick(c, 1);
    expect(tap(c, 'jump')).toEqual(['!hop from']);
  });
  test('what was created or placed in the air has none', () => {
    const c = makeCharacter(JUMP);
    tick(c, 10);
    c.door.place(0, 9);
    tick(c);
    expect(tap(c, 'jump')).toEqual(['!hop from']);
    const falling = makeCharacter(JUMP, { ...{ world: c.world ?? undefined }, at: [0, 9] });
    expect(tap(falling, 'jump')).toEqual(['!hop from']);
  });
  test('placing tells that the ground was left or met, and since when', () => {
    const c = makeCharacter(JUMP);
    tick(c, 300);
    c.door.place(0, 9);
    expect(tick(c)).toEqual(['airborne', 'stance fall']);
    expect([c.facts.fact('air.time'), c.facts.fact('stance.time')]).toEqual([0, 0]);
    tick(c, 3);
    expect([c.facts.fact('stance.time'), c.readout.stanceTime]).toEqual([3 / 60, 3 / 60]);
    c.door.place(0, 0);
    expect(tick(c)).toEqual(['landed', 'stance stand']);
  });
});
