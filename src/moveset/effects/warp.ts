import type { Warping } from '../../record/frame.js';
import { compileDirections, type Heading, headings } from '../directions/direction.js';
import { compilePoint, type Point, point } from '../directions/point.js';
import type { NameTypes, NumberFormula, Uses } from '../name-types.js';
import { formula, kinds, list, number, optional, sound, truth, word } from '../shape.js';
import { effect } from './effect.js';
import { TILT } from './move.js';

/** The key `warp` of what has effects. */
export interface WarpField<N extends NameTypes> {
  /** A jump in space, done once, as the ability or phase begins. */
  warp?: Warp<Uses<N>>;
}

/** A jump in space, done once as it begins. An ability that has one may only start where it finds its place. */
export type Warp<N extends NameTypes = NameTypes> = (
  | {
      /** Puts the feet at this point. */
      to: Point<N>;
      /** From there, [x along facing, y up]. Default [0, 0]. */
      offset?: readonly [x: NumberFormula<N>, y: NumberFormula<N>, z?: NumberFormula<N>];
      /** How far it may be raised until the body fits, 0 to 10,000. Default 2. */
      raise?: number;
      along?: never;
      by?: never;
      through?: never;
      floor?: never;
      flat?: never;
      tilt?: never;
    }
  | {
      /** Puts the body at the farthest free place along the first of these directions that there is. */
      along: Heading<N> | readonly Heading<N>[];
      /** How far at most. Default 1. */
      by?: NumberFormula<N>;
      /** Goes through what is solid where that is no thicker, 0 to 10,000. Default 0. */
      through?: NumberFormula<N>;
      /** Only where there is ground at most so far below. Default: anywhere. */
      floor?: number;
      /** Takes only the level part of the direction. Default false. */
      flat?: boolean;
      /** How far a stick must be pushed to count. Default 0.3. */
      tilt?: number;
      to?: never;
      offset?: never;
      raise?: never;
    }
) & {
  /** What becomes of the velocity: kept (default), turned to where it went (or the facing), or dropped. */
  momentum?: 'keep' | 'turn' | 'drop';
};

const length = formula('number', { min: 0, max: 10_000 });

const WAYS = [
  {
    key: 'to',
    fields: {
      to: optional(point),
      offset: optional(list(formula('number', { min: -10_000, max: 10_000 }), { min: 2, max: 3 })),
      raise: optional(number(0, 10_000)),
    },
  },
  {
    key: 'along',
    fields: {
      along: optional(headings),
      by: optional(length),
      through: optional(length),
      floor: optional(number(0, 10_000)),
      flat: optional(truth()),
      tilt: optional(number(0, 1)),
    },
  },
] as const;

/** @internal */
export const warpShape = kinds(
  'a warp',
  WAYS,
  { momentum: optional(word('keep', 'turn', 'drop')) },
  { elsewhere: { reach: TILT } },
);

/** @internal */
export const warpEffect = effect(
  'warp',
  warpShape,
  (value, tools) => {
    const { to, along, offset = [], raise = 2, floor = -1, momentum = 'keep' } = value;
    const plan: Warping = {
      wants: to ?? sound(along).join(' or '),
      to: to === undefined ? null : compilePoint(to, tools),
      offset: [tools.amount(offset[0], 0), tools.amount(offset[1], 0), tools.amount(offset[2], 0)],
      raise,
      along: along ? compileDirections(along, value, tools) : null,
      by: tools.amount(value.by, 1),
      through: tools.amount(value.through, 0),
      floor,
      momentum,
    };
    return { begin: (c) => c.warp(plan), warp: plan };
  },
  { inStances: false },
);
