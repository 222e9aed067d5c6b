import type { TriggerPlan } from '../compile/plan.js';
import type { Emitter } from '../text/emitter.js';
import { bitOf, wordOf } from './awake.js';

/** The bits of triggers that have theirs in one number. */
export function bitsTogether(triggers: readonly TriggerPlan[]): number {
  return triggers.reduce((bits, trigger) => bits | bitOf(trigger), 0);
}

/** Statements that wake triggers. */
export function emitWake(e: Emitter, triggers: readonly TriggerPlan[]): string[] {
  return [...new Set(triggers.map(wordOf))].map((word) => {
    const at = `r[${e.plan.awakeAt + word}]`;
    return `${at} = ${at} | ${bitsTogether(triggers.filter((trigger) => wordOf(trigger) === word))};`;
  });
}
