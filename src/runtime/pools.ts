import type { PoolPlan } from '../compile/plan.js';
import {
  FLOWING,
  L_ABILITY,
  LANE,
  P_BASE,
  P_DRAIN,
  P_MAX,
  P_MIN,
  P_MOVING,
  P_REGEN,
  P_REST,
  P_SINCE,
  P_VALUE,
  T,
  VERSION,
} from '../moveset/slots.js';
import type { Character } from './character.js';
import { EVENT } from './events.js';

/**
 * A pool is on a straight line from where it last changed, so that what it has after an hour is one
 * multiplication and no sum of roundings. This reads the lines for this tick.
 */
export function advancePools(c: Character): void {
  const { r, plan } = c;
  for (let i = 0; i < plan.pools.length; i++) {
    const pool = plan.pools[i];
    if (r[pool.at + P_MOVING] === 1) advance(c, pool, i);
  }
}

function advance(c: Character, pool: PoolPlan, index: number): void {
  const { r } = c;
  const { at, rest } = pool;
  const min = r[at + P_MIN];
  const max = r[at + P_MAX];
  const since = r[at + P_SINCE];
  const drain = r[at + P_DRAIN];
  const regains = drain > 0 && rest > 0 ? 0 : r[at + P_REGEN];
  const from = Math.max(since, r[at + P_REST]);
  const regained = r[T] > from ? regains * (r[T] - from) : 0;
  const value = r[at + P_BASE] + regained - drain * (r[T] - since);
  const before = r[at + P_VALUE];
  r[at + P_VALUE] = value < min ? min : Math.min(value, max);
  if (value <= min && before > min) c.events.add(EVENT.emptied, index);
  if (value >= max && drain === 0) {
    r[at + P_MOVING] = 0;
    r[FLOWING] -= 1;
  }
}

/** Limits and rates that are formulas are read anew; a change of one begins a new line. */
export function varyPools(c: Character): void {
  const { varyingPools } = c.plan;
  for (let i = 0; i < varyingPools.length; i++) {
    const pool = varyingPools[i];
    if (readLimits(c, pool)) rebase(c, pool);
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

/** Starts a new line at the present value, brought within the limits. */
function rebase(c: Character, pool: PoolPlan): void {
  const { r } = c;
  const { at } = pool;
  const value = r[at + P_VALUE];
  r[at + P_VALUE] = Math.max(r[at + P_MIN], Math.min(r[at + P_MAX], value));
  r[at + P_BASE] = r[at + P_VALUE];
  r[at + P_SINCE] = r[T];
  r[VERSION] += 1;
  if (r[at + P_MOVING] === 0) r[FLOWING] += 1;
  r[at + P_MOVING] = 1;
}

/** Takes the number at `r[from]` out of a pool; regeneration rests. */
export function spend(c: Character, index: number, from: number): void {
  const { r } = c;
  const pool = c.plan.pools[index];
  if (r[from] === 0) return;
  r[pool.at + P_VALUE] -= r[from];
  const empty = r[pool.at + P_VALUE] <= r[pool.at + P_MIN];
  rebase(c, pool);
  r[pool.at + P_REST] = r[T] + pool.rest;
  if (empty) c.events.add(EVENT.emptied, index);
}

/** Adds the number at `r[from]` to a pool; what is below 0 is taken out. */
export function gain(c: Character, index: number, from: number): void {
  const pool = c.plan.pools[index];
  const { r } = c;
  const before = r[pool.at + P_VALUE];
  r[pool.at + P_VALUE] += r[from];
  rebase(c, pool);
  if (before > r[pool.at + P_MIN] && r[pool.at + P_VALUE] === r[pool.at + P_MIN]) c.events.add(EVENT.emptied, index);
}

export function setPool(c: Character, index: number, from: number): void {
  const pool = c.plan.pools[index];
  c.r[pool.at + P_VALUE] = c.r[from];
  rebase(c, pool);
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
    rebase(c, pool);
    r[pool.at + P_DRAIN] = drain;
    if (before > 0) r[pool.at + P_REST] = r[T] + pool.rest;
  }
}
