import type { AbilityPlan, Ask } from '../compile/plan.js';
import { noteMotion, setGrounded } from '../motion/slide.js';
import type { Test } from '../moveset/effects/effect.js';
import {
  A_CHARGES,
  A_JUDGED,
  A_KNOWN,
  A_LATCHED,
  A_READY,
  A_REFUSED,
  A_WAKE,
  B_BEFORE,
  B_DOWN,
  B_PRESSED,
  B_RELEASED,
  BASE_LOADOUT,
  BUTTON,
  CAMERA_X,
  CAMERA_Z,
  CEILING,
  DIRTY,
  GROUNDED,
  HEAR_AGAIN,
  HEARD,
  HOST,
  L_ABILITY,
  LACKING,
  LATCHES,
  NEVER,
  STALE,
  STOP,
  T,
  VERSION,
  VX,
  VY,
  VZ,
  WALL_X,
  WALL_Z,
  X,
  Y,
  Z,
} from '../moveset/slots.js';
import type { Character } from './character.js';
import { heedEvent } from './costs.js';
import { DOWN, PRESSED, RELEASED, ROW, Row } from './door.js';
import { ENDED, EVENT } from './events.js';
import { judge } from './judge.js';
import { endAbility, endUnavailable, startAbility } from './lanes.js';
import { setPool } from './pools.js';

/** Takes in what came through the door since the last tick, and notes the moments it brought about. */
export function takeDoor(c: Character): void {
  const { door } = c;
  if (!door.changed) return;
  door.changed = false;
  c.tape?.write(c.r[HOST], door);
  takeButtons(c);
  takeSticks(c);
  const queued = door.queue.length > 0;
  if (queued) takeQueue(c);
  noteMoments(c, queued);
  noteHeld(c);
  c.r[STALE] = 1;
}

function takeButtons({ r, door, plan }: Character): void {
  const { buttons } = door;
  for (let i = 0; i < buttons.length; i++) {
    const bits = buttons[i];
    if ((bits & (PRESSED | RELEASED)) === 0) continue;
    const at = plan.layout.buttons + i * BUTTON;
    if (bits & PRESSED) {
      r[at + B_BEFORE] = r[at + B_PRESSED];
      r[at + B_PRESSED] = r[T];
    }
    if (bits & RELEASED) r[at + B_RELEASED] = r[T];
    r[at + B_DOWN] = bits & DOWN;
    buttons[i] = bits & DOWN;
  }
}

/** Radial dead zone, rescaled so that its rim is 0 and a full push is 1. */
function takeSticks({ r, door, plan }: Character): void {
  for (let i = 0; i < plan.sticks.length; i++) {
    const { at, deadzone } = plan.sticks[i];
    const x = door.sticks[i * 2];
    const y = door.sticks[i * 2 + 1];
    const amount = Math.sqrt(x * x + y * y);
    const scale = amount <= deadzone ? 0 : Math.min(1, (amount - deadzone) / (1 - deadzone)) / amount;
    r[at] = x * scale;
    r[at + 1] = y * scale;
  }
}

function takeQueue(c: Character): void {
  const { r, door, plan } = c;
  const { queue } = door;
  for (let i = 0; i < queue.length; i += ROW) {
    const id = queue[i + 1];
    switch (queue[i]) {
      case Row.event:
        r[plan.layout.events + id] = r[T];
        c.events.add(EVENT.cameIn, id);
        heedEvent(c, id);
        break;
      case Row.request:
        r[plan.layout.requests + id] = r[T];
        break;
      case Row.freeze:
        r[STOP] = Math.max(r[STOP], r[HOST] + queue[i + 2]);
        break;
      case Row.pool:
        r[plan.scratchAt] = queue[i + 2];
        setPool(c, id, plan.scratchAt);
        break;
      case Row.place:
        r[X] = queue[i + 2];
        r[Y] = queue[i + 3];
        r[Z] = queue[i + 4];
        if (id === 0) c.settle();
        break;
      case Row.velocity:
        r[VX] = queue[i + 2];
        r[VY] = queue[i + 3];
        r[VZ] = queue[i + 4];
        noteMotion(r);
        break;
      case Row.camera:
        r[CAMERA_X] = queue[i + 2];
        r[CAMERA_Z] = queue[i + 3];
        break;
      case Row.body:
        takeContacts(c, id, queue[i + 2], queue[i + 3]);
        break;
      case Row.learn:
        r[plan.abilities[id].at + A_KNOWN] = queue[i + 2];
        r[VERSION] += 1;
        endUnavailable(c);
        break;
      case Row.loadout:
        r[BASE_LOADOUT] = id;
        r[DIRTY] = 1;
        break;
      case Row.reset:
        resetAbility(c, plan.abilities[id]);
        break;
      case Row.end: {
        const lane = plan.abilities[id].laneAt;
        if (r[lane + L_ABILITY] === id) endAbility(c, lane, ENDED.code, -1);
        break;
      }
    }
  }
  queue.length = 0;
}

function resetAbility({ r }: Character, a: AbilityPlan): void {
  r[a.at + A_READY] = -NEVER;
  if (r[a.at + A_CHARGES] < a.charges) r[LACKING] -= 1;
  r[a.at + A_CHARGES] = a.charges;
  r[VERSION] += 1;
}

/** What an engine tells is so already in this tick, unlike what Loggia's own mover finds at a tick's end. */
function takeContacts(c: Character, bits: number, wallX: number, wallZ: number): void {
  const { r } = c;
  r[T] -= 1;
  const before = c.grounded;
  if (r[GROUNDED] !== (bits & 1)) setGrounded(r, bits & 1);
  r[T] += 1;
  if (c.grounded !== before) c.events.add(c.grounded ? EVENT.landed : EVENT.left);
  r[CEILING] = bits & 2 ? 1 : 0;
  r[WALL_X] = wallX;
  r[WALL_Z] = wallZ;
}

