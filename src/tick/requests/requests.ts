import type { AbilityPlan, TriggerPlan } from '../../compile/plan.js';
import { EVENT } from '../../record/event-codes.js';
import { L_ABILITY, LANE, PENDING, R_COUNT, R_TOLD, R_UNTIL, T } from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { bitOf, putToSleep } from '../awake.js';
import { judge } from '../judge/judge.js';
import { isFleeting, signatureOf, writeReasons } from '../judge/reasons.js';
import { recallMessage } from '../presses/messages.js';
import { dropRequests, isOfPress, momentOf, stillWaits, usePress } from '../presses/presses.js';
import { isAvailable, isKept } from '../roster.js';
import { Refusals } from './refusals.js';

/**
 * What was refused in this tick. Only used while `evaluateRequests` runs, from its own beginning on.
 */
export const refused = /* @__PURE__ */ new Refusals();

/**
 * Before phases go on: what messages start that breaks what runs. So a cast that was struck in the last tick of its windup is not
 * cast. What may not start now is judged again with all others.
 */
export function evaluateInterruptions(c: Actor): void {
  const { r, roster } = c;
  const { breakers } = roster;
  for (let i = 0; i < breakers.length; i++) if (r[breakers[i].at + R_COUNT] > 0) interruptBy(c, breakers[i]);
}

