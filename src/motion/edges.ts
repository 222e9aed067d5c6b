import type { BodyShape, Plan } from '../compile/plan.js';
import { FELL, X, Y, Z } from '../record/slots.js';
import type { World } from '../world/world.js';
import { leaveRoom } from './rooms.js';

/** What happens to a body that has left the world: it comes in at the other side, or has fallen out. */
export function keepInWorld(plan: Plan, r: Float64Array, shape: BodyShape, { bounds, edges }: World): void {
  if (bounds === undefined || edges === undefined) return;
  if (edges.sides === 'wrap') {
    wrap(plan, r, X, bounds.x0, bounds.x1);
    if (plan.view === 'open') wrap(plan, r, Z, bounds.z0, bounds.z1);
  }
  if (edges.bottom === 'fall') r[FELL] = r[Y] + shape.height < bounds.y0 ? 1 : 0;
}

function wrap(plan: Plan, r: Float64Array, at: number, low: number, high: number): void {
  const width = high - low;
  if (!(width > 0 && width < Number.POSITIVE_INFINITY)) return;
  if (r[at] >= low && r[at] < high) return;
  r[at] -= Math.floor((r[at] - low) / width) * width;
  leaveRoom(plan, r);
}
