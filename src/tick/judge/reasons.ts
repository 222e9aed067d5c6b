import type { AbilityPlan, Plan } from '../../compile/plan.js';
import { FIRST, Rows, SECOND, WHAT } from '../../record/rows.js';
import {
  C_READY,
  C_WAITING,
  L_ABILITY,
  L_PHASE,
  LANE,
  LOADOUT,
  N_REFILL,
  P_MIN,
  STANCE,
  T,
} from '../../record/slots.js';
import type { Reason, ReasonFact } from '../../report/reasons.js';
import type { Actor } from '../actor.js';
import {
  AGAINST,
  ANY_COST,
  ANY_UPKEEP,
  ANY_WHEN,
  bitOf,
  COST_BIT,
  COST_BITS,
  UPKEEP_BIT,
  UPKEEP_BITS,
  WHEN_BIT,
  WHEN_BITS,
} from './against.js';
import { bars, isShort, lacksCost, lacksUpkeep, outranking } from './judge.js';

/** Kinds of rows beside the bits of {@link AGAINST}. */
const POOL = -1;
const RESTART = -2;
const WHEN = -3;
const COST = -4;
/** No reason: what a failed condition read. */
const READING = -5;

/**
 * The same as long as a request is refused for the same reasons, whatever their amounts: the bits, and where they mean
 * one of several, which.
 */
export function signatureOf({ r }: Actor, { laneAt }: AbilityPlan, against: number): number {
  return signOf(against, r[laneAt + L_ABILITY] | 0, r[STANCE] | 0);
}

/** The same by what runs in its lane, and the stance. */
export function signOf(against: number, running: number, stance: number): number {
  let sign = against;
  if (against & (AGAINST.busy | AGAINST.outranked)) sign = (Math.imul(sign, 31) + running) | 0;
  if (against & AGAINST.from) sign = (Math.imul(sign, 31) + stance) | 0;
  // 0 stands for none.
  return sign | 1;
}

/**
 * Whether these reasons may be others at the end of the tick: the body moves after they were judged, and blows take from pools.
 * All else of a character stays as it is until its next tick, once its requests are judged.
 */
export function isFleeting(plan: Plan, { costs }: AbilityPlan, against: number): boolean {
  if (against & ANY_WHEN) return true;
  if (plan.combatAt >= 0 && against & (ANY_COST | ANY_UPKEEP)) return true;
  if (against & ANY_COST) for (let i = 0; i < costs.length; i++) if (!costs[i].amount.constant) return true;
  return false;
}

/** Writes what stands against a request as rows of numbers, with the amounts as they are now: kind, what, have, need. */
export function writeReasons(c: Actor, a: AbilityPlan, against: number, rows: Rows): void {
  const { r, plan } = c;
  const now = r[T];
  if (against & AGAINST.locked) rows.add(AGAINST.locked);
  if (against & AGAINST.loadout) rows.add(AGAINST.loadout, r[LOADOUT] | 0);
  const running = r[a.laneAt + L_ABILITY] | 0;
  if (against & AGAINST.running) rows.add(AGAINST.running, running);
  if (against & AGAINST.outranked) {
    const lane = outranking(c, a);
    rows.add(AGAINST.outranked, lane < 0 ? running : r[lane + L_ABILITY] | 0);
  }
  if (against & AGAINST.busy) rows.add(AGAINST.busy, running, r[a.laneAt + L_PHASE] | 0);
  if (against & AGAINST.barred)
    for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE)
      if (bars(c, lane, a)) rows.add(AGAINST.barred, r[lane + L_ABILITY] | 0);
  if (against & AGAINST.follows) rows.add(AGAINST.follows);
  if (against & AGAINST.from) rows.add(AGAINST.from, r[STANCE] | 0);
  if (against & ANY_WHEN) writeConditions(c, a, against, rows);
  if (against & AGAINST.cooldown) {
    const at = a.cooldownAt;
    rows.add(AGAINST.cooldown, 0, r[at + C_WAITING] > 0 ? -1 : (r[at + C_READY] - now) | 0);
  }
  if (against & AGAINST.charges)
    rows.add(AGAINST.charges, 0, a.refillEvery !== null ? (r[a.chargesAt + N_REFILL] - now) | 0 : -1);
  if (against & AGAINST.room) rows.add(AGAINST.room);
  if (against & AGAINST.target) rows.add(AGAINST.target);
  if (against & ANY_COST) writeCosts(c, a, against, rows);
  if (against & ANY_UPKEEP) writeUpkeeps(c, a, against, rows);
}

