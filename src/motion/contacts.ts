import {
  CEILING,
  GROUND_CHANGED,
  GROUND_NORMAL,
  GROUND_VELOCITY,
  GROUNDED,
  LANDED,
  T,
  WALL_X,
  WALL_Z,
} from '../record/slots.js';

/** Steepest ground: the least upward part of its normal, a slope of about 45 degrees. */
export const GROUND_STEEPEST = 0.7;
/** How far below the feet ground still carries a body that stood on it and does not fall. */
export const REACH = 0.02;

/** Notes whether there is ground below, and when that changed: it is seen in this tick (0) or the next (1). */
export function setGrounded(r: Float64Array, grounded: number, later: 0 | 1): void {
  if (grounded === r[GROUNDED]) return;
  r[GROUNDED] = grounded;
  r[GROUND_CHANGED] = r[T] + later;
  if (grounded === 1) r[LANDED] = r[T] + later;
}

/** As it is where nothing is touched. */
export function clearContacts(r: Float64Array): void {
  r[WALL_X] = 0;
  r[WALL_Z] = 0;
  r[CEILING] = 0;
  setGround(r, 0, 1, 0, 0, 0, 0);
}

export function setGround(
  r: Float64Array,
  nx: number,
  ny: number,
  nz: number,
  vx: number,
  vy: number,
  vz: number,
): void {
  r[GROUND_NORMAL] = nx;
  r[GROUND_NORMAL + 1] = ny;
  r[GROUND_NORMAL + 2] = nz;
  r[GROUND_VELOCITY] = vx;
  r[GROUND_VELOCITY + 1] = vy;
  r[GROUND_VELOCITY + 2] = vz;
}
