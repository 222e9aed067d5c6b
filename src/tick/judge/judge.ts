import type { AbilityPlan } from '../../compile/plan.js';
import { FOUND, NO_ROOM } from '../../motion/warp.js';
import type { Warping } from '../../record/frame.js';
import { ENOUGH, updatePool } from '../../record/pool-line.js';
import {
  A_KNOWN,
  C_READY,
  C_WAITING,
  L_ABILITY,
  L_PHASE,
  L_SINCE,
  LANE,
  LOADOUT,
  N_LEFT,
  P_MIN,
  RUNNING,
  STANCE,
  T,
} from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { AGAINST, bitOf, COST_BIT, COST_BITS, UPKEEP_BIT, UPKEEP_BITS, WHEN_BIT, WHEN_BITS } from './against.js';

/**
 * Judges a request whole and changes nothing: 0 if the ability may start, else a bit for every reason against it. This
 * is all there is to whether something may start; reasons.ts says what each bit means now.
 *
 * It leaves the price of each cost behind the record, for `startAbility` to charge.
 */
export function judge(c: Actor, a: AbilityPlan): number {
  const { r, plan } = c;
  const now = r[T];
  let against = absence(c, a);

  if (r[RUNNING] > 0) {
    // Its lane is free, or what runs there lets it in, or it breaks in.
    const running = r[a.laneAt + L_ABILITY];
    if (running >= 0 && a.breaks?.[running] !== 1) {
      const open = isOpen(c, running, a);
      if (running === a.index && !open) against |= AGAINST.running;
      else if (isNew(c, a.laneAt)) against |= AGAINST.outranked;
      else if (!open) against |= AGAINST.busy;
    }
    // It breaks nothing that came before it in the order of this tick's requests.
    if (a.breaks !== null && outranking(c, a) >= 0) against |= AGAINST.outranked;
    // Nothing that is running bars it, in any lane.
    if (plan.barred[a.index] === 1)
      for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) if (bars(c, lane, a)) against |= AGAINST.barred;
  }

  if (a.follows !== null && !follows(c, a)) against |= AGAINST.follows;

  if (!(a.eligibleAt >= 0 && now - r[a.eligibleAt] <= a.grace)) {
    if (a.from !== null && a.from[r[STANCE]] === 0) against |= AGAINST.from;
    for (let i = 0; i < a.when.length; i++) if (!a.when[i].test(c)) against |= bitOf(WHEN_BIT, WHEN_BITS, i);
  }

  const ready = a.cooldownAt;
  if (ready >= 0 && (now < r[ready + C_READY] || r[ready + C_WAITING] > 0)) against |= AGAINST.cooldown;
  if (a.chargesAt >= 0 && r[a.chargesAt + N_LEFT] < 1) against |= AGAINST.charges;

  for (let i = 0; i < a.costs.length; i++) if (lacksCost(c, a, i)) against |= bitOf(COST_BIT, COST_BITS, i);
  for (let i = 0; i < a.upkeeps.length; i++) if (lacksUpkeep(c, a, i)) against |= bitOf(UPKEEP_BIT, UPKEEP_BITS, i);
  if (a.warp !== null) against |= warpAgainst(c, a.warp);
  if (a.summon >= 0 && !c.fits(a.summon)) against |= AGAINST.room;
  return against;
}

/** The same by the index of an ability. */
export function judgeAbility(c: Actor, ability: number): number {
  return judge(c, c.plan.abilities[ability]);
}

/** Whether what runs in a lane has started in the tick whose requests are judged. */
function isNew({ r, asked }: Actor, lane: number): boolean {
  return r[lane + L_SINCE] === r[T] && !asked;
}

/** The lane of something that `a` would break and that has started in this very tick, or -1; itself it may start again. */
export function outranking(c: Actor, a: AbilityPlan): number {
  const { r, plan } = c;
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const other = r[lane + L_ABILITY];
    if (other >= 0 && other !== a.index && a.breaks?.[other] === 1 && isNew(c, lane)) return lane;
  }
  return -1;
}

