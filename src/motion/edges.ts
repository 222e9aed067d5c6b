import type { BodyShape, Plan } from '../compile/plan.js';
import { askOverlap, placeCast } from '../probes/ask-world.js';
import { FELL, TOUCHES, VX, VZ, WALL, WALL_X, WALL_Z, X, Y, Z } from '../record/slots.js';
import { TOUCH } from '../world/solid.js';
import type { Cast, World } from '../world/world.js';
import { clearContacts } from './contacts.js';
import type { Mover } from './mover.js';
import { leaveRoom } from './rooms.js';

/** What happens to a body that has left the world: it comes in at the other side, or has fallen out. */
export function keepInWorld(plan: Plan, r: Float64Array, shape: BodyShape, { world, cast }: Mover): void {
  const { bounds, edges } = world;
  if (bounds === undefined || edges === undefined) return;
  if (edges.sides === 'wrap') {
    wrap(plan, r, shape, world, cast, X, bounds.x0, bounds.x1);
    if (plan.view === 'open') wrap(plan, r, shape, world, cast, Z, bounds.z0, bounds.z1);
  }
  if (edges.bottom === 'fall') r[FELL] = r[Y] + shape.height < bounds.y0 ? 1 : 0;
}

function wrap(
  plan: Plan,
  r: Float64Array,
  shape: BodyShape,
  world: World,
  cast: Cast,
  at: number,
  low: number,
  high: number,
): void {
  const width = high - low;
  if (!(width > 0 && width < Number.POSITIVE_INFINITY)) return;
  if (r[at] >= low && r[at] < high) return;
  const from = r[at];
  r[at] -= Math.floor((from - low) / width) * width;
  leaveRoom(plan, r);
  placeCast(cast, shape, r);
  if (!askOverlap(world, cast)) return;
  // Something solid is behind the seam: the body comes as far as that.
  const right = from >= high;
  r[at] = right ? high - TOUCH : low;
  const along = at === X ? VX : VZ;
  if (right === r[along] > 0) r[along] = 0;
  clearContacts(r);
  r[TOUCHES] |= WALL;
  r[at === X ? WALL_X : WALL_Z] = right ? -1 : 1;
}
