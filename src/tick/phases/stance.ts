import { EVENT } from '../../record/event-codes.js';
import { STANCE, STANCE_SINCE, T } from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { runActions } from '../scopes.js';

/** The first stance whose condition holds. */
export function deriveStance(c: Actor): void {
  const next = c.plan.pickStance(c);
  if (next !== c.r[STANCE]) changeStance(c, next);
}

export function changeStance(c: Actor, next: number): void {
  const { r, plan } = c;
  c.events.add(EVENT.stance, next, r[STANCE] | 0);
  runActions(c, plan.stances[r[STANCE]].scope.ends);
  r[STANCE] = next;
  r[STANCE_SINCE] = r[T];
  runActions(c, plan.stances[next].scope.begins);
}

/** The stance in which a character begins: nothing comes before it. */
export function initializeStance(c: Actor): void {
  c.r[STANCE] = c.plan.pickStance(c);
}
