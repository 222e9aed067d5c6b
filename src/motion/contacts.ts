import type { Plan } from '../compile/plan.js';
import { surfacesOf } from '../probes/probe.js';
import {
  CEILING,
  GROUND_CHANGED,
  GROUND_NORMAL,
  GROUND_SURFACES,
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
  r[GROUND_SURFACES] = 0;
}

/** Whole normals of the wall and the ceiling that were met last, for who bounces off them. */
export const MET_WALL: Float64Array = new Float64Array(3);
export const MET_CEILING: Float64Array = new Float64Array(3);

/** Notes what a move met, and says whether it is ground. */
export function noteHit(plan: Plan, r: Float64Array, hit: Hit): boolean {
  const { nx, ny, nz } = hit;
  const { steepest } = plan.body;
  if (ny > steepest) {
    noteGround(plan, r, hit);
    return true;
  }
  const met = ny < -steepest ? MET_CEILING : MET_WALL;
  met[0] = nx;
  met[1] = ny;
  met[2] = nz;
  if (ny < -steepest) r[TOUCHES] |= CEILING;
  else {
    r[TOUCHES] |= WALL;
    r[WALL_X] = nx;
    r[WALL_Z] = nz;
  }
  return false;
}

function noteGround(plan: Plan, r: Float64Array, { nx, ny, nz, vx, vy, vz, tags }: Hit): void {
  const surfaces = surfacesOf(plan, tags);
  if (ny === 1 && vx === 0 && vy === 0 && vz === 0 && surfaces === 0 && !(r[TOUCHES] & UNEVEN)) return;
  r[TOUCHES] |= UNEVEN;
  r[GROUND_NORMAL] = nx;
  r[GROUND_NORMAL + 1] = ny;
  r[GROUND_NORMAL + 2] = nz;
  r[GROUND_VELOCITY] = vx;
  r[GROUND_VELOCITY + 1] = vy;
  r[GROUND_VELOCITY + 2] = vz;
  r[GROUND_SURFACES] = surfaces;
}
