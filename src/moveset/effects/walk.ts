import { ACCEL, BRAKE, SPEED } from '../../record/slots.js';
import type { Amount, NameTypes } from '../name-types.js';
import type { ParsedFormula } from '../read.js';
import { fields, formula, optional } from '../shape.js';
import { effect, layOver } from './effect.js';

/** How the stick moves the body. A number replaces, a percentage multiplies. */
export interface Walk<N extends NameTypes = NameTypes> {
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

export const walk = effect<Partial<Record<keyof typeof SLOTS, ParsedFormula>>>('walk', walkShape, (value, tools) => {
  const folds = Object.entries(value).flatMap(
    ([key, parsed]) => layOver(SLOTS[key as keyof typeof SLOTS], parsed, tools).fold ?? [],
  );
  return {
    fold: (c, own) => {
      for (let i = 0; i < folds.length; i++) folds[i](c, own);
    },
  };
});
