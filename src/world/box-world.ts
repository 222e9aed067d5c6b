import { wantList, wantOptions } from '../report/arguments.js';
import { type AnyBlock, solidOf } from './blocks.js';
import { type Bounds, isWhole, type Solid, TOUCH } from './solid.js';
import { SolidWorld, type SolidWorldOptions } from './solid-world.js';
import { SolidTree } from './tree.js';
import { Cast, type Room } from './world.js';

/** What a world of blocks has besides its blocks. */
export interface BoxWorldOptions extends Omit<SolidWorldOptions, 'blocks'> {
  /** Two corners of the world: what `edges` are about, and where warps stay within. Default: it has no end. */
  bounds?: { from: readonly [x: number, y: number, z?: number]; to: readonly [x: number, y: number, z?: number] };
}

/** How far around a body a room is looked for, in sizes of the body: some seconds of walking. */
const ROOM_REACH = 12;

/** A world of blocks in any place: boxes, turned boxes and capsules. */
export class BoxWorld extends SolidWorld {
  /** @internal What it was made with, besides its blocks. */
  readonly given: BoxWorldOptions;
  /** All that stands still, to look for rooms. */
  private readonly resting: SolidTree;
  private readonly around = new Cast();
  private readonly nearby: Solid[] = [];
  private readonly gather = (_: Cast, solid: Solid): boolean => {
    this.nearby.push(solid);
    return false;
  };

  /**
   * Of boxes, spheres, capsules and turned boxes, some of which may move.
   * @param blocks What it is made of; the world keeps the list.
   * @param given Its bounds and edges, and named places.
   * @throws {UsageError} for what is none of these.
   */
  constructor(blocks: readonly AnyBlock[], given: BoxWorldOptions = {}) {
    wantOptions('BoxWorld', given, ['bounds', 'places', 'edges']);
    wantList('BoxWorld', 'its blocks', blocks);
    const { bounds, ...options } = given;
    super({ ...options, blocks }, bounds && boundsOf(bounds));
    this.given = given;
    this.resting = new SolidTree(blocks.map(solidOf).filter((solid) => !solid.area));
  }

  roomAround(cast: Cast, room: Room): boolean {
    if (!this.still || this.edges !== undefined) return false;
    const { around, nearby } = this;
    const reach = ROOM_REACH * Math.max(cast.hx, cast.hy, cast.hz);
    around.x = cast.x;
    around.y = cast.y;
    around.z = cast.z;
    around.hx = around.hy = around.hz = reach;
    around.dx = around.dy = around.dz = 0;
    nearby.length = 0;
    this.resting.some(around, this.gather);
    room.x0 = cast.x - reach;
    room.y0 = cast.y - reach;
    room.z0 = cast.z - reach;
    room.x1 = cast.x + reach;
    room.y1 = cast.y + reach;
    room.z1 = cast.z + reach;
    room.floor = false;
    const floor = floorUnder(nearby, cast);
    if (floor !== undefined && floor.y1 >= room.y0) {
      room.floor = true;
      room.floorTags = floor.tags;
      room.y0 = floor.y1;
      room.x0 = Math.max(room.x0, floor.x0);
      room.z0 = Math.max(room.z0, floor.z0);
      room.x1 = Math.min(room.x1, floor.x1);
      room.z1 = Math.min(room.z1, floor.z1);
    }
    for (const solid of nearby) if (!cutRoom(room, cast, solid)) return false;
    for (const solid of nearby) noteWall(room, solid);
    return true;
  }
}

function boundsOf({ from, to }: NonNullable<BoxWorldOptions['bounds']>): Bounds {
  const [z0, z1] = [from[2] ?? Number.NEGATIVE_INFINITY, to[2] ?? Number.POSITIVE_INFINITY];
  return {
    x0: Math.min(from[0], to[0]),
    y0: Math.min(from[1], to[1]),
    z0: Math.min(z0, z1),
    x1: Math.max(from[0], to[0]),
    y1: Math.max(from[1], to[1]),
    z1: Math.max(z0, z1),
  };
}

/** The highest whole box that reaches under the whole of `cast`. */
function floorUnder(solids: readonly Solid[], { x, y, z, hx, hy, hz }: Cast): Solid | undefined {
  let floor: Solid | undefined;
  for (const s of solids) {
    if (s.axes !== null || s.round !== null) continue;
    if (s.y1 > y - hy + TOUCH || (floor !== undefined && s.y1 <= floor.y1)) continue;
    if (s.x0 <= x - hx && s.x1 >= x + hx && s.z0 <= z - hz && s.z1 >= z + hz) floor = s;
  }
  return floor;
}

/** Makes a room so small that a box is outside of it, on the side where that takes away least; false if they overlap. */
function cutRoom(room: Room, { x, y, z, hx, hy, hz }: Cast, s: Solid): boolean {
  if (s.x0 >= room.x1 || s.x1 <= room.x0 || s.y0 >= room.y1 || s.y1 <= room.y0 || s.z0 >= room.z1 || s.z1 <= room.z0)
    return true;
  const left = x - hx - s.x1;
  const right = s.x0 - x - hx;
  const back = z - hz - s.z1;
  const front = s.z0 - z - hz;
  const above = s.y0 - y - hy;
  const most = Math.max(left, right, back, front, above);
  if (most < -TOUCH) {
    if (y - hy - s.y1 < -TOUCH) return false;
    room.y0 = s.y1;
    room.floor = false;
  } else if (most === left) room.x0 = s.x1;
  else if (most === right) room.x1 = s.x0;
  else if (most === back) room.z0 = s.z1;
  else if (most === front) room.z1 = s.z0;
  else room.y1 = s.y0;
  return true;
}

/** Notes a box that closes a side of a room from its lower side on. */
function noteWall(room: Room, s: Solid): void {
  if (!isWhole(s) || s.y0 > room.y0 || s.z0 > room.z0 || s.z1 < room.z1) return;
  if (s.x1 === room.x0 && !(s.y1 <= room.wallX0)) room.wallX0 = s.y1;
  if (s.x0 === room.x1 && !(s.y1 <= room.wallX1)) room.wallX1 = s.y1;
}
