import type { Frame } from '../../record/frame.js';
import { FORCED, FORCED_VELOCITY, FX, FZ, LEVEL, UPRIGHT, VX, VY, VZ } from '../../record/slots.js';
import { compileDirections, type Heading, headings } from '../directions/direction.js';
import type { Amount, NameTypes } from '../name-types.js';
import type { ParsedFormula } from '../read.js';
import { fields, formula, number, optional, truth, word } from '../shape.js';
import { effect } from './effect.js';

/** Velocity that an ability or phase gives the body. Direction and speed are taken once, as it begins, unless it is `live`. */
export interface Move<N extends NameTypes = NameTypes> {
  /**
   * Where to: the first of these that has a direction. A stick counts when pushed beyond `reach`.
   * Needs `speed`.
   */
  along?: Heading<N> | readonly Heading<N>[];
  /** Per second, along `along`. */
  speed?: Amount<N>;
  /** Upwards, per second. A percentage multiplies the upward velocity once, as it begins. */
  up?: Amount<N>;
  /** Along facing, per second. A percentage multiplies the level velocity once, as it begins. */
  forward?: Amount<N>;
  /**
   * `set` (default) holds the parts it names, level or upright, and leaves the other alone; `replace` holds
   * the whole velocity; `add` adds once, as it begins.
   */
  mode?: 'set' | 'add' | 'replace';
  /** Takes direction and speed again in each tick. Default false: once, as it begins. What is added is added once. */
  live?: boolean;
  /** Takes only the level part of the direction. Default false. */
  flat?: boolean;
  /** How far a stick must be pushed to count, 0 to 1. Default 0.3. */
  reach?: number;
  /**
   * How much of the parts of the velocity that it names is kept when it ends, however it ends: `0` or `0%` stops,
   * `30%` keeps a share, `1` (default) keeps all.
   */
  keep?: Amount<N>;
}

const speed = formula('number', { percent: true, min: -10_000, max: 10_000 });
export const moveShape = fields('move', {
  along: optional(headings),
  speed: optional(formula('number', { min: -10_000, max: 10_000 })),
  up: optional(speed),
  forward: optional(speed),
  mode: optional(word('set', 'add', 'replace')),
  live: optional(truth()),
  flat: optional(truth()),
  reach: optional(number(0, 1)),
  keep: optional(formula('number', { percent: true, share: true, min: 0, max: 1 })),
});

interface ParsedMove {
  along?: string[];
  speed?: ParsedFormula;
  up?: ParsedFormula;
  forward?: ParsedFormula;
  mode?: 'set' | 'add' | 'replace';
  live?: boolean;
  flat?: boolean;
  reach?: number;
  keep?: ParsedFormula;
}

/** The numbers it owns: the parts that it holds, the velocity it holds them at (x, y, z), the parts that it named. */
const OWNS = 5;
const O_HELD = 0;
const O_VELOCITY = 1;
const O_NAMED = 4;

export const move = effect<ParsedMove>(
  'move',
  moveShape,
  (value, tools) => {
    const aim = compileDirections(value.along ?? [], value, tools);
    const along = value.speed && tools.number(value.speed);
    const up = value.up && tools.number(value.up);
    const forward = value.forward && tools.number(value.forward);
    const { mode = 'set', live = false } = value;
    const keep = value.keep && tools.number(value.keep);
    const out = new Float64Array(3);

    /** Takes direction and speed; percentages multiply what there is only as it begins. */
    const take = (c: Frame, own: number, first: boolean) => {
      const { r } = c;
      let held = 0;
      let scaled = 0;
      let x = 0;
      let y = 0;
      let z = 0;
      if (along && aim(c, out)) {
        along.run?.(c);
        const pace = usable(r[along.at]);
        x = out[0] * pace;
        y = out[1] * pace;
        z = out[2] * pace;
        if (x !== 0 || z !== 0) held |= LEVEL;
        if (y !== 0) held |= UPRIGHT;
      }
      if (forward) {
        forward.run?.(c);
        const pace = usable(r[forward.at]);
        if (value.forward?.percent) {
          scaled |= LEVEL;
          if (first) {
            r[VX] *= pace;
            r[VZ] *= pace;
          }
        } else {
          x += r[FX] * pace;
          z += r[FZ] * pace;
          held |= LEVEL;
        }
      }
      if (up) {
        up.run?.(c);
        const pace = usable(r[up.at]);
        if (value.up?.percent) {
          scaled |= UPRIGHT;
          if (first) r[VY] *= pace;
        } else {
          y += pace;
          held |= UPRIGHT;
        }
      }
      if (mode === 'replace') held = LEVEL | UPRIGHT;
      r[own + O_NAMED] = held | scaled;
      if (mode === 'add') {
        if (!first) return;
        r[VX] += x;
        r[VY] += y;
        r[VZ] += z;
        return;
      }
      r[own + O_HELD] = held;
      r[own + O_VELOCITY] = x;
      r[own + O_VELOCITY + 1] = y;
      r[own + O_VELOCITY + 2] = z;
    };
    /** Where several hold the same part of the velocity, the last one counts. */
    const fold = ({ r }: Frame, own: number) => {
      const held = r[own + O_HELD];
      if (held & LEVEL) {
        r[FORCED_VELOCITY] = r[own + O_VELOCITY];
        r[FORCED_VELOCITY + 2] = r[own + O_VELOCITY + 2];
      }
      if (held & UPRIGHT) r[FORCED_VELOCITY + 1] = r[own + O_VELOCITY + 1];
      r[FORCED] |= held;
    };
    const end =
      keep &&
      ((c: Frame, own: number) => {
        const { r } = c;
        keep.run?.(c);
        const part = Number.isNaN(r[keep.at]) ? 1 : r[keep.at];
        const named = r[own + O_NAMED];
        if (named & LEVEL) {
          r[VX] *= part;
          r[VZ] *= part;
        }
        if (named & UPRIGHT) r[VY] *= part;
      });
    return {
      begin: (c, own) => take(c, own, true),
      each: live ? (c, own) => take(c, own, false) : undefined,
      fold: mode === 'add' ? undefined : fold,
      end,
    };
  },
  { inStances: false, owns: OWNS },
);

/** A function that gives no number moves nothing. */
function usable(pace: number): number {
  return Number.isNaN(pace) ? 0 : pace;
}
