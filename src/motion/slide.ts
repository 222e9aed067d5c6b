import type { BodyShape, Plan } from '../compile/plan.js';
import { askSweep, placeCast } from '../probes/ask-world.js';
import {
  FORCED,
  GROUND_NORMAL,
  GROUND_VELOCITY,
  GROUNDED,
  STEEP,
  TOUCHES,
  UNEVEN,
  UPRIGHT,
  VX,
  VY,
  VZ,
  X,
  Y,
  Z,
} from '../record/slots.js';
import { TOUCH } from '../world/solid.js';
import type { Hit } from '../world/world.js';
import { clearContacts, noteHit, setGrounded } from './contacts.js';
import type { Mover } from './mover.js';

/** A wall that leans less than this, by its normal, is upright. */
const LEANING = 0.05;
/** How often a body may be turned aside in one tick. */
const SLIDES = 4;

/** Moves a body by its velocity, along what it meets, and notes what it touches. */
export function slide(plan: Plan, r: Float64Array, shape: BodyShape, mover: Mover): void {
  const { world, cast, hit } = mover;
  const { dt } = plan;
  let dx = r[VX] * dt;
  let dy = r[VY] * dt;
  let dz = r[VZ] * dt;
  const stood = r[GROUNDED] === 1;
  const stays = stood && dy <= 0 && !(r[FORCED] & UPRIGHT);
  // What the ground did in the last tick, and how far down it may be by now.
  const sinks = Math.abs(r[GROUND_VELOCITY + 1]) * dt * 2;
  if (stays && r[TOUCHES] & UNEVEN && r[GROUND_NORMAL + 1] < 1) {
    // A body that walks keeps its level pace on a slope, and does not creep down on it.
    dy = -(r[GROUND_NORMAL] * dx + r[GROUND_NORMAL + 2] * dz) / r[GROUND_NORMAL + 1];
    r[VY] = 0;
  }
  const level = Math.sqrt(dx * dx + dz * dz);
  const falls = dy < -TOUCH;
  const x = r[X];
  const y = r[Y];
  const z = r[Z];
  let turns = 0;
  let grounded = 0;
  clearContacts(r);
  for (; turns < SLIDES; turns++) {
    if (dx === 0 && dy === 0 && dz === 0) break;
    placeCast(cast, shape, r);
    cast.dx = dx;
    cast.dy = dy;
    cast.dz = dz;
    const stopped = askSweep(world, cast, hit);
    const part = stopped ? hit.part : 1;
    r[X] += dx * part;
    r[Y] += dy * part;
    r[Z] += dz * part;
    if (!stopped) break;
    const { nx, ny, nz } = hit;
    if (ny === 1 && !Number.isNaN(hit.height)) r[Y] = hit.height;
    const left = 1 - part;
    dx *= left;
    dy *= left;
    dz *= left;
    if (noteHit(plan, r, hit)) {
      // Ground takes away the fall only: what comes down on a slope goes on as fast along it.
      grounded = 1;
      if (dy > 0) {
        const into = dx * nx + dy * ny + dz * nz;
        dy -= ny * into;
        dx -= nx * into;
        dz -= nz * into;
      } else dy = ny === 1 ? 0 : -(nx * dx + nz * dz) / ny;
      if (r[VY] < 0) r[VY] = 0;
      continue;
    }
    if (stays && plan.body.step > 0 && stepUp(plan, r, shape, mover, dx, dz)) {
      grounded = 1;
      break;
    }
    const flat = Math.sqrt(nx * nx + nz * nz);
    if (ny > LEANING) r[TOUCHES] |= STEEP;
    if (ny > 0 && flat > 0 && dx * nx + dz * nz < 0 && dy <= 0) {
      // Too steep to walk on: a wall to who walks into it, a slope to who falls on it.
      const into = (dx * nx + dz * nz) / (flat * flat);
      dx -= nx * into;
      dz -= nz * into;
      const against = (r[VX] * nx + r[VZ] * nz) / (flat * flat);
      if (against < 0) {
        r[VX] -= nx * against;
        r[VZ] -= nz * against;
      }
    }
    const into = dx * nx + dy * ny + dz * nz;
    dx -= nx * into;
    dy -= ny * into;
    dz -= nz * into;
    const against = r[VX] * nx + r[VY] * ny + r[VZ] * nz;
    if (against < 0) {
      r[VX] -= nx * against;
      r[VY] -= ny * against;
      r[VZ] -= nz * against;
    }
  }
  if (turns === SLIDES) {
    // Wedged in, it is no faster than it gets on, or its pace would grow without end.
    r[VX] = (r[X] - x) / dt;
    r[VZ] = (r[Z] - z) / dt;
  }
  if (grounded === 0 && falls && r[TOUCHES] & STEEP && Math.abs(r[Y] - y) < TOUCH) {
    // Between what is too steep and something else, nothing leads down: it stands there, or it could never jump out.
    r[VY] = 0;
    grounded = 1;
  }
  if (grounded === 0 && stood && r[VY] <= 0) {
    // Downhill, but not off a ledge: see also glide.
    const { reach, slope, drop } = plan.body;
    DOWN[0] = stays ? reach + Math.min(drop, 2 * level * slope) + sinks : reach;
    if (stays ? keepDown(plan, r, shape, mover) : askGround(plan, r, shape, mover)) {
      noteHit(plan, r, hit);
      grounded = 1;
    }
  }
  setGrounded(r, grounded, 1);
}

