import { STANCE, STANCE_SINCE, T } from '../record/slots.js';
import { EVENT } from '../report/events.js';
import type { Actor } from './actor.js';

/** The first stance whose condition holds. */
export function deriveStance(c: Actor): void {
  const { r, plan } = c;
  const next = plan.pickStance(c);
  if (next === r[STANCE]) return;
  c.events.add(EVENT.stance, next, r[STANCE] | 0);
  r[STANCE] = next;
  r[STANCE_SINCE] = r[T];
}

/** The stance in which a character begins: nothing comes before it. */
export function initializeStance(c: Actor): void {
  c.r[STANCE] = c.plan.pickStance(c);
}
