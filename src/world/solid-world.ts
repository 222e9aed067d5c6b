import { isPoint, want, wantList, wantObject } from '../report/arguments.js';
import { indexOfName } from '../report/usage-error.js';
import { type AnyBlock, BLOCK_STATE, MovingBlock, solidOf } from './blocks.js';
import { findWay } from './nearest.js';
import {
  type Bounds,
  counts,
  isNear,
  makeSolid,
  overlapsSolid,
  Search,
  type Solid,
  TOUCH,
  writeSolid,
} from './solid.js';
import { SolidTree } from './tree.js';
import type { Cast, Edges, Hit, Place, Room, World } from './world.js';

const search = new Search();

/** What every world that Loggia brings may have. */
export interface SolidWorldOptions {
  /** Blocks in any place: boxes, turned boxes and capsules, some of which may move. */
  blocks?: readonly AnyBlock[];
  /** Named places: where they are. */
  places?: Readonly<Record<string, readonly [x: number, y: number, z?: number]>>;
  /** What happens at the edges of the world. Default: nothing. */
  edges?: Edges;
}

/** A block has numbers for its places and sizes. */
function checkBlock(block: AnyBlock): void {
  wantObject('A world', 'a block', block);
  const { from, to, at, size, radius, turn: own } = block as unknown as Record<string, unknown>;
  const holds = from === undefined ? isPoint(at) && isPoint(size) : isPoint(from) && isPoint(to);
  want(holds, 'A world', 'a block', '{ from, to } or { at, size } with numbers', block);
  want(
    (size !== undefined && own === undefined) || !(block.path?.points ?? []).some(({ turn = 0 }) => turn !== 0),
    'A world',
    'a block whose path turns it',
    'a box by { at, size } without a turn of its own',
    block,
  );
  want(radius === undefined || Number.isFinite(radius), 'A world', 'the radius of a block', 'a number', radius);
}

/** How thick the walls at the edges of a world are: no way of one tick is longer. */
const THICK = 1e5;

/**
 * What tile and box worlds share: questions about solids, of which each world knows how to find those nearby. Blocks
 * that move are where the last `advanceTo` or `put` left them.
 */
export abstract class SolidWorld implements World {
  readonly still: boolean;
  readonly bounds?: Bounds;
  readonly edges?: Edges;
  /** The blocks as they were declared. */
  readonly blocks: readonly AnyBlock[];
  private readonly tree: SolidTree;
  private readonly moving: readonly MovingBlock[];
  private readonly named: ReadonlyMap<string, Place>;

  constructor({ blocks = [], places = {}, edges }: SolidWorldOptions, bounds?: Bounds) {
    wantList('A world', 'its blocks', blocks);
    for (const block of blocks) checkBlock(block);
    wantObject('A world', 'places', places);
    this.bounds = bounds;
    this.edges = edges;
    this.moving = blocks
      .filter((block) => block.path || block.name !== undefined)
      .map((block, i) => new MovingBlock(block, i));
    const resting = blocks.filter((block) => !block.path && block.name === undefined).map(solidOf);
    this.tree = new SolidTree([...resting, ...(bounds && edges ? wallsOf(bounds, edges) : [])]);
    this.blocks = blocks;
    this.still = this.moving.length === 0;
    this.named = new Map(Object.entries(places).map(([name, [x, y, z = 0]]) => [name, { x, y, z }]));
  }

  /** Calls `look` with solids near the way of `cast`, at least all that it can touch, until it answers true. */
  protected some(cast: Cast, look: (cast: Cast, solid: Solid) => boolean): boolean {
    if (this.tree.some(cast, look)) return true;
    const { moving } = this;
    for (let i = 0; i < moving.length; i++) if (look(cast, moving[i].solid)) return true;
    return false;
  }
  abstract roomAround(cast: Cast, room: Room): boolean;

  find(place: string): Place | undefined {
    return this.named.get(place);
  }

  /**
   * Moves blocks with a path to where they are at a time, in seconds. Call it before the characters tick; for a record
   * that is restored, with the time of that record.
   */
  advanceTo(seconds: number): void {
    for (const block of this.moving) block.advanceTo(seconds);
  }