/** How far below the feet ground is looked for: set by who asks, since numbers that are passed may be boxed. */
export const DOWN: Float64Array = new Float64Array(1);

/** Whether there is ground within {@link DOWN} below the feet. */
export function askGround(plan: Plan, r: Float64Array, shape: BodyShape, mover: Mover): boolean {
  const { world, cast, hit } = mover;
  placeCast(cast, shape, r);
  cast.dx = 0;
  cast.dy = -DOWN[0];
  cast.dz = 0;
  return askSweep(world, cast, hit) && hit.ny > plan.body.steepest;
}

/** The same for a body that walks: it is put down on ground that lies further below than what carries it anyway. */
function keepDown(plan: Plan, r: Float64Array, shape: BodyShape, mover: Mover): boolean {
  if (!askGround(plan, r, shape, mover)) return false;
  const { hit } = mover;
  if (DOWN[0] * hit.part <= plan.body.reach) return true;
  putDown(r, hit);
  if (r[VY] < 0) r[VY] = 0;
  return true;
}

/** Puts the body on the ground that was found within {@link DOWN}: exactly, if that is level. */
function putDown(r: Float64Array, hit: Hit): void {
  r[Y] -= DOWN[0] * hit.part;
  if (hit.ny === 1 && !Number.isNaN(hit.height)) r[Y] = hit.height;
}

/** A body walks up a step: up, on, and down onto it. Says whether it did; else nothing has changed. */
function stepUp(plan: Plan, r: Float64Array, shape: BodyShape, mover: Mover, dx: number, dz: number): boolean {
  const { step } = plan.body;
  if (dx === 0 && dz === 0) return false;
  const x = r[X];
  const y = r[Y];
  const z = r[Z];
  const up = sweepBy(r, shape, mover, 0, step, 0) * step;
  const on = sweepBy(r, shape, mover, dx, 0, dz);
  DOWN[0] = up;
  if (up > 0 && on > 0 && askGround(plan, r, shape, mover)) {
    const { hit } = mover;
    putDown(r, hit);
    if (r[Y] > y) {
      clearContacts(r);
      noteHit(plan, r, hit);
      if (r[VY] < 0) r[VY] = 0;
      return true;
    }
  }
  r[X] = x;
  r[Y] = y;
  r[Z] = z;
  return false;
}

/** Moves a body as far as it gets, and says what part of the way that is. */
function sweepBy(
  r: Float64Array,
  shape: BodyShape,
  { world, cast, hit }: Mover,
  dx: number,
  dy: number,
  dz: number,
): number {
  placeCast(cast, shape, r);
  cast.dx = dx;
  cast.dy = dy;
  cast.dz = dz;
  const part = askSweep(world, cast, hit) ? hit.part : 1;
  r[X] += dx * part;
  r[Y] += dy * part;
  r[Z] += dz * part;
  return part;
}

/**
 * Moves a body with what it stands on, as far as there is room. That has moved already, perhaps another way than it did
 * before: it is looked for again, from a little higher.
 */
export function carry(plan: Plan, r: Float64Array, shape: BodyShape, mover: Mover): void {
  const { dt } = plan;
  const { world, cast, hit } = mover;
  const moved = Math.abs(r[GROUND_VELOCITY]) + Math.abs(r[GROUND_VELOCITY + 1]) + Math.abs(r[GROUND_VELOCITY + 2]);
  if (moved === 0 && world.still === true) return;
  // What begins to rise may be above the feet by now.
  const lift = plan.body.drop + 2 * moved * dt;
  placeCast(cast, shape, r);
  cast.y += lift;
  cast.dx = 0;
  cast.dy = -lift - plan.body.reach - 2 * moved * dt;
  cast.dz = 0;
  let dy = r[GROUND_VELOCITY + 1] * dt;
  if (askSweep(world, cast, hit) && hit.ny > plan.body.steepest) {
    const above = lift + cast.dy * hit.part;
    const rose = plan.body.reach + 2 * (moved + Math.abs(hit.vx) + Math.abs(hit.vy) + Math.abs(hit.vz)) * dt;
    if (above <= Math.max(rose, hit.rose + TOUCH)) {
      r[GROUND_VELOCITY] = hit.vx;
      r[GROUND_VELOCITY + 1] = hit.vy;
      r[GROUND_VELOCITY + 2] = hit.vz;
      dy = hit.vy * dt;
      // In the tick in which it stops or turns, it moves otherwise than its velocity says.
      if (hit.ny === 1 && !Number.isNaN(hit.height) && Math.abs(above - dy) > TOUCH) dy = hit.height - r[Y];
    }
  }
  const dx = r[GROUND_VELOCITY] * dt;
  const dz = r[GROUND_VELOCITY + 2] * dt;
  if (dx !== 0 || dy !== 0 || dz !== 0) sweepBy(r, shape, mover, dx, dy, dz);
}
