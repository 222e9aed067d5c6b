import type { Frame, Test } from '../moveset/effects/effect.js';

/**
 * Most conditions ask whether some place of the record has some value. Joined, such a test is written into the
 * closure of its neighbour instead of being called: calls are most of what a tick's conditions cost.
 */
interface Equal {
  readonly at: number;
  readonly is: number;
}

const EQUALS = new WeakMap<Test, Equal>();
/** Tests whose outcome changes only when STALE is set. */
const STEADY = new WeakSet<Test>();

/** A test whether `r[at]` is `is`; steady if whoever changes that place sets STALE. */
export function equals(at: number, is: number, steady = false): Test {
  const test: Test = ({ r }) => r[at] === is;
  EQUALS.set(test, { at, is });
  if (steady) STEADY.add(test);
  return test;
}

export function isSteady(test: Test): boolean {
  return STEADY.has(test);
}

/** Marks a test made of others as steady if they all are. */
function made(test: Test, ...of: Test[]): Test {
  if (of.every(isSteady)) STEADY.add(test);
  return test;
}

export function both(a: Test, b: Test): Test {
  const ea = EQUALS.get(a);
  const eb = EQUALS.get(b);
  if (!ea) return made((c) => a(c) && b(c), a, b);
  const { at, is } = ea;
  if (!eb) return made((c) => c.r[at] === is && b(c), a, b);
  const { at: atB, is: isB } = eb;
  return made(({ r }) => r[at] === is && r[atB] === isB, a, b);
}

export function either(a: Test, b: Test): Test {
  const ea = EQUALS.get(a);
  const eb = EQUALS.get(b);
  if (!ea) return made((c) => a(c) || b(c), a, b);
  const { at, is } = ea;
  if (!eb) return made((c) => c.r[at] === is || b(c), a, b);
  const { at: atB, is: isB } = eb;
  return made(({ r }) => r[at] === is || r[atB] === isB, a, b);
}

export function negate(test: Test): Test {
  const e = EQUALS.get(test);
  if (!e) return made((c) => !test(c), test);
  const { at, is } = e;
  return made(({ r }) => r[at] !== is, test);
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
