import type { WrittenFormula } from '../read.js';
import { fields, formula, optional } from '../shape.js';
import { ACCEL, BRAKE, SPEED } from '../slots.js';
import type { Amount, Names } from '../types.js';
import { effect, layOver } from './effect.js';

/** How the stick moves the body. A number replaces, a percentage multiplies. */
export interface Walk<N extends Names = Names> {
  /** Fastest pace, per second. Default 5. */
  speed?: Amount<N>;
  /** Acceleration towards the stick, per second squared. Default 60. */
  accel?: Amount<N>;
  /** Slowing down when the stick is let go or turned round, per second squared. Default 60. */
  brake?: Amount<N>;
}

const amount = (max: number) => formula('number', { percent: true, min: 0, max });

export const walkShape = fields('walk', {
  speed: optional(amount(10_000)),
  accel: optional(amount(1e6)),
  brake: optional(amount(1e6)),
});

const SLOTS = { speed: SPEED, accel: ACCEL, brake: BRAKE };

export const walk = effect<Partial<Record<keyof typeof SLOTS, WrittenFormula>>>('walk', walkShape, (value, tools) => {
  const pieces = Object.entries(value).map(([key, written]) =>
    layOver(SLOTS[key as keyof typeof SLOTS], written, tools),
  );
  return {
    fold: (c) => {
      for (const piece of pieces) piece.fold?.(c);
    },
    live: pieces.some((piece) => piece.live),
  };
});
