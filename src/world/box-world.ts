import { DEEP, type Solid, TOUCH } from './solid.js';
import { SolidWorld } from './solid-world.js';
import type { Cast, Room } from './world.js';

/** A solid box by two corners, in any order. */
export interface Box {
  from: readonly [x: number, y: number, z?: number];
  to: readonly [x: number, y: number, z?: number];
  /** Stops only what comes down on it. Default false. */
  oneWay?: boolean;
  tags?: readonly string[];
}

/**
 * A world of boxes, in any place. Every question looks at every box, a body in the open asks none: meant for up to
 * some hundreds.
 */
export class BoxWorld extends SolidWorld {
  private readonly solids: readonly Solid[];

  constructor(boxes: readonly Box[]) {
    super();
    this.solids = boxes.map(({ from, to, oneWay = false, tags = [] }) => ({
      x0: Math.min(from[0], to[0]),
      y0: Math.min(from[1], to[1]),
      z0: Math.min(from[2] ?? -DEEP, to[2] ?? DEEP),
      x1: Math.max(from[0], to[0]),
      y1: Math.max(from[1], to[1]),
      z1: Math.max(from[2] ?? -DEEP, to[2] ?? DEEP),
      oneWay,
      tags,
    }));
  }

  roomAround(cast: Cast, room: Room): boolean {
    const floor = this.floorUnder(cast);
    room.floor = floor !== undefined;
    room.y0 = floor?.y1 ?? Number.NEGATIVE_INFINITY;
    room.x0 = floor?.x0 ?? Number.NEGATIVE_INFINITY;
    room.z0 = floor?.z0 ?? Number.NEGATIVE_INFINITY;
    room.x1 = floor?.x1 ?? Number.POSITIVE_INFINITY;
    room.z1 = floor?.z1 ?? Number.POSITIVE_INFINITY;
    room.y1 = Number.POSITIVE_INFINITY;
    for (let i = 0; i < this.solids.length; i++) if (!cutRoom(room, cast, this.solids[i])) return false;
    for (let i = 0; i < this.solids.length; i++) noteWall(room, this.solids[i]);
    return true;
  }

  /** The highest box that reaches under the whole of `cast`. */
  private floorUnder({ x, y, z, hx, hy, hz }: Cast): Solid | undefined {
    let floor: Solid | undefined;
    for (let i = 0; i < this.solids.length; i++) {
      const s = this.solids[i];
      if (s.y1 > y - hy + TOUCH || (floor !== undefined && s.y1 <= floor.y1)) continue;
      if (s.x0 <= x - hx && s.x1 >= x + hx && s.z0 <= z - hz && s.z1 >= z + hz) floor = s;
    }
    return floor;
  }

  protected some(cast: Cast, look: (cast: Cast, solid: Solid) => boolean): boolean {
    for (let i = 0; i < this.solids.length; i++) if (look(cast, this.solids[i])) return true;
    return false;
  }
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
  if (s.oneWay || s.y0 > room.y0 || s.z0 > room.z0 || s.z1 < room.z1) return;
  if (s.x1 === room.x0 && !(s.y1 <= room.wallX0)) room.wallX0 = s.y1;
  if (s.x0 === room.x1 && !(s.y1 <= room.wallX1)) room.wallX1 = s.y1;
}
