import { checkNumber } from '../report/usage-error.js';
import { TOUCH } from './solid.js';
import type { Cast, Hit, Room, World } from './world.js';

/**
 * Level ground at height `y` as far as anyone goes: the cheapest world.
 * @param y Height of the ground. Default 0.
 */
export function flatGround(y = 0): World {
  checkNumber('flatGround', 'y', y);
  return new FlatGround(y);
}

/** Level ground. */
export class FlatGround implements World {
  readonly still = true;
  constructor(readonly y: number) {}

  ray(cast: Cast, hit: Hit): boolean {
    return this.sweep(cast, hit);
  }

  sweep(cast: Cast, hit: Hit): boolean {
    if (cast.surfaces !== null) return false; // it has no tags
    const gap = cast.y - cast.hy - this.y;
    if (cast.dy >= 0 || gap < -TOUCH) return false;
    const part = gap > 0 ? gap / -cast.dy : 0;
    if (part > 1) return false;
    hit.clear();
    hit.part = part;
    hit.nx = 0;
    hit.ny = 1;
    hit.nz = 0;
    hit.height = this.y;
    return true;
  }

  nearest(cast: Cast, hit: Hit): boolean {
    const apart = cast.y - this.y;
    if (cast.surfaces !== null || apart < TOUCH || apart >= cast.hx) return false;
    hit.clear();
    hit.part = apart / cast.hx;
    hit.nx = 0;
    hit.ny = 1;
    hit.nz = 0;
    return true;
  }

  overlap(cast: Cast): boolean {
    return cast.surfaces === null && cast.y - cast.hy < this.y - TOUCH;
  }

  roomAround(cast: Cast, room: Room): boolean {
    room.x0 = Number.NEGATIVE_INFINITY;
    room.y0 = this.y;
    room.z0 = Number.NEGATIVE_INFINITY;
    room.x1 = Number.POSITIVE_INFINITY;
    room.y1 = Number.POSITIVE_INFINITY;
    room.z1 = Number.POSITIVE_INFINITY;
    room.floor = true;
    return !this.overlap(cast);
  }
}
