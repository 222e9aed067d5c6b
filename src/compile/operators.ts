import type { BinaryOp } from '../moveset/formula.js';
import { at, type Code, compare, enclose, js, pick, tight, to } from '../record/code.js';
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

/** The same as code; `out` is a free number for what would be written twice. */
export const EXPRESSIONS: Readonly<Record<string, (out: number, a: Code, b: Code, c: Code) => Code>> = {
  '<': (_, a, b) => compare(a, '<', b),
  '<=': (_, a, b) => compare(a, '<=', b),
  '>': (_, a, b) => compare(squared(a, b), '>', b),
  '>=': (_, a, b) => compare(a, '>=', b),
  '==': (_, a, b) => compare(squared(a, b), '===', b),
  '!=': (_, a, b) => compare(squared(a, b), '!==', b),
  '+': (_, a, b) => enclose(js`${a} + ${b}`),
  '-': (_, a, b) => enclose(js`${a} - ${b}`),
  '*': (_, a, b) => enclose(js`${a} * ${b}`),
  '/': (out, a, b) => divided(out, a, '/', b),
  '%': (out, a, b) => divided(out, a, '%', b),
  abs: (_, x) => tight(js`Math.abs(${x})`),
  floor: (_, x) => tight(js`Math.floor(${x})`),
  ceil: (_, x) => tight(js`Math.ceil(${x})`),
  round: (_, x) => tight(js`Math.round(${x})`),
  sign: (_, x) => tight(js`Math.sign(${x})`),
  sqrt: (out, x) => {
    const { first, again } = twice(out, x);
    return pick(js`${first} > 0`, js`Math.sqrt(${again})`, 0);
  },
  min: (_, a, b) => tight(js`Math.min(${a}, ${b})`),
  max: (_, a, b) => tight(js`Math.max(${a}, ${b})`),
  clamp: (_, x, low, high) => clamped(x, low, high),
};

/** A number brought within a range. */
export function clamped(x: Code, low: Code | number, high: Code | number): Code {
  return tight(js`Math.min(Math.max(${x}, ${low}), ${high})`);
}

/** A root is to 0 as what it is the root of. */
function squared(a: Code, b: Code): Code {
  return b.traits.literal === 0 ? (a.traits.radicand ?? a) : a;
}

function divided(out: number, a: Code, operator: '/' | '%', b: Code): Code {
  if (b.traits.literal) return enclose(js`${a} ${operator} ${b}`);
  const { first, again } = twice(out, b);
  return pick(js`${first} === 0`, 0, js`${a} ${operator} ${again}`);
}

/** An expression that is read twice: worked out once, if it is more than a number of the record. */
function twice(out: number, code: Code): { first: Code; again: Code } {
  return code.isPlain ? { first: code, again: code } : { first: enclose(js`${to(out)} = ${code}`), again: at(out) };
}
