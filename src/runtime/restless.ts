import { HAS } from '../compile/plan.js';
import type { Test } from '../moveset/effects/effect.js';
import {
  A_CHARGES,
  A_LATCHED,
  A_REFILL,
  DIRTY,
  DRY_DUE,
  HEAR_AGAIN,
  HEARD,
  L_ABILITY,
  L_PHASE,
  LACKING,
  LANE,
  LATCHES,
  NEXT_DUE,
  NEXT_WORK,
  RUNNING,
  T,
  VERSION,
} from '../moveset/slots.js';
import type { Character } from './character.js';

/**
 * Says when the next tick must be worked through, as far as the door stays shut and the body's motion changes no
 * noted fact: at once if anything active depends on what changes by itself, else when the first of all dates is due.
 */
export function planWork(c: Character): void {
  const { r, plan } = c;
  if (plan.has & HAS.restless || r[DIRTY] === 1 || r[VERSION] !== r[HEARD] || isRestless(c)) {
    r[NEXT_WORK] = r[T];
    return;
  }
  r[NEXT_WORK] = Math.min(r[NEXT_DUE], r[DRY_DUE], r[HEAR_AGAIN]);
  for (let i = 0; r[LACKING] > 0 && i < plan.charged.length; i++) {
    const { at, charges, refillEvery } = plan.charged[i];
    if (r[at + A_CHARGES] < charges && refillEvery > 0) r[NEXT_WORK] = Math.min(r[NEXT_WORK], r[at + A_REFILL]);
  }
}

function isRestless(c: Character): boolean {
  const { r, plan } = c;
  for (let i = 0; plan.has & HAS.restlessLanes && r[RUNNING] > 0 && i < plan.names.lane.length; i++) {
    const lane = plan.layout.lanes + i * LANE;
    if (r[lane + L_ABILITY] < 0) continue;
    if (anyHolds(c, plan.abilities[r[lane + L_ABILITY]].restless)) return true;
    if (r[lane + L_PHASE] >= 0 && anyHolds(c, plan.phases[r[lane + L_PHASE]].restless)) return true;
  }
  for (let i = 0; r[LATCHES] > 0 && i < plan.latched.length; i++) {
    const { abilityAt, restless } = plan.latched[i];
    if (r[abilityAt + A_LATCHED] === 1 && anyHolds(c, restless)) return true;
  }
  for (let i = 0; r[LACKING] > 0 && i < plan.charged.length; i++) {
    const { at, charges, restlessRefill } = plan.charged[i];
    if (r[at + A_CHARGES] < charges && anyHolds(c, restlessRefill)) return true;
  }
  return false;
}

export function anyHolds(c: Character, tests: readonly Test[]): boolean {
  for (let i = 0; i < tests.length; i++) if (tests[i](c)) return true;
  return false;
}
