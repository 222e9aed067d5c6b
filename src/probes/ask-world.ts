import type { BodyShape } from '../compile/plan.js';
import { X, Y, Z } from '../record/slots.js';
import { UsageError } from '../report/usage-error.js';
import type { Cast, Hit, World } from '../world/world.js';

/** Asks how far the cast's box gets, whatever it passes through. Throws a UsageError for an answer that no body could follow. */
export function askSweep(world: World, cast: Cast, hit: Hit): boolean {
  cast.kind = 'sweep';
  cast.surfaces = null;
  hit.clear();
  if (!world.sweep(cast, hit)) return false;
  checkHit('World.sweep', hit);
  return true;
}

/** Asks what the cast's ray meets first. Throws a UsageError for an answer that lies nowhere on it. */
export function askRay(world: World, cast: Cast, hit: Hit): boolean {
  cast.kind = 'ray';
  cast.surfaces = null;
  hit.clear();
  if (!world.ray(cast, hit)) return false;
  checkHit('World.ray', hit);
  return true;
}

export function askOverlap(world: World, cast: Cast): boolean {
  cast.kind = 'overlap';
  cast.surfaces = null;
  cast.dx = 0;
  cast.dy = 0;
  cast.dz = 0;
  return world.overlap(cast);
}

/** Checks the answer to a ray or sweep, since all numbers from outside are checked where they enter. */
export function checkHit(call: string, hit: Hit): void {
  const { part, nx, ny, nz } = hit;
  const length = nx * nx + ny * ny + nz * nz;
  if (part >= 0 && part <= 1 && length > 0.99 && length < 1.01) return;
  throw new UsageError(
    `${call}: an answer needs a part from 0 to 1 and a normal of length 1, not part ${part} and normal ${nx}, ${ny}, ${nz}.`,
    'out-of-range',
  );
}

/** Puts the cast's box where a body of this shape is. */
export function placeCast(cast: Cast, { hx, hy, hz }: BodyShape, r: Float64Array): void {
  cast.x = r[X];
  cast.y = r[Y] + hy;
  cast.z = r[Z];
  cast.hx = hx;
  cast.hy = hy;
  cast.hz = hz;
}
