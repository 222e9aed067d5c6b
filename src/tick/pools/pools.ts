import type { PoolPlan } from '../../compile/plan.js';
import { EVENT } from '../../record/event-codes.js';
import { updatePool } from '../../record/pool-line.js';
import {
  L_ABILITY,
  LANE,
  P_BASE,
  P_DRAIN,
  P_EMPTY,
  P_MAX,
  P_MIN,
  P_REGEN,
  P_REST,
  P_SINCE,
  P_WATCHED,
  RUNNING,
  T,
} from '../../record/slots.js';
import type { Actor } from '../actor.js';

/** Limits and rates that are formulas are evaluated; pools that reached their lower limit are reported. */
export function updatePools(c: Actor): void {
  const { r, plan } = c;
  const { pools, varyingPools } = plan;
  if (plan.varyingDrains && r[RUNNING] > 0) updateDrains(c);
  for (let i = 0; i < varyingPools.length; i++) updateVarying(c, varyingPools[i]);
  for (let i = 0; i < pools.length; i++) if (r[pools[i].at + P_WATCHED] !== 0) updateWatched(c, pools[i]);
}

/** A pool whose limits or rate are formulas. */
export function updateVarying(c: Actor, pool: PoolPlan): void {
  updatePool(c.r, pool);
  if (updateLimits(c, pool)) beginLine(c.r, pool);
}

/** A pool that may become empty, or is. */
function updateWatched(c: Actor, pool: PoolPlan): void {
  updatePool(c.r, pool);
  noteEmpty(c, pool);
}

/** A pool that falls may run empty, and one that is empty may be so no longer. */
function watch(r: Float64Array, at: number): void {
  r[at + P_WATCHED] = r[at + P_DRAIN] > 0 || r[at + P_REGEN] < 0 || r[at + P_EMPTY] === 1 ? 1 : 0;
}

function noteEmpty(c: Actor, { index, at, value }: PoolPlan): void {
  const { r } = c;
  const empty = r[value] <= r[at + P_MIN] ? 1 : 0;
  if (empty === 1 && r[at + P_EMPTY] === 0) c.events.add(EVENT.emptied, index);
  r[at + P_EMPTY] = empty;
  watch(r, at);
}

/** Evaluates limits and rate into the record; says whether any changed. What is no number changes nothing. */
export function updateLimits(c: Actor, { at, min, max, regen }: PoolPlan): boolean {
  const { r, plan } = c;
  const before = r[at + P_MIN];
  const beforeMax = r[at + P_MAX];
  const beforeRegen = r[at + P_REGEN];
  min.run?.(c);
  if (!Number.isNaN(r[min.at])) r[at + P_MIN] = r[min.at];
  max.run?.(c);
  r[at + P_MAX] = Math.max(Number.isNaN(r[max.at]) ? r[at + P_MAX] : r[max.at], r[at + P_MIN]);
  regen.run?.(c);
  if (!Number.isNaN(r[regen.at])) r[at + P_REGEN] = r[regen.at] / plan.rate;
  return before !== r[at + P_MIN] || beforeMax !== r[at + P_MAX] || beforeRegen !== r[at + P_REGEN];
}

/** Begins a new line at what stands behind the record, brought within the limits. */
export function beginLine(r: Float64Array, { at, value }: PoolPlan): void {
  r[value] = Math.max(r[at + P_MIN], Math.min(r[at + P_MAX], r[value]));
  r[at + P_BASE] = r[value];
  r[at + P_SINCE] = r[T];
  watch(r, at);
}

/** Takes the number at `r[from]` out of a pool; regeneration rests. */
export function spend(c: Actor, index: number, from: number): void {
  const { r } = c;
  const pool = c.plan.pools[index];
  if (r[from] === 0) return;
  updatePool(r, pool);
  r[pool.value] -= r[from];
  beginLine(r, pool);
  r[pool.at + P_REST] = r[T] + pool.rest;
  noteEmpty(c, pool);
}

/** Adds the number at `r[from]` to a pool; what is below 0 is taken out, what is no number does nothing. */
export function gain(c: Actor, index: number, from: number): void {
  const { r } = c;
  const pool = c.plan.pools[index];
  if (Number.isNaN(r[from])) return;
  updatePool(r, pool);
  r[pool.value] += r[from];
  beginLine(r, pool);
  noteEmpty(c, pool);
}

/** Sets a pool to the number at `r[from]`, within its limits. */
export function setPool(c: Actor, index: number, from: number): void {
  const { r } = c;
  const pool = c.plan.pools[index];
  r[pool.value] = r[from];
  setLine(r, pool);
}

/** Begins a new line; that a pool is empty from now on is nothing that happened. */
export function setLine(r: Float64Array, pool: PoolPlan): void {
  beginLine(r, pool);
  r[pool.at + P_EMPTY] = r[pool.value] <= r[pool.at + P_MIN] ? 1 : 0;
  watch(r, pool.at);
}

/** Sums what the running abilities drain; called when they changed, and in every tick where that is a formula. */
export function updateDrains(c: Actor): void {
  const { r, plan } = c;
  for (let i = 0; i < plan.pools.length; i++) {
    const pool = plan.pools[i];
    let drain = 0;
    for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
      const ability = r[lane + L_ABILITY];
      if (ability < 0) continue;
      const { upkeeps } = plan.abilities[ability];
      for (let u = 0; u < upkeeps.length; u++) {
        const { pool: drains, perTick, rate } = upkeeps[u];
        if (drains !== i) continue;
        rate?.run?.(c);
        if (rate === null) drain += perTick;
        else if (!Number.isNaN(r[rate.at])) drain += r[rate.at] / plan.rate;
      }
    }
    const before = r[pool.at + P_DRAIN];
    if (drain === before) continue;
    updatePool(r, pool);
    r[pool.at + P_DRAIN] = drain;
    beginLine(r, pool);
    if (before > 0) r[pool.at + P_REST] = r[T] + pool.rest;
  }
}
