import type { Plan } from '../compile/plan.js';
import { checkHit } from '../probes/ask-world.js';
import type { Frame, Warping } from '../record/frame.js';
import { FX, FZ, SHAPE, VX, VY, VZ, X, Y, Z } from '../record/slots.js';
import type { AnswerProbe, World } from '../world/world.js';

/** What a warp finds: a place, no point or direction, or no room. */
export const FOUND = 0;
export const NO_TARGET = 1;
export const NO_ROOM = 2;

/** Who asks: a character. */
export interface Warper extends Frame {
  readonly plan: Plan;
  readonly answer: AnswerProbe | null;
  readonly world: World | null;
}

/** How often a way is halved to find where it ends, to a ten-millionth. */
const HALVINGS = 24;
/** How many places are tried along a body's length. */
const FINENESS = 12;
/** Stretches of a way in which the body has room, each from and to: more walls than that are not looked behind. */
const STRETCHES = 16;
/** A way shorter than this part of the body leads nowhere. */
const NOWHERE = 1e-3;

const DIRECTION = new Float64Array(3);
const AT = new Float64Array(3);
const FEET = new Float64Array(3);
const FREE = new Float64Array(STRETCHES * 2);
/** What a step of the search found: numbers that are returned may be boxed. */
const FOUND_AT = new Float64Array(1);
/** What a step of the search is given, since numbers that are passed may be boxed, too: a place on the way; from, to, and by which step. */
const ON = new Float64Array(1);
const SPAN = new Float64Array(3);
/** Sides of the body and of the world, low and high along each axis. */
const SIDES = new Float64Array(6);
const ENDS = new Float64Array(6);

/** Finds where a warp puts the feet now, without doing anything: writes x, y, z to `out` if it answers FOUND. */
export function findWarp(c: Warper, warp: Warping, out: Float64Array): number {
  return warp.to === null ? findAlong(c, warp, out) : findPoint(c, warp, out);
}

/** The velocity after a warp to `out`: kept, dropped, or turned to where it went. */
export function turnMomentum({ r }: Frame, warp: Warping, out: Float64Array): void {
  if (warp.momentum === 'keep') return;
  const pace = warp.momentum === 'drop' ? 0 : Math.sqrt(r[VX] * r[VX] + r[VY] * r[VY] + r[VZ] * r[VZ]);
  let x = r[FX];
  let y = 0;
  let z = r[FZ];
  if (warp.along !== null) {
    x = out[0] - r[X];
    y = out[1] - r[Y];
    z = out[2] - r[Z];
  }
  const length = Math.sqrt(x * x + y * y + z * z);
  const scale = length > 0 ? pace / length : 0;
  r[VX] = x * scale;
  r[VY] = y * scale;
  r[VZ] = z * scale;
}

function findPoint(c: Warper, warp: Warping, out: Float64Array): number {
  const { r } = c;
  if (warp.to?.(c, AT) !== true) return NO_TARGET;
  const [ahead, up, aside] = warp.offset;
  const x = AT[0];
  const y = AT[1];
  const z = AT[2];
  ahead.run?.(c);
  const forward = usable(r[ahead.at]);
  aside.run?.(c);
  const side = usable(r[aside.at]);
  up.run?.(c);
  out[0] = x + forward * r[FX] - side * r[FZ];
  out[1] = y + usable(r[up.at]);
  out[2] = z + forward * r[FZ] + side * r[FX];
  if (fitsAt(c, out, 0)) return FOUND;
  // Raised until there is room, and then let down onto what was in its way.
  const step = c.plan.shapes[r[SHAPE]].height / FINENESS;
  for (let raised = step; raised < warp.raise + step; raised += step) {
    const most = Math.min(raised, warp.raise);
    if (!fitsAt(c, out, most)) continue;
    let inside = raised - step;
    let free = most;
    for (let i = 0; i < HALVINGS; i++) {
      const middle = (inside + free) / 2;
      if (fitsAt(c, out, middle)) free = middle;
      else inside = middle;
    }
    out[1] += free;
    return FOUND;
  }
  return NO_ROOM;
}

