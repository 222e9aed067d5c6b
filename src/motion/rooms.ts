import type { BodyShape, Plan } from '../compile/plan.js';
import { placeCast } from '../probes/ask-world.js';
import { surfacesOf } from '../probes/probe.js';
import {
  ROOM_FLOOR,
  ROOM_SURFACES,
  ROOM_WALL_X0,
  ROOM_WALL_X1,
  ROOM_X0,
  ROOM_X1,
  ROOM_Y0,
  ROOM_Y1,
  ROOM_Z0,
  ROOM_Z1,
} from '../record/layout.js';
import {
  GROUND_NORMAL,
  GROUND_SURFACES,
  GROUNDED,
  SHAPE,
  STUCK,
  TOUCHES,
  UNEVEN,
  VX,
  VY,
  VZ,
  WALL,
  WALL_X,
  X,
  Y,
  Z,
} from '../record/slots.js';
import { TOUCH } from '../world/solid.js';
import type { World } from '../world/world.js';
import { clearContacts, setGrounded } from './contacts.js';
import type { Mover } from './mover.js';

/** A room is known only while the body is in it. */
const UNKNOWN = -1;

/** Asks the world for the room that a body of this shape is in, if none is known. Says whether there is one now. */
export function findRoom(plan: Plan, r: Float64Array, shape: BodyShape, { world, cast, room }: Mover): boolean {
  const at = plan.roomAt;
  if (r[at + ROOM_FLOOR] !== UNKNOWN || world.still !== true || world.roomAround === undefined) return false;
  placeCast(cast, shape, r);
  room.clear();
  if (!world.roomAround(cast, room)) return false;
  r[at + ROOM_X0] = room.x0;
  r[at + ROOM_Y0] = room.y0;
  r[at + ROOM_Z0] = room.z0;
  r[at + ROOM_X1] = room.x1;
  r[at + ROOM_Y1] = room.y1;
  r[at + ROOM_Z1] = room.z1;
  r[at + ROOM_SURFACES] = surfacesOf(plan, room.floorTags);
  r[at + ROOM_FLOOR] = !room.floor ? 0 : r[at + ROOM_SURFACES] === 0 ? 1 : 2;
  r[at + ROOM_WALL_X0] = room.wallX0;
  r[at + ROOM_WALL_X1] = room.wallX1;
  keepRoom(plan, r, shape);
  return r[at + ROOM_FLOOR] !== UNKNOWN;
}

/** Forgets the room if a body that moved by itself is out of it. */
export function keepRoom(plan: Plan, r: Float64Array, shape: BodyShape): void {
  if (!isIn(r, plan.roomAt, shape)) leaveRoom(plan, r);
}

function isIn(r: Float64Array, at: number, { hx, hy, hz }: BodyShape): boolean {
  return (
    r[X] - hx >= r[at + ROOM_X0] - TOUCH &&
    r[X] + hx <= r[at + ROOM_X1] + TOUCH &&
    r[Y] >= r[at + ROOM_Y0] - TOUCH &&
    r[Y] + hy + hy <= r[at + ROOM_Y1] + TOUCH &&
    r[Z] - hz >= r[at + ROOM_Z0] - TOUCH &&
    r[Z] + hz <= r[at + ROOM_Z1] + TOUCH
  );
}

/** Forgets the room: the body was put elsewhere, or has another shape. */
export function leaveRoom(plan: Plan, r: Float64Array): void {
  r[plan.roomAt + ROOM_FLOOR] = UNKNOWN;
  r[plan.freeAt] = 0;
}

/** What is known of the way of a body that touches nothing else: it is on the floor of its room, or in the air of it. */
export const ON_FLOOR = 1;
const IN_AIR = 2;

/** Notes that, or 0 where the way must be looked at. */
export function noteFree(plan: Plan, r: Float64Array, world: World): void {
  const { freeAt, roomAt: at, shapes } = plan;
  r[freeAt] = 0;
  if (r[TOUCHES] !== 0 || r[STUCK] !== 0 || r[SHAPE] !== 0 || world.still !== true || world.edges !== undefined) return;
  if (r[GROUNDED] === 0) {
    if (r[at + ROOM_FLOOR] !== UNKNOWN) r[freeAt] = IN_AIR;
  } else if (r[at + ROOM_FLOOR] === 1 && r[Y] === r[at + ROOM_Y0]) {
    const gap = r[Y] + shapes[0].hy - shapes[0].hy - r[at + ROOM_Y0];
    if (gap <= 0 && gap >= -TOUCH) r[freeAt] = ON_FLOOR;
  }
}

/** Moves a body along the floor that it stands on, if it comes to no wall and the floor has no surface. */
export function walkInRoom(plan: Plan, r: Float64Array, shape: BodyShape): boolean {
  const { dt, roomAt: at } = plan;
  const { hy } = shape;
  const y = r[Y];
  const gap = y + hy - hy - r[at + ROOM_Y0];
  // A body that is above its floor by no more than rounding comes down on it, elsewhere.
  if (r[at + ROOM_FLOOR] !== 1 || y !== r[at + ROOM_Y0] || gap > 0 || gap < -TOUCH) return false;
  if (comesToX(plan, r, shape) || comesToZ(plan, r, shape)) return false;
  r[X] += r[VX] * dt;
  r[Z] += r[VZ] * dt;
  return true;
}

