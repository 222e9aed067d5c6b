import type { TriggerPlan } from '../compile/plan.js';
import { Rows } from '../record/rows.js';
import { L_ABILITY, PENDING, R_COUNT, R_TOLD, R_UNTIL, T } from '../record/slots.js';
import { EVENT } from '../report/events.js';
import type { Actor } from './actor.js';
import { judge } from './judge.js';
import { recallMessage } from './messages.js';
import { stillWaits, usePress } from './presses.js';
import { signatureOf, writeReasons } from './reasons.js';
import { isAvailable } from './roster.js';
import { startAbility } from './start-ability.js';

/** Triggers that were refused in this tick; only used while `evaluateRequests` runs, from its own beginning on. */
export const refused = new Rows();

/** Judges all requests in their order: starts what may start, then tells why the others may not. */
export function evaluateRequests(c: Actor): void {
  const { r, roster } = c;
  const from = refused.count;
  const triggers = r[PENDING] > 0 ? roster.triggers : roster.sustained;
  for (let i = 0; i < triggers.length; i++) {
    const { sustained, at } = triggers[i];
    if (sustained === null) {
      if (r[at + R_COUNT] > 0) evaluateWaiting(c, triggers[i], consider);
    } else if (sustained(c)) keepUp(c, triggers[i]);
    else r[at + R_TOLD] = 0;
  }
  if (refused.count > from) tellRefusals(c, from);
}

/** What requests as long as something holds; what it has started, it keeps up. */
function keepUp(c: Actor, trigger: TriggerPlan): void {
  const a = c.plan.abilities[trigger.ability];
  if (c.r[a.laneAt + L_ABILITY] !== a.index) consider(c, trigger);
}

/** What a moment triggered and its buffer keeps; each occurrence is judged by itself. */
export function evaluateWaiting(
  c: Actor,
  trigger: TriggerPlan,
  judged: (c: Actor, trigger: TriggerPlan) => void,
): void {
  const { r } = c;
  if (!stillWaits(r, trigger.at)) return;
  const { event } = trigger;
  const count = r[trigger.at + R_COUNT];
  for (let k = count; k > 0; k--) {
    // Each is judged with its own values.
    if (event >= 0 && count > 1) recallMessage(c, event, k);
    judged(c, trigger);
  }
}

function consider(c: Actor, trigger: TriggerPlan): void {
  const a = c.plan.abilities[trigger.ability];
  // A loadout that has changed since this tick's requests began.
  if (!isAvailable(c.r, a)) return;
  const against = judge(c, a);
  if (against === 0) grantRequest(c, trigger);
  else noteRefusal(c, trigger, against);
}

/** What may start, starts. */
export function grantRequest(c: Actor, trigger: TriggerPlan): void {
  startAbility(c, c.plan.abilities[trigger.ability], trigger);
  usePress(c, trigger);
}

/** What may not is told when it happens, and again when its reasons change. */
export function noteRefusal(c: Actor, { ability, index, at }: TriggerPlan, against: number): void {
  if (c.tellsRefusals && signatureOf(c, c.plan.abilities[ability], against) !== c.r[at + R_TOLD])
    refused.add(index, against);
}

/** Tells refusals, once all that may start has started: not those whose press has started another ability after all. */
export function tellRefusals(c: Actor, from: number): void {
  const { r, plan, reasons } = c;
  for (let i = from; i < refused.count; i++) {
    const { index, at, ability, sustained } = plan.triggers[refused.data[i * Rows.WIDTH]];
    const against = refused.data[i * Rows.WIDTH + 1];
    if (sustained === null ? r[at + R_COUNT] === 0 : !sustained(c)) continue;
    const a = plan.abilities[ability];
    const first = reasons.count;
    r[at + R_TOLD] = signatureOf(c, a, against);
    writeReasons(c, a, against, reasons);
    const kept = sustained === null ? (r[at + R_UNTIL] - r[T]) | 0 : 0;
    c.events.add(EVENT.refused, index, first, reasons.count, kept);
  }
  refused.count = from;
}
