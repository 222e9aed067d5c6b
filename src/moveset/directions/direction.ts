import { any, type Code, js, library, at as numberAt, tight } from '../../record/code.js';
import type { Frame } from '../../record/frame.js';
import { Q_HIT, Q_NORMAL } from '../../record/layout.js';
import {
  AIM_KIND,
  AIM_POINT,
  AIM_X,
  CAMERA_X,
  CAMERA_Z,
  FX,
  FZ,
  SHAPE,
  VX,
  VY,
  VZ,
  X,
  Y,
  Z,
} from '../../record/slots.js';
import { codeOf, withAll, written } from '../../record/written.js';
import type { NameTypes } from '../name-types.js';
import { list, name, sound } from '../shape.js';
import { compilePoint, known, type Point, type PointTools, point } from './point.js';

/** A direction: the same words wherever one is expected. */
export type Heading<N extends NameTypes = NameTypes> =
  | 'facing'
  | 'up'
  | 'down'
  | 'velocity'
  | 'camera'
  | N['stick']
  | N['aim']
  | N['direction value']
  | `${'into' | 'out'}(${N['probe']})`
  | `${'toward' | 'away'}(${Point<N>})`;

/**
 * A stick, an aim or a word; `into(probe)` is against the normal of what the probe finds, `out(probe)` is along it;
 * `toward(point)` leads from the middle of the body to a point, `away(point)` from there.
 */
export const heading = {
  ...name('stick', 'aim', 'direction value'),
  words: ['facing', 'up', 'down', 'velocity', 'camera'],
  meaning: 'direction',
  calls: { into: name('probe'), out: name('probe'), toward: point, away: point },
};
/** The first of several that has a direction. */
export const headings = list(heading, { orOne: true, min: 1, max: 8 });

/** Writes a unit direction to `out`, or returns false when there is none now. */
export type Aim = (c: Frame, out: Float64Array) => boolean;

export interface DirectionTools extends PointTools {
  /** Slot of a stick's x; y follows. */
  stickAt(name: string): number;
  readonly view: 'side' | 'open';
}

export interface DirectionOptions {
  /** Takes only the level part. Default false. */
  readonly flat?: boolean;
  /** How far a stick must be pushed to count. Default 0.3. */
  readonly tilt?: number;
  /** Takes only the part along the surface that this probe finds; what the probe misses changes nothing. */
  readonly on?: string;
}

/** The first of some directions that there is; what was faulty is left out. */
export function compileDirections(
  sources: readonly (string | undefined)[] | undefined,
  options: DirectionOptions,
  tools: DirectionTools,
): Aim {
  const aims = sound(sources).map((source) => compileOne(source, options, tools));
  const aim: Aim = (c, out) => {
    for (let i = 0; i < aims.length; i++) if (aims[i](c, out)) return true;
    return false;
  };
  return written(aim, () => withAll(aims.map(codeOf), any));
}

/** Shorter than this is no direction. */
const LEAST = 1e-6;

function compileOne(source: string, options: DirectionOptions, tools: DirectionTools): Aim {
  const { on, tilt = 0.3 } = options;
  if (on === undefined) return compileDirection(source, options, tools);
  const { index, at } = tools.probe(on);
  if (tools.view === 'open' && tools.index('stick', source) >= 0) {
    const stick = tools.stickAt(source);
    const level = compileDirection(source, options, tools);
    return (c, out) => {
      c.probe(index);
      if (c.r[at + Q_HIT] === 0 || !climbs(c.r, at + Q_NORMAL)) return level(c, out) && projected(c.r, at, out);
      return alongWall(c.r, stick, at + Q_NORMAL, out, tilt);
    };
  }
  const aim = compileDirection(source, options, tools);
  return (c, out) => {
    c.probe(index);
    return aim(c, out) && projected(c.r, at, out);
  };
}

/** Whether a surface is steep enough for "up" to mean something along it. What overlaps has no normal, and is none. */
function climbs(r: Float64Array, normal: number): boolean {
  const ny = r[normal + 1];
  return ny * ny < 0.999 && (r[normal] !== 0 || r[normal + 2] !== 0);
}

/** A stick along a surface in front: up is up along it, right is to the right of who looks at it. */
function alongWall(r: Float64Array, stick: number, normal: number, out: Float64Array, tilt: number): boolean {
  const nx = r[normal];
  const ny = r[normal + 1];
  const nz = r[normal + 2];
  // The part of straight up that lies in the surface; its length is that of the normal's level part.
  const level = Math.sqrt(nx * nx + nz * nz);
  const up = r[stick + 1] / level;
  // Up and right are at right angles in the surface: right is level.
  const right = r[stick] / level;
  const x = -ny * nx * up + nz * right;
  const y = level * level * up;
  const z = -ny * nz * up - nx * right;
  return unitOf(x, y, z, out, tilt);
}

