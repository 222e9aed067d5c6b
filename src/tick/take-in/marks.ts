import { MARK, MARK_KIND, MARK_ON, MARK_POINT, MARK_X, ON_MEMBER, SHAPE, X, Y, Z } from '../../record/slots.js';
import type { Actor } from '../actor.js';

const AT = new Float64Array(3);

/** Marks that are on something go with it, and are unset where that is gone. */
export function followMarks(c: Actor): void {
  const { following } = c.plan;
  for (let i = 0; i < following.length; i++) if (c.r[following[i] + MARK_KIND] !== 0) followMark(c, following[i]);
}

/** Puts a mark where the thing is now that it is on. */
export function followMark(c: Actor, at: number): void {
  const { r } = c;
  for (let k = 0; k < 3; k++) AT[k] = r[at + MARK_POINT + k];
  if (!(r[at + MARK_KIND] === ON_MEMBER ? locateOnMember(c, at) : c.world?.locate?.(r[at + MARK_ON], AT)))
    r.fill(0, at, at + MARK);
  else for (let k = 0; k < 3; k++) r[at + MARK_X + k] = AT[k];
}

/** A point on a member is known from the middle of its body. */
function locateOnMember(c: Actor, at: number): boolean {
  const other = c.others?.byId(c.r[at + MARK_ON]);
  if (!other) return false;
  const { r, plan } = other.c;
  AT[0] += r[X];
  AT[1] += r[Y] + plan.shapes[r[SHAPE]].hy;
  AT[2] += r[Z];
  return true;
}
