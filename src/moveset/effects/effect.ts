import type { WrittenFormula } from '../read.js';
import type { NameKind, Shape } from '../shape.js';

/** What compiled formulas and effects see of a character: its numbers, and what the world answers. */
export interface Frame {
  /** The record, followed by constants and scratch numbers. */
  readonly r: Float64Array;
  /** Asks a probe, at most once a tick; its answers are then in its slots of `r`. */
  ask(probe: number): void;
  /** Writes what a pool has now to its place behind the record. */
  readPool(pool: number): void;
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
  /** It changes only where STALE is set, if ever. */
  readonly steady: boolean;
}

export interface EffectTools {
  number(written: WrittenFormula): Operand;
  index(kind: NameKind, name: string): number;
  /** Slot of a stick's x; y follows. */
  stickAt(name: string): number;
  /** Slot that is 1 while the tag is worn. */
  tagAt(name: string): number;
  readonly view: 'side' | 'open';
}

/** One effect of one scope, compiled. */
export interface Piece {
  /** Lays it over what was folded before. Runs when the set of effects changes. */
  fold?: (c: Frame) => void;
  /** Its numbers may change while it lasts, so that it is folded every tick. */
  live?: boolean;
  /** Done once as the scope opens. `move` is the slot of the scope's move. */
  begin?: (c: Frame, move: number) => void;
  /** Done once as the scope closes, by whatever way. */
  end?: (c: Frame) => void;
}

/** Everything Loggia knows about one effect; listed once in index.ts. */
export interface Effect {
  readonly key: string;
  readonly shape: Shape;
  /** Stances have no beginning that a deed could be done at. */
  readonly inStances: boolean;
  compile(value: never, tools: EffectTools): Piece;
}

export function effect<T>(
  key: string,
  shape: Shape,
  compile: (value: T, tools: EffectTools) => Piece,
  inStances = true,
): Effect {
  return { key, shape, compile, inStances };
}

/** A number replaces what is at `slot`; a percentage multiplies into the factor behind it. What was faulty does nothing. */
export function layOver(slot: number, written: WrittenFormula | undefined, tools: EffectTools): Piece {
  if (!written) return {};
  const { at, run, constant } = tools.number(written);
  const target = written.percent ? slot + 1 : slot;
  const fold = (c: Frame) => {
    run?.(c);
    c.r[target] = written.percent ? c.r[target] * c.r[at] : c.r[at];
  };
  return { fold, live: !constant };
}
