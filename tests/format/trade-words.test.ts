import { expect, test } from 'vitest';
import { parse } from 'yaml';
import { checkMoveset, wordDiagnostic } from '../../src/index.js';

/** What is told of a moveset that would be sound but for `more` and what `ability` has too much. */
function told(ability: object, more: object = {}): string[] {
  const { diagnostics } = checkMoveset({
    loggia: 1,
    name: 'Pell',
    pools: { wind: { max: 9 } },
    inputs: { gale: { button: 'KeyF' } },
    kinds: ['spark'],
    stances: { stand: {} },
    ...more,
    abilities: { gale: { start: { press: 'gale' }, phases: [{ for: '3f' }], ...ability } },
  });
  return diagnostics.map(wordDiagnostic);
}

test('a word of the trade is answered with the key that does it', () => {
  const keys = {
    hitbox: 'strike',
    hurtbox: 'hurt',
    knockback: 'push',
    hitstun: 'stun',
    hitstop: 'stop',
    cancel: 'open',
    coyote: 'grace',
    invulnerable: 'immune',
    duration: 'for',
    uses: 'charges',
    drain: 'upkeep',
    raycast: 'probes',
    granted: 'locked',
    on_enter: 'beats',
  };
  for (const [word, key] of Object.entries(keys)) {
    const [message, ...others] = told({ [word]: 3 });
    expect(message).toContain(`An ability has no key "${word}". `);
    expect(message).toMatch(new RegExp(`["\\s]${key}\\b`));
    expect(others).toEqual([]);
  }
  // A slip of the pen is told as such, though it is a word of the trade as well.
  expect(told({ guards: {} })[0]).toContain('Did you mean "guard"?');
  expect(told({ strike: { sphere: 1, knockback: 3 } })[0]).toContain('"push" of a strike');
});

test('a key of what stands around is told to be that, and a pool tells how it comes back', () => {
  expect(told({ start: { press: 'gale', buffer: '9f' } })[0]).toBe(
    'A start has no key "buffer". It is a key of an ability: write it there, not here.',
  );
  expect(told({ start: { press: 'gale', kinds: [] } })[0]).toBe(
    'A start has no key "kinds". It is a key of a moveset: write it there, not here.',
  );
  expect(told({}, { pools: { wind: { max: 9, refill: 2 } } })[0]).toBe(
    'A pool has no key "refill". What comes back in each second is "regen", as in regen: 2.',
  );
});

test('a value alone, where a map or a list is wanted, is answered with how to write it', () => {
  expect(told({ cost: 9 })).toEqual(['Expected a map of names, but found 9. Write { wind: 9 }.']);
  expect(told({ charges: 2 })).toEqual(['Expected charges, but found 2. Write { max: 2, every: 3s }.']);
  expect(told({ immune: 'spark' })).toEqual(['Expected true or false, but found "spark". Write [spark].']);
  expect(told({ phases: { up: { for: '3f' } } })[0]).toContain('[{ name: first }, { name: second }]');
  expect(told({}, { pools: { wind: 9 } })[0]).toBe('Expected a pool, but found 9. Write { max: 9 }.');
  expect(told({}, { inputs: { gale: 'KeyF' } })[0]).toBe(
    'Expected an input, but found "KeyF". Write { button: KeyF }.',
  );
  expect(told({ emit: 'splash' })).toEqual([
    'There is no event "splash". Declare it in the moveset: events: [splash].',
  ]);
  expect(told({}, { probes: { ahead: { ray: [1, 0], at: [0, 1], on: ['ice'] } } })).toContain(
    'There is no surface "ice". Declare it in the moveset: surfaces: [ice].',
  );
  expect(told({ phases: 3 })[0]).toBe('Expected a list, but found 3.');
  expect(told({}, { pools: { wind: [9] } })[0]).toMatch(/found a list\. Its keys are/);
  expect(told({ when: 'in(standing)' })).toEqual([
    'There is no fact or function "in(standing)" here. It can be in(stand).',
  ]);
  expect(told({ gravity: '0.5x' })[0]).toContain('but found "0.5x"; write a number as 5 or 0.5');
});

test.each<[ability: object, more?: object]>([
  [{ cost: { tar: 3 } }, { pools: {} }],
  [{ start: { press: 'tar' } }, { inputs: {} }],
  [{ emit: 'tar' }],
  [{ mark: { tar: 'feet' } }],
  [{ immune: ['tar'] }, { kinds: [] }],
  [{ summon: { who: 'tar' } }],
  [{}, { probes: { ahead: { ray: [1, 0], on: ['tar'] } } }],
])('what is said of declaring a name declares it: %j', (ability, more = {}) => {
  const way = / "tar"\. Declare it in the moveset: (.*)\.$/;
  const found = told(ability, more).find((line) => way.test(line));
  const declared = parse(way.exec(found ?? '')?.[1] ?? '');
  expect(declared).toBeTypeOf('object');
  expect(told(ability, { ...more, ...declared }).filter((line) => line.includes('"tar"'))).toEqual([]);
});
