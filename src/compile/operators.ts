import type { BinaryOp } from '../moveset/formula.js';
import type { Run, Test } from '../record/frame.js';

/** What formulas compare and compute with, over places of the record. */
export const COMPARE: Partial<Record<BinaryOp, (a: number, b: number) => Test>> = {
  '<':
    (a, b) =>
    ({ r }) =>
      r[a] < r[b],
  '<=':
    (a, b) =>
    ({ r }) =>
      r[a] <= r[b],
  '>':
    (a, b) =>
    ({ r }) =>
      r[a] > r[b],
  '>=':
    (a, b) =>
    ({ r }) =>
      r[a] >= r[b],
  '==':
    (a, b) =>
    ({ r }) =>
      r[a] === r[b],
  '!=':
    (a, b) =>
    ({ r }) =>
      r[a] !== r[b],
};

export const ARITHMETIC: Partial<Record<BinaryOp, (a: number, b: number, out: number) => Run>> = {
  '+':
    (a, b, out) =>
    ({ r }) => {
      r[out] = r[a] + r[b];
    },
  '-':
    (a, b, out) =>
    ({ r }) => {
      r[out] = r[a] - r[b];
    },
  '*':
    (a, b, out) =>
    ({ r }) => {
      r[out] = r[a] * r[b];
    },
  // A number divided by 0 is 0, so that no formula can make a body's place not a number.
  '/':
    (a, b, out) =>
    ({ r }) => {
      r[out] = r[b] === 0 ? 0 : r[a] / r[b];
    },
  '%':
    (a, b, out) =>
    ({ r }) => {
      r[out] = r[b] === 0 ? 0 : r[a] % r[b];
    },
};

export const ONE: Record<string, (x: number) => number> = {
  abs: Math.abs,
  floor: Math.floor,
  ceil: Math.ceil,
  round: Math.round,
  sign: Math.sign,
  sqrt: (x) => (x > 0 ? Math.sqrt(x) : 0),
};
export const MANY: Record<string, (a: number, b: number) => number> = { min: Math.min, max: Math.max };
export const FUNCTIONS = [...Object.keys(ONE), ...Object.keys(MANY), 'clamp', 'pick'];

/** The same as expressions; `out` is a free number for what would be written twice. */
export const EXPRESSIONS: Readonly<Record<string, (out: number, a: string, b: string, c: string) => string>> = {
  '<': (_, a, b) => `${a} < ${b}`,
  '<=': (_, a, b) => `${a} <= ${b}`,
  '>': (_, a, b) => `${squared(a, b)} > ${b}`,
  '>=': (_, a, b) => `${a} >= ${b}`,
  '==': (_, a, b) => `${squared(a, b)} === ${b}`,
  '!=': (_, a, b) => `${squared(a, b)} !== ${b}`,
  '+': (_, a, b) => `(${a} + ${b})`,
  '-': (_, a, b) => `(${a} - ${b})`,
  '*': (_, a, b) => `(${a} * ${b})`,
  '/': (out, a, b) => divided(out, a, '/', b),
  '%': (out, a, b) => divided(out, a, '%', b),
  abs: (_, x) => `Math.abs(${x})`,
  floor: (_, x) => `Math.floor(${x})`,
  ceil: (_, x) => `Math.ceil(${x})`,
  round: (_, x) => `Math.round(${x})`,
  sign: (_, x) => `Math.sign(${x})`,
  sqrt: (out, x) => {
    const { first, again } = twice(out, x);
    return `(${first} > 0 ? Math.sqrt(${again}) : 0)`;
  },
  min: (_, a, b) => `Math.min(${a}, ${b})`,
  max: (_, a, b) => `Math.max(${a}, ${b})`,
  clamp: (_, x, low, high) => `Math.min(Math.max(${x}, ${low}), ${high})`,
};

/** A root is to 0 as what it is the root of. */
function squared(a: string, b: string): string {
  return b === '0' ? a.replace(/^Math\.sqrt\(([^()]*)\)$/, '$1') : a;
}

function divided(out: number, a: string, operator: '/' | '%', b: string): string {
  if (Number(b) !== 0 && !Number.isNaN(Number(b))) return `(${a} ${operator} ${b})`;
  const { first, again } = twice(out, b);
  return `(${first} === 0 ? 0 : ${a} ${operator} ${again})`;
}

/** An expression that is read twice: worked out once, if it is more than a number of the record. */
function twice(out: number, text: string): { first: string; again: string } {
  return /^(r\[\d+\]|[\d.]+)$/.test(text)
    ? { first: text, again: text }
    : { first: `(r[${out}] = ${text})`, again: `r[${out}]` };
}