function findAlong(c: Warper, warp: Warping, out: Float64Array): number {
  const { r, plan } = c;
  if (warp.along?.(c, DIRECTION) !== true) return NO_TARGET;
  const dx = DIRECTION[0];
  const dy = DIRECTION[1];
  const dz = DIRECTION[2];
  warp.through.run?.(c);
  const through = usable(r[warp.through.at]);
  warp.by.run?.(c);
  const { hx, hy, hz, height } = plan.shapes[r[SHAPE]];
  measureRoom(c);
  const length = Math.min(usable(r[warp.by.at]), FOUND_AT[0]);
  const extent = 2 * (hx * Math.abs(dx) + hy * Math.abs(dy) + hz * Math.abs(dz));
  const step = Math.max(extent / FINENESS, length / 512);
  const least = NOWHERE * height;
  // Where the body has room, stretch by stretch: up to a wall, and from behind it on if it is thin enough.
  let count = 0;
  let from = 0;
  for (; count < STRETCHES; count++) {
    ON[0] = from;
    SPAN[1] = length - from;
    sweepOn(c);
    const to = from + FOUND_AT[0];
    FREE[count * 2] = from;
    FREE[count * 2 + 1] = to;
    if (to >= length || through === 0) FOUND_AT[0] = -1;
    else {
      SPAN[0] = to;
      SPAN[1] = Math.min(length, to + through + extent);
      SPAN[2] = step;
      findBehind(c);
    }
    const behind = FOUND_AT[0];
    if (behind < 0 || behind - to - extent > through + least) {
      count++;
      break;
    }
    from = behind;
  }
  for (let i = count - 1; i >= 0; i--) {
    SPAN[0] = FREE[i * 2];
    SPAN[1] = FREE[i * 2 + 1];
    SPAN[2] = step;
    findFarthest(c, warp);
    const end = FOUND_AT[0];
    if (end < least) continue;
    out[0] = r[X] + dx * end;
    out[1] = r[Y] + dy * end;
    out[2] = r[Z] + dz * end;
    return FOUND;
  }
  return NO_ROOM;
}

/** Finds the farthest place of a span that has ground below, if that is asked for; -1 for none. */
function findFarthest(c: Warper, warp: Warping): void {
  const from = SPAN[0];
  const to = SPAN[1];
  const step = SPAN[2];
  FOUND_AT[0] = to;
  ON[0] = to;
  if (warp.floor < 0 || hasFloor(c, warp)) return;
  for (let at = to - step; at > from - step; at -= step) {
    let found = Math.max(from, at);
    ON[0] = found;
    if (!hasFloor(c, warp)) continue;
    let beyond = Math.min(to, at + step);
    for (let i = 0; i < HALVINGS; i++) {
      ON[0] = (found + beyond) / 2;
      if (hasFloor(c, warp)) found = ON[0];
      else beyond = ON[0];
    }
    FOUND_AT[0] = found;
    return;
  }
  FOUND_AT[0] = -1;
}

/** Finds the nearest place of a span, behind its beginning, at which the body has room; -1 for none. */
function findBehind(c: Warper): void {
  const to = SPAN[1];
  const step = SPAN[2];
  for (let at = SPAN[0] + step; at < to + step; at += step) {
    let free = Math.min(at, to);
    ON[0] = free;
    if (!fitsOn(c)) continue;
    let inside = at - step;
    for (let i = 0; i < HALVINGS; i++) {
      ON[0] = (inside + free) / 2;
      if (fitsOn(c)) free = ON[0];
      else inside = ON[0];
    }
    FOUND_AT[0] = free;
    return;
  }
  FOUND_AT[0] = -1;
}

