import type { BodyShape, Plan } from '../compile/plan.js';
import { askOverlap, placeCast } from '../probes/ask-world.js';
import { X, Y, Z } from '../record/slots.js';
import type { Cast, World } from '../world/world.js';

/** Ways out of a solid, the first of several equally short ones wins; z only in the open view. */
const WAYS: readonly (readonly [number, number, number])[] = [
  [0, 1, 0],
  [-1, 0, 0],
  [1, 0, 0],
  [0, 0, -1],
  [0, 0, 1],
  [0, -1, 0],
];
/** The shortest way that is tried, in sizes of the body; it is doubled until there is room. */
const SHORTEST = 1 / 128;
/** How often the way is halved to find where it ends, to a ten-millionth. */
const HALVINGS = 20;

/**
 * Moves a body that begins inside something solid out of it, by the shortest way that is no longer than the body.
 * Says whether the body is free now. Only asks for overlaps, so that it works in every world.
 */
export function pushOut(plan: Plan, r: Float64Array, shape: BodyShape, world: World, cast: Cast): boolean {
  if (!overlapsAt(r, shape, world, cast, 0, 0)) return true;
  const least = SHORTEST * Math.max(shape.width, shape.height, shape.depth);
  let best = -1;
  let shortest = Number.POSITIVE_INFINITY;
  for (let way = 0; way < WAYS.length; way++) {
    if (WAYS[way][2] !== 0 && plan.view === 'side') continue;
    const longest = WAYS[way][1] !== 0 ? shape.height : Math.max(shape.width, shape.depth);
    let inside = 0;
    let free = least;
    while (free <= longest && overlapsAt(r, shape, world, cast, way, free)) {
      inside = free;
      free *= 2;
    }
    if (free > longest || inside >= shortest) continue;
    for (let i = 0; i < HALVINGS; i++) {
      const middle = (inside + free) / 2;
      if (overlapsAt(r, shape, world, cast, way, middle)) inside = middle;
      else free = middle;
    }
    if (free >= shortest - least / 1000) continue;
    shortest = free;
    best = way;
  }
  if (best < 0) return false;
  r[X] += WAYS[best][0] * shortest;
  r[Y] += WAYS[best][1] * shortest;
  r[Z] += WAYS[best][2] * shortest;
  return true;
}

function overlapsAt(r: Float64Array, shape: BodyShape, world: World, cast: Cast, way: number, by: number): boolean {
  placeCast(cast, shape, r);
  cast.x += WAYS[way][0] * by;
  cast.y += WAYS[way][1] * by;
  cast.z += WAYS[way][2] * by;
  return askOverlap(world, cast);
}
