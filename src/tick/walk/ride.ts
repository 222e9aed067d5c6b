import { R_AT, R_MARK } from '../../record/ride.js';
import {
  FORCED,
  FORCED_VELOCITY,
  FX,
  FZ,
  LEVEL,
  MARK_KIND,
  MARK_ON,
  MARK_SET,
  MARK_X,
  ON_MEMBER,
  UPRIGHT,
  X,
  Y,
  Z,
} from '../../record/slots.js';
import type { Actor } from '../actor.js';

/** Whether a body is kept at a mark in this tick. */
export function rides({ r, plan }: Actor): boolean {
  const at = plan.rideAt;
  return at >= 0 && r[at + R_MARK] > 0 && r[r[at + R_MARK] + MARK_SET] === 1;
}

/** The number of the member that a body rides; 0 for none. */
export function mountOf(c: Actor): number {
  if (!rides(c)) return 0;
  const mark = c.r[c.plan.rideAt + R_MARK];
  return c.r[mark + MARK_KIND] === ON_MEMBER ? c.r[mark + MARK_ON] : 0;
}

/** Has a body that rides go to its place in this tick: by a velocity that is held, so that a world and an engine move it alike. */
export function aimRide(c: Actor): void {
  const { r, plan } = c;
  const at = plan.rideAt + R_AT;
  const mark = r[plan.rideAt + R_MARK] + MARK_X;
  const mount = mountOf(c);
  const faces = (mount === 0 ? undefined : c.others?.byId(mount)?.c.r) ?? r;
  const forward = r[at];
  const side = r[at + 2];
  r[FORCED] = LEVEL | UPRIGHT;
  r[FORCED_VELOCITY] = (r[mark] + forward * faces[FX] - side * faces[FZ] - r[X]) / plan.dt;
  r[FORCED_VELOCITY + 1] = (r[mark + 1] + r[at + 1] - r[Y]) / plan.dt;
  r[FORCED_VELOCITY + 2] =
    plan.view === 'open' ? (r[mark + 2] + forward * faces[FZ] + side * faces[FX] - r[Z]) / plan.dt : 0;
}
