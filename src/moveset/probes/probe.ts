import { type Point, point } from '../directions/point.js';
import type { NameTypes, OneOrMore } from '../name-types.js';
import { either, type Fields, list, listOrOne, name, number, optional, word } from '../shape.js';

/** Where a probe begins, and what counts for it. */
export interface ProbePlace<N extends NameTypes> {
  /** The point where it begins, instead of the feet; without one, it misses. */
  from?: NoInfer<Point<N>>;
  /**
   * Where it begins, from the middle of the feet or from `from`: [x along facing, y up]; of a box, its middle; of the
   * body, how far from where it is. Default [0, 0].
   */
  at?: readonly [x: number, y: number, z?: number];
  /** Only these surfaces count. Areas count only where they are asked for. Default: any. */
  on?: OneOrMore<NoInfer<N['surface']>>;
}

/** A size, or the body in its present shape. */
export type BoxOrBody = 'body' | readonly [width: number, height: number, depth?: number];

export const spot = list(number(-10_000, 10_000), { min: 2, max: 3 });
export const boxOrBody = either({ plain: word('body'), list: list(number(0.01, 1000), { min: 2, max: 3 }) });
export const place = { from: optional(point), at: optional(spot), on: optional(listOrOne(name('surface'))) };
export const cast = { box: optional(boxOrBody), ...place };
/** Other probes that one is made of. */
export const others = optional(list(name('probe'), { min: 2, max: 16 }));

/** Everything Loggia knows about one kind of probe; listed once in index.ts. */
export interface ProbeKind<
  K extends string = string,
  F extends Fields = Fields,
  A = 'way' | 'overlap' | 'nearest' | null,
> {
  readonly key: K;
  readonly fields: F;
  /** What a world is asked; null for one that is made of others: how, `JOINS` of probes/join.ts says by its key. */
  readonly asks: A;
}

export function probeKind<const K extends string, F extends Fields, const A extends ProbeKind['asks']>(
  key: K,
  asks: A,
  fields: F,
): ProbeKind<K, F, A> {
  return { key, fields, asks };
}
