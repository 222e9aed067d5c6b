import { cosine } from './cosine.js';
import { type Axis, DEEP, makeSolid, type Solid } from './solid.js';

/** What a block of any kind may say. */
interface Block {
  /** By which `put` finds it. */
  name?: string;
  /** Words that probes can ask for, and bodies pass through. */
  tags?: readonly string[];
  /** Nothing solid: only probes that ask for its tags find it. Default false. */
  area?: boolean;
  /** How it moves. */
  path?: Path;
}

/** A way through several places in the order of their times, at even pace from each to the next. */
export interface Path {
  points: readonly PathPoint[];
  /** What comes after the last: it stays (default), begins again, or goes back the same way. */
  after?: 'stay' | 'again' | 'back';
  /** The axis about which it turns, through its middle: `z`, as seen from the side (default), or the upright one. */
  about?: 'z' | 'y';
}

/** A place on a way, and when it is reached. */
export interface PathPoint {
  /** In seconds. */
  readonly at: number;
  /** Where it is then, from where it is declared. */
  readonly to: readonly [x: number, y: number, z?: number];
  /** How far it is turned by then, in degrees, from x to y, or about the upright axis from z to x. Default 0. Only boxes by `at` and `size` turn. */
  readonly turn?: number;
}

/** A solid box by two corners, in any order. */
export interface Box extends Block {
  from: readonly [x: number, y: number, z?: number];
  to: readonly [x: number, y: number, z?: number];
  /** Stops only what comes down on it. Default false. */
  oneWay?: boolean;
}

/** A solid box by its middle, about which it may be turned. */
export interface TurnedBox extends Block {
  at: readonly [x: number, y: number, z?: number];
  /** Whole lengths of its sides. Without a depth, it is as deep as anything. */
  size: readonly [x: number, y: number, z?: number];
  /** A unit quaternion, x, y, z, w. Default: not turned. */
  turn?: readonly [x: number, y: number, z: number, w: number];
  /** Stops only what comes down on a side that looks up. Default false. */
  oneWay?: boolean;
}

/** All that is within a radius of the line between two points; of one point twice, a ball. */
export interface Capsule extends Block {
  from: readonly [x: number, y: number, z?: number];
  to: readonly [x: number, y: number, z?: number];
  radius: number;
}

/** What a world of blocks is made of. */
export type AnyBlock = Box | TurnedBox | Capsule;

export function solidOf(block: AnyBlock): Solid {
  if ('radius' in block) return solidOfCapsule(block);
  if ('at' in block) return solidOfTurned(block);
  const { from, to } = block;
  return makeSolid(
    [
      Math.min(from[0], to[0]),
      Math.min(from[1], to[1]),
      Math.min(from[2] ?? -DEEP, to[2] ?? DEEP),
      Math.max(from[0], to[0]),
      Math.max(from[1], to[1]),
      Math.max(from[2] ?? -DEEP, to[2] ?? DEEP),
    ],
    block,
  );
}

function solidOfCapsule(block: Capsule): Solid {
  const { from, to, radius } = block;
  const a: Triple = [from[0], from[1], from[2] ?? 0];
  const b: Triple = [to[0], to[1], to[2] ?? 0];
  const low = (k: number) => Math.min(a[k], b[k]) - radius;
  const high = (k: number) => Math.max(a[k], b[k]) + radius;
  const round = { ax: a[0], ay: a[1], az: a[2], bx: b[0], by: b[1], bz: b[2], radius };
  return makeSolid([low(0), low(1), low(2), high(0), high(1), high(2)], { ...block, round });
}

type Triple = readonly [number, number, number];

