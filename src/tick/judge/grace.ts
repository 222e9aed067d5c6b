import { L_ABILITY, T } from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { isEligible } from './judge.js';

/**
 * Notes in which tick `from` and `when` last held, for abilities with grace; not while something lifts the body in their
 * lane: what jumps off has not slipped off.
 */
export function noteGrace(c: Actor): void {
  const { r, plan } = c;
  const { graced } = c.roster;
  for (let i = 0; i < graced.length; i++) {
    const a = graced[i];
    const running = r[a.laneAt + L_ABILITY];
    if (running >= 0 && (running === a.index || plan.abilities[running].lifts)) continue;
    if (isEligible(c, a)) r[a.eligibleAt] = r[T];
  }
}
