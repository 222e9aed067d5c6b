import type { BodyShape, Plan } from '../compile/plan.js';
import { askOverlap, placeCast } from '../probes/ask-world.js';
import {
  FORCED,
  GRAVITY,
  GROUND_VELOCITY,
  GROUNDED,
  HEADROOM,
  PASSES,
  PASSING,
  SHAPE,
  STUCK,
  TOUCHES,
  UNEVEN,
  VX,
  VY,
  VZ,
  WANT_SHAPE,
} from '../record/slots.js';
import { clearContacts, noteHit, setGrounded } from './contacts.js';
import { keepInWorld } from './edges.js';
import type { Mover } from './mover.js';
import { pushOut } from './push-out.js';
import { findRoom, glide, keepRoom, leaveRoom, walkInRoom } from './rooms.js';
import { askGround, carry, DOWN, slide } from './slide.js';
import { applyGravity, holdVelocity, walk } from './velocity.js';

/** Velocity of what carried the body before it moved. */
const CARRIER = new Float64Array(3);

/** One tick of a body that Loggia moves itself: its velocity, its shape, its way through the world, what it touches. */
export function moveBody(plan: Plan, r: Float64Array, mover: Mover): void {
  walk(plan, r);
  moveWalked(plan, r, mover);
}

/** The same for a body whose velocity walking has changed already. */
export function moveWalked(plan: Plan, r: Float64Array, mover: Mover): void {
  if (!stride(plan, r, mover)) carryOn(plan, r, mover);
}

function carryOn(plan: Plan, r: Float64Array, mover: Mover): void {
  mover.cast.passes = r[PASSES] === 0 ? null : plan.surfaces(r[PASSES] | 0);
  applyGravity(plan, r);
  holdVelocity(r);
  if (r[WANT_SHAPE] !== r[SHAPE]) changeShape(plan, r, mover);
  const shape = plan.shapes[r[SHAPE]];
  const stood = r[GROUNDED] === 1;
  // What stands still may begin to move.
  const carried = stood && ((r[TOUCHES] & UNEVEN) !== 0 || mover.world.still !== true);
  if (carried) carry(plan, r, shape, mover);
  // What moves may have moved into the body, and what it passed through may hold it now.
  if (mover.world.still !== true || r[STUCK] === 1 || r[TOUCHES] & PASSING) freeBody(plan, r, shape, mover);
  if (r[PASSES] !== 0) {
    leaveRoom(plan, r);
    slide(plan, r, shape, mover);
    r[TOUCHES] |= PASSING | UNEVEN;
  } else if (!glide(plan, r, shape) && !(findRoom(plan, r, shape, mover) && glide(plan, r, shape))) {
    for (let k = 0; k < 3; k++) CARRIER[k] = carried ? r[GROUND_VELOCITY + k] : 0;
    slide(plan, r, shape, mover);
    changeCarrier(r, carried, stood);
    keepRoom(plan, r, shape);
  }
  keepInWorld(plan, r, shape, mover);
  noteHeadroom(plan, r, mover);
  clearSigns(r);
}

/**
 * Standing and walking on the floor of a room, with nothing that forces or touches the body: most ticks of most games. The
 * same, number for number, as what `moveBody` does else, in less time. Where that is not sure it says false and has done nothing.
 */
function stride(plan: Plan, r: Float64Array, mover: Mover): boolean {
  if (r[GROUNDED] !== 1 || r[TOUCHES] !== 0 || r[FORCED] !== 0 || r[PASSES] !== 0 || r[STUCK] !== 0) return false;
  if (r[VY] > 0 || r[GRAVITY] < 0 || r[SHAPE] !== 0 || r[WANT_SHAPE] !== 0 || mover.world.still !== true) return false;
  const shape = plan.shapes[0];
  if (!walkInRoom(plan, r, shape)) return false;
  r[VY] = 0;
  keepInWorld(plan, r, shape, mover);
  r[HEADROOM] = 1;
  clearSigns(r);
  return true;
}

/** The velocity of a body counts from what carries it: what it leaves is added, what it comes down on is taken away. */
function changeCarrier(r: Float64Array, carried: boolean, stood: boolean): void {
  if (carried && r[GROUNDED] === 0) {
    r[VX] += CARRIER[0];
    r[VY] += Math.max(0, CARRIER[1]);
    r[VZ] += CARRIER[2];
  } else if (!stood && r[GROUNDED] === 1 && r[TOUCHES] & UNEVEN) {
    r[VX] -= r[GROUND_VELOCITY];
    r[VZ] -= r[GROUND_VELOCITY + 2];
  }
}

/** Puts a body that was created or placed out of what it is in, and onto the ground within reach below it. */
export function settleBody(plan: Plan, r: Float64Array, mover: Mover): void {
  const { hit } = mover;
  mover.cast.passes = plan.surfaces(r[PASSES] | 0);
  const shape = plan.shapes[r[SHAPE]];
  leaveRoom(plan, r);
  freeBody(plan, r, shape, mover);
  clearContacts(r);
  DOWN[0] = plan.body.reach;
  const grounded = askGround(plan, r, shape, mover) ? 1 : 0;
  if (grounded === 1) noteHit(plan, r, hit);
  setGrounded(r, grounded, 0);
  noteHeadroom(plan, r, mover);
}

function noteHeadroom(plan: Plan, r: Float64Array, mover: Mover): void {
  r[HEADROOM] = r[SHAPE] === 0 || fitsHere(plan.shapes[0], r, mover) ? 1 : 0;
}

/** -0 and 0 are one: whether a body glided or slid must not show. */
function clearSigns(r: Float64Array): void {
  r[VX] += 0;
  r[VY] += 0;
  r[VZ] += 0;
}

function freeBody(plan: Plan, r: Float64Array, shape: BodyShape, { world, cast }: Mover): void {
  r[STUCK] = pushOut(plan, r, shape, world, cast) ? 0 : 1;
}

/** Whether a shape has room where the body is. */
export function fitsHere(shape: BodyShape, r: Float64Array, { world, cast }: Mover): boolean {
  placeCast(cast, shape, r);
  return !askOverlap(world, cast);
}

/** Takes the wanted shape if it has room. */
function changeShape(plan: Plan, r: Float64Array, mover: Mover): void {
  const wanted = plan.shapes[r[WANT_SHAPE]];
  if (!isSmaller(wanted, plan.shapes[r[SHAPE]]) && !fitsHere(wanted, r, mover)) return;
  r[SHAPE] = r[WANT_SHAPE];
  leaveRoom(plan, r);
}

/** Whether a shape needs no room that the other one does not have. */
export function isSmaller(wanted: BodyShape, now: BodyShape): boolean {
  return wanted.width <= now.width && wanted.height <= now.height && wanted.depth <= now.depth;
}

/** The same for a body that an engine moves: what it is asked to do. The engine applies gravity. */
export function driveBody(plan: Plan, r: Float64Array): void {
  walk(plan, r);
  holdVelocity(r);
  const wanted = plan.shapes[r[WANT_SHAPE]];
  if (isSmaller(wanted, plan.shapes[r[SHAPE]]) || r[HEADROOM] === 1) r[SHAPE] = r[WANT_SHAPE];
  clearSigns(r);
}
