import type { AbilityPlan } from '../compile/plan.js';
import { ENOUGH, updatePool } from '../record/pool-line.js';
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
  N_REFILL,
  P_MIN,
  STANCE,
  T,
} from '../record/slots.js';
import type { Actor } from './actor.js';
import { REASON, type ReasonRows } from './reason-rows.js';

/**
 * Judges a request whole and changes nothing: whether the ability may start. With `out`, it writes every reason
 * against it there; without, it stops at the first. This is all there is to whether something may start.
 *
 * It leaves the price of each cost behind the record, for `startAbility` to charge.
 */
export function judge(c: Actor, a: AbilityPlan, out: ReasonRows | null): boolean {
  const { r, plan } = c;
  const now = r[T];
  let may = true;
  out?.begin();

  if (r[a.at + A_KNOWN] === 0) {
    if (out === null) return false;
    may = false;
    out.against(REASON.locked);
  }
  if (a.loadouts !== null && a.loadouts[r[LOADOUT]] !== 1) {
    if (out === null) return false;
    may = false;
    out.against(REASON.loadout, r[LOADOUT] | 0);
  }

  // The lane is free, or what runs there lets it in, or it breaks in. Whole numbers by `| 0`: they are passed on.
  const running = r[a.laneAt + L_ABILITY] | 0;
  const phase = r[a.laneAt + L_PHASE] | 0;
  if (running >= 0 && a.breaks?.[running] !== 1) {
    const open = isOpen(c, running, phase, a);
    const first = r[a.laneAt + L_SINCE] === now;
    if (first || !open) {
      if (out === null) return false;
      may = false;
      if (running === a.index && !open) out.against(REASON.running, running);
      else if (first) out.against(REASON.contested, running);
      else out.against(REASON.busy, running, phase);
    }
  }

  // Nothing that runs bars it, in any lane.
  for (let i = 0; i < plan.names.lane.length; i++) {
    const lane = plan.layout.lanes + i * LANE;
    const other = r[lane + L_ABILITY] | 0;
    if (other < 0 || a.breaks?.[other] === 1 || !bars(c, other, r[lane + L_PHASE] | 0, a)) continue;
    if (out === null) return false;
    may = false;
    out.against(REASON.barred, other);
  }

  if (a.follows !== null && !follows(c, a, running)) {
    if (out === null) return false;
    may = false;
    out.against(REASON.follows);
  }

  if (!(a.eligibleAt >= 0 && now - r[a.eligibleAt] <= a.grace)) {
    if (a.from !== null && a.from[r[STANCE]] === 0) {
      if (out === null) return false;
      may = false;
      out.against(REASON.from, r[STANCE] | 0);
    }
    for (let i = 0; i < a.when.length; i++) {
      if (a.when[i].test(c)) continue;
      if (out === null) return false;
      may = false;
      out.against(REASON.when, i);
    }
  }

  const ready = a.cooldownAt;
  if (ready >= 0 && (now < r[ready + C_READY] || r[ready + C_WAITING] > 0)) {
    if (out === null) return false;
    may = false;
    out.against(REASON.cooldown, 0, r[ready + C_WAITING] > 0 ? -1 : (r[ready + C_READY] - now) | 0);
  }
  if (a.charges > 0 && r[a.chargesAt + N_LEFT] < 1) {
    if (out === null) return false;
    may = false;
    out.against(REASON.charges, 0, a.refillEvery > 0 ? (r[a.chargesAt + N_REFILL] - now) | 0 : -1);
  }

  for (let i = 0; i < a.costs.length; i++) {
    const { pool, amount, price } = a.costs[i];
    const { at, value } = plan.pools[pool];
    updatePool(r, plan.pools[pool]);
    amount.run?.(c);
    r[price] = r[amount.at];
    if (r[value] + ENOUGH >= r[at + P_MIN] + r[price]) continue;
    if (out === null) return false;
    may = false;
    if (Number.isNaN(r[price])) {
      out.against(REASON.cost, pool);
      continue;
    }
    const row = out.against(REASON.pool, pool);
    out.data[row + 2] = r[value];
    out.data[row + 3] = r[at + P_MIN] + r[price];
  }
  for (let i = 0; i < a.upkeeps.length; i++) {
    const { pool, restart } = a.upkeeps[i];
    const { at, value } = plan.pools[pool];
    updatePool(r, plan.pools[pool]);
    const short = a.dryAt >= 0 && r[a.dryAt] === 1 && r[value] + ENOUGH < r[at + P_MIN] + restart;
    if (!short && r[value] > r[at + P_MIN]) continue;
    if (out === null) return false;
    may = false;
    const row = out.against(short ? REASON.restart : REASON.pool, pool);
    out.data[row + 2] = r[value];
    out.data[row + 3] = short ? r[at + P_MIN] + restart : r[at + P_MIN];
  }
  return may;
}

/** Whether what runs, or its phase, lets `a` follow. */
function isOpen({ plan }: Actor, running: number, phase: number, a: AbilityPlan): boolean {
  if (plan.abilities[running].scope.open?.[a.index] === 1) return true;
  return phase >= 0 && plan.phases[phase].scope.open?.[a.index] === 1;
}

function bars({ plan }: Actor, running: number, phase: number, a: AbilityPlan): boolean {
  if (plan.abilities[running].scope.bars?.[a.index] === 1) return true;
  return phase >= 0 && plan.phases[phase].scope.bars?.[a.index] === 1;
}

/** Whether it comes out of one of its predecessors, or soon enough after one. */
function follows({ r }: Actor, a: AbilityPlan, running: number): boolean {
  const predecessors = a.follows ?? [];
  for (let i = 0; i < predecessors.length; i++) {
    const { ability, endedAt, within } = predecessors[i];
    if (running === ability || (within > 0 && r[T] - r[endedAt] <= within)) return true;
  }
  return false;
}

/** Whether `from` and `when` hold, for grace. */
export function isEligible(c: Actor, a: AbilityPlan): boolean {
  if (a.from !== null && a.from[c.r[STANCE]] === 0) return false;
  for (let i = 0; i < a.when.length; i++) if (!a.when[i].test(c)) return false;
  return true;
}
