import type { MessageCode } from '../../compile/plan.js';
import { EVENT } from '../../record/event-codes.js';
import { M_COUNT, M_FIRST, M_HANDLED, T } from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { countFromEvent, shortenCooldowns } from '../cooldowns.js';
import { noteMoments } from './presses.js';
import { readValues } from './values.js';

/**
 * Messages wait in the record until the character's own clock goes on, and stay there for the tick in which they are
 * handled: requests that they trigger are judged one by one, each with its own values.
 */
export function isFull({ r, plan }: Actor): boolean {
  return r[plan.layout.messages + M_COUNT] >= plan.layout.mostMessages;
}

/** Adds a message whose values are all 0 and returns where they begin; there must be room. */
export function addMessage({ r, plan }: Actor, event: number): number {
  const { messages, message } = plan.layout;
  const at = messages + M_FIRST + r[messages + M_COUNT] * message;
  r.fill(0, at, at + message);
  r[at] = event;
  r[messages + M_COUNT] += 1;
  return at + 1;
}

/** Fills in three values of the message that was added last. */
export function addValues({ r, plan }: Actor, which: number, data: Float64Array, from: number): void {
  const { messages, message } = plan.layout;
  const last = messages + M_FIRST + (r[messages + M_COUNT] - 1) * message;
  const { size } = plan.messages[r[last]];
  for (let i = 0; i < 3 && which * 3 + i < size; i++) r[last + 1 + which * 3 + i] = data[from + i];
}

/** Makes room: what was handled in the last tick goes. */
export function dropHandled({ r, plan }: Actor): void {
  const { messages, message } = plan.layout;
  const handled = r[messages + M_HANDLED];
  if (handled === 0) return;
  const first = messages + M_FIRST;
  const kept = r[messages + M_COUNT] - handled;
  r.copyWithin(first, first + handled * message, first + (handled + kept) * message);
  r.fill(0, first + kept * message, first + (handled + kept) * message);
  r[messages + M_COUNT] = kept;
  r[messages + M_HANDLED] = 0;
}

/** Messages that came in are handled, each occurrence by itself. */
export function handleMessages(c: Actor): void {
  const { r, plan } = c;
  const { messages, message } = plan.layout;
  const count = r[messages + M_COUNT];
  for (let i = 0; i < count; i++) {
    const at = messages + M_FIRST + i * message;
    const event = r[at] | 0;
    readMessage(c, event, at + 1);
    const values = plan.messages[event].size > 0 ? c.values.add(r, at + 1, plan.messages[event].size) : -1;
    c.events.add(EVENT.received, event, values);
    shortenCooldowns(c, event);
    countFromEvent(c, event);
    noteMoments(c, c.roster.events[event], -1, 1);
  }
  r[messages + M_HANDLED] = count;
}

/** Formulas read the values of this message from now on. */
function readMessage({ r, plan }: Actor, event: number, from: number): void {
  const at = plan.layout.events[event];
  r[at] = r[T];
  const { size } = plan.messages[event];
  for (let i = 0; i < size; i++) r[at + 1 + i] = r[from + i];
}

/** The same of the one that is so far from the last of its event in this tick, 1 being the last; older ones are gone. */
export function recallMessage(c: Actor, event: number, back: number): void {
  const { r, plan } = c;
  const { messages, message } = plan.layout;
  let left = back;
  for (let i = r[messages + M_HANDLED] - 1; i >= 0; i--) {
    const at = messages + M_FIRST + i * message;
    if (r[at] !== event) continue;
    left -= 1;
    if (left > 0) continue;
    readMessage(c, event, at + 1);
    return;
  }
}

/** What the character emits: told to the host, and heard by itself in the next tick if the event says so. Its values stand behind the record. */
export function emitMessage(c: Actor, event: number): void {
  const { r, plan } = c;
  const { size, hearsOwn } = plan.messages[event];
  c.events.add(EVENT.emitted, event, size > 0 ? c.values.add(r, plan.outAt, size) : -1);
  if (hearsOwn) sendMessage(c, event, r, plan.outAt);
}

/** The same once all requests of this tick are judged: what was handled in it makes room. */
export function deliverMessage(c: Actor, event: number, from: Float64Array, first: number): void {
  if (isFull(c)) dropHandled(c);
  sendMessage(c, event, from, first);
}

/** Puts a message in line for the next tick; one for which there is no room is lost, and that is told. */
export function sendMessage(c: Actor, event: number, from: Float64Array, first: number): void {
  if (isFull(c)) {
    c.events.add(EVENT.lost, event);
    return;
  }
  const { size } = c.plan.messages[event];
  const at = addMessage(c, event);
  for (let i = 0; i < size; i++) c.r[at + i] = from[first + i];
}

export const messageCode = {
  add: addMessage,
  addValues,
  isFull,
  emit: emitMessage,
  read: readValues,
} as unknown as MessageCode;
