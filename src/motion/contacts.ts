import {
  CEILING,
  GROUND_CHANGED,
  GROUND_NORMAL,
  GROUND_VELOCITY,
  GROUNDED,
  LANDED,
  T,
  TOUCHES,
  UNEVEN,
  WALL,
  WALL_X,
  WALL_Z,
} from '../record/slots.js';
import type { Hit } from '../world/world.js';

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

/** As it is where nothing is touched but level ground that stands still. */
export function clearContacts(r: Float64Array): void {
  if (r[TOUCHES] === 0) return;
  r[TOUCHES] = 0;
  r[WALL_X] = 0;
  r[WALL_Z] = 0;
  r.fill(0, GROUND_NORMAL, GROUND_VELOCITY + 3);
  r[GROUND_NORMAL + 1] = 1;
}

/** Notes what a move met, and says whether it is ground. */
export function noteHit(r: Float64Array, hit: Hit): boolean {
  const { nx, ny, nz } = hit;
  if (ny > GROUND_STEEPEST) {
    noteGround(r, hit);
    return true;
  }
  if (ny < -GROUND_STEEPEST) r[TOUCHES] |= CEILING;
  else {
    r[TOUCHES] |= WALL;
    r[WALL_X] = nx;
    r[WALL_Z] = nz;
  }
  return false;
}

function noteGround(r: Float64Array, { nx, ny, nz, vx, vy, vz }: Hit): void {
  if (ny === 1 && vx === 0 && vy === 0 && vz === 0 && !(r[TOUCHES] & UNEVEN)) return;
  r[TOUCHES] |= UNEVEN;
  r[GROUND_NORMAL] = nx;
  r[GROUND_NORMAL + 1] = ny;
  r[GROUND_NORMAL + 2] = nz;
  r[GROUND_VELOCITY] = vx;
  r[GROUND_VELOCITY + 1] = vy;
  r[GROUND_VELOCITY + 2] = vz;
}
