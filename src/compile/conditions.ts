import { all, any, equal, FALSE, not, at as numberAt, TRUE } from '../record/code.js';
import type { Frame, Test } from '../record/frame.js';
import { codeOf, withAll, written } from '../record/written.js';

/**
 * Most conditions ask whether some place of the record has some value. Joined, such a test is written into the
 * closure of its neighbour instead of being called: calls are most of what a tick's conditions cost.
 */
interface Equal {
  readonly at: number;
  readonly is: number;
}

const EQUALS = new WeakMap<Test, Equal>();

/** A test whether `r[at]` is `is`. */
export function equals(at: number, is: number): Test {
  const test: Test = ({ r }) => r[at] === is;
  EQUALS.set(test, { at, is });
  return written(test, () => equal(numberAt(at), is));
}

/** What always holds, and what never does. */
export const ALWAYS_HOLDS: Test = written(
  () => true,
  () => TRUE,
);
export const NEVER_HOLDS: Test = written(
  () => false,
  () => FALSE,
);

export function both(a: Test, b: Test): Test {
  return written(join(a, b), () => withAll([codeOf(a), codeOf(b)], all));
}

function join(a: Test, b: Test): Test {
  const ea = EQUALS.get(a);
  const eb = EQUALS.get(b);
  if (!ea) return (c) => a(c) && b(c);
  const { at, is } = ea;
  if (!eb) return (c) => c.r[at] === is && b(c);
  const { at: atB, is: isB } = eb;
  return ({ r }) => r[at] === is && r[atB] === isB;
}

export function either(a: Test, b: Test): Test {
  return written(choose(a, b), () => withAll([codeOf(a), codeOf(b)], any));
}

function choose(a: Test, b: Test): Test {
  const ea = EQUALS.get(a);
  const eb = EQUALS.get(b);
  if (!ea) return (c) => a(c) || b(c);
  const { at, is } = ea;
  if (!eb) return (c) => c.r[at] === is || b(c);
  const { at: atB, is: isB } = eb;
  return ({ r }) => r[at] === is || r[atB] === isB;
}

export function negate(test: Test): Test {
  const e = EQUALS.get(test);
  const contrary: Test = e ? ({ r }) => r[e.at] !== e.is : (c) => !test(c);
  return written(contrary, () => withAll([codeOf(test)], not));
}

/** The index of the first test that holds; null always does. */
export function firstOf(tests: readonly (Test | null)[]): (c: Frame) => number {
  return tests.reduceRight<(c: Frame) => number>(
    (after, test, i) => {
      if (test === null) return () => i;
      const e = EQUALS.get(test);
      if (!e) return (c) => (test(c) ? i : after(c));
      const { at, is } = e;
      return (c) => (c.r[at] === is ? i : after(c));
    },
    () => tests.length - 1,
  );
}
