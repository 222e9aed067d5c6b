import type { TriggerPlan } from '../compile/plan.js';
import { at, js, type Lines, to } from '../record/code.js';
import type { Emitter } from '../text/emitter.js';
import { bitOf, wordOf } from './awake.js';

/** The bits of triggers that have theirs in one number. */
export function bitsTogether(triggers: readonly TriggerPlan[]): number {
  return triggers.reduce((bits, trigger) => bits | bitOf(trigger), 0);
}

/** Lines that wake triggers. */
export function emitWake(e: Emitter, triggers: readonly TriggerPlan[]): Lines {
  return [...new Set(triggers.map(wordOf))].map((word) => {
    const bits = bitsTogether(triggers.filter((trigger) => wordOf(trigger) === word));
    const slot = e.plan.awakeAt + word;
    return js`${to(slot)} = ${at(slot)} | ${bits};`;
  });
}
