import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import { compileMoveset } from '../../src/index.js';
import { makeCharacter, SMALL, sentences } from '../support.js';

/** The value of a formula, through a pool that gains it. */
function evaluate(formula: string): number {
  const c = makeCharacter(`
pools: { p: { min: -1000000, max: 1000000, start: 0 } }
abilities: { a: { start: { press: gaff }, phases: [{ for: 1f, gain: { p: "${formula}" } }] } }`);
  c.door.press('gaff');
  c.tick();
  return c.readout.pool('p');
}

test.each([
  ['1 + 2 * 3', 7],
  ['(1 + 2) * 3 - -4', 13],
  ['7 % 4 / 2', 1.5],
  ['10 / 0', 0],
  ['sqrt(-4) + sqrt(9)', 3],
  ['clamp(12, 0, 5) + min(1, 2) * max(3, 4)', 9],
  ['abs(-2) + floor(2.7) + ceil(2.1) + round(2.5) + sign(-9)', 9],
  ['pick(grounded and not airborne, 5, 6)', 5],
  ['pick(1s == 60f and 0.2s == 200ms, 1, 0)', 1],
  ['3s / 0.5s', 6],
])('%s is %f', (formula, value) => {
  expect(evaluate(formula)).toBe(value);
});

test('arithmetic agrees with a plain evaluation of the same tree', () => {
  type Tree = number | [string, Tree, Tree];
  const tree = fc.letrec<{ tree: Tree }>((tie) => ({
    tree: fc.oneof(
      { depthSize: 'small' },
      fc.integer({ min: 0, max: 9 }),
      fc.tuple(fc.constantFrom('+', '-', '*', 'x'), tie('tree'), tie('tree')),
    ),
  })).tree;
  const write = (t: Tree): string =>
    typeof t === 'number'
      ? t === 9
        ? 'pool.p.max'
        : String(t)
      : `(${write(t[1])} ${t[0] === 'x' ? '-' : t[0]} ${write(t[2])})`;
  const compute = (t: Tree): number => {
    if (typeof t === 'number') return t === 9 ? 1e6 : t;
    const [a, b] = [compute(t[1]), compute(t[2])];
    return t[0] === '+' ? a + b : t[0] === '*' ? a * b : a - b;
  };
  const clamp = (x: number) => Math.max(-1e6, Math.min(1e6, x));
  fc.assert(
    fc.property(tree, (t) => {
      expect(evaluate(write(t)) + 0).toBe(clamp(compute(t)) + 0);
    }),
    { seed: 7, numRuns: 60 },
  );
});

describe('faults point into the formula', () => {
  const check = (when: string) =>
    sentences(parseMoveset(`${SMALL}abilities: { a: { start: { code: only }, when: ${when}, end: landed } }`))[0];
  test.each([
    ['grounded && airborne', 'Expected an operator or the end but found "&"; write "and".'],
    ['vx = 3', 'Expected an operator or the end but found "="; write "==" to compare.'],
    ['vx > grounded', 'This must be a number, but this is a condition.'],
    ['stance.time > vx', 'This must be a time, but this is a number; write a unit, like 0.2s or 12f.'],
    ['hedl(jump)', 'There is no fact or function "hedl(jump)" here. Did you mean "held(jump)"?'],
    ['min(1) > 2', 'min takes 2 values, not 1.'],
    ['vx', 'This must be a condition, but this is a number.'],
  ])('%s', (formula, sentence) => {
    expect(check(`"${formula}"`)).toContain(sentence);
  });
});

test('a function serves as a formula, with typed facts', () => {
  const plan = compileMoveset({
    loggia: 1,
    name: 'Pell',
    pools: { oil: { max: 9, start: 0 } },
    stances: { stand: {} },
    abilities: {
      pour: {
        start: { rule: (f: { pool(n: string): number }) => f.pool('oil') < 4 },
        phases: [{ for: '1f', gain: { oil: (f: { x: number }) => f.x + 2 } }],
      },
    },
  });
  const c = makeCharacter('', undefined);
  expect(c.plan).not.toBe(plan);
  const pourer = new (c.constructor as any)(plan, { at: [1, 0] });
  for (let i = 0; i < 10; i++) pourer.tick();
  expect(pourer.readout.pool('oil')).toBe(6);
});
