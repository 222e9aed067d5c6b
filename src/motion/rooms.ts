import type { BodyShape, Plan } from '../compile/plan.js';
import { placeCast } from '../probes/ask-world.js';
import { GROUNDED, VX, VY, VZ, X, Y, Z } from '../record/slots.js';
import { TOUCH } from '../world/solid.js';
import { clearContacts, REACH, setGrounded } from './contacts.js';
import type { Mover } from './mover.js';

/** What is known of the room, behind the record: two corners, and whether its lower side is ground. */
const X0 = 0;
const Y0 = 1;
const Z0 = 2;
const X1 = 3;
const Y1 = 4;
const Z1 = 5;
const FLOOR = 6;

/** Finds out the room that a body of this shape is in, unless it is in the one that is known; says whether that is news. */
export function findRoom(plan: Plan, r: Float64Array, shape: BodyShape, { world, cast, room }: Mover): boolean {
  const at = plan.roomAt;
  if (world.still !== true || world.roomAround === undefined || isIn(r, at, shape)) return false;
  placeCast(cast, shape, r);
  if (!world.roomAround(cast, room)) return false;
  r[at + X0] = room.x0;
  r[at + Y0] = room.y0;
  r[at + Z0] = room.z0;
  r[at + X1] = room.x1;
  r[at + Y1] = room.y1;
  r[at + Z1] = room.z1;
  r[at + FLOOR] = room.floor ? 1 : 0;
  return true;
}

function isIn(r: Float64Array, at: number, { hx, hy, hz }: BodyShape): boolean {
  return (
    r[X] - hx >= r[at + X0] - TOUCH &&
    r[X] + hx <= r[at + X1] + TOUCH &&
    r[Y] >= r[at + Y0] - TOUCH &&
    r[Y] + hy + hy <= r[at + Y1] + TOUCH &&
    r[Z] - hz >= r[at + Z0] - TOUCH &&
    r[Z] + hz <= r[at + Z1] + TOUCH
  );
}

/** Forgets the room. */
export function leaveRoom(plan: Plan, r: Float64Array): void {
  r[plan.roomAt + X1] = Number.NaN;
}

/**
 * Moves a body that is in its room and stays there, or comes down on its floor: the same, number for number, as `slide`
 * would have it. Where that is not sure, it says false and has done nothing.
 */
export function glide({ dt, roomAt: at }: Plan, r: Float64Array, { hx, hy, hz }: BodyShape): boolean {
  const dx = r[VX] * dt;
  const dy = r[VY] * dt;
  const dz = r[VZ] * dt;
  const x = r[X];
  const y = r[Y];
  const z = r[Z];
  // It may touch the sides of the room where it begins, but must stay away from those that it moves towards.
  if (x - hx + Math.min(dx, 0) < r[at + X0] + (dx < 0 ? TOUCH : -TOUCH)) return false;
  if (!(x + hx + Math.max(dx, 0) <= r[at + X1] + (dx > 0 ? -TOUCH : TOUCH))) return false;
  if (z - hz + Math.min(dz, 0) < r[at + Z0] + (dz < 0 ? TOUCH : -TOUCH)) return false;
  if (z + hz + Math.max(dz, 0) > r[at + Z1] + (dz > 0 ? -TOUCH : TOUCH)) return false;
  if (y + hy + hy + Math.max(dy, 0) > r[at + Y1] + (dy > 0 ? -TOUCH : TOUCH)) return false;
  const bottom = r[at + Y0];
  const gap = y + hy - hy - bottom;
  if (gap < -TOUCH) return false;
  const floor = r[at + FLOOR] === 1;
  if (!floor && dy <= 0 && gap + dy < TOUCH + REACH) return false;

  const part = dy < 0 && floor ? (gap > 0 ? gap / -dy : 0) : 2;
  let grounded = 0;
  if (part <= 1) {
    // What is left of the way after coming down leads along the floor.
    const left = 1 - part;
    r[X] = x + dx * part + dx * left;
    r[Y] = bottom;
    r[Z] = z + dz * part + dz * left;
    r[VY] = 0;
    grounded = 1;
  } else {
    r[X] = x + dx;
    r[Y] = y + dy;
    r[Z] = z + dz;
    if (dy <= 0 && r[GROUNDED] === 1 && floor && (y + dy + hy - hy - bottom) / REACH <= 1) grounded = 1;
  }
  clearContacts(r);
  setGrounded(r, grounded, 1);
  return true;
}
