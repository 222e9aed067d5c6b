import type { BodyShape, Plan } from '../compile/plan.js';
import { askOverlap, placeCast } from '../probes/ask-world.js';
import { HEADROOM, SHAPE, STUCK, VX, VY, VZ, WANT_SHAPE } from '../record/slots.js';
import { clearContacts, noteHit, setGrounded } from './contacts.js';
import type { Mover } from './mover.js';
import { pushOut } from './push-out.js';
import { findRoom, glide, keepRoom, leaveRoom } from './rooms.js';
import { askGround, slide } from './slide.js';
import { applyGravity, holdVelocity, walk } from './velocity.js';

/** One tick of a body that Loggia moves itself: its velocity, its shape, its way through the world, what it touches. */
export function moveBody(plan: Plan, r: Float64Array, mover: Mover): void {
  walk(plan, r);
  applyGravity(plan, r);
  holdVelocity(r);
  if (r[WANT_SHAPE] !== r[SHAPE]) changeShape(plan, r, mover);
  const shape = plan.shapes[r[SHAPE]];
  // What moves may have moved into the body.
  if (mover.world.still !== true || r[STUCK] === 1) freeBody(plan, r, shape, mover);
  if (!glide(plan, r, shape) && !(findRoom(plan, r, shape, mover) && glide(plan, r, shape))) {
    slide(plan, r, shape, mover);
    keepRoom(plan, r, shape);
  }
  noteHeadroom(plan, r, mover);
  clearSigns(r);
}

/** Puts a body that was created or placed out of what it is in, and onto the ground within reach below it. */
export function settleBody(plan: Plan, r: Float64Array, mover: Mover): void {
  const { world, cast, hit } = mover;
  const shape = plan.shapes[r[SHAPE]];
  leaveRoom(plan, r);
  freeBody(plan, r, shape, mover);
  clearContacts(r);
  const grounded = askGround(r, shape, world, cast, hit) ? 1 : 0;
  if (grounded === 1) noteHit(r, hit);
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
function fitsHere(shape: BodyShape, r: Float64Array, { world, cast }: Mover): boolean {
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