/** Whether a body comes to a side of its room in this tick: along x, or along z. */
function comesToX({ dt, roomAt: at }: Plan, r: Float64Array, { hx }: BodyShape): boolean {
  const dx = r[VX] * dt;
  return dx > 0 ? r[X] + hx + dx > r[at + ROOM_X1] - TOUCH : dx < 0 && r[X] - hx + dx < r[at + ROOM_X0] + TOUCH;
}

function comesToZ({ dt, roomAt: at }: Plan, r: Float64Array, { hz }: BodyShape): boolean {
  const dz = r[VZ] * dt;
  return dz > 0 ? r[Z] + hz + dz > r[at + ROOM_Z1] - TOUCH : dz < 0 && r[Z] - hz + dz < r[at + ROOM_Z0] + TOUCH;
}

/**
 * Moves a body that stays in its room, or comes down on its floor: the same, number for number, as `slide` would have it.
 * Where that is not sure, or no room is known, it says false and has done nothing.
 */
export function glide(plan: Plan, r: Float64Array, shape: BodyShape): boolean {
  const { dt, roomAt: at } = plan;
  const { hy } = shape;
  if (r[at + ROOM_FLOOR] === UNKNOWN) return false;
  // Who stands on a slope keeps a level pace on it, also as it ends.
  if (r[GROUNDED] === 1 && r[TOUCHES] & UNEVEN && r[GROUND_NORMAL + 1] < 1) return false;
  const floor = r[at + ROOM_FLOOR] > 0;
  const dx = r[VX] * dt;
  const dy = r[VY] * dt;
  const dz = r[VZ] * dt;
  const x = r[X];
  const y = r[Y];
  const z = r[Z];
  if (comesToX(plan, r, shape)) return lean(plan, r, shape);
  if (comesToZ(plan, r, shape)) return false;
  const bottom = r[at + ROOM_Y0];
  const gap = y + hy - hy - bottom;
  if (gap < -TOUCH || (dy > 0 && y + hy + hy + dy > r[at + ROOM_Y1] - TOUCH)) return false;
  const { reach } = plan.body;
  // Walking, a body is kept on ground that falls away below it.
  const walked = 2 * Math.sqrt(dx * dx + dz * dz) * plan.body.slope;
  const kept = dy <= 0 && gap + dy < TOUCH + reach + Math.min(walked, plan.body.drop);
  if (kept && !floor) return false;

  const part = dy < 0 && floor ? (gap > 0 ? gap / -dy : 0) : 2;
  const below = y + dy + hy - hy - bottom;
  if (kept && part > 1 && r[GROUNDED] === 1 && below / reach > 1) return false;
  let grounded = 0;
  if (part <= 1) {
    // What is left of the way after coming down leads along the floor.
    const left = 1 - part;
    r[X] = x + dx * part + dx * left;
    r[Y] = bottom;
    r[Z] = z + dz * part + dz * left;
    r[VY] = 0;
    grounded = 1;
  } else {
    r[X] = x + dx;
    r[Y] = y + dy;
    r[Z] = z + dz;
    if (dy <= 0 && r[GROUNDED] === 1 && floor && below / reach <= 1) grounded = 1;
  }
  clearContacts(r);
  if (grounded === 1) noteFloor(r, at);
  setGrounded(r, grounded, 1);
  return true;
}

/** The ground of a room is level and still, but may have surfaces. */
function noteFloor(r: Float64Array, at: number): void {
  if (r[at + ROOM_SURFACES] === 0) return;
  r[TOUCHES] |= UNEVEN;
  r[GROUND_SURFACES] = r[at + ROOM_SURFACES];
}

/** The same for a body that stands on the floor of its room and walks against a wall: the floor stops it first, then the wall. */
function lean({ dt, roomAt: at, body }: Plan, r: Float64Array, { hx, hy }: BodyShape): boolean {
  const dx = r[VX] * dt;
  const dy = r[VY] * dt;
  const right = dx > 0;
  if (r[at + ROOM_FLOOR] <= 0 || dy >= 0 || r[VZ] !== 0) return false;
  const bottom = r[at + ROOM_Y0];
  const top = r[at + (right ? ROOM_WALL_X1 : ROOM_WALL_X0)];
  // It may look over the wall, or step onto it.
  if (!(r[Y] + hy + hy <= top) || top - bottom <= body.step + TOUCH) return false;
  const down = r[Y] + hy - hy - bottom;
  const gap = right ? r[at + ROOM_X1] - r[X] - hx : r[X] - hx - r[at + ROOM_X0];
  const width = Math.abs(dx);
  const toFloor = down > 0 ? down / -dy : 0;
  const toWall = gap > 0 ? gap / width : 0;
  if (down < -TOUCH || gap < -TOUCH || toFloor > 1) return false;
  // Where both are met at once, ground goes before walls.
  const part = Math.min(toFloor, toWall);
  if ((toFloor - part) * Math.max(width, -dy) > TOUCH) return false;
  const x = r[X] + dx * part;
  const left = dx * (1 - part);
  const rest = right ? r[at + ROOM_X1] - x - hx : x - hx - r[at + ROOM_X0];
  const restPart = rest > 0 ? rest / Math.abs(left) : 0;
  if (rest < -TOUCH || !(restPart <= 1)) return false;
  r[X] = x + left * restPart;
  r[Y] = bottom;
  r[VX] = 0;
  r[VY] = 0;
  clearContacts(r);
  noteFloor(r, at);
  r[TOUCHES] |= WALL;
  r[WALL_X] = right ? -1 : 1;
  setGrounded(r, 1, 1);
  return true;
}
