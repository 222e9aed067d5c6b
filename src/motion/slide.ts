import type { Plan, ShapePlan } from '../compile/plan.js';
import {
  CEILING,
  GRAVITY,
  GROUND_CHANGED,
  GROUNDED,
  HEADROOM,
  HELD,
  LANDED,
  MOVING,
  RESTING,
  RISING,
  SHAPE,
  STALE,
  T,
  VX,
  VY,
  VZ,
  WALL_X,
  WALL_Z,
  WANT_SHAPE,
  WANT_X,
  WANT_Z,
  X,
  Y,
  Z,
} from '../moveset/slots.js';
import { TOUCH } from '../world/solid.js';
import { Cast, Hit, Room, type World } from '../world/world.js';
import { driveBody } from './velocity.js';

/** Steepest ground: the least upward part of its normal, a slope of about 45 degrees. */
const GROUND_NORMAL = 0.7;
/** How far below the feet ground still carries a body that stood on it and does not fall. */
const REACH = 0.02;
const SLIDES = 4;

/** Whether a body that stood still goes on standing still: nothing moves it, nothing touches it but the ground. */
function isAtRest(r: Float64Array): boolean {
  return (
    r[VX] === 0 &&
    r[VY] === 0 &&
    r[VZ] === 0 &&
    r[GROUNDED] === 1 &&
    r[WANT_X] === 0 &&
    r[WANT_Z] === 0 &&
    r[HELD] === 0 &&
    r[WALL_X] === 0 &&
    r[WALL_Z] === 0 &&
    r[CEILING] === 0 &&
    r[GRAVITY] >= 0 &&
    r[WANT_SHAPE] === r[SHAPE]
  );
}

/** A world, with what one body asks it by. */
export class Mover {
  readonly cast = new Cast();
  readonly hit = new Hit();
  /** The room it was last known to be in. Nothing depends on it but how fast the answers come. */
  readonly room = new Room();
  /** Whether the body is surely still in that room, in this shape, and wants no other one. */
  inside = false;
  shape: ShapePlan;
  readonly still: boolean;

  constructor(
    readonly world: World,
    plan: Plan,
  ) {
    this.still = world.still === true;
    this.shape = plan.shapes[0];
  }
}

/**
 * Drives the body, moves it through the world and notes what it touches.
 * Says whether it came down on the ground or left it.
 */
export function moveBody(plan: Plan, r: Float64Array, mover: Mover): boolean {
  const grounded = r[GROUNDED];
  driveBody(plan, r, true);
  if (!mover.inside) lookAround(plan, r, mover);
  if (!mover.inside || !glide(plan, r, mover)) {
    mover.inside = false;
    slide(plan, r, mover);
    noteMotion(r);
  }
  if (r[SHAPE] !== 0) noteHeadroom(plan, r, mover);
  if (mover.still && isAtRest(r)) r[RESTING] = 1;
  return r[GROUNDED] !== grounded;
}

/** Takes the wanted shape if it has room, and finds out whether the body is in a room that is known. */
function lookAround(plan: Plan, r: Float64Array, mover: Mover): void {
  if (r[WANT_SHAPE] !== r[SHAPE]) changeShape(plan, r, mover);
  const shape = plan.shapes[r[SHAPE]];
  mover.shape = shape;
  mover.inside = r[WANT_SHAPE] === r[SHAPE] && (isIn(mover.room, shape, r) || findRoom(mover, shape, r));
}

/**
 * Moves a body that stays within its room, or comes down on its floor: the same, number for number, as `slide`
 * would have it. Where that is not sure, it says false and has done nothing.
 */
