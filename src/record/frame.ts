import type { Cast, Hit, World } from '../world/world.js';

/** What compiled formulas and effects see of a character: its numbers, and what the world answers. */
export interface Frame {
  /** The record, followed by constants and scratch numbers. */
  readonly r: Float64Array;
  /** What it moves in; null when an engine moves the body. */
  readonly world: World | null;
  /** To ask the world with; shared by all characters, so read the answer before anything else is called. */
  readonly cast: Cast;
  readonly hit: Hit;
  /** Asks a probe; its answers are then in its places of `r`. */
  probe(index: number): void;
  /** Adds the number at `r[at]` to a pool. */
  gain(pool: number, at: number): void;
  emit(event: number): void;
}

export type Run = (c: Frame) => void;
export type Test = (c: Frame) => boolean;

/** A number is read from `r[at]` after `run`, if there is one. Numbers never pass as return values: those may be boxed. */
export interface Operand {
  readonly at: number;
  readonly run: Run | null;
  /** It never changes. */
  readonly constant: boolean;
}

export function anyHolds(c: Frame, tests: readonly Test[]): boolean {
  for (let i = 0; i < tests.length; i++) if (tests[i](c)) return true;
  return false;
}