  /**
   * Puts a named block at an offset from where it was declared: `velocity` per second is what it gives to who stands
   * on it.
   * @throws {UsageError} for a name that no block has.
   */
  put(
    name: string,
    offset: readonly [x: number, y: number, z?: number],
    velocity: readonly [x: number, y: number, z?: number] = [0, 0, 0],
  ): void {
    const found = this.moving.filter(({ block }) => block.name === name);
    if (found.length === 0)
      indexOfName(
        'put',
        'block',
        name,
        this.moving.flatMap(({ block }) => block.name ?? []),
      );
    want(isPoint(offset), 'put', 'the offset', 'a list of two or three numbers', offset);
    want(isPoint(velocity), 'put', 'the velocity', 'a list of two or three numbers', velocity);
    for (const block of found)
      block.put(offset[0], offset[1], offset[2] ?? 0, velocity[0], velocity[1], velocity[2] ?? 0);
  }

  /** @internal How many numbers all of what moves takes. */
  get stateSize(): number {
    return this.moving.length * BLOCK_STATE;
  }

  /** @internal Goes on along all paths for so many seconds. */
  advanceBy(seconds: number): void {
    for (let i = 0; i < this.moving.length; i++) this.moving[i].advanceBy(seconds);
  }

  /** @internal Copies how everything moves. */
  writeState(out: Float64Array, at: number): void {
    let next = at;
    for (let i = 0; i < this.moving.length; i++) next = this.moving[i].writeTo(out, next);
  }

  /** @internal Makes everything move as it did then. */
  readState(from: Float64Array, at: number): void {
    let next = at;
    for (let i = 0; i < this.moving.length; i++) next = this.moving[i].readFrom(from, next);
  }

  attach(mover: number, point: Float64Array): boolean {
    const block = this.moving.at(mover >= 0 ? mover : Number.MAX_SAFE_INTEGER);
    block?.attach(point);
    return block !== undefined;
  }

  locate(mover: number, point: Float64Array): boolean {
    const block = this.moving.at(mover >= 0 ? mover : Number.MAX_SAFE_INTEGER);
    block?.locate(point);
    return block !== undefined;
  }

  /**
   * Blocks that can move, as they are now, to be drawn: the boxes around them, and how far each is turned about its middle, in degrees. A new list in
   * each call.
   */
  blocksNow(): (Bounds & { readonly block: AnyBlock; readonly turned: number })[] {
    return this.moving.map(({ block, turned, solid: { x0, y0, z0, x1, y1, z1 } }) => ({
      block,
      turned,
      ...{ x0, y0, z0, x1, y1, z1 },
    }));
  }

  /**
   * A ray that runs exactly along a seam between two solids is stopped by them, one along the face of a solid is not:
   * what lies on both sides of it counts.
   */
  ray(cast: Cast, hit: Hit): boolean {
    const found = this.search(cast, hit, offerSolid, chooseSolid);
    if (!search.grazes) return found;
    const nearest = found ? hit.part : 2;
    const { x, y, z, dx, dy } = cast;
    const alongX = dx === 0;
    const alongY = dy === 0;
    let part = -1;
    let which = 0;
    for (let side = 0; side < 4; side++) {
      nudge(cast, alongX, alongY, side);
      const stopped = this.search(cast, hit, offerSolid, chooseSolid);
      if (!stopped) part = 2;
      else if (hit.part > part) {
        part = hit.part;
        which = side;
      }
      cast.x = x;
      cast.y = y;
      cast.z = z;
    }
    if (part < nearest) {
      nudge(cast, alongX, alongY, which);
      this.search(cast, hit, offerSolid, chooseSolid);
      cast.x = x;
      cast.y = y;
      cast.z = z;
      return true;
    }
    return this.search(cast, hit, offerSolid, chooseSolid);
  }

  sweep(cast: Cast, hit: Hit): boolean {
    return this.search(cast, hit, offerAny, chooseAny);
  }

  overlap(cast: Cast): boolean {
    cast.dx = 0;
    cast.dy = 0;
    cast.dz = 0;
    return this.some(cast, overlaps);
  }

