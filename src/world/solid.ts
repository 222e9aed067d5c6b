import type { Cast, Hit } from './world.js';

/** Gaps and overlaps below this are touching: rounding must not make a floor a wall. In the world's units. */
export const TOUCH = 1e-6;

/** Half the depth of what was given none: deeper than any body. */
export const DEEP = 1e6;

/** A box, or what fills a part of it: a convex solid by further axes, or a capsule. Only the world that owns it moves it. */
export interface Solid {
  x0: number;
  y0: number;
  z0: number;
  x1: number;
  y1: number;
  z1: number;
  /** Stops only what comes down on it. */
  readonly oneWay: boolean;
  /** Nothing solid: only questions that ask for its tags find it. */
  readonly area: boolean;
  readonly tags: readonly string[];
  /** Axes along which it is narrower than its box; null for a whole box. */
  readonly axes: readonly Axis[] | null;
  /** Null for what is no capsule. */
  readonly round: Round | null;
  /** Of a tile: height of its ground at its left and its right end; null where that is level. */
  readonly slope: readonly [number, number] | null;
  /** Velocity per second. */
  vx: number;
  vy: number;
  vz: number;
  /** How far up it went when it was last moved. */
  rose: number;
  /** Its number among those of its world that move; -1 for what never does. */
  mover: number;
  /**
   * How fast what is on it goes round its middle, per unit of its distance from that: across the way to it, and towards it, so that it stays as far
   * away; and whether about the upright axis.
   */
  spin: number;
  draw: number;
  upright: boolean;
}

/** A box by two corners. */
export type Bounds = Pick<Solid, 'x0' | 'y0' | 'z0' | 'x1' | 'y1' | 'z1'>;

/** A unit axis, and from where to where a solid reaches along it. */
export interface Axis {
  x: number;
  y: number;
  z: number;
  low: number;
  high: number;
}

/** All that is within a radius of the line from a to b. */
export interface Round {
  ax: number;
  ay: number;
  az: number;
  bx: number;
  by: number;
  bz: number;
  readonly radius: number;
}

const NO_TAGS: readonly string[] = [];

/** All solids are made here, with numbers of one kind: else the engine boxes them wherever one is read. */
class BuiltSolid implements Solid {
  x0 = Number.NaN;
  y0 = Number.NaN;
  z0 = Number.NaN;
  x1 = Number.NaN;
  y1 = Number.NaN;
  z1 = Number.NaN;
  vx = Number.NaN;
  vy = Number.NaN;
  vz = Number.NaN;
  rose = Number.NaN;
  mover = Number.NaN;
  spin = Number.NaN;
  draw = Number.NaN;
  upright = false;
  constructor(
    readonly oneWay: boolean,
    readonly area: boolean,
    readonly tags: readonly string[],
    readonly axes: readonly Axis[] | null,
    readonly round: Round | null,
    readonly slope: readonly [number, number] | null,
  ) {}
}

/** A solid box, which may be made less than that. */
export function makeSolid(
  corners: readonly [x0: number, y0: number, z0: number, x1: number, y1: number, z1: number],
  more: Partial<Pick<Solid, 'oneWay' | 'area' | 'tags' | 'axes' | 'round' | 'slope'>>,
): Solid {
  const { oneWay = false, area = false, tags = NO_TAGS, axes = null, round = null, slope = null } = more;
  const solid = new BuiltSolid(oneWay, area, tags, axes?.map(ownAxis) ?? null, round && ownRound(round), slope);
  [solid.x0, solid.y0, solid.z0, solid.x1, solid.y1, solid.z1] = corners;
  solid.vx = solid.vy = solid.vz = solid.rose = 0;
  solid.mover = -1;
  solid.spin = solid.draw = 0;
  return solid;
}

function ownAxis(axis: Axis): Axis {
  const own = { x: Number.NaN, y: Number.NaN, z: Number.NaN, low: Number.NaN, high: Number.NaN };
  return Object.assign(own, axis);
}

function ownRound(round: Round): Round {
  const nan = Number.NaN;
  return Object.assign({ ax: nan, ay: nan, az: nan, bx: nan, by: nan, bz: nan, radius: nan }, round);
}

/** Whether it fills its box and is solid from all sides. */
export function isWhole({ oneWay, area, axes, round }: Solid): boolean {
  return !oneWay && !area && axes === null && round === null;
}

