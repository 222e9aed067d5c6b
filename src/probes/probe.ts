import type { Plan } from '../compile/plan.js';
import type { Frame } from '../record/frame.js';
import { PROBE, Q_DISTANCE, Q_HIT, Q_MOMENT, Q_NORMAL, Q_POINT } from '../record/layout.js';
import { FX, FZ, SHAPE, X, Y, Z } from '../record/slots.js';
import type { Cast, Hit } from '../world/world.js';
import { checkHit } from './ask-world.js';

/** Answers one probe: a World by its `ray` or `sweep`, as `cast.kind` says, or the function that an engine gives. */
export type AnswerProbe = (cast: Cast, hit: Hit) => boolean;

/** Where the present probe looks. Read before anything else is asked. */
const WAY = new Float64Array(3);

/**
 * Asks a probe and writes all of its answers, also of a miss: the distance is its reach, the point the end of its way,
 * the normal 0. What was answered at this `moment` (position, facing and world unchanged) is not asked again.
 */
export function askProbe(c: Frame, plan: Plan, index: number, moment: number, answer: AnswerProbe | null): void {
  const { r, cast, hit } = c;
  const out = plan.probesAt + index * PROBE;
  if (r[out + Q_MOMENT] === moment) return;
  r[out + Q_MOMENT] = moment;
  const { at, ray, on, aim, reach, box, ownBox } = plan.probes[index];
  // A function that reads this very probe for its reach finds a miss, not what was true some ticks ago.
  if (reach.run !== null) r.fill(0, out + Q_HIT, out + PROBE);
  const fx = r[FX];
  const fz = r[FZ];
  reach.run?.(c);
  const far = Number.isNaN(r[reach.at]) ? 0 : Math.max(0, r[reach.at]);
  // A fixed way is kept whole, with its length: taken apart and put together, its numbers would be rounded.
  let length = far > 0 ? 1 : 0;
  if (aim === null) {
    WAY[0] = ray[0] * fx - ray[2] * fz;
    WAY[1] = ray[1];
    WAY[2] = ray[0] * fz + ray[2] * fx;
  } else length = aim(c, WAY) ? far : 0;
  cast.kind = box === null ? 'ray' : 'sweep';
  cast.surfaces = on;
  const size = ownBox ? plan.shapes[r[SHAPE]] : null;
  cast.hx = size?.hx ?? box?.[0] ?? 0;
  cast.hy = size?.hy ?? box?.[1] ?? 0;
  cast.hz = size?.hz ?? box?.[2] ?? 0;
  cast.x = r[X] + at[0] * fx - at[2] * fz;
  cast.y = r[Y] + at[1] + (size?.hy ?? 0);
  cast.z = r[Z] + at[0] * fz + at[2] * fx;
  cast.dx = WAY[0] * length;
  cast.dy = WAY[1] * length;
  cast.dz = WAY[2] * length;
  hit.clear();
  const found = length > 0 && answer?.(cast, hit) === true;
  if (found) checkHit('The answer to a probe', hit);
  const part = found ? hit.part : 1;
  r[out + Q_HIT] = found ? 1 : 0;
  r[out + Q_DISTANCE] = part * far;
  r[out + Q_POINT] = cast.x + cast.dx * part;
  r[out + Q_POINT + 1] = cast.y + cast.dy * part;
  r[out + Q_POINT + 2] = cast.z + cast.dz * part;
  r[out + Q_NORMAL] = found ? hit.nx : 0;
  r[out + Q_NORMAL + 1] = found ? hit.ny : 0;
  r[out + Q_NORMAL + 2] = found ? hit.nz : 0;
}
