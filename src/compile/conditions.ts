import type { Frame, Test } from '../record/frame.js';
import { textOf, writeNumber, written } from '../record/written.js';

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
  return written(test, `r[${at}] === ${writeNumber(is)}`);
}

export function both(a: Test, b: Test): Test {
  return written(join(a, b), joinTexts(a, '&&', b));
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
  return written(choose(a, b), joinTexts(a, '||', b));
}

function joinTexts(a: Test, operator: '&&' | '||', b: Test): string | undefined {
  const [one, two] = [textOf(a), textOf(b)];
  return one === undefined || two === undefined ? undefined : `(${one} ${operator} ${two})`;
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
  if (e) return written(({ r }) => r[e.at] !== e.is, `r[${e.at}] !== ${writeNumber(e.is)}`);
  const text = textOf(test);
  return written((c) => !test(c), text && `!(${text})`);
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
