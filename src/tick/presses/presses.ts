import type { TriggerPlan } from '../../compile/plan.js';
import { EVENT } from '../../record/event-codes.js';
import {
  B_DOWN,
  B_PRESSED,
  B_RELEASED,
  B_USED,
  BUTTON,
  PENDING,
  R_COUNT,
  R_TOLD,
  R_UNTIL,
  T,
} from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { wake } from '../awake.js';
import { isKept } from '../roster.js';

/** A button goes down. What it triggers is noted once everything that came in with it is known: see `notePress`. */
export function takePress(c: Actor, button: number): void {
  const { r, plan } = c;
  const at = plan.layout.buttons + button * BUTTON;
  r[at + B_DOWN] = 1;
  r[at + B_PRESSED] = r[T];
  r[at + B_USED] = 0;
  if (plan.names.choice.length > 0) choose(c, button);
}

/** An option of a choice is chosen by its button. */
export function choose({ r, plan }: Actor, button: number): void {
  const { at, option } = plan.choiceOf[button];
  if (at >= 0) r[at] = option;
}

/** A button goes up, and triggers at once what depends on how long it was down: it may be pressed again in this tick. */
export function takeRelease(c: Actor, button: number): void {
  const at = c.plan.layout.buttons + button * BUTTON;
  c.r[at + B_DOWN] = 0;
  c.r[at + B_RELEASED] = c.r[T];
  replaceWaiting(c, c.roster.released[button]);
  noteMoments(c, c.roster.release[button], at, 1);
}

/** What the press of a button triggers. */
export function notePress(c: Actor, button: number): void {
  replaceWaiting(c, c.roster.pressed[button]);
  const at = c.plan.layout.buttons + button * BUTTON;
  noteMoments(c, c.roster.press[button], at, 1);
  noteMoments(c, c.roster.edges, at, 1);
}

/** What was pressed before this tick waits no longer: another press has taken its place. */
export function replaceWaiting({ r }: Actor, triggers: readonly TriggerPlan[]): void {
  for (let i = 0; i < triggers.length; i++) {
    const { at, buffer } = triggers[i];
    if (r[at + R_COUNT] > 0 && r[at + R_UNTIL] - buffer < r[T]) dropRequests(r, triggers[i]);
  }
}

/** Notes the requests that a moment triggers; `count` of them if they are counted. */
export function noteMoments(c: Actor, triggers: readonly TriggerPlan[], what: number, count: number): void {
  for (let i = 0; i < triggers.length; i++) {
    const trigger = triggers[i];
    if (trigger.happens !== null && !trigger.happens(c, what)) continue;
    if (trigger.latch) flipLatch(c, trigger);
    else noteRequest(c, trigger, count);
  }
}

/** The same as `noteRequest`, of what does not add up and is awake: by the place of its trigger in the record. */
export function noteMoment(r: Float64Array, at: number, buffer: number): void {
  if (r[at + R_COUNT] === 0) r[PENDING] += 1;
  r[at + R_COUNT] = 1;
  r[at + R_UNTIL] = r[T] + buffer;
  r[at + R_TOLD] = 0;
}

/** Whether what waits is still requested; what came too long ago is dropped. */
export function stillWaits(r: Float64Array, at: number): boolean {
  if (r[at + R_UNTIL] >= r[T]) return true;
  r[at + R_COUNT] = 0;
  r[PENDING] -= 1;
  return false;
}

/** A request from now on, for the time of its buffer; presses do not add up, other occurrences do. */
export function noteRequest({ r, plan }: Actor, trigger: TriggerPlan, count: number): void {
  const { at, on, buffer } = trigger;
  wake(r, plan, trigger);
  const counted = on === 'event' || on === 'code';
  if (r[at + R_COUNT] === 0) r[PENDING] += 1;
  r[at + R_COUNT] = counted && r[at + R_UNTIL] >= r[T] ? r[at + R_COUNT] + count : count;
  r[at + R_UNTIL] = r[T] + buffer;
  r[at + R_TOLD] = 0;
}