/** What a message starts, if it breaks something that runs; what else waits of it is not asked for again in this tick. */
function interruptBy(c: Actor, trigger: TriggerPlan): void {
  const { r, plan } = c;
  const a = plan.abilities[trigger.ability];
  if (!breaksAny(c, a) || !stillWaits(r, trigger.at)) return;
  const count = r[trigger.at + R_COUNT];
  let granted = false;
  for (let k = count; k > 0; k--) {
    if (count > 1) recallMessage(c, trigger.event, k);
    if (judge(c, a) !== 0) continue;
    usePress(c, trigger);
    plan.code.start(c, trigger);
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
  const happened = c.events.count;
  const triggers = r[PENDING] > 0 ? roster.triggers : roster.sustained;
  for (let i = 0; i < triggers.length; i++) {
    const { sustained, at } = triggers[i];
    if (sustained === null) {
      if (r[at + R_COUNT] > 0) evaluateWaiting(c, triggers[i], 0, from);
    } else if (sustained(c)) keepUp(c, triggers[i], from);
    else r[at + R_TOLD] = 0;
  }
  if (refused.count > from) tellRefusals(c, from, c.events.count > happened);
}

/** What requests as long as something holds; what it has started, it keeps up. */
function keepUp(c: Actor, trigger: TriggerPlan, from: number): void {
  const a = c.plan.abilities[trigger.ability];
  if (c.r[a.laneAt + L_ABILITY] !== a.index) consider(c, trigger, 0, from);
}

/**
 * What a moment triggered and its buffer keeps; each occurrence is judged by itself. Says whether any has started; before that, those
 * `asleep` are put to sleep.
 */
export function evaluateWaiting(c: Actor, trigger: TriggerPlan, asleep: number, from: number): boolean {
  const { r } = c;
  if (r[trigger.at + R_COUNT] === 0 || !stillWaits(r, trigger.at)) return false;
  const { event } = trigger;
  const count = r[trigger.at + R_COUNT];
  let started = false;
  for (let k = count; k > 0; k--) {
    if (event >= 0 && count > 1) {
      // Each is judged with its own values, and what was refused before was not.
      keepReasons(c, from);
      recallMessage(c, event, k);
    }
    if (consider(c, trigger, asleep, from)) started = true;
  }
  return started;
}

/** The same, and what waits no longer is put to sleep. */
export function judgeWaiting(c: Actor, trigger: TriggerPlan, asleep: number, from: number): boolean {
  if (evaluateWaiting(c, trigger, asleep, from)) return true;
  if (c.r[trigger.at + R_COUNT] === 0) putToSleep(c.r, c.plan, trigger, bitOf(trigger));
  return false;
}

/** Starts what may start, and says whether it has. */
function consider(c: Actor, trigger: TriggerPlan, asleep: number, from: number): boolean {
  const a = c.plan.abilities[trigger.ability];
  // A loadout that has changed since this tick's requests began.
  if (!isAvailable(c.r, a)) return false;
  const against = judge(c, a);
  if (against === 0 && waitsItsTurn(c, trigger)) return false;
  if (against === 0) {
    grantRequest(c, trigger, asleep, from);
    return true;
  }
  if (c.tellsRefusals) noteRefusal(c.r, trigger, against, signatureOf(c, a, against));
  return false;
}

/** Whether a press that may start something gives way to an earlier one of its lane that may, too: where the lane says that they go in turn. */
export function waitsItsTurn(c: Actor, trigger: TriggerPlan): boolean {
  const { r, plan, roster } = c;
  const { lane, index } = plan.abilities[trigger.ability];
  if (plan.waitsTurn[lane] === 0 || !isPress(trigger)) return false;
  const moment = r[trigger.at + R_UNTIL] - trigger.buffer;
  let judged = false;
  for (let i = 0; i < roster.triggers.length; i++) {
    const other = roster.triggers[i];
    const a = plan.abilities[other.ability];
    if (a.lane !== lane || a.index === index || !isPress(other) || r[other.at + R_COUNT] === 0) continue;
    if (r[other.at + R_UNTIL] - other.buffer >= moment || !stillWaits(r, other.at) || !isAvailable(r, a)) continue;
    judged = true;
    if (judge(c, a) === 0) return true;
  }
  // That has worked out other prices.
  if (judged) judge(c, plan.abilities[index]);
  return false;
}

function isPress(trigger: TriggerPlan): boolean {
  return trigger.button >= 0 && isKept(trigger);
}

/** What may not is told when it happens, and again when its reasons change. */
function noteRefusal(r: Float64Array, { index, at }: TriggerPlan, against: number, signature: number): void {
  if (signature !== r[at + R_TOLD]) refused.add(index, against, signature);
}

/** What may start, starts. Those of its number that are to be asleep are put to sleep before, since a start may wake them again. */
export function grantRequest(c: Actor, trigger: TriggerPlan, asleep: number, from: number): void {
  if (asleep !== 0) putToSleep(c.r, c.plan, trigger, asleep);
  if (refused.count > from) dropRivals(c, trigger, from);
  if (refused.count > from) {
    // What else was refused before it is told as it was judged; that works out prices again, of which only the last stand.
    keepReasons(c, from);
    judge(c, c.plan.abilities[trigger.ability]);
  }
  // First it is no longer requested: what starts may change what there is.
  usePress(c, trigger);
  c.plan.code.start(c, trigger);
}

/** Leaves out what was refused to the press that starts something now after all. */
function dropRivals({ r, plan }: Actor, trigger: TriggerPlan, from: number): void {
  const { button, on } = trigger;
  if (button < 0) return;
  const moment = momentOf(r, trigger);
  let kept = from;
  for (let i = from; i < refused.count; i++) {
    const other = plan.triggers[refused.triggers[i]];
    const waits = other.button === button && isKept(other);
    if (waits && isOfPress(r, other, on === 'release', moment)) continue;
    refused.move(i, kept++);
  }
  refused.count = kept;
}

/** Writes the reasons of what was refused and has none yet, as they are now. */
function keepReasons(c: Actor, from: number): void {
  for (let i = from; i < refused.count; i++) if (refused.from[i] < 0) keepReason(c, i);
}

function keepReason(c: Actor, i: number): void {
  const { plan, reasons } = c;
  refused.from[i] = reasons.count;
  writeReasons(c, plan.abilities[plan.triggers[refused.triggers[i]].ability], refused.against[i], reasons);
  refused.to[i] = reasons.count;
}

/**
 * Tells refusals, once all that may start has started: where something has (`started`), not those whose press has started another
 * ability after all. Their reasons are read off the record when somebody reads the event, but for those that may be others by then.
 */
export function tellRefusals(c: Actor, from: number, started: boolean): void {
  const { r, plan } = c;
  if (started) keepReasons(c, from);
  for (let i = from; i < refused.count; i++) {
    const { index, at, sustained, ability } = plan.triggers[refused.triggers[i]];
    if (started && (sustained === null ? r[at + R_COUNT] === 0 : !sustained(c))) continue;
    const against = refused.against[i];
    if (refused.from[i] < 0 && isFleeting(plan, plan.abilities[ability], against)) keepReason(c, i);
    r[at + R_TOLD] = refused.signs[i];
    const kept = sustained === null ? (r[at + R_UNTIL] - r[T]) | 0 : 0;
    const first = refused.from[i];
    c.events.add(EVENT.refused, index, first, first < 0 ? against : refused.to[i], kept);
  }
  refused.count = from;
}