/** Separating axes of a turned box and one that is not: its own sides, and what stands on one side of each. */
function solidOfTurned(block: TurnedBox): Solid {
  const [width, height, depth = 2 * DEEP] = block.size;
  const at: Triple = [block.at[0], block.at[1], block.at[2] ?? 0];
  const size: Triple = [width, height, depth];
  const [x, y, z, w] = block.turn ?? [0, 0, 0, 1];
  const sides: readonly Triple[] = [
    [1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w)],
    [2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)],
    [2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y)],
  ];
  const reach = (n: Triple) => sides.reduce((sum, side, k) => sum + (Math.abs(dot(n, side)) * size[k]) / 2, 0);
  const units: readonly Triple[] = [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ];
  const across = sides.flatMap((side) => units.map((unit) => cross(side, unit)));
  const axes: Axis[] = [];
  for (const axis of [...sides, ...across]) {
    const length = Math.sqrt(dot(axis, axis));
    if (length < 1e-6) continue;
    const n: Triple = [axis[0] / length, axis[1] / length, axis[2] / length];
    const known = [...units, ...axes.map((a): Triple => [a.x, a.y, a.z])];
    if (known.some((other) => Math.abs(dot(n, other)) > 1 - 1e-9)) continue;
    const middle = dot(n, at);
    axes.push({ x: n[0], y: n[1], z: n[2], low: middle - reach(n), high: middle + reach(n) });
  }
  const [rx, ry, rz] = units.map(reach);
  return makeSolid([at[0] - rx, at[1] - ry, at[2] - rz, at[0] + rx, at[1] + ry, at[2] + rz], {
    ...block,
    axes: axes.length > 0 ? axes : null,
  });
}

function dot(a: Triple, b: Triple): number {
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
}

function cross(a: Triple, b: Triple): Triple {
  return [a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]];
}

/** Puts a solid at an offset from where another one like it is. */
function placeSolid(s: Solid, base: Solid, x: number, y: number, z: number): void {
  s.x0 = base.x0 + x;
  s.x1 = base.x1 + x;
  s.y0 = base.y0 + y;
  s.y1 = base.y1 + y;
  s.z0 = base.z0 + z;
  s.z1 = base.z1 + z;
  if (s.axes !== null && base.axes !== null)
    for (let i = 0; i < s.axes.length; i++) {
      const axis = s.axes[i];
      const along = axis.x * x + axis.y * y + axis.z * z;
      axis.low = base.axes[i].low + along;
      axis.high = base.axes[i].high + along;
    }
  if (s.round === null || base.round === null) return;
  s.round.ax = base.round.ax + x;
  s.round.ay = base.round.ay + y;
  s.round.az = base.round.az + z;
  s.round.bx = base.round.bx + x;
  s.round.by = base.round.by + y;
  s.round.bz = base.round.bz + z;
}

/** Whether a block turns on its way. */
export function turns(block: AnyBlock): block is TurnedBox & { readonly path: Path } {
  return 'size' in block && (block.path?.points.some(({ turn = 0 }) => turn !== 0) ?? false);
}

/** A box that turns about an axis through its middle: two axes of its own, which are turned in place. */
function solidOfTurning(block: TurnedBox & { readonly path: Path }): Solid {
  const axis = (): Axis => ({ x: 0, y: 0, z: 0, low: 0, high: 0 });
  const solid = makeSolid([0, 0, 0, 0, 0, 0], { ...block, axes: [axis(), axis()] });
  solid.upright = block.path.about === 'y';
  return solid;
}

function cosineOf(degrees: number): number {
  const angle = Math.abs(degrees) % 360;
  return cosine(angle > 180 ? 360 - angle : angle);
}

function sine(degrees: number): number {
  return cosineOf(degrees - 90);
}