function glide({ dt }: Plan, r: Float64Array, { shape, room }: Mover): boolean {
  const { hx, hy, hz } = shape;
  const vx = r[VX];
  const vy = r[VY];
  const vz = r[VZ];
  const dx = vx * dt;
  const dy = vy * dt;
  const dz = vz * dt;
  const x = r[X];
  const y = r[Y];
  const z = r[Z];
  if (dx > 0 ? x + hx + dx > room.x1 - TOUCH : dx < 0 && x - hx + dx < room.x0 + TOUCH) return false;
  if (dz > 0 ? z + hz + dz > room.z1 - TOUCH : dz < 0 && z - hz + dz < room.z0 + TOUCH) return false;
  const gap = y + hy - hy - room.y0;
  if (gap < -TOUCH || (dy > 0 && y + hy + hy + dy > room.y1 - TOUCH)) return false;
  if (!room.floor && dy <= 0 && gap + dy < TOUCH + REACH) return false;

  const part = dy < 0 && room.floor ? (gap > 0 ? gap / -dy : 0) : 2;
  let grounded = 0;
  if (part <= 1) {
    // What is left of the way after coming down leads along the floor.
    const left = 1 - part;
    r[X] = x + dx * part + dx * left;
    r[Y] = room.y0;
    r[Z] = z + dz * part + dz * left;
    r[VY] = 0;
    grounded = 1;
  } else {
    r[X] = x + dx;
    r[Y] = y + dy;
    r[Z] = z + dz;
    if (dy <= 0 && r[GROUNDED] === 1 && room.floor && (r[Y] + hy - hy - room.y0) / REACH <= 1) grounded = 1;
  }
  if (r[WALL_X] !== 0 || r[WALL_Z] !== 0 || r[CEILING] !== 0) noteContacts(r, 0, 0, 0);
  if (grounded !== r[GROUNDED]) setGrounded(r, grounded, 1);
  noteMoving(r, vx * vx + vz * vz > STANDING * STANDING ? 1 : 0, vy > 0 ? 1 : 0);
  return true;
}

function isIn(room: Room, { hx, hy, hz }: ShapePlan, r: Float64Array): boolean {
  return (
    r[X] - hx >= room.x0 - TOUCH &&
    r[X] + hx <= room.x1 + TOUCH &&
    r[Y] >= room.y0 - TOUCH &&
    r[Y] + hy + hy <= room.y1 + TOUCH &&
    r[Z] - hz >= room.z0 - TOUCH &&
    r[Z] + hz <= room.z1 + TOUCH
  );
}

/** Asks the world for the room that the body is in. */
function findRoom({ world, cast, room, still }: Mover, shape: ShapePlan, r: Float64Array): boolean {
  if (!still || world.roomAround === undefined) return false;
  placeCast(cast, shape, r);
  if (world.roomAround(cast, room)) return isIn(room, shape, r);
  room.x0 = Number.NaN;
  return false;
}

function slide(plan: Plan, r: Float64Array, { world, cast, hit, shape }: Mover): void {
  const { dt } = plan;
  let dx = r[VX] * dt;
  let dy = r[VY] * dt;
  let dz = r[VZ] * dt;
  let wallX = 0;
  let wallZ = 0;
  let ceiling = 0;
  let grounded = 0;
  for (let i = 0; i < SLIDES; i++) {
    if (dx === 0 && dy === 0 && dz === 0) break;
    placeCast(cast, shape, r);
    cast.dx = dx;
    cast.dy = dy;
    cast.dz = dz;
    const stopped = world.sweep(cast, hit);
    const part = stopped ? hit.part : 1;
    r[X] += dx * part;
    r[Y] += dy * part;
    r[Z] += dz * part;
    if (!stopped) break;
    const { nx, ny, nz } = hit;
    if (ny === 1 && !Number.isNaN(hit.height)) r[Y] = hit.height;
    if (ny > GROUND_NORMAL) grounded = 1;
    else if (ny < -GROUND_NORMAL) ceiling = 1;
    else {
      wallX = nx;
      wallZ = nz;
    }
    const into = dx * nx + dy * ny + dz * nz;
    const left = 1 - part;
    dx = (dx - nx * into) * left;
    dy = (dy - ny * into) * left;
    dz = (dz - nz * into) * left;
    const against = r[VX] * nx + r[VY] * ny + r[VZ] * nz;
    if (against < 0) {
      r[VX] -= nx * against;
      r[VY] -= ny * against;
      r[VZ] -= nz * against;
    }
  }
  if (grounded === 0 && r[GROUNDED] === 1 && r[VY] <= 0) {
    placeCast(cast, shape, r);
    cast.dx = 0;
    cast.dy = -REACH;
    cast.dz = 0;
    if (world.sweep(cast, hit) && hit.ny > GROUND_NORMAL) grounded = 1;
  }
  if (wallX !== r[WALL_X] || wallZ !== r[WALL_Z] || ceiling !== r[CEILING]) noteContacts(r, wallX, wallZ, ceiling);
  if (grounded !== r[GROUNDED]) setGrounded(r, grounded, 1);
}

