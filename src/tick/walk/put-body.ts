import { settleBody } from '../../motion/move-body.js';
import { EVENT } from '../../record/event-codes.js';
import { GROUNDED, HOST, NEVER, STUCK, WARPED, X, Y, Z } from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { tellGround } from './ground.js';

/** Puts the feet somewhere else at once: out of what is solid there, if there is room beside it. */
export function putBody(c: Actor, at: Float64Array): void {
  const { r, plan } = c;
  r[X] = at[0];
  r[Y] = at[1];
  r[Z] = at[2];
  r[WARPED] = r[HOST];
  // What was put into the air has not slipped off an edge.
  for (const { eligibleAt } of c.roster.graced) r[eligibleAt] = -NEVER;
  c.senseAgain();
  if (c.mover === null) return;
  const grounded = r[GROUNDED];
  settleBody(plan, r, c.mover);
  tellGround(c, grounded);
  if (r[STUCK] === 1) c.events.add(EVENT.stuck);
}
