import type { Frame } from '../../record/frame.js';
import { Q_HIT, Q_POINT } from '../../record/layout.js';
import { AIM_KIND, AIM_POINT, AIM_X, MARK_SET, MARK_X, NEVER, SHAPE, X, Y, Z } from '../../record/slots.js';
import type { AnyMark, NameTypes } from '../name-types.js';
import { type NameKind, name } from '../shape.js';

/** A point: the same words wherever one is expected. What there is none of now, such as a mark that is not set, is no point. */
export type Point<N extends NameTypes = NameTypes> =
  | 'feet'
  | 'middle'
  | 'head'
  | 'foe'
  | N['target']
  | AnyMark<N>
  | N['probe']
  | N['aim']
  | N['place']
  | N['choice']
  | N['point value'];

/**
 * A spot of the body, the middle of the nearest foe in the arena or of a target, or what has a place: the hit of a probe, a mark, an aim that is a point, a place of the world or the
 * one chosen, a value of a message.
 */
export const point = {
  ...name('target', 'mark', 'probe', 'aim', 'place', 'choice', 'point value'),
  words: ['feet', 'middle', 'head', 'foe'],
  meaning: 'point',
};

/** Writes where a point is to `out`, or returns false when there is none now. */
export type Spot = (c: Frame, out: Float64Array) => boolean;

/** Where a value of a message stands in the record, and the slot that is above `-NEVER` once there is one. */
export interface ValuePlace {
  readonly at: number;
  readonly since: number;
}

/** Whether a value of a message is there. */
export function known(r: Float64Array, { since }: ValuePlace): boolean {
  return r[since] > -NEVER;
}

export interface PointTools {
  /** Of a name; -1 for none. */
  index(kind: NameKind, name: string | undefined): number;
  /** First slot of a mark, of an aim. */
  markAt(name: string | undefined): number;
  aimAt(name: string): number;
  /** Index of a probe, and the first slot of its answers. */
  probe(name: string): { readonly index: number; readonly at: number };
  /** Slot of a choice, and for each of its options the index of the place that is called so, or -1. */
  choice(name: string): { readonly at: number; readonly places: readonly number[] };
  /** Where a value of a message stands; undefined for what is none. */
  valueAt(source: string): ValuePlace | undefined;
  /** Behind the record: the nearest foe, and a target. */
  readonly foeAt: number;
  targetAt(name: string): number;
  /** Something asks for it. */
  noteFoe(): void;
  /** Heights of the body's shapes. */
  readonly heights: readonly number[];
}

/** Who is struck: where its middle is, and 1 while the push of the strike is worked out. */
export const THE_TARGET: Float64Array = new Float64Array(4);

export function compilePoint(source: string, tools: PointTools): Spot {
  const { heights } = tools;
  const spotOfBody =
    (part: number): Spot =>
    ({ r }, out) =>
      write(out, r[X], r[Y] + heights[r[SHAPE]] * part, r[Z]);
  if (source === 'feet') return spotOfBody(0);
  if (source === 'middle') return spotOfBody(0.5);
  if (source === 'head') return spotOfBody(1);
  const target = tools.index('target', source) >= 0;
  if (source === 'foe' || target) {
    const at = target ? tools.targetAt(source) : tools.foeAt;
    if (!target) tools.noteFoe();
    return ({ r }, out) => r[at] === 1 && write(out, r[at + 1], r[at + 2], r[at + 3]);
  }
  if (source === 'target')
    return (_, out) => THE_TARGET[3] === 1 && write(out, THE_TARGET[0], THE_TARGET[1], THE_TARGET[2]);
  if (tools.index('mark', source) >= 0) {
    const at = tools.markAt(source);
    return ({ r }, out) => r[at + MARK_SET] === 1 && write(out, r[at + MARK_X], r[at + MARK_X + 1], r[at + MARK_X + 2]);
  }
  if (tools.index('aim', source) >= 0) {
    const at = tools.aimAt(source);
    return ({ r }, out) =>
      r[at + AIM_KIND] === AIM_POINT && write(out, r[at + AIM_X], r[at + AIM_X + 1], r[at + AIM_X + 2]);
  }
  if (tools.index('probe', source) >= 0) {
    const { index, at } = tools.probe(source);
    return (c, out) => {
      c.probe(index);
      const { r } = c;
      return r[at + Q_HIT] === 1 && write(out, r[at + Q_POINT], r[at + Q_POINT + 1], r[at + Q_POINT + 2]);
    };
  }
  if (tools.index('choice', source) >= 0) {
    const { at, places } = tools.choice(source);
    return (c, out) => places[c.r[at]] >= 0 && c.place(places[c.r[at]], out);
  }
  const value = tools.valueAt(source);
  if (value) return ({ r }, out) => known(r, value) && write(out, r[value.at], r[value.at + 1], r[value.at + 2]);
  const place = tools.index('place', source);
  return (c, out) => place >= 0 && c.place(place, out);
}

function write(out: Float64Array, x: number, y: number, z: number): boolean {
  out[0] = x;
  out[1] = y;
  out[2] = z;
  return true;
}