function noteContacts(r: Float64Array, wallX: number, wallZ: number, ceiling: number): void {
  r[WALL_X] = wallX;
  r[WALL_Z] = wallZ;
  r[CEILING] = ceiling;
  r[STALE] = 1;
}

/** Pace below which a body counts as standing. */
const STANDING = 0.05;

/** Notes the facts of motion that stances depend on. */
export function noteMotion(r: Float64Array): void {
  noteMoving(r, r[VX] * r[VX] + r[VZ] * r[VZ] > STANDING * STANDING ? 1 : 0, r[VY] > 0 ? 1 : 0);
}

function noteMoving(r: Float64Array, moving: number, rising: number): void {
  if (moving === r[MOVING] && rising === r[RISING]) return;
  r[MOVING] = moving;
  r[RISING] = rising;
  r[STALE] = 1;
}

function noteHeadroom(plan: Plan, r: Float64Array, mover: Mover): void {
  const headroom = r[SHAPE] === 0 || hasRoom(plan.shapes[0], r, mover) ? 1 : 0;
  if (headroom === r[HEADROOM]) return;
  r[HEADROOM] = headroom;
  r[STALE] = 1;
}

/** Notes whether there is ground below, and when that changed: it is seen in this tick (0) or the next (1). */
export function setGrounded(r: Float64Array, grounded: number, later: 0 | 1): void {
  r[GROUNDED] = grounded;
  r[STALE] = 1;
  r[GROUND_CHANGED] = r[T] + later;
  if (grounded === 1) r[LANDED] = r[T] + later;
}

/** Whether a shape has room where the body is. */
function hasRoom(shape: ShapePlan, r: Float64Array, { world, cast, room }: Mover): boolean {
  if (isIn(room, shape, r)) return true;
  placeCast(cast, shape, r);
  return !world.overlap(cast);
}

/** Stands a newborn or moved body on the ground below it, if there is some within reach. */
export function settleBody(plan: Plan, r: Float64Array, { world, cast, hit }: Mover): void {
  placeCast(cast, plan.shapes[r[SHAPE]], r);
  cast.dx = 0;
  cast.dy = -REACH;
  cast.dz = 0;
  r[GROUNDED] = world.sweep(cast, hit) && hit.ny > GROUND_NORMAL ? 1 : 0;
}

function changeShape(plan: Plan, r: Float64Array, mover: Mover): void {
  const now = plan.shapes[r[SHAPE]];
  const wanted = plan.shapes[r[WANT_SHAPE]];
  const smaller = wanted.width <= now.width && wanted.height <= now.height && wanted.depth <= now.depth;
  if (!smaller && !hasRoom(wanted, r, mover)) return;
  r[SHAPE] = r[WANT_SHAPE];
  if (r[SHAPE] === 0) noteHeadroom(plan, r, mover);
}

function placeCast(cast: Cast, shape: ShapePlan, r: Float64Array): void {
  cast.x = r[X];
  cast.y = r[Y] + shape.hy;
  cast.z = r[Z];
  cast.hx = shape.hx;
  cast.hy = shape.hy;
  cast.hz = shape.hz;
}