/** Whether a question asks about this solid at all. */
export function counts(cast: Cast, solid: Solid): boolean {
  const { surfaces, passes, ignore } = cast;
  if (ignore === solid) return false;
  if (passes !== null && solid.tags.length > 0)
    for (let i = 0; i < passes.length; i++) if (solid.tags.includes(passes[i])) return false;
  if (surfaces === null) return !solid.area;
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
  /** Whether the face met is none of a box's, and its normal. */
  private slanted = false;
  private nx = 0;
  private ny = 0;
  private nz = 0;
  private best: Solid | null = null;

  begin(): void {
    this.part = 1 + 1e-12;
    this.best = null;
    this.found = false;
    this.grazes = false;
  }

  first(cast: Cast, solid: Solid): void {
    if (cast.hx === 0 && cast.hy === 0 && runsAlong(cast, solid)) this.grazes = true;
    if (!enterPart(cast, solid) || entered.part >= this.part) return;
    this.part = entered.part;
    this.found = true;
  }

  choose(cast: Cast, solid: Solid): void {
    if (!enterPart(cast, solid)) return;
    if ((entered.part - this.part) * Math.max(Math.abs(cast.dx), Math.abs(cast.dy), Math.abs(cast.dz)) > TOUCH) return;
    const { axis, face, overlap } = entered;
    if (this.best !== null && !this.isBetter(solid)) return;
    this.best = solid;
    this.axis = axis;
    this.face = face;
    this.overlap = overlap;
    this.slanted = entered.slanted;
    this.nx = entered.nx;
    this.ny = entered.ny;
    this.nz = entered.nz;
  }

  /** Writes what was chosen. */
  write(cast: Cast, hit: Hit): void {
    const solid = this.best as Solid;
    hit.clear();
    hit.part = Math.min(1, this.part);
    if (this.slanted) {
      hit.nx = this.nx;
      hit.ny = this.ny;
      hit.nz = this.nz;
    } else {
      hit.nx = this.axis === 0 ? -Math.sign(cast.dx) : 0;
      hit.ny = this.axis === UP ? -Math.sign(cast.dy) : 0;
      hit.nz = this.axis === 2 ? -Math.sign(cast.dz) : 0;
      if (this.axis === UP && cast.dy < 0) hit.height = solid.y1;
    }
    writeSolid(hit, solid);
    if (solid.spin !== 0) addSpin(cast, hit, solid);
  }

  private isBetter(solid: Solid): boolean {
    const best = this.best as Solid;
    const { axis, face, overlap } = entered;
    if (face !== this.face) return face > this.face;
    if (axis !== this.axis) return axis === UP || (this.axis !== UP && axis < this.axis);
    if (axis === UP && solid.y1 !== best.y1) return solid.y1 > best.y1;
    if (Math.abs(overlap - this.overlap) > TOUCH) return overlap > this.overlap;
    if (solid.x0 !== best.x0) return solid.x0 < best.x0;
    return solid.y0 !== best.y0 ? solid.y0 < best.y0 : solid.z0 < best.z0;
  }
}

/** Writes what an answer says of the solid that was met. */
export function writeSolid(hit: Hit, solid: Solid): void {
  hit.tags = solid.tags;
  hit.body = solid;
  hit.vx = solid.vx;
  hit.vy = solid.vy;
  hit.vz = solid.vz;
  hit.rose = solid.rose;
  hit.mover = solid.mover;
}

/** Adds the velocity that what turns has where the box lies against it. */
function addSpin(cast: Cast, hit: Hit, s: Solid): void {
  const { part, nx, ny, nz } = hit;
  const { spin, draw, upright } = s;
  const x = cast.x + cast.dx * part - nx * cast.hx - (s.x0 + s.x1) / 2;
  if (upright) {
    const z = cast.z + cast.dz * part - nz * cast.hz - (s.z0 + s.z1) / 2;
    hit.vx += spin * z + draw * x;
    hit.vz += draw * z - spin * x;
  } else {
    const y = cast.y + cast.dy * part - ny * cast.hy - (s.y0 + s.y1) / 2;
    hit.vx += draw * x - spin * y;
    hit.vy += spin * x + draw * y;
  }
}

const UP = 1;

/** What `enterPart` met last: the axis of the face, 1 if the box lies against it and 0 if it only touches, how far. */
const entered = { part: 0.5, axis: 0, face: 0, overlap: 0.5, slanted: false, nx: 0.5, ny: 0.5, nz: 0.5 };

/**
 * The slabs of a box along x, y and z, and one along an axis of a slanted solid: middle, half size and way of the cast, the
 * slab from low to high, and the parts of the way at which it is entered and left. An array, since numbers that are passed
 * to functions may be boxed.
 */
