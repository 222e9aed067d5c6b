import type { Plan } from '../compile/plan.js';
import { askOverlap, askRay, askSweep, placeCast } from '../probes/ask-world.js';
import type { Summoning } from '../record/combat.js';
import { FX, FZ, SHAPE, X, Y, Z } from '../record/slots.js';
import { LARGEST } from '../report/usage-error.js';
import type { Actor } from '../tick/actor.js';

/**
 * Writes where the feet of somebody who is called come to stand: on the way from the middle of the caller to the place that the caller says, as far as there is room for
 * the body of who comes. Says whether there is such a place, within what numbers from outside may be; without a world, there always is.
 */
export function placeCalled(caller: Actor, summoning: Summoning, plan: Plan, out: Float64Array): boolean {
  if (!findPlace(caller, summoning, plan, out)) return false;
  for (let k = 0; k < 3; k++) if (!(Math.abs(out[k]) <= LARGEST)) return false;
  return true;
}

function findPlace({ r, plan: own, mover }: Actor, { at }: Summoning, plan: Plan, out: Float64Array): boolean {
  out[0] = r[X] + at[0] * r[FX] - at[2] * r[FZ];
  out[1] = r[Y] + at[1];
  out[2] = r[Z] + at[0] * r[FZ] + at[2] * r[FX];
  if (mover === null) return true;
  const { world, cast, hit } = mover;
  const body = plan.shapes[0];
  const { height } = own.shapes[r[SHAPE]];
  placeCast(cast, body, r);
  cast.passes = null;
  // A small body comes from the middle of the caller, one that is as high from its feet.
  const lift = Math.max(0, (height - body.height) / 2);
  cast.y += lift;
  if (!askOverlap(world, cast)) {
    cast.dx = out[0] - r[X];
    cast.dy = out[1] - r[Y] - lift;
    cast.dz = out[2] - r[Z];
    if (!askSweep(world, cast, hit)) return true;
    const { part } = hit;
    out[0] = r[X] + cast.dx * part;
    out[1] = r[Y] + lift + cast.dy * part;
    out[2] = r[Z] + cast.dz * part;
    return true;
  }
  // Who has no room there may have some at the place itself, if nothing lies between.
  cast.x = out[0];
  cast.y = out[1] + body.hy;
  cast.z = out[2];
  if (askOverlap(world, cast)) return false;
  cast.dx = r[X] - cast.x;
  cast.dy = r[Y] + height / 2 - cast.y;
  cast.dz = r[Z] - cast.z;
  cast.hx = cast.hy = cast.hz = 0;
  return (cast.dx === 0 && cast.dy === 0 && cast.dz === 0) || !askRay(world, cast, hit);
}
