import { TOUCH } from './solid.js';
import type { Cast, Hit, World } from './world.js';

/** Level ground at height `y` as far as anyone goes: the cheapest world. */
export function flatGround(y = 0): World {
  return new FlatGround(y);
}

class FlatGround implements World {
  readonly still = true;
  constructor(private readonly y: number) {}

  ray(cast: Cast, hit: Hit): boolean {
    return this.sweep(cast, hit);
  }

  sweep(cast: Cast, hit: Hit): boolean {
    const gap = cast.y - cast.hy - this.y;
    if (cast.dy >= 0 || gap < -TOUCH || gap > -cast.dy) return false;
    hit.part = gap > 0 ? gap / -cast.dy : 0;
    hit.nx = 0;
    hit.ny = 1;
    hit.nz = 0;
    hit.tags = NO_TAGS;
    return true;
  }

  overlap(cast: Cast): boolean {
    return cast.y - cast.hy < this.y - TOUCH;
  }
}

const NO_TAGS: readonly string[] = [];
