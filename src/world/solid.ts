import type { Cast, Hit } from './world.js';

/** Gaps and overlaps below this are touching: rounding must not make a floor a wall. In the world's units. */
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

/** Whether a question asks about this solid at all. */
export function counts(cast: Cast, solid: Solid): boolean {
  const { surfaces, ignore } = cast;
  if (ignore === solid) return false;
  if (surfaces === null) return true;
  for (let i = 0; i < surfaces.length; i++) if (solid.tags.includes(surfaces[i])) return true;
  return false;
}

/**
 * Finds the first surface among solids that are offered one by one, in any order: first each to `first`, then, if
 * that found one, each to `choose`. Two rounds, because several may be met at the same place: then a face that the
 * box lies against counts before a corner that it only touches, ground before walls, the larger overlap before the
 * smaller, so that the answer does not depend on the order.
 */
export class Search {
  found = false;
  /** Whether a ray runs along a face of something near it: it may be a seam between two. */
  grazes = false;
  private part = 0;
  private face = 0;
  private axis = 0;
  private overlap = 0;
  private best: Solid | null = null;

  begin(): void {
    this.part = 1 + 1e-12;
    this.best = null;
    this.found = false;
    this.grazes = false;
  }

  first(cast: Cast, solid: Solid): void {
    if (cast.hx === 0 && cast.hy === 0 && runsAlong(cast, solid)) this.grazes = true;
    const part = enterPart(cast, solid);
    if (part < 0 || part >= this.part) return;
    this.part = part;
    this.found = true;
  }

  choose(cast: Cast, solid: Solid): void {
    const part = enterPart(cast, solid);
    if (part < 0) return;
    if ((part - this.part) * Math.max(Math.abs(cast.dx), Math.abs(cast.dy), Math.abs(cast.dz)) > TOUCH) return;
    const { axis, face, overlap } = entered;
    if (this.best !== null && !this.isBetter(solid, axis, face, overlap)) return;
    this.best = solid;
    this.axis = axis;
    this.face = face;
    this.overlap = overlap;
  }

  /** Writes what was chosen. */
  write(cast: Cast, hit: Hit): void {
    const solid = this.best as Solid;
    hit.clear();
    hit.part = Math.min(1, this.part);
    hit.nx = this.axis === 0 ? -Math.sign(cast.dx) : 0;
    hit.ny = this.axis === UP ? -Math.sign(cast.dy) : 0;
    hit.nz = this.axis === 2 ? -Math.sign(cast.dz) : 0;
    if (this.axis === UP && cast.dy < 0) hit.height = solid.y1;
    hit.tags = solid.tags;
    hit.body = solid;
  }

  private isBetter(solid: Solid, axis: number, face: number, overlap: number): boolean {
    const best = this.best as Solid;
    if (face !== this.face) return face > this.face;
    if (axis !== this.axis) return axis === UP || (this.axis !== UP && axis < this.axis);
    if (axis === UP && solid.y1 !== best.y1) return solid.y1 > best.y1;
    if (Math.abs(overlap - this.overlap) > TOUCH) return overlap > this.overlap;
    if (solid.x0 !== best.x0) return solid.x0 < best.x0;
    return solid.y0 !== best.y0 ? solid.y0 < best.y0 : solid.z0 < best.z0;
  }
}

const UP = 1;

/** What `enterPart` met last: the axis of the face, 1 if the box lies against it and 0 if it only touches, how far. */
const entered = { axis: 0, face: 0, overlap: 0.5 };

/**
 * The part of the way at which `cast` meets a solid, or -1. Slabs: the way enters the box at the latest of its
 * entries by axis, if that comes before the first exit. `-1` stands for an axis on which it overlaps from the start.
 */
function enterPart(cast: Cast, solid: Solid): number {
  const { oneWay } = solid;
  if (oneWay && (cast.dy >= 0 || cast.y - cast.hy < solid.y1 - TOUCH)) return -1;
  const enterX = enters(cast.x, cast.hx, cast.dx, solid.x0, solid.x1);
  if (enterX > 1) return -1;
  const enterY = enters(cast.y, cast.hy, cast.dy, solid.y0, solid.y1);
  if (enterY > 1) return -1;
  const enterZ = enters(cast.z, cast.hz, cast.dz, solid.z0, solid.z1);
  const part = Math.max(enterX, enterY, enterZ);
  if (part > 1 || part < 0) return -1;
  if (
    part >= leaves(cast.x, cast.hx, cast.dx, solid.x0, solid.x1) ||
    part >= leaves(cast.y, cast.hy, cast.dy, solid.y0, solid.y1) ||
    part >= leaves(cast.z, cast.hz, cast.dz, solid.z0, solid.z1)
  )
    return -1;
  // How much the two overlap, where they meet, along each of the axes.
  const x = overlapAt(cast.x + cast.dx * part, cast.hx, solid.x0, solid.x1);
  const y = overlapAt(cast.y + cast.dy * part, cast.hy, solid.y0, solid.y1);
  const z = overlapAt(cast.z + cast.dz * part, cast.hz, solid.z0, solid.z1);
  // A corner met head-on is a wall: neither floor nor ceiling.
  let axis = part === enterX ? 0 : part === enterZ && part !== enterY ? 2 : UP;
  const overlap = axis === 0 ? Math.min(y, z) : axis === UP ? Math.min(x, z) : Math.min(x, y);
  if (axis === UP && overlap <= TOUCH && cast.hx > 0) {
    // The edge of a floor or ceiling holds nothing; where the way leads into it, it is a wall.
    if (enterX >= 0 && z > TOUCH) axis = 0;
    else if (enterZ >= 0 && x > TOUCH) axis = 2;
    else return -1;
  }
  if (oneWay && axis !== UP) return -1;
  entered.axis = axis;
  entered.overlap = overlap;
  entered.face = overlap > TOUCH ? 1 : 0;
  return part;
}

/** Whether a ray lies on a face of the solid that it runs parallel to. */
function runsAlong({ x, y, z, dx, dy, dz }: Cast, s: Solid): boolean {
  return (
    (dx === 0 && (Math.abs(x - s.x0) <= TOUCH || Math.abs(x - s.x1) <= TOUCH)) ||
    (dy === 0 && (Math.abs(y - s.y0) <= TOUCH || Math.abs(y - s.y1) <= TOUCH)) ||
    (dz === 0 && (Math.abs(z - s.z0) <= TOUCH || Math.abs(z - s.z1) <= TOUCH))
  );
}

function overlapAt(at: number, half: number, low: number, high: number): number {
  return Math.min(at + half, high) - Math.max(at - half, low);
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

/** Whether the way of a box comes near a solid at all: cheap, and never false where they could meet. */
export function isNear(cast: Cast, s: Solid): boolean {
  const { x, y, z, hx, hy, hz, dx, dy, dz } = cast;
  return (
    (dx > 0 ? x + dx : x) + hx >= s.x0 - TOUCH &&
    (dx > 0 ? x : x + dx) - hx <= s.x1 + TOUCH &&
    (dy > 0 ? y + dy : y) + hy >= s.y0 - TOUCH &&
    (dy > 0 ? y : y + dy) - hy <= s.y1 + TOUCH &&
    (dz > 0 ? z + dz : z) + hz >= s.z0 - TOUCH &&
    (dz > 0 ? z : z + dz) - hz <= s.z1 + TOUCH
  );
}