  nearest(cast: Cast, hit: Hit): boolean {
    near.apart = cast.hx;
    near.solid = null;
    this.some(cast, noteNearest);
    const solid = near.solid as Solid | null;
    if (solid === null || near.apart < TOUCH) return false;
    hit.clear();
    hit.part = near.apart / cast.hx;
    hit.nx = near.x / near.apart;
    hit.ny = near.y / near.apart;
    hit.nz = near.z / near.apart;
    writeSolid(hit, solid);
    return true;
  }

  private search(cast: Cast, hit: Hit, offer: typeof offerAny, choose: typeof chooseAny): boolean {
    search.begin();
    this.some(cast, offer);
    if (!search.found) return false;
    this.some(cast, choose);
    search.write(cast, hit);
    return true;
  }
}

/** What closes a world where its edges are walls. */
function wallsOf(b: Bounds, { sides, top, bottom }: Edges): Solid[] {
  const walls: Solid[] = [];
  if (sides === 'wall') {
    walls.push(makeSolid([b.x0 - THICK, b.y0 - THICK, b.z0 - THICK, b.x0, b.y1 + THICK, b.z1 + THICK], {}));
    walls.push(makeSolid([b.x1, b.y0 - THICK, b.z0 - THICK, b.x1 + THICK, b.y1 + THICK, b.z1 + THICK], {}));
    if (Number.isFinite(b.z0))
      walls.push(makeSolid([b.x0 - THICK, b.y0 - THICK, b.z0 - THICK, b.x1 + THICK, b.y1 + THICK, b.z0], {}));
    if (Number.isFinite(b.z1))
      walls.push(makeSolid([b.x0 - THICK, b.y0 - THICK, b.z1, b.x1 + THICK, b.y1 + THICK, b.z1 + THICK], {}));
  }
  const level = [b.x0 - THICK, b.x1 + THICK, b.z0 - THICK, b.z1 + THICK];
  if (bottom === 'wall') walls.push(makeSolid([level[0], b.y0 - THICK, level[2], level[1], b.y0, level[3]], {}));
  if (top === 'wall') walls.push(makeSolid([level[0], b.y1, level[2], level[1], b.y1 + THICK, level[3]], {}));
  return walls;
}

/** Moves a ray off a seam, to one of the four sides of its way. */
function nudge(cast: Cast, alongX: boolean, alongY: boolean, side: number): void {
  const first = (side & 1) === 0 ? 2 * TOUCH : -2 * TOUCH;
  const second = (side & 2) === 0 ? 2 * TOUCH : -2 * TOUCH;
  if (alongY) cast.y += first;
  else if (alongX) cast.x += first;
  if (alongX && alongY) cast.x += second;
  else cast.z += second;
}

/** The nearest solid so far, how far it is, and the way from it. */
const near: { apart: number; x: number; y: number; z: number; solid: Solid | null } = {
  apart: 0.5,
  x: 0.5,
  y: 0.5,
  z: 0.5,
  solid: null,
};

const noteNearest = (cast: Cast, solid: Solid) => {
  if (solid.oneWay || !isNear(cast, solid) || !counts(cast, solid)) return false;
  findWay(solid, cast, WAY);
  const apart = WAY[3];
  if (apart >= near.apart) return false;
  near.apart = apart;
  near.x = WAY[0];
  near.y = WAY[1];
  near.z = WAY[2];
  near.solid = solid;
  // Inside of something, nothing is nearest.
  return apart < TOUCH;
};
const WAY = new Float64Array(4);

const offerAny = (cast: Cast, solid: Solid) => {
  if (isNear(cast, solid) && counts(cast, solid)) search.first(cast, solid);
  return false;
};
const chooseAny = (cast: Cast, solid: Solid) => {
  if (isNear(cast, solid) && counts(cast, solid)) search.choose(cast, solid);
  return false;
};
const offerSolid = (cast: Cast, solid: Solid) => !solid.oneWay && offerAny(cast, solid);
const chooseSolid = (cast: Cast, solid: Solid) => !solid.oneWay && chooseAny(cast, solid);
const overlaps = (cast: Cast, solid: Solid) => overlapsSolid(cast, solid) && counts(cast, solid);