function noteMoments(c: Character, queued: boolean): void {
  const { r, plan } = c;
  for (let i = 0; i < plan.momentAsks.length; i++) {
    const ask = plan.momentAsks[i];
    if (ask.queued && !queued) continue;
    if (!(ask.happens as Test)(c)) continue;
    const at = plan.abilities[ask.ability].at;
    r[at + A_REFUSED] = 0;
    r[at + A_JUDGED] = -1;
    if (ask.latch) setLatch(c, ask, 1 - r[at + A_LATCHED]);
    else setAsking(r, ask.at, ask.buffer);
  }
}

/** A request asks from now on for so many ticks more. */
function setAsking(r: Float64Array, at: number, ticks: number): void {
  if (ticks === NEVER && r[at] === NEVER) return;
  r[at] = ticks === NEVER ? NEVER : r[T] + ticks;
  r[HEAR_AGAIN] = r[T];
}

function setLatch({ r, plan, events }: Character, ask: Ask, on: number): void {
  r[plan.abilities[ask.ability].at + A_LATCHED] = on;
  r[LATCHES] += on === 1 ? 1 : -1;
  r[STALE] = 1;
  events.add(on === 1 ? EVENT.latched : EVENT.unlatched, ask.ability);
}

/** Which requests by holding or latch stand; called when an input or a latch changed. */
function noteHeld(c: Character): void {
  const { heldAsks } = c.plan;
  for (let i = 0; i < heldAsks.length; i++) noteStanding(c, heldAsks[i]);
}

/** Which requests by rule stand; what rests may tell its refusal anew. */
export function noteRules(c: Character): void {
  const { ruleAsks } = c.plan;
  for (let i = 0; i < ruleAsks.length; i++) noteStanding(c, ruleAsks[i]);
}

function noteStanding(c: Character, ask: Ask): void {
  const { r, plan } = c;
  const stands = (ask.stands as Test)(c);
  if (stands) setAsking(r, ask.at, NEVER);
  else if (r[ask.at] === NEVER) {
    r[ask.at] = -NEVER;
    r[plan.abilities[ask.ability].at + A_REFUSED] = 0;
    r[plan.abilities[ask.ability].at + A_JUDGED] = -1;
  }
}

/** Undoes latches whose declared conditions hold. */
export function checkLatches(c: Character): void {
  const { r, plan } = c;
  for (let i = 0; i < plan.latched.length; i++) {
    const ask = plan.latched[i];
    if (r[plan.abilities[ask.ability].at + A_LATCHED] === 0) continue;
    for (let k = 0; k < ask.unlatch.length; k++)
      if (ask.unlatch[k](c)) {
        setLatch(c, ask, 0);
        noteHeld(c);
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
  const first = plan.layout.asks;
  for (let at = first; at < plan.layout.end; at++) {
    const until = r[at];
    if (until < now) continue;
    const ask = plan.asks[at - first];
    hear(c, ask);
    const a = plan.abilities[ask.ability];
    if (r[at] >= now && r[a.laneAt + L_ABILITY] !== a.index) again = Math.min(again, r[a.at + A_WAKE]);
  }
  // What a grant changed is heard once more in the next tick.
  r[HEAR_AGAIN] = version === r[VERSION] ? again : now;
  r[HEARD] = r[VERSION];
  if (refusals.count > 0) reportRefusals(c);
}

function hear(c: Character, ask: Ask): void {
  const { r, plan, reasons } = c;
  const a = plan.abilities[ask.ability];
  const stands = r[ask.at] === NEVER;
  if (stands && r[a.laneAt + L_ABILITY] === a.index) return;
  if (r[a.at + A_JUDGED] === r[VERSION] && r[T] < r[a.at + A_WAKE]) return;
  const from = reasons.count;
  judge(c, a, reasons);
  if (reasons.count === from) {
    startAbility(c, a, ask);
    if (!stands) useUp(c, ask, r[ask.at] - ask.buffer);
    else if (ask.button >= 0 && r[ask.button + B_PRESSED] === r[T]) useUp(c, ask, r[T]);
    return;
  }
  r[a.at + A_JUDGED] = r[VERSION];
  reasons.writeWake(c, a, from, a.at + A_WAKE);
  const signature = reasons.signature(from);
  if (signature === r[a.at + A_REFUSED]) {
    reasons.count = from;
    return;
  }
  r[a.at + A_REFUSED] = signature;
  reasons.addReadings(c, a, from);
  const row = c.refusals.add(ask.ability, ask.at, from, reasons.count);
  if (!stands) c.refusals.data[row + 4] = r[ask.at] - r[T];
}

/** A press grants one ask only: the others that the same press brought about are used up with it. */
function useUp({ r, plan }: Character, ask: Ask, moment: number): void {
  if (r[ask.at] !== NEVER) r[ask.at] = -NEVER;
  if (ask.button < 0) return;
  for (let i = 0; i < plan.momentAsks.length; i++) {
    const other = plan.momentAsks[i];
    if (other.button === ask.button && r[other.at] - other.buffer === moment) r[other.at] = -NEVER;
  }
}

/** Refusals are told only if their press was not granted to another ability after all. */
function reportRefusals({ r, events, refusals }: Character): void {
  for (let i = 0; i < refusals.count; i++)
    if (r[refusals.at(i, 1)] !== -NEVER)
      events.add(EVENT.refused, refusals.at(i, 0), refusals.at(i, 2), refusals.at(i, 3), refusals.at(i, 4));
}
