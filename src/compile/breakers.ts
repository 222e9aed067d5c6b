import type { Plan, TriggerPlan } from './plan.js';

/** Whether a message starts something that breaks others. */
export function isBreaker({ abilities }: Plan, { event, ability }: TriggerPlan): boolean {
  return event >= 0 && abilities[ability].breaks !== null;
}