/** Takes from a direction what leads into or out of the surface that a probe found. */
function projected(r: Float64Array, at: number, out: Float64Array): boolean {
  const nx = r[at + Q_NORMAL];
  const ny = r[at + Q_NORMAL + 1];
  const nz = r[at + Q_NORMAL + 2];
  const into = out[0] * nx + out[1] * ny + out[2] * nz;
  return unitOf(out[0] - nx * into, out[1] - ny * into, out[2] - nz * into, out, LEAST);
}

function compileDirection(source: string, { flat = false, tilt = 0.3 }: DirectionOptions, tools: DirectionTools): Aim {
  const open = tools.view === 'open';
  // What modules call, where they can write it.
  const code = (x: Code | number, y: Code | number, z: Code | number, least: number) => () =>
    tight(js`${library('unitOf')}(${x}, ${flat ? 0 : y}, ${z}, ${library('aimed')}, ${least})`);
  switch (source) {
    case 'facing':
      return written(({ r }, out) => unitOf(r[FX], 0, r[FZ], out, 0), code(numberAt(FX), 0, numberAt(FZ), 0));
    case 'up':
      return written((_, out) => unitOf(0, flat ? 0 : 1, 0, out, 0), code(0, 1, 0, 0));
    case 'down':
      return written((_, out) => unitOf(0, flat ? 0 : -1, 0, out, 0), code(0, -1, 0, 0));
    case 'velocity':
      return written(
        ({ r }, out) => unitOf(r[VX], flat ? 0 : r[VY], r[VZ], out, LEAST),
        code(numberAt(VX), numberAt(VY), numberAt(VZ), LEAST),
      );
    case 'camera':
      // Seen from the side, the camera looks along no way that a body could go.
      return ({ r }, out) => open && unitOf(r[CAMERA_X], 0, r[CAMERA_Z], out, 0);
  }
  const call = /^(\w+)\(([\w.]+)\)$/.exec(source);
  if (call) {
    const sign = call[1] === 'into' || call[1] === 'away' ? -1 : 1;
    if (call[1] === 'toward' || call[1] === 'away') {
      const spot = compilePoint(call[2], tools);
      return (c, out) => spot(c, out) && fromMiddle(c.r, sign, flat, out, tools.heights);
    }
    const { index, at } = tools.probe(call[2]);
    return (c, out) => {
      c.probe(index);
      const { r } = c;
      if (r[at + Q_HIT] === 0) return false;
      const x = sign * r[at + Q_NORMAL];
      const z = sign * r[at + Q_NORMAL + 2];
      return unitOf(x, flat ? 0 : sign * r[at + Q_NORMAL + 1], z, out, LEAST);
    };
  }
  if (tools.index('aim', source) >= 0) {
    const at = tools.aimAt(source);
    return ({ r }, out) => {
      if (r[at + AIM_KIND] === 0) return false;
      out[0] = r[at + AIM_X];
      out[1] = r[at + AIM_X + 1];
      out[2] = r[at + AIM_X + 2];
      if (r[at + AIM_KIND] === AIM_POINT) return fromMiddle(r, 1, flat, out, tools.heights);
      return unitOf(out[0], flat ? 0 : out[1], out[2], out, LEAST);
    };
  }
  const value = tools.valueAt(source);
  if (value)
    return ({ r }, out) => {
      const { at } = value;
      return known(r, value) && unitOf(r[at], flat ? 0 : r[at + 1], r[at + 2], out, LEAST);
    };
  const at = tools.stickAt(source);
  if (!open)
    return written(
      ({ r }, out) => unitOf(r[at], flat ? 0 : r[at + 1], 0, out, tilt),
      code(numberAt(at), numberAt(at + 1), 0, tilt),
    );
  return ({ r }, out) => {
    const x = r[at] * -r[CAMERA_Z] + r[at + 1] * r[CAMERA_X];
    const z = r[at] * r[CAMERA_X] + r[at + 1] * r[CAMERA_Z];
    return unitOf(x, 0, z, out, tilt);
  };
}

/** Turns a point in `out` into the direction from the middle of the body to it, or from it. */
function fromMiddle(
  r: Float64Array,
  sign: number,
  flat: boolean,
  out: Float64Array,
  heights: readonly number[],
): boolean {
  const y = out[1] - r[Y] - heights[r[SHAPE]] / 2;
  return unitOf(sign * (out[0] - r[X]), flat ? 0 : sign * y, sign * (out[2] - r[Z]), out, LEAST);
}

/** What modules write directions to. */
export const aimed: Float64Array = new Float64Array(3);

/** A function that gives no number moves nothing. */
export function usable(pace: number): number {
  return Number.isNaN(pace) ? 0 : pace;
}

/** Writes the unit vector of that way to `out`, unless it is no longer than `least`. */
export function unitOf(x: number, y: number, z: number, out: Float64Array, least: number): boolean {
  const length = Math.sqrt(x * x + y * y + z * z);
  if (!(length > least)) return false;
  out[0] = x / length;
  out[1] = y / length;
  out[2] = z / length;
  return true;
}
