import { FALL, GRAVITY, STEER } from '../../record/slots.js';
import type { Amount, NameTypes, Share } from '../name-types.js';
import { formula } from '../shape.js';
import { effect, layOver } from './effect.js';

/** The key `gravity` of what has effects. */
export interface GravityField<N extends NameTypes> {
  /** Downward acceleration while it lasts, per second squared; `0` floats, `50%` halves what would be. */
  gravity?: Amount<N>;
}

/** The key `fall` of what has effects. */
export interface FallField<N extends NameTypes> {
  /** Fastest fall while it lasts, per second; `30%` of what would be. */
  fall?: Amount<N>;
}

/** The key `steer` of what has effects. */
export interface SteerField<N extends NameTypes> {
  /**
   * How much the stick still steers the body: 0 not at all, as if it rested, 1 fully. A body whose stick rests brakes by
   * `walk.brake`, whatever this says. Default 1.
   */
  steer?: Share<N>;
}

const amount = (max: number) => formula('number', { percent: true, min: 0, max });

/** @internal */
export const gravityEffect = effect('gravity', amount(10_000), (value, tools) => layOver(GRAVITY, value, tools));

/** @internal */
export const fallEffect = effect('fall', amount(10_000), (value, tools) => layOver(FALL, value, tools));

/** @internal */
export const steerEffect = effect('steer', amount(1), (value, tools) => layOver(STEER, value, tools, 1));
