import type { Axis, Round, Solid } from './solid.js';
import type { Cast } from './world.js';

/** Rounds of projections; each halves what is left at the least, so that they end at what a double can tell. */
const ROUNDS = 60;
/** A round that changes less than this was the last. */
const STILL = 1e-12;
/** How far each slab has pushed so far: three of the box and at most twelve further ones. */
const PUSHED = new Float64Array(15);

/** Writes the way from the nearest spot of a solid to the middle of a cast, and behind it how long that is; 0 inside. */
export function findWay(solid: Solid, cast: Cast, way: Float64Array): void {
  if (solid.round !== null) findWayFromRound(solid.round, cast, way);
  else if (solid.axes !== null) findWayFromConvex(solid, solid.axes, cast, way);
  else findWayFromBox(solid, cast, way);
}

function findWayFromBox(solid: Solid, { x, y, z }: Cast, way: Float64Array): void {
  way[0] = x - Math.min(Math.max(x, solid.x0), solid.x1);
  way[1] = y - Math.min(Math.max(y, solid.y0), solid.y1);
  way[2] = z - Math.min(Math.max(z, solid.z0), solid.z1);
  measure(way);
}

function findWayFromRound(round: Round, { x, y, z }: Cast, way: Float64Array): void {
  const { ax, ay, az, bx, by, bz, radius } = round;
  const ux = bx - ax;
  const uy = by - ay;
  const uz = bz - az;
  const square = ux * ux + uy * uy + uz * uz;
  const along = square > 0 ? ((x - ax) * ux + (y - ay) * uy + (z - az) * uz) / square : 0;
  const t = Math.min(1, Math.max(0, along));
  way[0] = x - ax - ux * t;
  way[1] = y - ay - uy * t;
  way[2] = z - az - uz * t;
  measure(way);
  const apart = way[3];
  way[3] = Math.max(0, apart - radius);
  if (apart <= radius) return;
  const scale = (apart - radius) / apart;
  way[0] *= scale;
  way[1] *= scale;
  way[2] *= scale;
}

/**
 * The nearest spot of a convex solid: the point is brought into each slab in turn, again and again, and what a slab has
 * pushed is taken back before it pushes again (Boyle and Dykstra's alternating projections).
 */
function findWayFromConvex(solid: Solid, axes: readonly Axis[], { x, y, z }: Cast, way: Float64Array): void {
  PUSHED.fill(0);
  let px = x;
  let py = y;
  let pz = z;
  for (let round = 0; round < ROUNDS; round++) {
    let changed = 0;
    for (let i = 0; i < axes.length + 3; i++) {
      const axis = i < axes.length ? axes[i] : null;
      const k = i - axes.length;
      const nx = axis === null ? (k === 0 ? 1 : 0) : axis.x;
      const ny = axis === null ? (k === 1 ? 1 : 0) : axis.y;
      const nz = axis === null ? (k === 2 ? 1 : 0) : axis.z;
      const low = axis === null ? (k === 0 ? solid.x0 : k === 1 ? solid.y0 : solid.z0) : axis.low;
      const high = axis === null ? (k === 0 ? solid.x1 : k === 1 ? solid.y1 : solid.z1) : axis.high;
      const before = PUSHED[i];
      const at = px * nx + py * ny + pz * nz + before;
      const push = Math.min(Math.max(at, low), high) - at;
      PUSHED[i] = -push;
      const step = before + push;
      px += nx * step;
      py += ny * step;
      pz += nz * step;
      changed = Math.max(changed, Math.abs(step));
    }
    if (changed < STILL) break;
  }
  way[0] = x - px;
  way[1] = y - py;
  way[2] = z - pz;
  measure(way);
}

function measure(way: Float64Array): void {
  way[3] = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]);
}
