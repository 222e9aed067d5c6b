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
