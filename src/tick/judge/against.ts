import type { Reason } from '../../report/reasons.js';

/** What may stand against a request, a bit each; all bits are in the order in which reasons are told. */
export const AGAINST = {
  locked: 1 << 0,
  loadout: 1 << 1,
  running: 1 << 2,
  outranked: 1 << 3,
  busy: 1 << 4,
  barred: 1 << 5,
  follows: 1 << 6,
  from: 1 << 7,
  /** Behind the bits of conditions. */
  cooldown: 1 << 14,
  charges: 1 << 15,
  room: 1 << 16,
  target: 1 << 17,
} as const satisfies { readonly [C in Exclude<Reason['code'], 'when' | 'cost' | 'pool' | 'restart'>]: number };
/** The first bits of conditions, costs and upkeeps, one for each in their order, and how many bits there are of them. */
export const WHEN_BIT = 8;
export const WHEN_BITS = 6;
export const COST_BIT = 18;
export const COST_BITS = 4;
export const UPKEEP_BIT = 22;
export const UPKEEP_BITS = 4;

/** All bits of a kind. */
export const ANY_WHEN = ((1 << WHEN_BITS) - 1) << WHEN_BIT;
export const ANY_COST = ((1 << COST_BITS) - 1) << COST_BIT;
export const ANY_UPKEEP = ((1 << UPKEEP_BITS) - 1) << UPKEEP_BIT;

/** The bit of the `i`th of a kind; those that are too many share the last. */
export function bitOf(first: number, bits: number, i: number): number {
  return 1 << (first + (i < bits ? i : bits - 1));
}
