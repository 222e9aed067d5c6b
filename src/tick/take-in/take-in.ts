import { setGrounded } from '../../motion/contacts.js';
import { ENDED } from '../../record/event-codes.js';
import { FIRST, Rows, SECOND, THIRD, WHAT } from '../../record/rows.js';
import {
  A_KNOWN,
  AIM,
  AIM_DIRECTION,
  AIM_KIND,
  AIM_POINT,
  AIM_X,
  BASE_LOADOUT,
  CAMERA_X,
  CAMERA_Z,
  CEILING,
  FX,
  FZ,
  GROUND_CHANGED,
  GROUND_NORMAL,
  GROUND_SURFACES,
  GROUND_VELOCITY,
  GROUNDED,
  HEADROOM,
  HOST,
  L_ABILITY,
  MARK,
  MARK_SET,
  MARK_X,
  PLACED,
  STOP,
  T,
  TOUCHES,
  UNEVEN,
  VX,
  WALL,
  WALL_X,
  WALL_Z,
  WARPED,
  X,
} from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { resetAbility } from '../cooldowns.js';
import { refuseUnavailable } from '../judge/unavailable.js';
import { useLoadout } from '../phases/loadout.js';
import { endUnavailable } from '../phases/phases.js';
import { setPool } from '../pools/pools.js';
import { choose, noteRequest, setLatch, takePress, takeRelease } from '../presses/presses.js';
import { tellGround } from '../walk/ground.js';
import { putBody } from '../walk/put-body.js';
import { GIVEN, readStick } from './devices.js';
import { isContact, isMessage, ROW } from './door-rows.js';
import { beginActor } from './initialize.js';

const PLACE = new Float64Array(3);

/** Takes in what came through the door since the last tick, in its order. */
export function takeRows(c: Actor): void {
  const { incoming, plan } = c;
  const { codes, keys } = incoming;
  const presses = takeKeys(c, codes, keys);
  incoming.keys = 0;
  if (incoming.count > 0) {
    takeOthers(c, keys);
    return;
  }
  if (plan.loadouts.length > 0) useLoadout(c);
  if (presses) noteKeys(c, codes, keys);
}

/** Keys and sticks; says whether any button was pressed. */
function takeKeys(c: Actor, codes: Int32Array, keys: number): boolean {
  let presses = false;
  for (let i = 0; i < keys; i++) {
    const code = codes[i];
    if (code < 0) takeStick(c, -1 - code);
    else if (code & 1) {
      presses = true;
      takePress(c, code >> 1);
    } else takeRelease(c, code >> 1);
    if (c.writer !== null) record(c, code);
  }
  return presses;
}

/** What presses trigger; last, so that the order in which keys of one tick come in does not matter. */
function noteKeys(c: Actor, codes: Int32Array, keys: number): void {
  for (let i = 0; i < keys; i++) if (codes[i] > 0 && codes[i] & 1) c.plan.code.notePress(c, codes[i] >> 1);
}

const TAPED = new Float64Array(Rows.WIDTH);

/** Writes a key down as the row that it would be. */
function record({ r, writer }: Actor, code: number): void {
  TAPED.fill(0);
  TAPED[0] = code < 0 ? ROW.stick : code & 1 ? ROW.press : ROW.release;
  TAPED[1] = code < 0 ? -1 - code : code >> 1;
  if (code < 0) TAPED.set(GIVEN, 2);
  writer?.write(r[HOST], TAPED, 0);
}

/** Rows, after so many keys. */
function takeOthers(c: Actor, keys: number): void {
  const { r, incoming } = c;
  const { data } = incoming;
  const end = incoming.count * Rows.WIDTH;
  // What an engine tells answers the drive of the tick before; in a freeze, that was to stand still.
  const stood = r[HOST] - 1 < r[STOP];
  let full = end;
  for (let at = 0; at < end; at += Rows.WIDTH) {
    if (isMessage(data[at]) && (at > full || (data[at] === ROW.event && c.plan.code.messages?.isFull(c)))) {
      if (full === end) full = at;
      continue;
    }
    c.writer?.write(r[HOST], data, at);
    if (data[at] === ROW.press) takePress(c, data[at + WHAT]);
    else if (data[at] === ROW.release) takeRelease(c, data[at + WHAT]);
    else if (data[at] === ROW.stick) putStick(c, data[at + WHAT], data, at + FIRST);
    else if (!isContact(data[at])) takeRow(c, data, at);
    else if (!stood) takeContacts(c, data, at);
  }
  c.updateRoster();
  if (c.plan.loadouts.length > 0) useLoadout(c);
  noteKeys(c, incoming.codes, keys);
  for (let at = 0; at < end; at += Rows.WIDTH) if (data[at] === ROW.press) c.plan.code.notePress(c, data[at + WHAT]);
  incoming.count = 0;
  if (full < end) keepEvents(incoming, full, end);
}

/** Events that found no place wait for the next tick. */
function keepEvents(incoming: Rows, full: number, end: number): void {
  const { data } = incoming;
  let kept = 0;
  for (let at = full; at < end; at += Rows.WIDTH) {
    if (!isMessage(data[at])) continue;
    data.copyWithin(kept * Rows.WIDTH, at, at + Rows.WIDTH);
    kept++;
  }
  incoming.count = kept;
}