/** Puts such a box at an offset from where it was declared, turned by an angle in degrees. */
function placeTurning(s: Solid, { at, size }: TurnedBox, offset: Float64Array, degrees: number): void {
  const c = cosineOf(degrees);
  const d = sine(degrees);
  const [width, height, depth = 2 * DEEP] = size;
  const x = at[0] + offset[0];
  const y = at[1] + offset[1];
  const z = (at[2] ?? 0) + offset[2];
  const { upright } = s;
  const [first, second] = s.axes as readonly Axis[];
  first.x = c;
  first.y = upright ? 0 : d;
  first.z = upright ? -d : 0;
  second.x = upright ? d : -d;
  second.y = upright ? 0 : c;
  second.z = upright ? c : 0;
  const [long, wide, high] = upright ? [width / 2, depth / 2, height / 2] : [width / 2, height / 2, depth / 2];
  const along = first.x * x + first.y * y + first.z * z;
  const across = second.x * x + second.y * y + second.z * z;
  first.low = along - long;
  first.high = along + long;
  second.low = across - wide;
  second.high = across + wide;
  const rx = Math.abs(first.x) * long + Math.abs(second.x) * wide;
  const ry = upright ? high : Math.abs(first.y) * long + Math.abs(second.y) * wide;
  const rz = upright ? Math.abs(first.z) * long + Math.abs(second.z) * wide : high;
  s.x0 = x - rx;
  s.x1 = x + rx;
  s.y0 = y - ry;
  s.y1 = y + ry;
  s.z0 = z - rz;
  s.z1 = z + rz;
}

/** What is no longer than a tick of the slowest rate counts as one, in seconds. */
const LONGEST_TICK = 0.11;

/**
 * Writes where a path leads to by a time and how far it is turned there, and the velocities with which it comes there; says how often it has begun again.
 */
function followPath(
  { points, after = 'stay' }: Path,
  seconds: number,
  way: Float64Array,
  velocity: Float64Array,
): number {
  const first = points[0].at;
  const length = points[points.length - 1].at - first;
  let time = seconds - first;
  let sign = 1;
  let turns = 0;
  if (length > 0 && after === 'again') {
    turns = Math.floor(time / length);
    time -= turns * length;
  }
  if (length > 0 && after === 'back') {
    const begun = time > 0;
    time -= Math.floor(time / (2 * length)) * 2 * length;
    if (time > length || (time === 0 && begun)) {
      time = time === 0 ? 0 : 2 * length - time;
      sign = -1;
    }
  }
  let i = 1;
  // At a point it has come by the way before it, whichever way it goes.
  while (i < points.length - 1 && (sign > 0 ? points[i].at - first < time : points[i].at - first <= time)) i++;
  const before = points[Math.max(0, i - 1)];
  const later = points[Math.min(i, points.length - 1)];
  const span = later.at - before.at;
  const part = span > 0 ? Math.min(1, Math.max(0, (time + first - before.at) / span)) : 1;
  const rests = span <= 0 || (after === 'stay' && (time <= 0 || time > length));
  const pace = rests ? 0 : sign / span;
  for (let k = 0; k < 4; k++) {
    const from = (k < 3 ? before.to[k] : before.turn) ?? 0;
    const whole = ((k < 3 ? later.to[k] : later.turn) ?? 0) - from;
    way[k] = from + whole * part;
    velocity[k] = whole * pace;
  }
  return turns;
}

/** How many numbers all of how a block moves takes. */
export const BLOCK_STATE = 15;

/** A block that moves: always placed from where it was declared, so that it is at the same place at the same time. */
export class MovingBlock {
  readonly solid: Solid;
  /** How far it is turned, in degrees. */
  turned = 0;
  private readonly base: Solid;
  private readonly turning: (TurnedBox & { readonly path: Path }) | null;
  /** The time that it was last moved to, how often its path had begun again by then, its offset and turn, and the velocities of these. */
  private last = Number.NaN;
  private turns = 0;
  private readonly way = new Float64Array(4);
  private readonly at = new Float64Array(4);
  /** How far it is now from where it was declared. */
  private readonly offset = new Float64Array(3);

  /** `mover` is its number among those of its world that move. */
  constructor(
    readonly block: AnyBlock,
    mover: number,
  ) {
    this.turning = turns(block) ? block : null;
    this.solid = this.turning ? solidOfTurning(this.turning) : solidOf(block);
    this.solid.mover = mover;
    this.base = solidOf(block);
    if (this.turning) placeTurning(this.solid, this.turning, this.offset, 0);
  }

  /** Turns a point of the room into one of the block as it was declared. */
  attach(point: Float64Array): void {
    for (let k = 0; k < 3; k++) point[k] -= this.offset[k];
    this.turnPoint(point, -1);
  }

