import { ACCEL, BRAKE, SPEED } from '../../record/slots.js';
import { linesOf, writtenLines } from '../../record/written.js';
import type { Amount, NameTypes } from '../name-types.js';
import { fields, formula, optional } from '../shape.js';
import { effect, layOver, type Piece } from './effect.js';

/** The key `walk` of what has effects. */
export interface WalkField<N extends NameTypes> {
  /** How the stick moves the body while it lasts: a number replaces, `160%` multiplies. */
  walk?: Walk<N>;
}

/** How the stick moves the body. A number replaces, a percentage multiplies. */
export interface Walk<N extends NameTypes = NameTypes> {
  /** Fastest pace, per second. */
  speed?: Amount<N>;
  /** Acceleration towards the stick, per second squared. */
  accel?: Amount<N>;
  /** Slowing down when the stick rests, does not steer or is turned round, per second squared. */
  brake?: Amount<N>;
}

const amount = (max: number) => formula('number', { percent: true, min: 0, max });

/** @internal */
export const walkShape = fields('walk', {
  speed: optional(amount(10_000)),
  accel: optional(amount(1e6)),
  brake: optional(amount(1e6)),
});

const SLOTS = { speed: SPEED, accel: ACCEL, brake: BRAKE };

/** @internal */
export const walkEffect = effect('walk', walkShape, (value, tools) => {
  const pieces = Object.entries(value).map(([key, parsed]) => layOver(SLOTS[key as keyof typeof SLOTS], parsed, tools));
  return { fold: inTurn(pieces.map(({ fold }) => fold)), scale: inTurn(pieces.map(({ scale }) => scale)) };
});

type Step = NonNullable<Piece['fold']>;

/** Steps one behind the other, or undefined for none. */
function inTurn(steps: readonly (Step | undefined)[]): Step | undefined {
  return steps.reduce((before, step) => {
    if (!before || !step) return before ?? step;
    return writtenLines(
      (c, own) => {
        before(c, own);
        step(c, own);
      },
      (own) => {
        const [one, two] = [linesOf(before, own), linesOf(step, own)];
        return one && two && [...one, ...two];
      },
    );
  }, undefined);
}
