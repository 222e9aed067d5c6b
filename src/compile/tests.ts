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

/** How the outcome of a test may change from tick to tick. */
export const PACE = {
  /** At any time. */
  any: 0,
  /** It comes true only in ticks that are worked through, and is false again in the next. */
  moment: 1,
  /** Only in ticks that are worked through, the stance included. */
  worked: 2,
  /** Only where STALE is set. */
  steady: 3,
} as const;
export type Pace = (typeof PACE)[keyof typeof PACE];

const PACES = new WeakMap<Test, Pace>();
/** Tests that may come true at any time, but only while another one of a slower pace holds. */
const GUARDS = new WeakMap<Test, Test>();

export const paceOf = (test: Test): Pace => PACES.get(test) ?? PACE.any;

export function atPace(pace: Pace, test: Test): Test {
  PACES.set(test, pace);
  return test;
}

/** A test whether `r[at]` is `is`. */
export function equals(at: number, is: number, pace: Pace): Test {
  const test: Test = ({ r }) => r[at] === is;
  EQUALS.set(test, { at, is });
  return atPace(pace, test);
}

/** What must be looked at in every tick while it holds, since one of `tests` may come true at any time. */
export function restless(tests: readonly Test[]): Test[] {
  return tests.filter((test) => paceOf(test) === PACE.any).map((test) => GUARDS.get(test) ?? always);
}

export const always: Test = () => true;

const slower = (a: Test, b: Test) => Math.min(paceOf(a), paceOf(b)) as Pace;

export function both(a: Test, b: Test): Test {
  const test = atPace(slower(a, b), joinBoth(a, b));
  const guard = [a, b].find((part) => paceOf(part) >= PACE.worked) ?? GUARDS.get(a) ?? GUARDS.get(b);
  if (guard) GUARDS.set(test, guard);
  return test;
}

function joinBoth(a: Test, b: Test): Test {
  const ea = EQUALS.get(a);
  const eb = EQUALS.get(b);
  if (!ea) return (c) => a(c) && b(c);
  const { at, is } = ea;
  if (!eb) return (c) => c.r[at] === is && b(c);
  const { at: atB, is: isB } = eb;
  return ({ r }) => r[at] === is && r[atB] === isB;
}

export function either(a: Test, b: Test): Test {
  return atPace(slower(a, b), joinEither(a, b));
}

function joinEither(a: Test, b: Test): Test {
  const ea = EQUALS.get(a);
  const eb = EQUALS.get(b);
  if (!ea) return (c) => a(c) || b(c);
  const { at, is } = ea;
  if (!eb) return (c) => c.r[at] === is || b(c);
  const { at: atB, is: isB } = eb;
  return ({ r }) => r[at] === is || r[atB] === isB;
}

/** What is not a moment may be so at any time. */
export function negate(test: Test): Test {
  const pace = paceOf(test);
  const e = EQUALS.get(test);
  return atPace(pace === PACE.moment ? PACE.any : pace, e ? ({ r }) => r[e.at] !== e.is : (c) => !test(c));
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