  /** The other way round. */
  locate(point: Float64Array): void {
    this.turnPoint(point, 1);
    for (let k = 0; k < 3; k++) point[k] += this.offset[k];
  }

  private turnPoint(point: Float64Array, sign: 1 | -1): void {
    const { turning, solid } = this;
    if (turning === null || solid.axes === null) return;
    const { at } = turning;
    const [{ x: c, y, z }] = solid.axes;
    const x = point[0] - at[0];
    if (solid.upright) {
      const d = -z * sign;
      const depth = point[2] - (at[2] ?? 0);
      point[0] = at[0] + x * c + depth * d;
      point[2] = (at[2] ?? 0) - x * d + depth * c;
    } else {
      const d = y * sign;
      const height = point[1] - at[1];
      point[0] = at[0] + x * c - height * d;
      point[1] = at[1] + x * d + height * c;
    }
  }

  /**
   * Where its path leads it to by a time, in seconds. Its velocity is how it has come there since the last time, so that who
   * stands on it keeps its place also where it turns back; after a leap in time, how it comes there by its path.
   */
  advanceTo(seconds: number): void {
    const { path } = this.block;
    if (!path || path.points.length === 0) return;
    const { at, way } = this;
    const since = seconds - this.last;
    const [x, y, z, turn] = way;
    const turns = followPath(path, seconds, way, at);
    this.solid.spin = (at[3] * Math.PI) / 180;
    this.solid.draw = 0;
    if (since > 0 && since <= LONGEST_TICK && turns === this.turns) {
      at[0] = (way[0] - x) / since;
      at[1] = (way[1] - y) / since;
      at[2] = (way[2] - z) / since;
      // What goes round goes along the chord of this time, not along its tangent, or it would go out a little in each tick.
      const by = way[3] - turn;
      this.solid.spin = sine(by) / since;
      this.solid.draw = (cosineOf(by) - 1) / since;
    }
    this.last = seconds;
    this.turns = turns;
    this.turned = way[3];
    this.put(way[0], way[1], way[2], at[0], at[1], at[2]);
  }

  advanceBy(seconds: number): void {
    this.advanceTo(this.last + seconds);
  }

  /** Copies all of how it moves, {@link BLOCK_STATE} numbers, and returns the place behind them. */
  writeTo(out: Float64Array, at: number): number {
    const { solid, way, offset } = this;
    out[at] = this.last;
    out[at + 1] = this.turns;
    for (let k = 0; k < 4; k++) out[at + 2 + k] = way[k];
    for (let k = 0; k < 3; k++) out[at + 6 + k] = offset[k];
    out[at + 9] = solid.vx;
    out[at + 10] = solid.vy;
    out[at + 11] = solid.vz;
    out[at + 12] = solid.rose;
    out[at + 13] = solid.spin;
    out[at + 14] = solid.draw;
    return at + BLOCK_STATE;
  }

  /** The other way round: it is where it was then. */
  readFrom(from: Float64Array, at: number): number {
    const { solid, way } = this;
    this.last = from[at];
    this.turns = from[at + 1];
    for (let k = 0; k < 4; k++) way[k] = from[at + 2 + k];
    this.turned = way[3];
    this.put(from[at + 6], from[at + 7], from[at + 8], from[at + 9], from[at + 10], from[at + 11]);
    solid.rose = from[at + 12];
    solid.spin = from[at + 13];
    solid.draw = from[at + 14];
    return at + BLOCK_STATE;
  }

  /** Puts it at an offset from where it was declared, with a velocity per second. */
  put(x: number, y: number, z: number, vx: number, vy: number, vz: number): void {
    const { solid, offset, turning } = this;
    offset[0] = x;
    offset[1] = y;
    offset[2] = z;
    const before = solid.y0;
    if (turning !== null) placeTurning(solid, turning, offset, this.turned);
    else placeSolid(solid, this.base, x, y, z);
    solid.rose = solid.y0 - before;
    solid.vx = vx;
    solid.vy = vy;
    solid.vz = vz;
  }
}
