import type { Plan, TriggerPlan } from '../compile/plan.js';
import { AWAKE_BITS } from '../record/layout.js';

/*
 * Triggers that may request are awake. A module does not look at the others: whatever may make one request wakes it, and whoever
 * looks at it and finds that it does not request puts it to sleep.
 */

/** In which of the numbers of bits a trigger has its own. */
export function wordOf({ index }: TriggerPlan): number {
  return (index / AWAKE_BITS) | 0;
}

export function bitOf({ index }: TriggerPlan): number {
  return 1 << (index % AWAKE_BITS);
}

export function wake(r: Float64Array, plan: Plan, trigger: TriggerPlan): void {
  const at = plan.awakeAt + wordOf(trigger);
  r[at] = r[at] | bitOf(trigger);
}

/** Puts those to sleep whose bits are given, in the number in which this one has its own. */
export function putToSleep(r: Float64Array, plan: Plan, trigger: TriggerPlan, bits: number): void {
  const at = plan.awakeAt + wordOf(trigger);
  r[at] = r[at] & ~bits;
}

/** Wakes all, where nobody knows. */
export function wakeAll(r: Float64Array, plan: Plan): void {
  const { awakeAt, triggers } = plan;
  r.fill(2 ** AWAKE_BITS - 1, awakeAt, awakeAt + Math.ceil(triggers.length / AWAKE_BITS));
}

/** The bits of some triggers, AWAKE_BITS in a number. */
export function bitsOf(plan: Plan, triggers: readonly TriggerPlan[]): number[] {
  const bits = new Array<number>(Math.ceil(plan.triggers.length / AWAKE_BITS)).fill(0);
  for (const trigger of triggers) bits[wordOf(trigger)] |= bitOf(trigger);
  return bits;
}