const SLAB = 7;
const AT = 0;
const HALF = 1;
const WAY = 2;
const LOW = 3;
const HIGH = 4;
/** 0 or more where the way enters; -1 for one that is overlapped from the start. */
const ENTER = 5;
/** 0 or less if it is behind, 2 for never. */
const LEAVE = 6;
const OWN_AXIS = 3 * SLAB;
const slabs = new Float64Array(4 * SLAB);

/** Works out where a way enters and leaves a slab; false if it never enters. */
function enterSlab(slab: number): boolean {
  const at = slabs[slab + AT];
  const half = slabs[slab + HALF];
  const way = slabs[slab + WAY];
  const low = slabs[slab + LOW];
  const high = slabs[slab + HIGH];
  const gap = way > 0 ? low - at - half : at - half - high;
  if (way === 0) {
    slabs[slab + ENTER] = -1;
    slabs[slab + LEAVE] = 2;
    return gap < -TOUCH && low - at - half < -TOUCH;
  }
  const pace = Math.abs(way);
  slabs[slab + ENTER] = gap < -TOUCH ? -1 : gap > 0 ? gap / pace : 0;
  const reach = way > 0 ? high - (at - half) : at + half - low;
  // What is all but past is past: on its way up a slope, a body must not catch on the edge that it has just reached.
  slabs[slab + LEAVE] = reach <= TOUCH ? -1 : (reach - TOUCH) / pace;
  return slabs[slab + ENTER] <= 1;
}

function enterSlabs(cast: Cast, { x0, y0, z0, x1, y1, z1 }: Solid): boolean {
  slabs[AT] = cast.x;
  slabs[HALF] = cast.hx;
  slabs[WAY] = cast.dx;
  slabs[LOW] = x0;
  slabs[HIGH] = x1;
  if (!enterSlab(0)) return false;
  slabs[SLAB + AT] = cast.y;
  slabs[SLAB + HALF] = cast.hy;
  slabs[SLAB + WAY] = cast.dy;
  slabs[SLAB + LOW] = y0;
  slabs[SLAB + HIGH] = y1;
  if (!enterSlab(SLAB)) return false;
  slabs[2 * SLAB + AT] = cast.z;
  slabs[2 * SLAB + HALF] = cast.hz;
  slabs[2 * SLAB + WAY] = cast.dz;
  slabs[2 * SLAB + LOW] = z0;
  slabs[2 * SLAB + HIGH] = z1;
  return enterSlab(2 * SLAB);
}

/**
 * Whether `cast` meets a solid; at which part of its way is left in `entered`, since numbers that are passed may be boxed. Slabs: the way enters the box at the latest of its
 * entries by axis, if that comes before the first exit. `-1` stands for an axis on which it overlaps from the start.
 */
function enterPart(cast: Cast, solid: Solid): boolean {
  const { oneWay } = solid;
  if (solid.axes !== null) return enterSlanted(cast, solid, solid.axes);
  if (solid.round !== null) return enterRound(cast, solid.round);
  if (oneWay && (cast.dy >= 0 || cast.y - cast.hy < solid.y1 - TOUCH)) return false;
  if (!enterSlabs(cast, solid)) return false;
  const enterX = slabs[ENTER];
  const enterY = slabs[SLAB + ENTER];
  const enterZ = slabs[2 * SLAB + ENTER];
  const part = Math.max(enterX, enterY, enterZ);
  if (part < 0 || part >= slabs[LEAVE] || part >= slabs[SLAB + LEAVE] || part >= slabs[2 * SLAB + LEAVE]) return false;
  // How much the two overlap, where they meet, along each of the axes.
  const x =
    Math.min(cast.x + cast.dx * part + cast.hx, solid.x1) - Math.max(cast.x + cast.dx * part - cast.hx, solid.x0);
  const y =
    Math.min(cast.y + cast.dy * part + cast.hy, solid.y1) - Math.max(cast.y + cast.dy * part - cast.hy, solid.y0);
  const z =
    Math.min(cast.z + cast.dz * part + cast.hz, solid.z1) - Math.max(cast.z + cast.dz * part - cast.hz, solid.z0);
  // A corner met head-on is a wall: neither floor nor ceiling.
  let axis = part === enterX ? 0 : part === enterZ && part !== enterY ? 2 : UP;
  const overlap = axis === 0 ? Math.min(y, z) : axis === UP ? Math.min(x, z) : Math.min(x, y);
  if (axis === UP && overlap <= TOUCH && cast.hx > 0) {
    // The edge of a floor or ceiling holds nothing; where the way leads into it, it is a wall.
    if (enterX >= 0 && z > TOUCH) axis = 0;
    else if (enterZ >= 0 && x > TOUCH) axis = 2;
    else return false;
  }
  if (oneWay && axis !== UP) return false;
  entered.axis = axis;
  entered.slanted = false;
  entered.overlap = overlap;
  entered.face = overlap > TOUCH ? 1 : 0;
  entered.part = part;
  return true;
}

