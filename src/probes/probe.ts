import type { Plan } from '../compile/plan.js';
import { PROBE, Q_DISTANCE, Q_HIT, Q_MOMENT, Q_NORMAL, Q_POINT } from '../record/layout.js';
import { FX, FZ, X, Y, Z } from '../record/slots.js';
import type { Cast, Hit } from '../world/world.js';
import { checkHit } from './ask-world.js';

/** Answers one probe: a World's own `ray`, or the function that an engine gives. */
export type AnswerProbe = (cast: Cast, hit: Hit) => boolean;

/**
 * Asks a probe and writes all of its answers, also of a miss: the distance is its reach, the point the end of its way,
 * the normal 0. What was answered at this `moment` (position, facing and world unchanged) is not asked again.
 */
export function askProbe(
  plan: Plan,
  r: Float64Array,
  index: number,
  moment: number,
  answer: AnswerProbe | null,
  cast: Cast,
  hit: Hit,
): void {
  const out = plan.probesAt + index * PROBE;
  if (r[out + Q_MOMENT] === moment) return;
  r[out + Q_MOMENT] = moment;
  const { at, ray, reach, on } = plan.probes[index];
  const fx = r[FX];
  const fz = r[FZ];
  cast.kind = 'ray';
  cast.surfaces = on;
  cast.x = r[X] + at[0] * fx - at[2] * fz;
  cast.y = r[Y] + at[1];
  cast.z = r[Z] + at[0] * fz + at[2] * fx;
  cast.hx = 0;
  cast.hy = 0;
  cast.hz = 0;
  cast.dx = ray[0] * fx - ray[2] * fz;
  cast.dy = ray[1];
  cast.dz = ray[0] * fz + ray[2] * fx;
  hit.clear();
  const found = answer?.(cast, hit) === true;
  if (found) checkHit('The answer to a probe', hit);
  const part = found ? hit.part : 1;
  r[out + Q_HIT] = found ? 1 : 0;
  r[out + Q_DISTANCE] = part * reach;
  r[out + Q_POINT] = cast.x + cast.dx * part;
  r[out + Q_POINT + 1] = cast.y + cast.dy * part;
  r[out + Q_POINT + 2] = cast.z + cast.dz * part;
  r[out + Q_NORMAL] = found ? hit.nx : 0;
  r[out + Q_NORMAL + 1] = found ? hit.ny : 0;
  r[out + Q_NORMAL + 2] = found ? hit.nz : 0;
}
