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
  /** Calls somebody: the index of a summon. Where there is no room for them, what the summon belongs to ends. */
  summon(index: number): void;
  /** Whether there is room for whom a summon calls; always, outside of an arena. */
  fits(index: number): boolean;
  /** Leaves the arena. */
  leave(): void;
  /** Learns an ability (1) or forgets it (0). */
  learn(ability: number, known: number): void;
  /** Puts the body where a warp leads; where that is nowhere, what the warp belongs to ends. */
  warp(warp: Warping): void;
  /** Writes where a place of the world is; false where the world knows none of that name. */
  place(place: number, out: Float64Array): boolean;
}

/** A warp, compiled: to a point, or along a direction. */
export interface Warping {
  /** The point or the directions as they were written, for messages. */
  readonly wants: string;
  readonly to: ((c: Frame, out: Float64Array) => boolean) | null;
  /** x along facing, y up, z. */
  readonly offset: readonly [Operand, Operand, Operand];
  readonly raise: number;
  readonly along: ((c: Frame, out: Float64Array) => boolean) | null;
  readonly by: Operand;
  readonly through: Operand;
  /** How far below there must be ground; below 0 for anywhere. */
  readonly floor: number;
  readonly momentum: 'keep' | 'turn' | 'drop';
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
