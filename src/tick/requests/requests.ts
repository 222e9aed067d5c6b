import type { AbilityPlan, TriggerPlan } from '../../compile/plan.js';
import { EVENT } from '../../record/event-codes.js';
import { Rows } from '../../record/rows.js';
import { L_ABILITY, LANE, PENDING, R_COUNT, R_TOLD, R_UNTIL, T } from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { judge } from '../judge/judge.js';
import { signatureOf, writeReasons } from '../judge/reasons.js';
import { startAbility } from '../phases/start-ability.js';
import { recallMessage } from '../presses/messages.js';
import { dropRequests, stillWaits, usePress } from '../presses/presses.js';
import { isAvailable } from '../roster.js';

/**
 * Triggers that were refused in this tick: the first and the last of their reasons as they were judged, and the signature of these.
 * Only used while `evaluateRequests` runs, from its own beginning on.
 */
export const refused = new Rows();

/**
 * Before phases go on: what messages start that breaks what runs. So a cast that was struck in the last tick of its windup is not
 * cast. What may not start now is judged again with all others.
 */
export function evaluateInterruptions(c: Actor): void {
  const { r, plan, roster } = c;
  const { breakers } = roster;
  for (let i = 0; i < breakers.length; i++)
    if (r[breakers[i].at + R_COUNT] > 0) interruptBy(c, breakers[i], plan.code.judge, startAbility);
}

/** What a message starts, if it breaks something that runs; what else waits of it is not asked for again in this tick. */
export function interruptBy(
  c: Actor,
  trigger: TriggerPlan,
  judged: (c: Actor, ability: number) => number,
  start: (c: Actor, a: AbilityPlan, trigger: TriggerPlan) => void,
): void {
  const { r, plan } = c;
  const a = plan.abilities[trigger.ability];
  if (!breaksAny(c, a) || !stillWaits(r, trigger.at)) return;
  const count = r[trigger.at + R_COUNT];
  let granted = false;
  for (let k = count; k > 0; k--) {
    if (count > 1) recallMessage(c, trigger.event, k);
    if (judged(c, a.index) !== 0) continue;
    usePress(c, trigger);
    start(c, a, trigger);
    granted = true;
  }
  if (granted) dropRequests(r, trigger);
}

function breaksAny({ r, plan }: Actor, { breaks }: AbilityPlan): boolean {
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE)
    if (breaks?.[r[lane + L_ABILITY]] === 1) return true;
  return false;
}

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
  else if (c.tellsRefusals) {
    // Told when it happens, and again when its reasons change.
    const signature = signatureOf(c, a, against);
    if (signature !== c.r[trigger.at + R_TOLD]) noteRefusal(c, trigger, against, signature);
  }
}

/** What may start, starts. */
export function grantRequest(c: Actor, trigger: TriggerPlan): void {
  // First it is no longer requested: what starts may change what there is.
  usePress(c, trigger);
  startAbility(c, c.plan.abilities[trigger.ability], trigger);
}

/** Notes what stands against a request as it is now: for who asks first whether that is told, and has not been told yet. */
export function noteRefusal(c: Actor, { ability, index }: TriggerPlan, against: number, signature: number): void {
  const first = c.reasons.count;
  writeReasons(c, c.plan.abilities[ability], against, c.reasons);
  refused.add(index, first, c.reasons.count, signature);
}

/** Tells refusals, once all that may start has started: not those whose press has started another ability after all. */
export function tellRefusals(c: Actor, from: number): void {
  const { r, plan } = c;
  const { data } = refused;
  for (let i = from; i < refused.count; i++) {
    const row = i * Rows.WIDTH;
    const { index, at, sustained } = plan.triggers[data[row]];
    if (sustained === null ? r[at + R_COUNT] === 0 : !sustained(c)) continue;
    r[at + R_TOLD] = data[row + 3];
    const kept = sustained === null ? (r[at + R_UNTIL] - r[T]) | 0 : 0;
    c.events.add(EVENT.refused, index, data[row + 1] | 0, data[row + 2] | 0, kept);
  }
  refused.count = from;
}