/** What waits of a trigger is requested no longer. */
export function dropRequests(r: Float64Array, { at }: TriggerPlan): void {
  if (r[at + R_COUNT] === 0) return;
  r[at + R_COUNT] = 0;
  r[PENDING] -= 1;
}

/** A press latches a toggle, or undoes that. */
export function flipLatch(c: Actor, trigger: TriggerPlan): void {
  const { r, plan } = c;
  r[trigger.at + R_UNTIL] = r[T];
  setLatch(c, trigger, r[plan.abilities[trigger.ability].latchedAt] === 0 ? 1 : 0);
}

/** A press that has started another ability has latched nothing. */
function undoLatches(c: Actor, button: number, moment: number, by: number): void {
  const { r, plan } = c;
  const { toggles } = c.roster;
  for (let i = 0; i < toggles.length; i++) {
    const { at, ability, button: own } = toggles[i];
    if (own !== button || ability === by || r[at + R_UNTIL] !== moment) continue;
    if (r[plan.abilities[ability].latchedAt] === 1) setLatch(c, toggles[i], 0);
  }
}

export function setLatch({ r, plan, events }: Actor, { at, ability }: TriggerPlan, on: number): void {
  const { latchedAt, triggers } = plan.abilities[ability];
  if (r[latchedAt] === on) return;
  // All its toggles share one latch.
  for (let i = 0; i < triggers.length; i++) if (triggers[i].latch) wake(r, plan, triggers[i]);
  r[latchedAt] = on;
  r[at + R_TOLD] = 0;
  events.add(on === 1 ? EVENT.latched : EVENT.unlatched, ability);
}

/** Undoes latches whose declared conditions hold. */
export function checkLatches(c: Actor): void {
  const { r, plan } = c;
  const { toggles } = c.roster;
  for (let i = 0; i < toggles.length; i++) {
    if (r[plan.abilities[toggles[i].ability].latchedAt] === 0) continue;
    const { unlatch } = toggles[i];
    for (let k = 0; k < unlatch.length; k++)
      if (unlatch[k](c)) {
        setLatch(c, toggles[i], 0);
        break;
      }
  }
}

/** Of abilities that break each other, the first that may start takes a message. */
function takeMessage(c: Actor, { event, ability }: TriggerPlan): void {
  const rivals = c.roster.events[event];
  for (let i = 0; i < rivals.length; i++) {
    const other = rivals[i];
    if (other.ability !== ability && c.plan.abilities[other.ability].breaks?.[ability] === 1) dropRequests(c.r, other);
  }
}

/** When what it requests was pressed, or else happened. */
export function momentOf(r: Float64Array, trigger: TriggerPlan): number {
  const { button, at, buffer } = trigger;
  return isKept(trigger) ? r[at + R_UNTIL] - buffer : r[button + B_PRESSED];
}

/** Whether the press of a button that was used at some moment, or its release, also triggered what waits here of that button. */
export function isOfPress(
  r: Float64Array,
  { on, at, buffer }: TriggerPlan,
  released: boolean,
  moment: number,
): boolean {
  return (on === 'release') === released && r[at + R_UNTIL] - buffer === moment;
}

/** A press starts one ability only: the other requests that the same press triggered are dropped. */
export function usePress(c: Actor, trigger: TriggerPlan): void {
  const { r } = c;
  const { button, at, on } = trigger;
  const moment = momentOf(r, trigger);
  if (isKept(trigger)) {
    if (r[at + R_COUNT] > 1) r[at + R_COUNT] -= 1;
    else dropRequests(r, trigger);
  }
  if (trigger.event >= 0) takeMessage(c, trigger);
  if (button < 0) return;
  const released = on === 'release';
  if (!released && r[button + B_PRESSED] === moment) r[button + B_USED] = trigger.ability + 1;
  if (!released) undoLatches(c, button, moment, trigger.ability);
  const rivals = c.roster.waits[(button - c.plan.layout.buttons) / BUTTON];
  for (let i = 0; i < rivals.length; i++) if (isOfPress(r, rivals[i], released, moment)) dropRequests(r, rivals[i]);
}
