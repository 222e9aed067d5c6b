import type { Cast, Hit } from './world.js';

/** Gaps and overlaps below this are touching: rounding must not make a floor a wall. */
export const TOUCH = 1e-6;

/** Half the depth of what was given none: deeper than any body. */
export const DEEP = 1e6;

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

/**
 * Sweeps `cast` against one solid and writes `hit` when it is met before `hit.part`.
 * Slabs: the way enters the box at the latest of its entries by axis, if that comes before the first exit.
 * `-1` stands for an axis on which it overlaps from the start.
 */
export function sweepSolid(cast: Cast, solid: Solid, hit: Hit): boolean {
  if (solid.oneWay && (cast.dy >= 0 || cast.y - cast.hy < solid.y1 - TOUCH)) return false;
  const enterX = enters(cast.x, cast.hx, cast.dx, solid.x0, solid.x1);
  if (enterX > 1) return false;
  const enterY = enters(cast.y, cast.hy, cast.dy, solid.y0, solid.y1);
  if (enterY > 1) return false;
  const enterZ = enters(cast.z, cast.hz, cast.dz, solid.z0, solid.z1);
  const part = Math.max(enterX, enterY, enterZ);
  if (part > 1 || part < 0 || part >= hit.part) return false;
  if (
    part >= leaves(cast.x, cast.hx, cast.dx, solid.x0, solid.x1) ||
    part >= leaves(cast.y, cast.hy, cast.dy, solid.y0, solid.y1) ||
    part >= leaves(cast.z, cast.hz, cast.dz, solid.z0, solid.z1)
  )
    return false;
  // A corner met head-on is floor or ceiling: a seam of the floor must not stop what walks over it.
  const axis = part === enterY ? 1 : part === enterX ? 0 : 2;
  if (solid.oneWay && axis !== 1) return false;
  hit.part = part;
  hit.nx = axis === 0 ? -Math.sign(cast.dx) : 0;
  hit.ny = axis === 1 ? -Math.sign(cast.dy) : 0;
  hit.nz = axis === 2 ? -Math.sign(cast.dz) : 0;
  hit.height = solid.y1;
  hit.tags = solid.tags;
  return true;
}

/** The part of the way at which a slab is entered; 2 for never. */
function enters(at: number, half: number, way: number, low: number, high: number): number {
  const gap = way > 0 ? low - at - half : at - half - high;
  if (way === 0) return gap < -TOUCH && low - at - half < -TOUCH ? -1 : 2;
  if (gap < -TOUCH) return -1;
  return gap > 0 ? gap / Math.abs(way) : 0;
}

/** The part of the way at which a slab is left again; 0 or less if it is behind, 2 for never. */
function leaves(at: number, half: number, way: number, low: number, high: number): number {
  if (way === 0) return 2;
  const reach = way > 0 ? high - (at - half) : at + half - low;
  return reach <= TOUCH ? -1 : reach / Math.abs(way);
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