function writeCosts(c: Actor, a: AbilityPlan, against: number, rows: Rows): void {
  const { r, plan } = c;
  for (let i = 0; i < a.costs.length; i++) {
    if (!(against & bitOf(COST_BIT, COST_BITS, i)) || (!lacksCost(c, a, i) && i >= COST_BITS - 1)) continue;
    const { pool, price } = a.costs[i];
    if (Number.isNaN(r[price])) rows.add(COST, pool);
    else {
      const row = rows.add(POOL, pool);
      rows.data[row + FIRST] = r[plan.pools[pool].value];
      rows.data[row + SECOND] = r[plan.pools[pool].at + P_MIN] + r[price];
    }
  }
}

function writeUpkeeps(c: Actor, a: AbilityPlan, against: number, rows: Rows): void {
  const { r, plan } = c;
  for (let i = 0; i < a.upkeeps.length; i++) {
    if (!(against & bitOf(UPKEEP_BIT, UPKEEP_BITS, i)) || (!lacksUpkeep(c, a, i) && i >= UPKEEP_BITS - 1)) continue;
    const { pool, restart } = a.upkeeps[i];
    const short = isShort(c, a, i);
    const row = rows.add(short ? RESTART : POOL, pool);
    rows.data[row + FIRST] = r[plan.pools[pool].value];
    rows.data[row + SECOND] = r[plan.pools[pool].at + P_MIN] + (short ? restart : 0);
  }
}

/** The conditions that failed, each followed by what it read; of those that share a bit, the ones that fail now. */
function writeConditions(c: Actor, a: AbilityPlan, against: number, rows: Rows): void {
  for (let i = 0; i < a.when.length; i++) {
    if (!(against & bitOf(WHEN_BIT, WHEN_BITS, i)) || (i >= WHEN_BITS - 1 && a.when[i].test(c))) continue;
    rows.add(WHEN, i);
    const { readings } = a.when[i];
    for (let k = 0; k < readings.length; k++) {
      const { run, at } = readings[k];
      run?.(c);
      const row = rows.add(READING, i, k);
      rows.data[row + SECOND] = c.r[at];
    }
  }
}

/** Rows as data that anyone may keep. */
export function decodeReasons(plan: Plan, a: AbilityPlan, rows: Rows, from: number, to: number): Reason[] {
  const reasons: Reason[] = [];
  for (let i = from; i < to; i++)
    if (rows.data[i * Rows.WIDTH] !== READING) reasons.push(decodeRow(plan, a, rows, i, from, to));
  return reasons;
}

function decodeRow(plan: Plan, a: AbilityPlan, rows: Rows, index: number, from: number, to: number): Reason {
  const { data } = rows;
  const row = index * Rows.WIDTH;
  const what = data[row + WHAT];
  const have = data[row + FIRST];
  const need = data[row + SECOND];
  const { names } = plan;
  switch (data[row]) {
    case AGAINST.locked:
      return { code: 'locked' };
    case AGAINST.loadout:
      return { code: 'loadout', active: names.loadout[what] ?? null };
    case AGAINST.running:
      return { code: 'running' };
    case AGAINST.outranked:
      return { code: 'outranked', by: names.ability[what] };
    case AGAINST.busy:
      return { code: 'busy', by: names.ability[what], phase: have < 0 ? null : plan.phases[have].name };
    case AGAINST.barred:
      return { code: 'barred', by: names.ability[what] };
    case AGAINST.follows:
      return { code: 'follows', allowed: (a.follows ?? []).map(({ ability }) => names.ability[ability]) };
    case AGAINST.from:
      return { code: 'from', stance: names.stance[what], allowed: a.fromNames };
    case AGAINST.cooldown:
      return { code: 'cooldown', remaining: have < 0 ? null : have / plan.rate };
    case AGAINST.charges:
      return { code: 'charges', remaining: have < 0 ? null : have / plan.rate };
    case AGAINST.room:
      return { code: 'room' };
    case AGAINST.target:
      return { code: 'target', wants: a.warp?.wants ?? '' };
    case POOL:
      return { code: 'pool', pool: names.pool[what], have, need };
    case RESTART:
      return { code: 'restart', pool: names.pool[what], have, need };
    case COST:
      return { code: 'cost', pool: names.pool[what] };
    default:
      return { code: 'when', text: a.when[what].text, facts: decodeFacts(plan, a, what, data, from, to) };
  }
}

function decodeFacts(
  plan: Plan,
  a: AbilityPlan,
  which: number,
  data: Float64Array,
  from: number,
  to: number,
): ReasonFact[] {
  const facts: ReasonFact[] = [];
  for (let row = from * Rows.WIDTH; row < to * Rows.WIDTH; row += Rows.WIDTH) {
    if (data[row] !== READING || data[row + WHAT] !== which) continue;
    const { text, type } = a.when[which].readings[data[row + FIRST]];
    const value = data[row + SECOND];
    facts.push({ text, value: type === 'truth' ? value === 1 : type === 'time' ? value / plan.rate : value });
  }
  return facts;
}