function takeRow(c: Actor, data: Float64Array, at: number): void {
  const { r, plan } = c;
  const id = data[at + WHAT];
  switch (data[at]) {
    case ROW.event:
      plan.code.messages?.add(c, id);
      break;
    case ROW.values:
      plan.code.messages?.addValues(c, id, data, at + 2);
      break;
    case ROW.request:
      noteRequest(c, plan.triggers[plan.abilities[id].codeTrigger], 1);
      break;
    case ROW.freeze:
      r[STOP] = Math.max(r[STOP], r[HOST] + data[at + FIRST]);
      break;
    case ROW.pool:
      r[plan.scratchAt] = data[at + FIRST];
      setPool(c, id, plan.scratchAt);
      break;
    case ROW.place:
      copyThree(PLACE, 0, data, at + FIRST);
      putBody(c, PLACE);
      break;
    case ROW.face:
      r[FX] = data[at + FIRST];
      r[FZ] = data[at + SECOND];
      break;
    case ROW.velocity:
      copyThree(r, VX, data, at + FIRST);
      break;
    case ROW.mark: {
      const mark = plan.marksAt + id * MARK;
      r.fill(0, mark, mark + MARK);
      r[mark + MARK_SET] = 1;
      copyThree(r, mark + MARK_X, data, at + FIRST);
      break;
    }
    case ROW.unmark: {
      const mark = plan.marksAt + id * MARK;
      r.fill(0, mark, mark + MARK);
      break;
    }
    case ROW.aim:
    case ROW.aimAt: {
      const aim = plan.aimsAt + id * AIM;
      copyThree(r, aim + AIM_X, data, at + FIRST);
      const none = data[at] === ROW.aim && data[at + FIRST] === 0 && data[at + SECOND] === 0 && data[at + THIRD] === 0;
      r[aim + AIM_KIND] = none ? 0 : data[at] === ROW.aim ? AIM_DIRECTION : AIM_POINT;
      break;
    }
    case ROW.choose:
      choose(c, id);
      break;
    case ROW.camera:
      r[CAMERA_X] = data[at + FIRST];
      r[CAMERA_Z] = data[at + SECOND];
      break;
    case ROW.learn:
      r[plan.abilities[id].at + A_KNOWN] = data[at + FIRST];
      c.changeRoster();
      refuseUnavailable(c);
      endUnavailable(c);
      break;
    case ROW.loadout:
      r[BASE_LOADOUT] = id;
      break;
    case ROW.reset:
      resetAbility(c, plan.abilities[id]);
      break;
    case ROW.latch:
      for (const trigger of plan.abilities[id].triggers) if (trigger.latch) setLatch(c, trigger, data[at + FIRST]);
      break;
    case ROW.end: {
      const lane = plan.abilities[id].laneAt;
      if (r[lane + L_ABILITY] === id) plan.code.end(c, lane, ENDED.code, -1);
      break;
    }
  }
}

function takeStick(c: Actor, stick: number): void {
  readStick(c.r, c.plan, stick);
  putStick(c, stick, GIVEN, 0);
}

/** Radial dead zone, rescaled so that its rim is 0 and a full push is 1. */
function putStick({ r, plan }: Actor, stick: number, from: Float64Array, first: number): void {
  const x = from[first];
  const y = from[first + 1];
  const { at, deadzone } = plan.sticks[stick];
  const amount = Math.sqrt(x * x + y * y);
  const scale = amount <= deadzone ? 0 : Math.min(1, (amount - deadzone) / (1 - deadzone)) / amount;
  r[at] = x * scale;
  r[at + 1] = y * scale;
}

/** What an engine tells of the body is so already in this tick, unlike what Loggia's own mover finds at a tick's end. */
function takeContacts(c: Actor, data: Float64Array, at: number): void {
  const { r } = c;
  const first = at + FIRST;
  switch (data[at]) {
    case ROW.moved:
      if (r[WARPED] === r[HOST]) break;
      copyThree(r, X, data, first);
      break;
    case ROW.body:
      copyThree(r, VX, data, first);
      // Contacts are reported whole with each step: those of the last step end.
      r[TOUCHES] = UNEVEN | (data[at + WHAT] & 2 ? CEILING : 0);
      takeGround(c, data[at + WHAT] & 1);
      break;
    case ROW.wall:
      r[WALL_X] = data[first];
      r[WALL_Z] = data[at + SECOND];
      r[HEADROOM] = data[at + THIRD];
      if (r[WALL_X] !== 0 || r[WALL_Z] !== 0) r[TOUCHES] |= WALL;
      break;
    case ROW.ground:
      copyThree(r, GROUND_NORMAL, data, first);
      break;
    case ROW.groundSurfaces:
      r[GROUND_SURFACES] = data[first];
      break;
    case ROW.groundMoves:
      copyThree(r, GROUND_VELOCITY, data, first);
      break;
  }
}

/** A point, a direction or a velocity. */
function copyThree(to: Float64Array, at: number, from: Float64Array, first: number): void {
  for (let i = 0; i < 3; i++) to[at + i] = from[first + i];
}

function takeGround(c: Actor, grounded: number): void {
  const { r } = c;
  if (r[PLACED] === 0) {
    // The first contacts are where it begins, not something that happens.
    r[PLACED] = 1;
    r[GROUNDED] = grounded;
    r[GROUND_CHANGED] = 0;
    r[T] -= 1;
    beginActor(c);
    r[T] += 1;
    return;
  }
  const before = r[GROUNDED];
  setGrounded(r, grounded, 0);
  tellGround(c, before);
}
