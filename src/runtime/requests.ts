import type { AbilityPlan, TriggerPlan } from '../compile/plan.js';
import { Rows } from '../record/rows.js';
import { L_ABILITY, R_COUNT, R_TOLD, R_UNTIL, T } from '../record/slots.js';
import { EVENT } from '../report/events.js';
import type { Actor } from './actor.js';
import { addReadings } from './decode-reasons.js';
import { judge } from './judge.js';
import { usePress } from './presses.js';
import { REASON } from './reason-rows.js';
import { isAvailable } from './roster.js';
import { startAbility } from './start-ability.js';

/** Triggers that were refused in this tick; only used while `evaluateRequests` runs, from its own beginning on. */
const refused = new Rows();

/** Judges all requests in their order: starts what may start, then tells why the others may not. */
export function evaluateRequests(c: Actor): void {
  const { r, plan } = c;
  const { triggers } = c.roster;
  const from = refused.count;
  let last = -1;
  for (let i = 0; i < triggers.length; i++) {
    const trigger = triggers[i];
    const a = plan.abilities[trigger.ability];
    if (trigger.sustained !== null) {
      if (!trigger.sustained(c)) r[trigger.at + R_TOLD] = 0;
      else if (r[a.laneAt + L_ABILITY] === a.index) continue;
      else if (consider(c, a, trigger)) last = a.index;
      continue;
    }
    if (r[trigger.at + R_COUNT] === 0) continue;
    if (r[trigger.at + R_UNTIL] < r[T]) {
      r[trigger.at + R_COUNT] = 0;
      continue;
    }
    // Each occurrence is judged by itself.
    for (let k = r[trigger.at + R_COUNT]; k > 0; k--) if (consider(c, a, trigger)) last = a.index;
  }
  tellRefusals(c, from, last);
  refused.count = from;
}

function consider(c: Actor, a: AbilityPlan, trigger: TriggerPlan): boolean {
  // A loadout that has changed since this tick's requests began.
  if (!isAvailable(c.r, a)) return false;
  if (!judge(c, a, null)) {
    refused.add(trigger.index);
    return false;
  }
  startAbility(c, a, trigger);
  usePress(c, trigger);
  return true;
}

/**
 * A refusal is told when it happens, and again when its reasons change; not if its press has started another ability
 * after all. What was refused before something else started, and would not be now, came after that: `last`.
 */
function tellRefusals(c: Actor, from: number, last: number): void {
  const { r, plan, reasons } = c;
  for (let i = from; i < refused.count; i++) {
    const trigger = plan.triggers[refused.data[i * Rows.WIDTH]];
    const { at, ability, sustained } = trigger;
    if (sustained === null ? r[at + R_COUNT] === 0 : !sustained(c)) continue;
    const a = plan.abilities[ability];
    const first = reasons.count;
    if (judge(c, a, reasons)) reasons.against(REASON.contested, Math.max(0, last));
    if (reasons.signature === r[at + R_TOLD]) {
      reasons.count = first;
      continue;
    }
    r[at + R_TOLD] = reasons.signature;
    addReadings(c, a, reasons, first);
    const kept = sustained === null ? (r[at + R_UNTIL] - r[T]) | 0 : 0;
    c.events.add(EVENT.refused, ability, first, reasons.count, kept);
  }
}
