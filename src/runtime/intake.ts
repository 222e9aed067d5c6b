import type { AbilityPlan } from '../compile/plan.js';
import { noteMotion, setGrounded } from '../motion/slide.js';
import {
  A_CHARGES,
  A_KNOWN,
  A_READY,
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
  HOST,
  L_ABILITY,
  LACKING,
  NEVER,
  NEXT_WORK,
  STALE,
  STOP,
  T,
  UNAIMED,
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
import { DOWN, PRESSED, RELEASED, Row } from './door.js';
import { ENDED, EVENT } from './events.js';
import { endAbility, endUnavailable } from './lanes.js';
import { setPool } from './pools.js';
import { noteMoments, noteStanding } from './requests.js';
import { Rows } from './rows.js';

/** Takes in what came through the door since the last tick, and notes the moments it brought about. */
export function takeDoor(c: Character): void {
  const { r, door, plan } = c;
  door.changed = false;
  c.tape?.write(r[HOST], door);
  const { heeded, momentsBy, heldBy } = plan;
  if (door.sticksChanged || door.edges > 0) r[NEXT_WORK] = r[T];
  if (door.sticksChanged) {
    takeSticks(c);
    if (heeded[heeded.length - 1] === 1) r[STALE] = 1;
  }
  for (let i = 0; i < door.edges; i++) {
    takeButton(c, door.edged[i]);
    if (heeded[door.edged[i]] === 1) r[STALE] = 1;
  }
  if (takeQueue(c)) {
    r[STALE] = 1;
    noteMoments(c, momentsBy.queue);
  }
  for (let i = 0; i < door.edges; i++) {
    const button = door.edged[i];
    const at = plan.layout.buttons + button * BUTTON;
    if (r[at + B_PRESSED] === r[T]) noteMoments(c, momentsBy.press[button]);
    if (r[at + B_RELEASED] === r[T]) noteMoments(c, momentsBy.release[button]);
    noteStanding(c, heldBy[button]);
  }
  if (door.edges > 0) noteMoments(c, momentsBy.edges);
  door.edges = 0;
}

function takeButton({ r, door, plan }: Character, button: number): void {
  const bits = door.buttons[button];
  const at = plan.layout.buttons + button * BUTTON;
  if (bits & PRESSED) {
    r[at + B_BEFORE] = r[at + B_PRESSED];
    r[at + B_PRESSED] = r[T];
  }
  if (bits & RELEASED) r[at + B_RELEASED] = r[T];
  r[at + B_DOWN] = bits & DOWN;
  door.buttons[button] = bits & DOWN;
}

/** Radial dead zone, rescaled so that its rim is 0 and a full push is 1. */
function takeSticks({ r, door, plan }: Character): void {
  door.sticksChanged = false;
  r[UNAIMED] = 1;
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

/** Says whether there was more than what an engine tells of the body. */
function takeQueue(c: Character): boolean {
  const { r, door, plan } = c;
  const { data: queue, count } = door.queue;
  let more = false;
  door.queue.count = 0;
  for (let i = 0; i < count * Rows.WIDTH; i += Rows.WIDTH) {
    const id = queue[i + 1] | 0;
    if (queue[i] < Row.moved) more = true;
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
      case Row.moved:
        r[X] = queue[i + 2];
        r[Y] = queue[i + 3];
        r[Z] = queue[i + 4];
        c.settle(queue[i] === Row.place);
        break;
      case Row.velocity:
      case Row.body:
        r[VX] = queue[i + 2];
        r[VY] = queue[i + 3];
        r[VZ] = queue[i + 4];
        noteMotion(r);
        if (queue[i] === Row.body) takeGround(c, id);
        break;
      case Row.camera:
        r[CAMERA_X] = queue[i + 2];
        r[CAMERA_Z] = queue[i + 3];
        r[UNAIMED] = 1;
        break;
      case Row.wall:
        if (r[WALL_X] !== queue[i + 2] || r[WALL_Z] !== queue[i + 3]) r[STALE] = 1;
        r[WALL_X] = queue[i + 2];
        r[WALL_Z] = queue[i + 3];
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
  return more;
}

function resetAbility({ r }: Character, a: AbilityPlan): void {
  r[a.at + A_READY] = -NEVER;
  if (r[a.at + A_CHARGES] < a.charges) r[LACKING] -= 1;
  r[a.at + A_CHARGES] = a.charges;
  r[VERSION] += 1;
}

/** What an engine tells is so already in this tick, unlike what Loggia's own mover finds at a tick's end. */
function takeGround(c: Character, bits: number): void {
  const { r } = c;
  const grounded = bits & 1;
  const ceiling = bits >> 1;
  if (r[CEILING] !== ceiling) r[STALE] = 1;
  r[CEILING] = ceiling;
  if (r[GROUNDED] === grounded) return;
  setGrounded(r, grounded, 0);
  c.events.add(grounded === 1 ? EVENT.landed : EVENT.left);
}