/** The way along a slanted axis counts as along the face if it is this part of the whole, or less: rounding. */
const ALONG = 1e-9;

/** The same for a convex solid: slabs along its further axes, too. Where two are met at once, the slanted face counts. */
function enterSlanted(cast: Cast, solid: Solid, axes: readonly Axis[]): boolean {
  const { x, y, z, hx, hy, hz, dx, dy, dz } = cast;
  const way = Math.max(Math.abs(dx), Math.abs(dy), Math.abs(dz));
  if (!enterSlabs(cast, solid)) return false;
  const enterX = slabs[ENTER];
  const enterY = slabs[SLAB + ENTER];
  const enterZ = slabs[2 * SLAB + ENTER];
  let part = Math.max(enterX, enterY, enterZ);
  let exit = Math.min(slabs[LEAVE], slabs[SLAB + LEAVE], slabs[2 * SLAB + LEAVE]);
  const axis = part === enterX ? 0 : part === enterZ && part !== enterY ? 2 : UP;
  let slanted = -1;
  for (let i = 0; i < axes.length; i++) {
    const a = axes[i];
    const along = dx * a.x + dy * a.y + dz * a.z;
    slabs[OWN_AXIS + AT] = x * a.x + y * a.y + z * a.z;
    slabs[OWN_AXIS + HALF] = hx * Math.abs(a.x) + hy * Math.abs(a.y) + hz * Math.abs(a.z);
    slabs[OWN_AXIS + WAY] = Math.abs(along) <= way * ALONG ? 0 : along;
    slabs[OWN_AXIS + LOW] = a.low;
    slabs[OWN_AXIS + HIGH] = a.high;
    if (!enterSlab(OWN_AXIS)) return false;
    const enter = slabs[OWN_AXIS + ENTER];
    exit = Math.min(exit, slabs[OWN_AXIS + LEAVE]);
    if (enter < 0 || (enter - part) * way < -TOUCH) continue;
    // Of slanted axes that are met at once, the one that is met most squarely.
    if (slanted >= 0 && enter <= part && squareness(cast, a) <= squareness(cast, axes[slanted])) continue;
    part = Math.max(part, enter);
    slanted = i;
  }
  if (part < 0 || part >= exit) return false;
  // Only what comes down on a face that looks up is stopped by it; who has begun to pass it, passes.
  if (solid.oneWay && !looksUp(cast, slanted < 0 ? null : axes[slanted], axis)) return false;
  entered.part = part;
  entered.face = 1;
  entered.overlap = 0.5;
  if (slanted < 0) {
    entered.slanted = false;
    entered.axis = axis;
    return true;
  }
  const { x: ax, y: ay, z: az } = axes[slanted];
  noteNormal(dx * ax + dy * ay + dz * az > 0 ? -1 : 1, ax, ay, az);
  return true;
}

/** Whether the face that is met, of a slanted axis or one of the box, looks up. */
function looksUp({ dx, dy, dz }: Cast, slanted: Axis | null, axis: number): boolean {
  if (slanted === null) return axis === UP && dy < 0;
  const { x, y, z } = slanted;
  return dx * x + dy * y + dz * z > 0 ? y < -TOUCH : y > TOUCH;
}

function squareness({ dx, dy, dz }: Cast, { x, y, z }: Axis): number {
  return Math.abs(dx * x + dy * y + dz * z);
}

function noteNormal(sign: number, x: number, y: number, z: number): void {
  entered.face = 1;
  entered.overlap = 0.5;
  entered.slanted = true;
  entered.nx = sign * x;
  entered.ny = sign * y;
  entered.nz = sign * z;
  entered.axis = entered.ny > 0.5 ? UP : Math.abs(entered.nx) >= Math.abs(entered.nz) ? 0 : 2;
}

/** What `findGap` found: from the line of a capsule to a box, and how far apart they are. */
const nearest = { x: 0.5, y: 0.5, z: 0.5, gap: 0.5, apart: 0.5 };
/** Halvings that find the nearest spot of a line, and steps towards a capsule: both end at what a double can tell. */
const HALVINGS = 50;
const STEPS = 24;

