import { moveAndBounce } from '../motion/bounce.js';
import { driveBody, moveBody, moveWalked } from '../motion/move-body.js';
import type { Mover } from '../motion/mover.js';
import { faceStick } from '../motion/velocity.js';
import { FACE_LOCK, FELL, GROUNDED, HOST, LACKING, RUNNING, STOP, STUCK, T } from '../record/slots.js';
import { EVENT } from '../report/events.js';
import type { Actor } from './actor.js';
import { countHits, takePush } from './combat.js';
import { refillCharges } from './cooldowns.js';
import { foldClips, foldEffects } from './fold.js';
import { noteGrace } from './grace.js';
import { tellGround } from './ground.js';
import { useLoadout } from './loadout.js';
import { dropHandled, handleMessages } from './messages.js';
import { checkEndings, endDuePhases, endUnavailable, playBeats, playRestingBeats } from './phases.js';
import { updatePools } from './pools.js';
import { checkLatches, noteMoments } from './presses.js';
import { evaluateRequests } from './requests.js';
import { deriveStance } from './stance.js';
import { takeRows } from './take-in.js';

/*
 * The order of a tick, in four stages. Whoever has several characters in one world calls each stage for all of them
 * before the next: all take in, all decide, all move, all settle.
 */

/** Takes in what came through the door. Says false while the character's own clock stands still: then the tick is over. */
export function takeIn(c: Actor): boolean {
  const { code } = c.plan;
  return code === null ? takeInAll(c) : code.takeIn(c);
}

function takeInAll(c: Actor): boolean {
  const { r } = c;
  c.events.count = 0;
  c.reasons.count = 0;
  c.values.count = 0;
  c.senseAgain();
  r[HOST] += 1;
  // What comes in during a freeze belongs to the tick in which the clock goes on.
  r[T] += 1;
  if (c.plan.names.event.length > 0) dropHandled(c);
  // What effects have taught or taken away in the last tick counts from here on.
  c.updateRoster();
  if (c.incoming.count > 0) takeRows(c);
  if (c.plan.forgets) endUnavailable(c);
  if (r[HOST] < r[STOP]) {
    r[T] -= 1;
    return false;
  }
  if (c.plan.combatAt >= 0) takePush(c);
  if (c.plan.names.event.length > 0) handleMessages(c);
  return true;
}

/** What happens in this tick. */
export function decide(c: Actor): void {
  const { code } = c.plan;
  if (code === null) decideAll(c);
  else code.decide(c);
}

function decideAll(c: Actor): void {
  const { r, plan } = c;
  if (plan.pools.length > 0) updatePools(c);
  if (plan.restingBeats) playRestingBeats(c);
  if (r[RUNNING] > 0) {
    playBeats(c);
    endDuePhases(c);
  }
  if (r[LACKING] > 0) refillCharges(c);

  deriveStance(c);
  checkLatches(c);
  if (r[RUNNING] > 0) checkEndings(c);
  if (plan.loadouts.length > 0) useLoadout(c);
  noteGrace(c);
  if (c.roster.ticking.length > 0) noteMoments(c, c.roster.ticking, -1, 1);
  evaluateRequests(c);
  if (plan.combatAt >= 0) countHits(c);

  foldEffects(c);
  if (plan.layers.length > 0) foldClips(c);
  if (r[FACE_LOCK] === 0) faceStick(plan, r);
}

/** Moves the body, or says what an engine is to do with it. */
export function move(c: Actor): void {
  const { code } = c.plan;
  if (code === null) moveAll(c);
  else code.move(c);
}

export function moveAll(c: Actor): void {
  const { r, plan, mover } = c;
  c.senseAgain();
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
}

/** What the tick has left: what probes see from here on is the body where it is now. */
export function settle(c: Actor): void {
  c.senseAgain();
}

/** One whole tick of a single character. */
export function tick(c: Actor): void {
  const { code } = c.plan;
  if (code !== null) {
    code.tick(c);
    return;
  }
  if (!takeInAll(c)) return;
  decideAll(c);
  moveAll(c);
  settle(c);
}
