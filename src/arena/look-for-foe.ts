import type { Character } from '../character/character.js';
import {
  C_GUARD,
  E_AIRBORNE,
  E_AT,
  E_DISTANCE,
  E_GUARDING,
  E_STRIKING,
  E_STUNNED,
  E_THERE,
  FOE,
  NO_FOE,
} from '../record/combat.js';
import { GROUNDED, L_ABILITY, L_TRIGGER, LANE } from '../record/slots.js';
import { areFoes, canBeStruck, writeMiddle } from '../strikes/gather.js';
import type { Member } from './member.js';

const OWN = new Float64Array(3);
const OTHER = new Float64Array(3);

/** Writes behind the record of a member what it knows of its nearest foe that can be struck: as it is before the tick. */
export function lookForFoe(member: Member, list: readonly Member[]): void {
  const { r, plan } = member.c;
  const at = plan.foeAt;
  let foe: Member | null = null;
  r.fill(0, at, at + FOE);
  r[at + E_DISTANCE] = NO_FOE;
  writeMiddle(OWN, member);
  for (let i = 0; i < list.length; i++) {
    const other = list[i];
    if (!areFoes(member, other) || !canBeStruck(other)) continue;
    writeMiddle(OTHER, other);
    const x = OTHER[0] - OWN[0];
    const y = OTHER[1] - OWN[1];
    const z = OTHER[2] - OWN[2];
    const distance = Math.sqrt(x * x + y * y + z * z);
    if (distance >= r[at + E_DISTANCE]) continue;
    r[at + E_DISTANCE] = distance;
    r.set(OTHER, at + E_AT);
    foe = other;
  }
  if (foe === null) return;
  r[at + E_THERE] = 1;
  r[at + E_STRIKING] = isStriking(foe.c) ? 1 : 0;
  r[at + E_GUARDING] = foe.c.plan.combatAt >= 0 && foe.c.r[foe.c.plan.combatAt + C_GUARD] > 0 ? 1 : 0;
  r[at + E_STUNNED] = isStunned(foe.c) ? 1 : 0;
  r[at + E_AIRBORNE] = 1 - foe.c.r[GROUNDED];
}

function isStriking({ r, plan }: Character): boolean {
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE)
    if (r[lane + L_ABILITY] >= 0 && plan.abilities[r[lane + L_ABILITY]].resultAt >= 0) return true;
  return false;
}

function isStunned({ r, plan }: Character): boolean {
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE)
    if (r[lane + L_ABILITY] >= 0 && plan.stuns[plan.triggers[r[lane + L_TRIGGER]].event] === 1) return true;
  return false;
}
