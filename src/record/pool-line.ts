import { P_BASE, P_DRAIN, P_MAX, P_MIN, P_REGEN, P_REST, P_SINCE, T } from './slots.js';

/** Rounding must not make 9 of 9 too little: what a pool has is exact to this. */
export const ENOUGH = 1e-9;

/** Where a pool stands in the record, and behind it what it has now. */
export interface PoolPlaces {
  readonly at: number;
  readonly value: number;
  /** Ticks for which regeneration rests after spending. */
  readonly rest: number;
}

/**
 * Writes what a pool has now behind the record. A pool is on a straight line from where it last changed: what it
 * has after an hour is one multiplication and no sum of roundings, and costs nothing until it is read.
 */
export function updatePool(r: Float64Array, { at, value, rest }: PoolPlaces): void {
  const drain = r[at + P_DRAIN];
  const since = r[at + P_SINCE];
  const now = r[T];
  let has = r[at + P_BASE];
  if (now > since) {
    const from = Math.max(since, r[at + P_REST]);
    if (now > from && !(drain > 0 && rest > 0)) has += r[at + P_REGEN] * (now - from);
    has -= drain * (now - since);
  }
  const min = r[at + P_MIN];
  r[value] = has <= min + ENOUGH ? min : Math.min(r[at + P_MAX], has);
}
