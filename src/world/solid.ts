import type { Cast, Hit } from './world.js';

/** Gaps and overlaps below this are touching: rounding must not make a floor a wall. */
export const TOUCH = 1e-6;

/** A box that does not move. */
export interface Solid {
  readonly x0: number;
  readonly y0: number;
  readonly z0: number;
  readonly x1: number;
  readonly y1: number;
  readonly z1: number;
  /** Stops only what comes down on it. */
  readonly oneWay: boolean;
  readonly tags: readonly string[];
}

const entry = new Float64Array(2);

/**
 * Sweeps `cast` against one solid and writes `hit` when it is met before `hit.part`.
 * Slabs: the way enters the box at the latest of its entries by axis, if that comes before the first exit.
 */
export function sweepSolid(cast: Cast, solid: Solid, hit: Hit): boolean {
  if (solid.oneWay && (cast.dy >= 0 || cast.y - cast.hy < solid.y1 - TOUCH)) return false;
  let part = -1;
  let axis = -1;
  let leave = hit.part;
  for (let i = 0; i < 3; i++) {
    const met =
      i === 0
        ? slab(cast.x, cast.hx, cast.dx, solid.x0, solid.x1)
        : i === 1
          ? slab(cast.y, cast.hy, cast.dy, solid.y0, solid.y1)
          : slab(cast.z, cast.hz, cast.dz, solid.z0, solid.z1);
    if (!met) return false;
    if (entry[0] > part) {
      part = entry[0];
      axis = i;
    }
    if (entry[1] < leave) leave = entry[1];
    if (part >= leave) return false;
  }
  if (axis < 0 || part < 0 || (solid.oneWay && axis !== 1)) return false;
  hit.part = part;
  hit.nx = axis === 0 ? -Math.sign(cast.dx) : 0;
  hit.ny = axis === 1 ? -Math.sign(cast.dy) : 0;
  hit.nz = axis === 2 ? -Math.sign(cast.dz) : 0;
  hit.tags = solid.tags;
  return true;
}

/** When the way is inside one slab: from entry[0] (-1: from the start) to entry[1]. */
function slab(at: number, half: number, way: number, low: number, high: number): boolean {
  const before = low - (at + half);
  const behind = at - half - high;
  entry[0] = -1;
  entry[1] = 2;
  if (way === 0) return before < -TOUCH && behind < -TOUCH;
  const near = way > 0 ? before : behind;
  const far = way > 0 ? behind : before;
  const length = Math.abs(way);
  // far is minus the distance to the other side.
  if (far >= -TOUCH) return false;
  entry[1] = -far / length;
  if (near >= -TOUCH) entry[0] = near > 0 ? near / length : 0;
  return entry[0] <= 1;
}

export function overlapsSolid(cast: Cast, solid: Solid): boolean {
  return (
    !solid.oneWay &&
    cast.x + cast.hx > solid.x0 + TOUCH &&
    cast.x - cast.hx < solid.x1 - TOUCH &&
    cast.y + cast.hy > solid.y0 + TOUCH &&
    cast.y - cast.hy < solid.y1 - TOUCH &&
    cast.z + cast.hz > solid.z0 + TOUCH &&
    cast.z - cast.hz < solid.z1 - TOUCH
  );
}
