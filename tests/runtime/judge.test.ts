import { describe, expect, test } from 'vitest';
import { wordReason } from '../../src/index.js';
import { makeCharacter, tap, tick } from '../support.js';

const PAID = `
pools: { wind: { max: 10, start: 5 }, oil: { max: 9, start: 1 } }
abilities:
  flare:
    start: { press: gaff }
    from: air
    when: [pool.oil > 0 and vx > 1, facing == 1]
    cost: { wind: 9, oil: 1 }
    cooldown: 1s
    phases: [{ for: 1f }]
`;

test('a refused request has every reason at once, changes nothing, and is told by explain in the same words', () => {
  const c = makeCharacter(PAID);
  tick(c);
  const explained = c.explain('flare');
  expect(explained.reasons).toEqual([
    { code: 'from', stance: 'stand', allowed: ['air'] },
    { code: 'when', text: 'vx > 1', facts: [{ text: 'vx', value: 0 }] },
    { code: 'pool', pool: 'wind', have: 5, need: 9 },
  ]);
  expect(explained.text).toBe(
    'flare may not start: only in air, not in stand; "vx > 1" does not hold: vx is 0; wind 5 of 9.',
  );
  const before = [c.readout.pool('wind'), c.readout.pool('oil'), c.readout.cooldown('flare')];
  expect(tap(c, 'gaff')).toEqual(['!flare from,when,pool']);
  expect([c.readout.pool('wind'), c.readout.pool('oil'), c.readout.cooldown('flare')]).toEqual(before);
});

test('a refusal is told when it happens and when its reasons change, not every tick', () => {
  const c = makeCharacter(`
pools: { wind: { max: 10, start: 0, regen: 60 } }
abilities: { sprint: { start: { hold: gale }, when: vx > 1, cost: { wind: 5 } } }`);
  c.door.press('gale');
  expect(tick(c, 20)).toEqual(['emptied wind', '!sprint when,pool', '!sprint when'].slice(1));
  c.door.release('gale');
  tick(c);
  c.door.press('gale');
  expect(tick(c)).toEqual(['!sprint when']);
});

describe('the five words of legality', () => {
  const COMBO = `
lanes: [body, hands]
abilities:
  jab:
    start: { press: gaff }
    phases: [{ name: windup, for: 5f }, { name: recovery, for: 10f, open: sweep }]
  sweep: { start: { press: jump }, follows: { jab: 4f }, phases: [{ for: 5f }] }
  brace: { start: { press: gale }, bars: [throw], phases: [{ for: 30f }] }
  throw: { lane: hands, start: { event: go }, phases: [{ for: 3f }] }
  stun: { start: { code: only }, breaks: attack, phases: [{ for: 3f }] }
  heave: { start: { press: move.up }, tags: attack, phases: [{ for: 30f }] }
events: [go]
`;
  test('open: who may follow, and from when on', () => {
    const c = makeCharacter(COMBO);
    expect(tap(c, 'gaff')).toEqual(['+jab', 'jab.windup']);
    expect(tap(c, 'jump')).toEqual(['!sweep busy']);
    tick(c, 3);
    expect(tap(c, 'jump')).toEqual(['-jab followed', '+sweep', 'sweep.1']);
  });
  test('follows: only out of another, or so long after it', () => {
    const c = makeCharacter(COMBO);
    expect(tap(c, 'jump')).toEqual(['!sweep follows']);
    tap(c, 'gaff');
    expect(tick(c, 14)).toContain('-jab time');
    tick(c, 3);
    expect(tap(c, 'jump')[0]).toBe('+sweep');
    tick(c, 30);
    expect(tap(c, 'jump')).toEqual(['!sweep follows']);
  });
  test('bars: what may not start meanwhile, in any lane', () => {
    const c = makeCharacter(COMBO);
    tap(c, 'gale');
    c.door.event('go');
    expect(tick(c)).toEqual(['received go', '!throw barred']);
    tick(c, 40);
    c.door.event('go');
    expect(tick(c)).toEqual(['received go', '+throw', 'throw.1']);
  });
  test('breaks: interrupts by name or tag, whatever they say; others are busy', () => {
    const c = makeCharacter(COMBO);
    tap(c, 'move.up');
    c.door.request('stun');
    expect(tick(c)).toEqual(['-heave broken', '+stun', 'stun.1']);
    tick(c, 10);
    tap(c, 'gale');
    c.door.request('stun');
    expect(tick(c)).toEqual(['!stun busy']);
  });
  test('one grant per lane and tick: the one declared first', () => {
    const c = makeCharacter(COMBO);
    c.door.press('gale');
    c.door.press('gaff');
    expect(tick(c)).toEqual(['+jab', 'jab.windup', '!brace outranked']);
    const refused = c.readout.events.find((event) => event.kind === 'refused');
    expect(refused?.reasons).toEqual([{ code: 'outranked', by: 'jab' }]);
  });
  test('a reason names who stands in the way, and its phase', () => {
    const c = makeCharacter(COMBO);
    tap(c, 'gaff');
    expect(c.explain('brace').reasons).toEqual([{ code: 'busy', by: 'jab', phase: 'windup' }]);
    expect(c.explain('jab').reasons).toEqual([{ code: 'running' }]);
    tick(c, 20);
    expect(c.explain('sweep').reasons).toEqual([{ code: 'follows', allowed: ['jab'] }]);
    tap(c, 'gale');
    expect(c.explain('throw').reasons).toEqual([{ code: 'barred', by: 'brace' }]);
  });
});

test('a press is used once, and kept for its buffer', () => {
  const c = makeCharacter(`
body: { walk: { brake: 0 } }
abilities:
  lift: { start: { press: gaff }, buffer: 10f, when: x >= 0.3, phases: [{ for: 3f }] }
  drop: { start: { press: gaff }, phases: [{ for: 30f }], when: x > 99 }`);
  c.door.velocity(3, 0);
  const told = tap(c, 'gaff');
  expect(told).toEqual(['!lift when', '!drop when']);
  expect(tick(c, 20)).toEqual(['+lift', 'lift.1', '-lift time']);
});

test('each code of a reason has its words', () => {
  expect(wordReason({ code: 'cooldown', remaining: 0.316 })).toBe('on cooldown for 0.31 s');
  expect(wordReason({ code: 'charges', remaining: null })).toBe('no charges left');
  expect(wordReason({ code: 'restart', pool: 'wind', have: 2, need: 6 })).toBe(
    'wind ran out: 2 of 6 needed to start again',
  );
  expect(wordReason({ code: 'busy', by: 'jab', phase: 'windup' })).toBe('jab (windup) is running and not open to it');
});

test('an unknown name in code is an error that names the nearest; a refusal never is', () => {
  const c = makeCharacter(PAID);
  expect(() => c.door.request('flair')).toThrow('request: there is no ability "flair". Did you mean "flare"?');
  expect(() => c.door.press('gaf')).toThrow('Did you mean "gaff"?');
  expect(() => c.explain('falre')).toThrow('Did you mean "flare"?');
  expect(() => c.readout.pool('mana')).toThrow('There are wind, oil.');
  expect(() => c.facts.fact('grouded')).toThrow('Did you mean "grounded"?');
  c.door.request('flare');
  expect(tick(c)).toEqual(['!flare from,when,pool']);
});
