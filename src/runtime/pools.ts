import type { PoolPlan } from '../compile/plan.js';
import {
  DRY_DUE,
  L_ABILITY,
  LANE,
  NEVER,
  P_BASE,
  P_DRAIN,
  P_DUE,
  P_MAX,
  P_MIN,
  P_REGEN,
  P_REST,
  P_SINCE,
  STALE,
  T,
  VERSION,
} from '../moveset/slots.js';
import type { Character } from './character.js';
import { EVENT } from './events.js';

/**
 * Writes what a pool has now behind the record. A pool is on a straight line from where it last changed: what it
 * has after an hour is one multiplication and no sum of roundings, and costs nothing until someone asks.
 */
export function readPool(r: Float64Array, { at, value, rest }: PoolPlan): void {
  const drain = r[at + P_DRAIN];
  const since = r[at + P_SINCE];
  const from = Math.max(since, r[at + P_REST]);
  const regains = drain > 0 && rest > 0 ? 0 : r[at + P_REGEN];
  const regained = r[T] > from ? regains * (r[T] - from) : 0;
  const now = r[at + P_BASE] + regained - drain * (r[T] - since);
  r[value] = Math.max(r[at + P_MIN], Math.min(r[at + P_MAX], now));
}

/** Pools that may have come down to their lower limit by what drains them. */
export function checkDry(c: Character): void {
  const { r, plan } = c;
  r[DRY_DUE] = NEVER;
  for (let i = 0; i < plan.pools.length; i++) {
    const pool = plan.pools[i];
    const due = pool.at + P_DUE;
    if (r[T] >= r[due]) {
      readPool(r, pool);
      if (r[pool.value] <= r[pool.at + P_MIN]) {
        r[due] = NEVER;
        c.events.add(EVENT.emptied, i);
      }
    }
    if (r[due] < r[DRY_DUE]) r[DRY_DUE] = r[due];
  }
}

/** Limits and rates that are formulas are read anew; a change of one begins a new line. */
export function varyPools(c: Character): void {
  const { r, plan } = c;
  for (let i = 0; i < plan.varyingPools.length; i++) {
    const pool = plan.varyingPools[i];
    readPool(r, pool);
    if (readLimits(c, pool)) beginLine(c, pool);
  }
}

/** Reads limits and rate into the record; says whether any changed. */
export function readLimits(c: Character, { at, min, max, regen }: PoolPlan): boolean {
  const { r, plan } = c;
  const before = r[at + P_MIN];
  const beforeMax = r[at + P_MAX];
  const beforeRegen = r[at + P_REGEN];
  min.run?.(c);
  r[at + P_MIN] = r[min.at];
  max.run?.(c);
  r[at + P_MAX] = Math.max(r[max.at], r[at + P_MIN]);
  regen.run?.(c);
  r[at + P_REGEN] = r[regen.at] / plan.rate;
  return before !== r[at + P_MIN] || beforeMax !== r[at + P_MAX] || beforeRegen !== r[at + P_REGEN];
}

/** Begins a new line at what was read or written behind the record, brought within the limits. */
export function beginLine({ r }: Character, { at, value, rest }: PoolPlan): void {
  r[value] = Math.max(r[at + P_MIN], Math.min(r[at + P_MAX], r[value]));
  r[at + P_BASE] = r[value];
  r[at + P_SINCE] = r[T];
  r[VERSION] += 1;
  const drain = r[at + P_DRAIN];
  const falls = drain - (drain > 0 && rest > 0 ? 0 : r[at + P_REGEN]);
  const above = r[value] - r[at + P_MIN];
  // A tick early, for rounding: it is looked at then, and in each tick until it is empty.
  r[at + P_DUE] = falls > 0 && above > 0 ? r[T] + Math.floor(above / falls) - 1 : NEVER;
  if (r[at + P_DUE] < r[DRY_DUE]) r[DRY_DUE] = r[at + P_DUE];
  // What is kept up from an empty pool ends in the next tick, whatever emptied it.
  if (drain > 0 && above <= 0) r[STALE] = 1;
}

/** Takes the number at `r[from]` out of a pool; regeneration rests. */
export function spend(c: Character, index: number, from: number): void {
  const { r } = c;
  const pool = c.plan.pools[index];
  if (r[from] === 0) return;
  readPool(r, pool);
  r[pool.value] -= r[from];
  const empty = r[pool.value] <= r[pool.at + P_MIN];
  beginLine(c, pool);
  r[pool.at + P_REST] = r[T] + pool.rest;
  if (empty) c.events.add(EVENT.emptied, index);
}

/** Adds the number at `r[from]` to a pool; what is below 0 is taken out. */
export function gain(c: Character, index: number, from: number): void {
  const { r } = c;
  const pool = c.plan.pools[index];
  readPool(r, pool);
  const before = r[pool.value] > r[pool.at + P_MIN];
  r[pool.value] += r[from];
  beginLine(c, pool);
  if (before && r[pool.value] === r[pool.at + P_MIN]) c.events.add(EVENT.emptied, index);
}

export function setPool(c: Character, index: number, from: number): void {
  const pool = c.plan.pools[index];
  c.r[pool.value] = c.r[from];
  beginLine(c, pool);
}

/** Sums what the running abilities drain; called when they changed. */
export function refreshDrains(c: Character): void {
  const { r, plan } = c;
  for (let i = 0; i < plan.pools.length; i++) {
    const pool = plan.pools[i];
    let drain = 0;
    for (let k = 0; k < plan.names.lane.length; k++) {
      const ability = r[plan.layout.lanes + k * LANE + L_ABILITY];
      if (ability < 0) continue;
      const { upkeeps } = plan.abilities[ability];
      for (let u = 0; u < upkeeps.length; u++) if (upkeeps[u].pool === i) drain += upkeeps[u].perTick;
    }
    const before = r[pool.at + P_DRAIN];
    if (drain === before) continue;
    readPool(r, pool);
    r[pool.at + P_DRAIN] = drain;
    beginLine(c, pool);
    if (before > 0) r[pool.at + P_REST] = r[T] + pool.rest;
  }
}
