import { faceStick } from '../motion/velocity.js';
import { FACE_LOCK, HOST, LACKING, PENDING, RUNNING, STOP, T } from '../record/slots.js';
import { DECIDE, MOVE, TAKE_IN } from '../record/stages.js';
import type { Actor } from '../tick/actor.js';
import { refillCharges } from '../tick/cooldowns.js';
import { foldClips, foldEffects } from '../tick/fold/fold.js';
import { noteGrace } from '../tick/judge/grace.js';
import { useLoadout } from '../tick/phases/loadout.js';
import { checkEndings, endDuePhases, endUnavailable, playBeats, playRestingBeats } from '../tick/phases/phases.js';
import { deriveStance } from '../tick/phases/stance.js';
import { updatePools } from '../tick/pools/pools.js';
import { dropHandled, handleMessages } from '../tick/presses/messages.js';
import { checkLatches, noteMoments } from '../tick/presses/presses.js';
import { evaluateInterruptions, evaluateRequests } from '../tick/requests/requests.js';
import { countHits, takePush } from '../tick/take-in/combat.js';
import { followMarks } from '../tick/take-in/marks.js';
import { takeRows } from '../tick/take-in/take-in.js';
import { moveAll } from '../tick/walk/move.js';

/** The order of a tick: those of its stages that are asked for. Says false while the character's own clock stands still. */
export function tick(c: Actor, stages: number): boolean {
  if (stages & TAKE_IN && !takeIn(c)) return false;
  if (stages & DECIDE) decide(c);
  if (stages & MOVE) {
    moveAll(c);
    // What probes see from here on is the body where it is now.
    c.senseAgain();
  }
  return true;
}

/** Takes in what came through the door. Says false while the clock stands still: then the tick is over. */
function takeIn(c: Actor): boolean {
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
  if (c.plan.following.length > 0) followMarks(c);
  if (!c.incoming.isEmpty) takeRows(c);
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
function decide(c: Actor): void {
  const { r, plan } = c;
  if (plan.pools.length > 0) updatePools(c);
  deriveStance(c);
  if (r[RUNNING] > 0 && r[PENDING] > 0) evaluateInterruptions(c);
  if (plan.restingBeats) playRestingBeats(c);
  if (r[RUNNING] > 0) {
    playBeats(c);
    endDuePhases(c);
  }
  if (r[LACKING] > 0) refillCharges(c);

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
