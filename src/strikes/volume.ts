import type { VolumePlan } from '../record/combat.js';
import { FX, FZ, X, Y, Z } from '../record/slots.js';

/** Overlaps below this are touching: things that touch do not overlap. In the world's units. */
const TOUCH = 1e-6;

/**
 * A volume in the world: a box turned about the upright axis, or all that is within a radius of the line from a to b. A ray
 * is such a line whose b is where it ends. Whoever places one owns it; all numbers are of one kind, so that none is boxed.
 */
export class Volume {
  round = false;
  factor = Number.NaN;
  /** Middle of a box, or a. */
  x = Number.NaN;
  y = Number.NaN;
  z = Number.NaN;
  /** Half sizes of a box, and the level unit vector along which hx is. */
  hx = Number.NaN;
  hy = Number.NaN;
  hz = Number.NaN;
  fx = Number.NaN;
  fz = Number.NaN;
  /** b, and the radius. */
  bx = Number.NaN;
  by = Number.NaN;
  bz = Number.NaN;
  radius = Number.NaN;
  /** A box around it. */
  x0 = Number.NaN;
  y0 = Number.NaN;
  z0 = Number.NaN;
  x1 = Number.NaN;
  y1 = Number.NaN;
  z1 = Number.NaN;
}

/** Puts a volume where the body of a record has it, turned with its facing. */
export function placeVolume(v: Volume, plan: VolumePlan, r: Float64Array): void {
  const { at, half, to } = plan;
  const fx = r[FX];
  const fz = r[FZ];
  v.round = plan.kind !== 'box';
  v.factor = plan.factor;
  v.x = r[X] + at[0] * fx - at[2] * fz;
  v.y = r[Y] + at[1];
  v.z = r[Z] + at[0] * fz + at[2] * fx;
  v.fx = fx;
  v.fz = fz;
  v.hx = half[0];
  v.hy = half[1];
  v.hz = half[2];
  v.bx = r[X] + to[0] * fx - to[2] * fz;
  v.by = r[Y] + to[1];
  v.bz = r[Z] + to[0] * fz + to[2] * fx;
  v.radius = plan.radius;
  bound(v);
}

/** Puts a volume where a body of this size stands. */
export function placeBody(v: Volume, hx: number, hy: number, hz: number, r: Float64Array): void {
  v.round = false;
  v.factor = 1;
  v.x = r[X];
  v.y = r[Y] + hy;
  v.z = r[Z];
  v.hx = hx;
  v.hy = hy;
  v.hz = hz;
  v.fx = 1;
  v.fz = 0;
  v.radius = 0;
  bound(v);
}

/** Writes a volume as it was so far before where it is. */
export function placeBefore(v: Volume, from: Volume, way: Float64Array, part: number): void {
  v.round = from.round;
  v.factor = from.factor;
  v.x = from.x - way[0] * part;
  v.y = from.y - way[1] * part;
  v.z = from.z - way[2] * part;
  v.fx = from.fx;
  v.fz = from.fz;
  v.hx = from.hx;
  v.hy = from.hy;
  v.hz = from.hz;
  v.bx = from.bx - way[0] * part;
  v.by = from.by - way[1] * part;
  v.bz = from.bz - way[2] * part;
  v.radius = from.radius;
  bound(v);
}

/** The least of the lengths, widths and heights of the boxes around two volumes, together. */
function thickness(a: Volume, b: Volume): number {
  return Math.min(a.x1 - a.x0, a.y1 - a.y0, a.z1 - a.z0) + Math.min(b.x1 - b.x0, b.y1 - b.y0, b.z1 - b.z0);
}

/** In how many steps a volume that comes a way is looked at, so that it passes through nothing of this thickness. */
export function stepsOf(a: Volume, b: Volume, way: Float64Array): number {
  const length = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]);
  const step = thickness(a, b) / 2;
  return length <= step ? 1 : Math.min(MOST_STEPS, Math.ceil(length / step));
}

const MOST_STEPS = 16;

/** Finds the box around a volume that was changed. */
export function bound(v: Volume): void {
  if (v.round) {
    v.x0 = Math.min(v.x, v.bx) - v.radius;
    v.y0 = Math.min(v.y, v.by) - v.radius;
    v.z0 = Math.min(v.z, v.bz) - v.radius;
    v.x1 = Math.max(v.x, v.bx) + v.radius;
    v.y1 = Math.max(v.y, v.by) + v.radius;
    v.z1 = Math.max(v.z, v.bz) + v.radius;
    return;
  }
  const ax = Math.abs(v.fx);
  const az = Math.abs(v.fz);
  const wide = v.hx * ax + v.hz * az;
  const deep = v.hx * az + v.hz * ax;
  v.x0 = v.x - wide;
  v.y0 = v.y - v.hy;
  v.z0 = v.z - deep;
  v.x1 = v.x + wide;
  v.y1 = v.y + v.hy;
  v.z1 = v.z + deep;
}

/** Whether the boxes around two volumes overlap. */
export function areNear(a: Volume, b: Volume): boolean {
  return (
    a.x1 - b.x0 > TOUCH &&
    b.x1 - a.x0 > TOUCH &&
    a.y1 - b.y0 > TOUCH &&
    b.y1 - a.y0 > TOUCH &&
    a.z1 - b.z0 > TOUCH &&
    b.z1 - a.z0 > TOUCH
  );
}