/** Bits for what is not learnt, or not in the loadout. */
function absence({ r }: Actor, a: AbilityPlan): number {
  const against = r[a.at + A_KNOWN] === 0 ? AGAINST.locked : 0;
  return a.loadouts !== null && a.loadouts[r[LOADOUT]] !== 1 ? against | AGAINST.loadout : against;
}

/** 0 if a warp leads somewhere, else the bit that says why not. */
export function warpAgainst(c: Actor, warp: Warping): number {
  const found = c.plan.code.warps?.find(c, warp, OUT);
  return found === FOUND ? 0 : found === NO_ROOM ? AGAINST.room : AGAINST.target;
}

const OUT = new Float64Array(3);

/** Whether what runs in its lane, or its phase, lets `a` follow. */
function isOpen({ r, plan }: Actor, running: number, a: AbilityPlan): boolean {
  if (plan.abilities[running].scope.open?.[a.index] === 1) return true;
  const phase = r[a.laneAt + L_PHASE];
  return phase >= 0 && plan.phases[phase].scope.open?.[a.index] === 1;
}

/** Whether what runs in a lane keeps `a` from starting. */
export function bars({ r, plan }: Actor, lane: number, a: AbilityPlan): boolean {
  const other = r[lane + L_ABILITY];
  if (other < 0 || a.breaks?.[other] === 1) return false;
  if (plan.abilities[other].scope.bars?.[a.index] === 1) return true;
  const phase = r[lane + L_PHASE];
  return phase >= 0 && plan.phases[phase].scope.bars?.[a.index] === 1;
}

/** Whether it comes out of one of its predecessors, or soon enough after one. */
function follows(c: Actor, a: AbilityPlan): boolean {
  const { r } = c;
  const predecessors = a.follows ?? [];
  const running = r[a.laneAt + L_ABILITY];
  for (let i = 0; i < predecessors.length; i++) {
    const { ability, endedAt, within, time } = predecessors[i];
    time?.run?.(c);
    const longest = time === null ? within : r[time.at];
    if (running === ability || (longest > 0 && r[T] - r[endedAt] <= longest)) return true;
  }
  return false;
}

/** Whether a pool has too little for a cost, or its function gives no number. Writes the price. */
export function lacksCost(c: Actor, a: AbilityPlan, i: number): boolean {
  const { r } = c;
  const { pool, amount, price } = a.costs[i];
  const { at, value } = c.plan.pools[pool];
  updatePool(r, c.plan.pools[pool]);
  amount.run?.(c);
  r[price] = r[amount.at];
  return !(r[value] + ENOUGH >= r[at + P_MIN] + r[price]);
}

/** Whether there is nothing to keep it up from, or too little to begin again. */
export function lacksUpkeep(c: Actor, a: AbilityPlan, i: number): boolean {
  const { r } = c;
  const { pool } = a.upkeeps[i];
  const { at, value } = c.plan.pools[pool];
  updatePool(r, c.plan.pools[pool]);
  return r[value] <= r[at + P_MIN] || isShort(c, a, i);
}

/** Whether its upkeep ran out and there is less than is needed to start again. */
export function isShort({ r, plan }: Actor, a: AbilityPlan, i: number): boolean {
  if (a.ranOutAt < 0 || r[a.ranOutAt] === 0) return false;
  const { pool, restart } = a.upkeeps[i];
  const { at, value } = plan.pools[pool];
  return r[value] + ENOUGH < r[at + P_MIN] + restart;
}

/** Whether `from` and `when` hold, for grace. */
export function isEligible(c: Actor, a: AbilityPlan): boolean {
  if (a.from !== null && a.from[c.r[STANCE]] === 0) return false;
  for (let i = 0; i < a.when.length; i++) if (!a.when[i].test(c)) return false;
  return true;
}
