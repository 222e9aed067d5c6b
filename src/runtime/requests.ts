import type { AbilityPlan, Ask } from '../compile/plan.js';
import type { Test } from '../moveset/effects/effect.js';
import {
  A_JUDGED,
  A_LATCHED,
  A_REFUSED,
  A_WAKE,
  ASKED_FROM,
  ASKED_TO,
  B_PRESSED,
  HEAR_AGAIN,
  HEARD,
  L_ABILITY,
  LATCHES,
  NEVER,
  STALE,
  T,
  VERSION,
} from '../moveset/slots.js';
import type { Character } from './character.js';
import { EVENT } from './events.js';
import { judge } from './judge.js';
import { startAbility } from './lanes.js';
import { Rows } from './rows.js';

/** Which moments what came in has brought about. */
export function noteMoments(c: Character, asks: readonly Ask[]): void {
  const { r } = c;
  for (let i = 0; i < asks.length; i++) {
    const ask = asks[i];
    const { happens, abilityAt: at } = ask;
    if (happens !== null && !happens(c)) continue;
    r[at + A_REFUSED] = 0;
    r[at + A_JUDGED] = -1;
    if (ask.latch) setLatch(c, ask, r[at + A_LATCHED] === 0 ? 1 : 0);
    else setAsking(r, ask.at, ask.buffer);
  }
}

/** A request asks from now on for so many ticks more. */
function setAsking(r: Float64Array, at: number, ticks: number): void {
  if (ticks === NEVER && r[at] === NEVER) return;
  r[ASKED_FROM] = Math.min(r[ASKED_FROM], at);
  r[ASKED_TO] = Math.max(r[ASKED_TO], at);
  r[at] = ticks === NEVER ? NEVER : r[T] + ticks;
  r[HEAR_AGAIN] = r[T];
}

function setLatch(c: Character, ask: Ask, on: number): void {
  const { r, plan, events } = c;
  r[ask.abilityAt + A_LATCHED] = on;
  r[LATCHES] += on === 1 ? 1 : -1;
  r[STALE] = 1;
  events.add(on === 1 ? EVENT.latched : EVENT.unlatched, ask.ability);
  noteStanding(c, plan.latched);
}

/** Which requests by holding, latch or rule stand; what rests may tell its refusal anew. */
export function noteStanding(c: Character, asks: readonly Ask[]): void {
  const { r } = c;
  for (let i = 0; i < asks.length; i++) {
    const { at, abilityAt, stands } = asks[i];
    if ((stands as Test)(c)) setAsking(r, at, NEVER);
    else if (r[at] === NEVER) {
      r[at] = -NEVER;
      r[abilityAt + A_REFUSED] = 0;
      r[abilityAt + A_JUDGED] = -1;
    }
  }
}

/** Undoes latches whose declared conditions hold. */
export function checkLatches(c: Character): void {
  const { r, plan } = c;
  for (let i = 0; i < plan.latched.length; i++) {
    const ask = plan.latched[i];
    if (r[ask.abilityAt + A_LATCHED] === 0) continue;
    for (let k = 0; k < ask.unlatch.length; k++)
      if (ask.unlatch[k](c)) {
        setLatch(c, ask, 0);
        break;
      }
  }
}

/** Hears all requests in their order: judges each, then starts it or notes why not. */
export function hearRequests(c: Character): void {
  const { r, plan, reasons, refusals } = c;
  const now = r[T];
  if (now < r[HEAR_AGAIN] && r[VERSION] === r[HEARD]) return;
  refusals.count = 0;
  reasons.count = 0;
  let again = NEVER;
  const version = r[VERSION];
  const to = r[ASKED_TO];
  let at = r[ASKED_FROM];
  r[ASKED_FROM] = NEVER;
  r[ASKED_TO] = -1;
  for (; at <= to; at++) {
    if (r[at] < now) continue;
    const ask = plan.asks[at - plan.layout.asks];
    const a = plan.abilities[ask.ability];
    const granted = r[at] === NEVER && r[a.laneAt + L_ABILITY] === a.index;
    if (!granted && (r[a.at + A_JUDGED] !== r[VERSION] || now >= r[a.at + A_WAKE])) hear(c, a, ask);
    if (r[at] < now) continue;
    if (r[ASKED_FROM] === NEVER) r[ASKED_FROM] = at;
    r[ASKED_TO] = at;
    if (r[a.laneAt + L_ABILITY] !== a.index) again = Math.min(again, r[a.at + A_WAKE]);
  }
  // What a grant changed is heard once more in the next tick.
  r[HEAR_AGAIN] = version === r[VERSION] ? again : now;
  r[HEARD] = r[VERSION];
  if (refusals.count > 0) reportRefusals(c);
}

function hear(c: Character, a: AbilityPlan, ask: Ask): void {
  const { r, reasons } = c;
  const stands = r[ask.at] === NEVER;
  const from = reasons.count;
  judge(c, a, reasons);
  if (reasons.count === from) {
    startAbility(c, a, ask);
    if (!stands || (ask.button >= 0 && r[ask.button + B_PRESSED] === r[T])) useUp(c, ask);
    return;
  }
  r[a.at + A_JUDGED] = r[VERSION];
  reasons.writeWake(c, a, from, a.at + A_WAKE);
  const { signature } = reasons;
  if (signature === r[a.at + A_REFUSED]) {
    reasons.count = from;
    return;
  }
  r[a.at + A_REFUSED] = signature;
  reasons.addReadings(c, a, from);
  c.refusals.add(ask.ability, ask.at, from, reasons.count, stands ? 0 : (r[ask.at] - r[T]) | 0);
}

/** A press grants one ask only: the others that the same press brought about are used up with it. */
function useUp({ r, plan }: Character, ask: Ask): void {
  const moment = r[ask.at] === NEVER ? r[T] : r[ask.at] - ask.buffer;
  if (r[ask.at] !== NEVER) r[ask.at] = -NEVER;
  if (ask.button < 0) return;
  for (let i = 0; i < plan.momentAsks.length; i++) {
    const other = plan.momentAsks[i];
    if (other.button === ask.button && r[other.at] - other.buffer === moment) r[other.at] = -NEVER;
  }
}

/** Refusals are told only if their press was not granted to another ability after all. */
function reportRefusals({ r, events, refusals }: Character): void {
  const { data } = refusals;
  for (let i = 0; i < refusals.count; i++) {
    const row = i * Rows.WIDTH;
    if (r[data[row + 1]] === -NEVER) continue;
    events.add(EVENT.refused, data[row] | 0, data[row + 2] | 0, data[row + 3] | 0, data[row + 4] | 0);
  }
}