/** Finds how far a box is from a capsule at a part of its way; less than 0 inside of it. All of it is left in `nearest`. */
function findGap(cast: Cast, s: Round, part: number): void {
  const x = cast.x + cast.dx * part;
  const y = cast.y + cast.dy * part;
  const z = cast.z + cast.dz * part;
  const ux = s.bx - s.ax;
  const uy = s.by - s.ay;
  const uz = s.bz - s.az;
  // The gap along the line is convex: where its slope changes sign it is least.
  let low = 0;
  let high = 1;
  for (let i = 0; i < HALVINGS && ux * ux + uy * uy + uz * uz > 0; i++) {
    const t = (low + high) / 2;
    const slope =
      beyond(s.ax + ux * t, x, cast.hx) * ux +
      beyond(s.ay + uy * t, y, cast.hy) * uy +
      beyond(s.az + uz * t, z, cast.hz) * uz;
    if (slope > 0) high = t;
    else low = t;
  }
  const t = high === 1 ? 1 : low === 0 ? 0 : (low + high) / 2;
  nearest.x = -beyond(s.ax + ux * t, x, cast.hx);
  nearest.y = -beyond(s.ay + uy * t, y, cast.hy);
  nearest.z = -beyond(s.az + uz * t, z, cast.hz);
  nearest.gap = Math.sqrt(nearest.x * nearest.x + nearest.y * nearest.y + nearest.z * nearest.z);
  nearest.apart = nearest.gap - s.radius;
}

/** How far a number lies outside of a stretch around a middle: 0 inside. */
function beyond(at: number, middle: number, half: number): number {
  return at > middle + half ? at - middle - half : at < middle - half ? at - middle + half : 0;
}

/** The same for a capsule: the gap shrinks ever more slowly on the way, so that steps by its slope never go too far. */
function enterRound(cast: Cast, s: Round): boolean {
  const { dx, dy, dz } = cast;
  let part = 0;
  for (let i = 0; i < STEPS; i++) {
    findGap(cast, s, part);
    const gap = nearest.apart;
    if (nearest.gap === 0 || gap < -TOUCH) return false;
    const nx = nearest.x / nearest.gap;
    const ny = nearest.y / nearest.gap;
    const nz = nearest.z / nearest.gap;
    const closing = -(dx * nx + dy * ny + dz * nz);
    if (closing <= ALONG * Math.max(Math.abs(dx), Math.abs(dy), Math.abs(dz))) return false;
    if (gap <= TOUCH / 4) {
      noteNormal(1, nx, ny, nz);
      entered.part = part;
      return true;
    }
    part += gap / closing;
    if (part > 1) return false;
  }
  return false;
}

/** Whether a ray lies on a face of the solid that it runs parallel to. */
function runsAlong({ x, y, z, dx, dy, dz }: Cast, s: Solid): boolean {
  return (
    (dx === 0 && (Math.abs(x - s.x0) <= TOUCH || Math.abs(x - s.x1) <= TOUCH)) ||
    (dy === 0 && (Math.abs(y - s.y0) <= TOUCH || Math.abs(y - s.y1) <= TOUCH)) ||
    (dz === 0 && (Math.abs(z - s.z0) <= TOUCH || Math.abs(z - s.z1) <= TOUCH))
  );
}

export function overlapsSolid(cast: Cast, solid: Solid): boolean {
  if (solid.round !== null) {
    findGap(cast, solid.round, 0);
    return nearest.apart < -TOUCH;
  }
  return (
    !solid.oneWay &&
    (solid.axes === null || overlapsAlong(cast, solid.axes)) &&
    cast.x + cast.hx > solid.x0 + TOUCH &&
    cast.x - cast.hx < solid.x1 - TOUCH &&
    cast.y + cast.hy > solid.y0 + TOUCH &&
    cast.y - cast.hy < solid.y1 - TOUCH &&
    cast.z + cast.hz > solid.z0 + TOUCH &&
    cast.z - cast.hz < solid.z1 - TOUCH
  );
}

function overlapsAlong({ x, y, z, hx, hy, hz }: Cast, axes: readonly Axis[]): boolean {
  for (let i = 0; i < axes.length; i++) {
    const a = axes[i];
    const at = x * a.x + y * a.y + z * a.z;
    const half = hx * Math.abs(a.x) + hy * Math.abs(a.y) + hz * Math.abs(a.z);
    if (at + half <= a.low + TOUCH || at - half >= a.high - TOUCH) return false;
  }
  return true;
}

/** Whether the way of a box comes near a solid at all: cheap, and never false where they could meet. */
export function isNear(cast: Cast, s: Bounds): boolean {
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
