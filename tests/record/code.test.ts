import { expect, test } from 'vitest';
import type * as library from '../../src/module/index.js';
import {
  all,
  any,
  at,
  Code,
  compare,
  enclose,
  equal,
  FALSE,
  js,
  not,
  readsOnly,
  referencesOf,
  TRUE,
  to,
  when,
} from '../../src/record/code.js';
import type { LibraryName } from '../../src/record/library.js';

/** Code with its places as numbers. */
const text = (code: Code) =>
  code.parts.map((part) => (typeof part === 'string' ? part : `r[${'at' in part ? part.at : '?'}]`)).join('');

test('conditions are joined with the parentheses that they need, and no others', () => {
  const [a, b, c] = [1, 2, 3].map((slot) => compare(at(slot), '>', at(0)));
  expect(text(all(a, all(b, c)))).toBe('r[1] > r[0] && r[2] > r[0] && r[3] > r[0]');
  expect(text(all(a, any(b, c)))).toBe('r[1] > r[0] && (r[2] > r[0] || r[3] > r[0])');
  expect(text(any(js`x ? 1 : 0`, enclose(js`x, y`)))).toBe('(x ? 1 : 0) || (x, y)');
  expect([all(), all(a, TRUE), all(a, FALSE), any(), any(a, FALSE), any(a, TRUE)]).toEqual([
    TRUE,
    a,
    FALSE,
    FALSE,
    a,
    TRUE,
  ]);
});

test('the contrary of a condition: what is not a number is not above, and not at most either', () => {
  expect(text(not(equal(at(1), at(2))))).toBe('r[1] !== r[2]');
  expect(text(not(not(equal(at(1), at(2)))))).toBe('r[1] === r[2]');
  expect(text(not(compare(at(1), '>', at(2))))).toBe('!(r[1] > r[2])');
  expect(text(not(enclose(js`x, y`)))).toBe('!(x, y)');
  expect([not(TRUE), not(FALSE)]).toEqual([FALSE, TRUE]);
});

test('lines know what they read and write', () => {
  const lines = [when(js`${at(1)} > 0`, [js`${to(2)} = ${at(3)};`, js`${to(4)} = 1;`])];
  expect(referencesOf(lines).map((one) => (one.kind === 'slot' ? [one.at, one.writes] : one.kind))).toEqual([
    [1, false],
    [2, true],
    [3, false],
    [4, true],
  ]);
  expect(readsOnly(lines, (slot) => slot <= 4)).toBe(true);
  expect(readsOnly(lines, (slot) => slot <= 3)).toBe(false);
});

test('a line keeps the first place that it is said to be from', () => {
  expect(js`x`.from('abilities', 'dash').from('phases').traits.origin).toEqual(['abilities', 'dash']);
  expect(js`x`.from('a')).toBeInstanceOf(Code);
});

test('what generated code takes from the library is there', () => {
  type Missing = Exclude<LibraryName, keyof typeof library>;
  const nothing: [Missing] extends [never] ? true : Missing = true;
  expect(nothing).toBe(true);
});