/** Whether two volumes overlap. */
export function overlap(a: Volume, b: Volume): boolean {
  // A line without a radius has no inside: the boxes around it may be flat.
  if (a.round && b.round) return lineToLine(a, b) < square(a.radius + b.radius);
  if (a.round) return lineToBox(a, b) < square(a.radius) || (a.radius === 0 && lineToBox(a, b) === 0);
  if (b.round) return lineToBox(b, a) < square(b.radius) || (b.radius === 0 && lineToBox(b, a) === 0);
  if (!areNear(a, b)) return false;
  // Boxes along the axes of the world are what is around them.
  if (isStraight(a) && isStraight(b)) return true;
  return (
    !isApart(a, b, a.fx, a.fz) &&
    !isApart(a, b, -a.fz, a.fx) &&
    !isApart(a, b, b.fx, b.fz) &&
    !isApart(a, b, -b.fz, b.fx)
  );
}

function square(n: number): number {
  return n * n;
}

function isStraight({ fx, fz }: Volume): boolean {
  return fz === 0 || fx === 0;
}

/** Whether two boxes lie apart along a level axis. */
function isApart(a: Volume, b: Volume, x: number, z: number): boolean {
  const away = Math.abs((b.x - a.x) * x + (b.z - a.z) * z);
  return away >= reachAlong(a, x, z) + reachAlong(b, x, z) - TOUCH;
}

function reachAlong({ hx, hz, fx, fz }: Volume, x: number, z: number): number {
  return hx * Math.abs(fx * x + fz * z) + hz * Math.abs(fx * z - fz * x);
}

/** How often the place on a line that is nearest to a box is halved towards: to a millionth of its length. */
const HALVINGS = 20;

/** The line of a round volume as a box sees it: its beginning and its way. */
const LINE = new Float64Array(6);

function seeLine(line: Volume, box: Volume): void {
  const { fx, fz } = box;
  const x = line.x - box.x;
  const z = line.z - box.z;
  const dx = line.bx - line.x;
  const dz = line.bz - line.z;
  LINE[0] = x * fx + z * fz;
  LINE[1] = line.y - box.y;
  LINE[2] = z * fx - x * fz;
  LINE[3] = dx * fx + dz * fz;
  LINE[4] = line.by - line.y;
  LINE[5] = dz * fx - dx * fz;
}

/** How far beyond a half size a place is, with its sign; 0 within. */
function beyond(place: number, half: number): number {
  return place > half ? place - half : place < -half ? place + half : 0;
}

/** The square of the distance from a line to a box. It falls and then rises along the line, so halving finds its least. */
function lineToBox(line: Volume, box: Volume): number {
  seeLine(line, box);
  let low = 0;
  let high = 1;
  if (slope(0, box) >= 0) high = 0;
  else if (slope(1, box) <= 0) low = 1;
  else
    for (let i = 0; i < HALVINGS; i++) {
      const middle = (low + high) / 2;
      if (slope(middle, box) > 0) high = middle;
      else low = middle;
    }
  return Math.min(awayAt(low, box), awayAt(high, box));
}

function slope(t: number, { hx, hy, hz }: Volume): number {
  return (
    LINE[3] * beyond(LINE[0] + LINE[3] * t, hx) +
    LINE[4] * beyond(LINE[1] + LINE[4] * t, hy) +
    LINE[5] * beyond(LINE[2] + LINE[5] * t, hz)
  );
}

function awayAt(t: number, { hx, hy, hz }: Volume): number {
  const x = beyond(LINE[0] + LINE[3] * t, hx);
  const y = beyond(LINE[1] + LINE[4] * t, hy);
  const z = beyond(LINE[2] + LINE[5] * t, hz);
  return x * x + y * y + z * z;
}

/** The square of the distance between two lines of a length (C. Ericson, Real-Time Collision Detection, 5.1.9). */
function lineToLine(a: Volume, b: Volume): number {
  const ux = a.bx - a.x;
  const uy = a.by - a.y;
  const uz = a.bz - a.z;
  const vx = b.bx - b.x;
  const vy = b.by - b.y;
  const vz = b.bz - b.z;
  const wx = a.x - b.x;
  const wy = a.y - b.y;
  const wz = a.z - b.z;
  const uu = ux * ux + uy * uy + uz * uz;
  const vv = vx * vx + vy * vy + vz * vz;
  const uv = ux * vx + uy * vy + uz * vz;
  const uw = ux * wx + uy * wy + uz * wz;
  const vw = vx * wx + vy * wy + vz * wz;
  const across = uu * vv - uv * uv;
  let s = uu > 0 && across > 0 ? clamp((uv * vw - uw * vv) / across) : 0;
  let t = vv > 0 ? (uv * s + vw) / vv : 0;
  if (t < 0 || t > 1 || vv === 0) {
    t = clamp(t);
    s = uu > 0 ? clamp((uv * t - uw) / uu) : 0;
  }
  return square(wx + ux * s - vx * t) + square(wy + uy * s - vy * t) + square(wz + uz * s - vz * t);
}

function clamp(n: number): number {
  return Math.max(0, Math.min(1, n));
}

/**
 * Where along a ray its first place within a volume is, 0 to 1; above 1 for nowhere. The distance to a volume falls and then
 * rises along a ray, so the way up to its nearest place is halved.
 */
export function enter(ray: Volume, into: Volume): number {
  if (!overlap(ray, into)) return 2;
  const { bx, by, bz } = ray;
  let low = 0;
  let high = 1;
  for (let i = 0; i < ENTRIES; i++) {
    const middle = (low + high) / 2;
    ray.bx = ray.x + (bx - ray.x) * middle;
    ray.by = ray.y + (by - ray.y) * middle;
    ray.bz = ray.z + (bz - ray.z) * middle;
    if (overlap(ray, into)) high = middle;
    else low = middle;
  }
  ray.bx = bx;
  ray.by = by;
  ray.bz = bz;
  return high;
}

/** How often that way is halved. */
const ENTRIES = 24;
