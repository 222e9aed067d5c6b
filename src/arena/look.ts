import type { Character } from '../character/character.js';
import {
  C_GUARD,
  E_AIRBORNE,
  E_AT,
  E_DISTANCE,
  E_GUARDING,
  E_ID,
  E_STRIKING,
  E_STUNNED,
  E_THERE,
  type Insight,
  NO_FOE,
  SIGHT,
  type TargetPlan,
} from '../record/combat.js';
import { updatePool } from '../record/pool-line.js';
import { GROUNDED, L_ABILITY, L_TRIGGER, LANE, STANCE } from '../record/slots.js';
import { areFoes, canBeStruck, hasTag, sharesAny, writeMiddle } from '../strikes/gather.js';
import type { Member } from './member.js';

const OWN = new Float64Array(3);
const OTHER = new Float64Array(3);
const WAY = new Float64Array(3);

/** The sight of whom it looks at to choose a target. */
const CANDIDATE = 1;

/** Whether a member has to know of others. */
export function looks({ c: { plan }, plays }: Member): boolean {
  return plan.readsFoe || plan.targets.length > 0 || plays !== null;
}

/** Has those look who have to know of others. */
export function lookAround(list: readonly Member[]): void {
  // What was seen in the last tick must not tell whom there is to see now: a restore does not bring it back.
  for (let i = 0; i < list.length; i++) if (looks(list[i])) seeNobody(list[i]);
  for (let i = 0; i < list.length; i++) if (looks(list[i])) look(list[i], list);
}

/** As if nobody were there. */
function seeNobody(member: Member): void {
  const { c } = member;
  c.senseAgain();
  see(member, 0, null);
  for (let i = 0; i < c.plan.targets.length; i++) see(member, c.plan.targets[i].sight, null);
}

/** Writes behind the record of a member what it knows of its nearest foe that can be struck, and of its targets: as they are before the tick. */
function look(member: Member, list: readonly Member[]): void {
  const { plan } = member.c;
  writeMiddle(OWN, member);
  if (plan.readsFoe || member.plays) lookForFoe(member, list);
  for (let i = 0; i < plan.targets.length; i++) chooseTarget(member, list, plan.targets[i]);
}

function lookForFoe(member: Member, list: readonly Member[]): void {
  let foe: Member | null = null;
  let nearest = NO_FOE;
  for (let i = 0; i < list.length; i++) {
    const other = list[i];
    if (!areFoes(member, other) || !canBeStruck(other)) continue;
    measure(other);
    if (WAY[0] >= nearest) continue;
    nearest = WAY[0];
    foe = other;
  }
  see(member, 0, foe);
}

function chooseTarget(member: Member, list: readonly Member[], target: TargetPlan): void {
  const { c } = member;
  const { r } = c;
  const { aim, reach, when, least } = target;
  let chosen: Member | null = null;
  let best = Number.POSITIVE_INFINITY;
  const looks = aim === null || aim(c, AIM);
  reach.run?.(c);
  const far = r[reach.at];
  for (let i = 0; i < list.length && looks; i++) {
    const other = list[i];
    if (other === member || !isAmong(member, other, target)) continue;
    measure(other);
    const distance = WAY[0];
    if (!(distance <= far) || (aim !== null && !isNear(target.cos, distance))) continue;
    if (when !== null || least !== null) see(member, CANDIDATE, other);
    if (when !== null && !when(c)) continue;
    least?.run?.(c);
    const value = least === null ? distance : r[least.at];
    if (!(value < best)) continue;
    best = value;
    chosen = other;
  }
  see(member, target.sight, chosen);
}

const AIM = new Float64Array(3);

function isAmong(member: Member, other: Member, { among, tagged }: TargetPlan): boolean {
  if (among !== 'all' && areFoes(member, other) !== (among === 'foes')) return false;
  if (among === 'foes' && !canBeStruck(other)) return false;
  return tagged === null || sharesAny(tagged, other);
}

/** Whether who was measured last is in the direction that was aimed in. */
function isNear(cos: number, distance: number): boolean {
  return (
    AIM[0] * (OTHER[0] - OWN[0]) + AIM[1] * (OTHER[1] - OWN[1]) + AIM[2] * (OTHER[2] - OWN[2]) >= cos * distance - 1e-9
  );
}

/** Writes where the middle of somebody is, and how far that is. */
function measure(other: Member): void {
  writeMiddle(OTHER, other);
  const x = OTHER[0] - OWN[0];
  const y = OTHER[1] - OWN[1];
  const z = OTHER[2] - OWN[2];
  WAY[0] = Math.sqrt(x * x + y * y + z * z);
}

/** Writes what a member knows of somebody. */
function see(member: Member, sight: number, other: Member | null): void {
  const { r, plan } = member.c;
  const at = plan.foeAt + sight * SIGHT;
  r.fill(0, at, at + SIGHT);
  for (let i = 0; i < plan.insights.length; i++) writeInsight(r, sight, plan.insights[i], other);
  if (other === null) {
    r[at + E_DISTANCE] = NO_FOE;
    return;
  }
  measure(other);
  const { c } = other;
  r[at + E_THERE] = 1;
  r.set(OTHER, at + E_AT);
  r[at + E_DISTANCE] = WAY[0];
  r[at + E_STRIKING] = isStriking(c) ? 1 : 0;
  r[at + E_GUARDING] = c.plan.combatAt >= 0 && c.r[c.plan.combatAt + C_GUARD] > 0 ? 1 : 0;
  r[at + E_STUNNED] = isStunned(c) ? 1 : 0;
  r[at + E_AIRBORNE] = 1 - c.r[GROUNDED];
  r[at + E_ID] = other.id;
}

/** Writes what somebody has or is by a name of their own moveset: 0 where it has no such name. */
function writeInsight(r: Float64Array, sight: number, { what, name, at }: Insight, other: Member | null): void {
  r[at + sight] = 0;
  if (other === null) return;
  const { r: from, plan } = other.c;
  if (what === 'pool') {
    const index = plan.indexes.pool.get(name);
    if (index === undefined) return;
    updatePool(from, plan.pools[index]);
    r[at + sight] = from[plan.pools[index].value];
  } else if (what === 'tagged') r[at + sight] = hasTag(other, name) ? 1 : 0;
  else r[at + sight] = plan.indexes.stance.get(name) === from[STANCE] ? 1 : 0;
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
