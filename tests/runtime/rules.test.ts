import { describe, expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import { wordReason } from '../../src/index.js';
import { makeCharacter, SMALL, sentences, tap, tick } from '../support.js';

describe('a rule that asks once', () => {
  const RULE = `
pools: { wind: { max: 9 } }
abilities:
  gasp: { start: { rule: pool.wind < 3, once: true }, buffer: 2f, phases: [{ for: 4f }] }
  brace: { start: { press: gaff }, bars: gasp, phases: [{ for: 20f }] }`;
  test('requests as its condition begins to hold, and again only after it did not', () => {
    const c = makeCharacter(RULE);
    c.door.pool('wind', 2);
    expect(tick(c, 20)).toEqual(['+gasp', 'gasp.1', '-gasp time']);
    c.door.pool('wind', 8);
    expect(tick(c, 5)).toEqual([]);
    c.door.pool('wind', 1);
    expect(tick(c, 5)).toEqual(['+gasp', 'gasp.1', '-gasp time']);
  });
  test('goes on when the condition no longer holds, and is kept for its buffer when it is refused', () => {
    const c = makeCharacter(RULE);
    c.door.pool('wind', 2);
    tick(c);
    c.door.pool('wind', 8);
    expect(tick(c, 2)).toEqual([]);
    expect(tick(c, 2)).toEqual(['-gasp time']);
    tap(c, 'gaff');
    c.door.pool('wind', 2);
    expect(tick(c)).toEqual(['!gasp busy,barred']);
    expect(tick(c, 30)).toEqual(['-brace time']);
  });
  test('a snapshot knows whether it held', () => {
    const c = makeCharacter(RULE);
    c.door.pool('wind', 2);
    tick(c, 9);
    const before = c.snapshot();
    const other = makeCharacter(RULE);
    other.restore(before);
    expect(tick(other, 9)).toEqual([]);
  });
});

describe('a start after the end of another ability', () => {
  const AFTER = (why: string) => `
events: [hit]
lanes: [body, hands]
abilities:
  swing: { start: { press: gaff }, phases: [{ for: 3f }], interrupt: event(hit) }
  stun: { start: { code: only }, breaks: swing, phases: [{ for: 2f }] }
  sheathe: { lane: hands, start: { after: swing${why} }, phases: [{ for: 2f }] }`;
  test('requests in the tick in which that one ends', () => {
    const c = makeCharacter(AFTER(''));
    tap(c, 'gaff');
    expect(tick(c, 2)).toEqual(['-swing time', '+sheathe', 'sheathe.1']);
  });
  test('only for the endings that are named', () => {
    const c = makeCharacter(AFTER(', why: [interrupted, broken]'));
    tap(c, 'gaff');
    expect(tick(c, 5)).toEqual(['-swing time']);
    tap(c, 'gaff');
    c.door.event('hit');
    expect(tick(c)).toEqual(['received hit', '-swing interrupted', '+sheathe', 'sheathe.1']);
    tick(c, 5);
    tap(c, 'gaff');
    c.door.request('stun');
    expect(tick(c, 3)).toEqual([
      '-swing broken',
      '+stun',
      'stun.1',
      '+sheathe',
      'sheathe.1',
      '-stun time',
      '-sheathe time',
    ]);
  });
});

test('all means all others, in breaks and in bars', () => {
  const c = makeCharacter(`
lanes: [body, hands]
abilities:
  jab: { start: { press: gaff }, phases: [{ for: 20f }] }
  aim: { lane: hands, start: { hold: gale } }
  faint: { start: { code: only }, breaks: all, bars: all, phases: [{ for: 4f }] }`);
  c.door.press('gaff');
  c.door.press('gale');
  tick(c);
  c.door.request('faint');
  expect(tick(c)).toEqual(['-jab broken', '-aim broken', '+faint', 'faint.1']);
  c.door.request('faint');
  c.door.request('aim');
  expect(tick(c)).toEqual(['!faint running', '!aim barred']);
  expect(sentences(parseMoveset(`${SMALL}abilities: { all: { start: { code: only }, end: landed } }`))).toEqual([
    expect.stringContaining('name-clash "all" is the name of both an ability and a word for all others'),
  ]);
});

test('exceptions from all, from a tag, and none from an empty list', () => {
  const { plan } = makeCharacter(`
lanes: [body, hands]
abilities:
  jab: { start: { press: gaff }, tags: attack, phases: [{ for: 20f }] }
  sweep: { start: { press: gaff }, tags: attack, phases: [{ for: 20f }] }
  aim: { lane: hands, start: { hold: gale } }
  one: { start: { code: only }, breaks: [all, not(aim)], end: landed }
  two: { start: { code: only }, breaks: not(attack), end: landed }
  three: { start: { code: only }, breaks: [attack, not(sweep)], end: landed }
  four: { start: { code: only }, breaks: [], bars: [not(aim), not(one)], end: landed }`);
  const names = (mask: Uint8Array | null) => plan.names.ability.filter((_, i) => mask?.[i] === 1).join();
  expect(plan.abilities.map(({ breaks }) => names(breaks)).slice(3)).toEqual([
    'jab,sweep,two,three,four',
    'aim,one,three,four',
    'jab',
    '',
  ]);
  expect(names(plan.abilities[6].scope.bars)).toBe('jab,sweep,two,three');
  expect(
    sentences(parseMoveset(`${SMALL}abilities: { hop: { start: { code: only }, bars: not(hpo), end: landed } }`)),
  ).toEqual([
    expect.stringContaining('unknown-name There is no ability or tag or word "not(hpo)". Did you mean "not(hop)"?'),
  ]);
});

describe('named conditions', () => {
  test('a refusal shows the name, and what the condition reads', () => {
    const c = makeCharacter(`
pools: { wind: { max: 9 } }
conditions: { fresh: pool.wind >= 5 and calm, calm: not moving }
abilities: { heave: { start: { press: gaff }, when: fresh and grounded, phases: [{ for: 2f }] } }`);
    expect(c.facts.condition('fresh')).toBe(true);
    c.door.pool('wind', 3);
    expect(tap(c, 'gaff')).toEqual(['!heave when']);
    const { main } = c.explain('heave');
    expect(main).toEqual({
      code: 'when',
      text: 'fresh',
      facts: [
        { text: 'pool.wind', value: 3 },
        { text: 'moving', value: false },
      ],
    });
    expect(main && wordReason(main)).toBe('"fresh" does not hold: pool.wind is 3, moving is false');
  });
  test.each([
    [
      'conditions: { near: far, far: not near }',
      'condition-cycle This condition reads itself: near reads far reads near.',
    ],
    ['conditions: { near: 3 + 4 }', 'formula-type This must be a condition, but this is a number.'],
    ['conditions: { near: grouded }', 'Did you mean "grounded"?'],
    [
      'conditions: { grounded: landed }',
      'name-clash "grounded" is the name of both a condition and a fact; rename one',
    ],
    [
      'conditions: { near: landed }\nabilities: { hop: { start: { press: jump }, when: naer, end: landed } }',
      'mean "near"?',
    ],
  ])('%s', (text, told) => {
    expect(sentences(parseMoveset(SMALL + text)).filter((line) => line.includes(told))).toHaveLength(1);
  });
});

test('height, shape and phase are facts', () => {
  const c = makeCharacter(`
body: { shapes: { tall: [0.6, 1.8], low: [0.6, 0.9] } }
abilities: { slide: { start: { press: gaff }, phases: [{ name: dive, for: 2f }, { name: low, for: 2f, body: low }] } }`);
  tap(c, 'gaff');
  expect([
    c.facts.height,
    c.facts.shape('tall'),
    c.facts.phase('slide', 'dive'),
    c.facts.phase('slide', 'low'),
  ]).toEqual([1.8, true, true, false]);
  tick(c, 2);
  expect([c.facts.height, c.facts.shape('low'), c.facts.phase('slide', 'low')]).toEqual([0.9, true, true]);
  tick(c, 3);
  expect(c.facts.phase('slide', 'low')).toBe(false);
});
