import { overlapsSolid, type Solid, sweepSolid } from './solid.js';
import type { Cast, Hit, World } from './world.js';

/** A solid box by two corners, in any order. */
export interface Box {
  from: readonly [x: number, y: number, z?: number];
  to: readonly [x: number, y: number, z?: number];
  /** Stops only what comes down on it. Default false. */
  oneWay?: boolean;
  tags?: readonly string[];
}

/** Depth that a box without z has: deeper than any body. */
const DEEP = 1e6;

/** A world of boxes, in any place. Every question asks every box: meant for up to some hundreds. */
export class BoxWorld implements World {
  readonly still = true;
  private readonly solids: readonly Solid[];

  constructor(boxes: readonly Box[]) {
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

  ray(cast: Cast, hit: Hit): boolean {
    return this.first(cast, hit, false);
  }

  sweep(cast: Cast, hit: Hit): boolean {
    return this.first(cast, hit, true);
  }

  overlap(cast: Cast): boolean {
    for (let i = 0; i < this.solids.length; i++) if (overlapsSolid(cast, this.solids[i])) return true;
    return false;
  }

  private first(cast: Cast, hit: Hit, platforms: boolean): boolean {
    let found = false;
    hit.part = 1 + 1e-12;
    for (let i = 0; i < this.solids.length; i++) {
      const solid = this.solids[i];
      if ((platforms || !solid.oneWay) && sweepSolid(cast, solid, hit)) found = true;
    }
    return found;
  }
}
