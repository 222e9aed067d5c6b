import { C_HITS, C_PUSH, C_PUSHED, C_TAKEN, C_TAKEN_UP } from '../../record/combat.js';
import { L_ABILITY, L_TRIGGER, LANE, T, VX, VY, VZ } from '../../record/slots.js';
import type { Actor } from '../actor.js';

/** A push that waited for the clock to go on becomes the velocity: the upright part only if it has one. */
export function takePush({ r, plan }: Actor): void {
  const at = plan.combatAt + C_PUSHED;
  if (r[at] === 0) return;
  const push = plan.combatAt + C_PUSH;
  r[VX] = r[push];
  r[plan.combatAt + C_TAKEN] = r[T];
  if (r[push + 1] !== 0) {
    r[VY] = r[push + 1];
    r[plan.combatAt + C_TAKEN_UP] = r[T];
  }
  r[VZ] = r[push + 2];
  r[at] = 0;
  r.fill(0, push, push + 3);
}

/** Blows count as a row as long as what one of them has started runs. */
export function countHits({ r, plan }: Actor): void {
  const at = plan.combatAt + C_HITS;
  if (r[at] === 0) return;
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE)
    if (r[lane + L_ABILITY] >= 0 && plan.stuns[plan.triggers[r[lane + L_TRIGGER]].event] === 1) return;
  r[at] = 0;
}
