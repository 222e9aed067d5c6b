import { moveAndBounce } from '../../motion/bounce.js';
import { driveBody, moveBody, moveWalked } from '../../motion/move-body.js';
import type { Mover } from '../../motion/mover.js';
import { noteFree } from '../../motion/rooms.js';
import { EVENT } from '../../record/event-codes.js';
import { FELL, GROUNDED, STUCK } from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { tellGround } from './ground.js';
import { aimRide, mountOf, rides } from './ride.js';

/** Moves the body, or says what an engine is to do with it. */
export function moveAll(c: Actor): void {
  // Who rides somebody is moved once these have.
  if (c.mover !== null && mountOf(c) > 0) return;
  moveNow(c);
}

/** The same for who waited until whom they ride has moved. */
export function moveNow(c: Actor): void {
  const { r, plan, mover } = c;
  c.senseAgain();
  if (rides(c)) aimRide(c);
  if (mover === null) driveBody(plan, r);
  else moveBy(c, mover, false);
}

/** The same for a body in a world whose velocity walking has changed already, and which does not bounce. */
export function moveOn(c: Actor): void {
  if (c.mover !== null) moveBy(c, c.mover, true);
}

function moveBy(c: Actor, mover: Mover, walked: boolean): void {
  const { r, plan } = c;
  const grounded = r[GROUNDED];
  const stuck = r[STUCK];
  const fell = r[FELL];
  if (walked) moveWalked(plan, r, mover);
  else if (plan.combatAt >= 0) moveAndBounce(plan, r, mover);
  else moveBody(plan, r, mover);
  tellGround(c, grounded);
  if (r[STUCK] > stuck) c.events.add(EVENT.stuck);
  if (r[FELL] > fell) c.events.add(EVENT.fell);
  noteFree(plan, r, mover.world);
}