/** Finds how far the body can go along the direction before it leaves the bounds of the world. */
function measureRoom({ r, plan, world }: Warper): void {
  FOUND_AT[0] = Number.POSITIVE_INFINITY;
  const bounds = world?.bounds;
  if (bounds === undefined) return;
  const { hx, hz, height } = plan.shapes[r[SHAPE]];
  SIDES[0] = r[X] - hx;
  SIDES[1] = r[X] + hx;
  SIDES[2] = r[Y];
  SIDES[3] = r[Y] + height;
  SIDES[4] = r[Z] - hz;
  SIDES[5] = r[Z] + hz;
  ENDS[0] = bounds.x0;
  ENDS[1] = bounds.x1;
  ENDS[2] = bounds.y0;
  ENDS[3] = bounds.y1;
  ENDS[4] = bounds.z0;
  ENDS[5] = bounds.z1;
  for (let axis = 0; axis < 3; axis++) {
    const way = DIRECTION[axis];
    const low = SIDES[axis * 2];
    const high = SIDES[axis * 2 + 1];
    const least = ENDS[axis * 2];
    const most = ENDS[axis * 2 + 1];
    let length = Number.POSITIVE_INFINITY;
    if (way > 0) length = (most - high) / way;
    else if (way < 0) length = (least - low) / way;
    else if (low < least - 1e-6 || high > most + 1e-6) length = 0;
    FOUND_AT[0] = Math.max(0, Math.min(FOUND_AT[0], length));
  }
}

/** Finds how much of the length of a span the body gets along the direction, from the place on the way. */
function sweepOn(c: Warper): void {
  const { cast, hit } = c;
  const length = SPAN[1];
  FOUND_AT[0] = Math.max(0, length);
  if (length <= 0) return;
  placeOn(c);
  cast.kind = 'sweep';
  cast.dx = DIRECTION[0] * length;
  cast.dy = DIRECTION[1] * length;
  cast.dz = DIRECTION[2] * length;
  hit.clear();
  if (c.answer?.(cast, hit) !== true) return;
  checkHit('The answer to a warp', hit);
  FOUND_AT[0] = length * hit.part;
}

function hasFloor(c: Warper, { floor }: Warping): boolean {
  const { cast, hit, plan } = c;
  placeOn(c);
  cast.kind = 'sweep';
  cast.dx = 0;
  // What stands on the floor must find it, too.
  cast.dy = -Math.max(floor, plan.body.reach);
  cast.dz = 0;
  hit.clear();
  return c.answer?.(cast, hit) === true && hit.ny > plan.body.steepest;
}

/** Whether the body has room at the place on its way. */
function fitsOn(c: Warper): boolean {
  placeOn(c);
  return fits(c);
}

/** Whether it has room with its feet so far above a point. */
function fitsAt(c: Warper, point: Float64Array, above: number): boolean {
  FEET[0] = point[0];
  FEET[1] = point[1] + above;
  FEET[2] = point[2];
  placeFeet(c);
  return fits(c);
}

/** Whether the cast's box has room, within the bounds of the world. */
function fits({ cast, hit, world, answer }: Warper): boolean {
  const { x, y, z, hx, hy, hz } = cast;
  const b = world?.bounds;
  if (
    b !== undefined &&
    (x - hx < b.x0 - 1e-6 ||
      x + hx > b.x1 + 1e-6 ||
      y - hy < b.y0 - 1e-6 ||
      y + hy > b.y1 + 1e-6 ||
      z - hz < b.z0 - 1e-6 ||
      z + hz > b.z1 + 1e-6)
  )
    return false;
  cast.kind = 'overlap';
  cast.dx = 0;
  cast.dy = 0;
  cast.dz = 0;
  return answer?.(cast, hit) !== true;
}

function placeOn(c: Warper): void {
  const { r } = c;
  FEET[0] = r[X] + DIRECTION[0] * ON[0];
  FEET[1] = r[Y] + DIRECTION[1] * ON[0];
  FEET[2] = r[Z] + DIRECTION[2] * ON[0];
  placeFeet(c);
}

/** Puts the cast's box where the body would be with its feet there. */
function placeFeet({ r, cast, plan }: Warper): void {
  const { hx, hy, hz } = plan.shapes[r[SHAPE]];
  cast.surfaces = null;
  cast.passes = null;
  cast.x = FEET[0];
  cast.y = FEET[1] + hy;
  cast.z = FEET[2];
  cast.hx = hx;
  cast.hy = hy;
  cast.hz = hz;
}

/** A function that gives no number is 0. */
function usable(value: number): number {
  return Number.isNaN(value) ? 0 : value;
}
