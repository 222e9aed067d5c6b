import type { Plan, ProbePlan } from '../compile/plan.js';
import type { Frame } from '../record/frame.js';
import {
  PROBE,
  Q_DISTANCE,
  Q_HIT,
  Q_MOMENT,
  Q_MOVER,
  Q_NORMAL,
  Q_POINT,
  Q_SURFACES,
  Q_VELOCITY,
} from '../record/layout.js';
import { FX, FZ, SHAPE, X, Y, Z } from '../record/slots.js';
import type { Vector } from '../report/events.js';
import type { AnswerProbe } from '../world/world.js';
import { checkHit } from './ask-world.js';
import { JOINS } from './join.js';

/** Where the present probe looks, and where it begins. Read before anything else is asked. */
const WAY = new Float64Array(3);
const FROM = new Float64Array(3);

/**
 * Asks a probe and writes all of its answers, also of a miss: the distance is its reach, the point the end of its way,
 * the normal 0. What was answered at this `moment` (position, facing and world unchanged) is not asked again.
 */
export function askProbe(c: Frame, plan: Plan, index: number, moment: number, answer: AnswerProbe | null): void {
  const { r } = c;
  const out = plan.probesAt + index * PROBE;
  if (r[out + Q_MOMENT] === moment) return;
  r[out + Q_MOMENT] = moment;
  const probe = plan.probes[index];
  const { reach, joins, from, aim } = probe;
  // What reads this very probe on its way here finds a miss, not what was true some ticks ago.
  if (reach.run !== null || from !== null || aim !== null || joins !== null) r.fill(0, out + Q_HIT, out + PROBE);
  if (joins !== null) JOINS[joins](c, plan, probe, out);
  else askWorld(c, plan, probe, out, answer);
}

function askWorld(c: Frame, plan: Plan, probe: ProbePlan, out: number, answer: AnswerProbe | null): void {
  const { r, cast, hit } = c;
  const { ray, on, aim, reach, box, ownBox, asks: kind } = probe;
  const fx = r[FX];
  const fz = r[FZ];
  reach.run?.(c);
  const far = Number.isNaN(r[reach.at]) ? 0 : Math.max(0, r[reach.at]);
  const begins = findBegin(c, plan, probe);
  const x = FROM[0];
  const y = FROM[1];
  const z = FROM[2];
  // A fixed way is kept whole, with its length: taken apart and put together, its numbers would be rounded.
  let length = far > 0 ? 1 : 0;
  if (aim === null) {
    WAY[0] = ray[0] * fx - ray[2] * fz;
    WAY[1] = ray[1];
    WAY[2] = ray[0] * fz + ray[2] * fx;
  } else length = aim(c, WAY) ? far : 0;
  cast.kind = kind === 'overlap' || kind === 'nearest' ? kind : box === null ? 'ray' : 'sweep';
  cast.surfaces = on;
  cast.passes = null;
  if (ownBox) {
    const size = plan.shapes[r[SHAPE]];
    cast.hx = size.hx;
    cast.hy = size.hy;
    cast.hz = size.hz;
  } else if (box !== null) {
    cast.hx = box[0];
    cast.hy = box[1];
    cast.hz = box[2];
  } else cast.hx = cast.hy = cast.hz = 0;
  cast.x = x;
  cast.y = y;
  cast.z = z;
  const goes = kind === 'nearest' ? 0 : length;
  cast.dx = WAY[0] * goes;
  cast.dy = WAY[1] * goes;
  cast.dz = WAY[2] * goes;
  if (kind === 'nearest') cast.hx = cast.hy = cast.hz = far;
  hit.clear();
  const asks = begins && (length > 0 || kind === 'overlap');
  const found = asks && answer?.(cast, hit) === true;
  const meets = found && kind !== 'overlap';
  if (meets) checkHit('The answer to a probe', hit);
  const part = meets ? hit.part : 1;
  r[out + Q_HIT] = found ? 1 : 0;
  r[out + Q_DISTANCE] = part * far;
  // What is nearest lies against its normal.
  const back = kind === 'nearest' && meets ? part * far : 0;
  r[out + Q_POINT] = cast.x + cast.dx * part - (back > 0 ? hit.nx * back : 0);
  r[out + Q_POINT + 1] = cast.y + cast.dy * part - (back > 0 ? hit.ny * back : 0);
  r[out + Q_POINT + 2] = cast.z + cast.dz * part - (back > 0 ? hit.nz * back : 0);
  r[out + Q_NORMAL] = meets ? hit.nx : 0;
  r[out + Q_NORMAL + 1] = meets ? hit.ny : 0;
  r[out + Q_NORMAL + 2] = meets ? hit.nz : 0;
  r[out + Q_VELOCITY] = meets ? hit.vx : 0;
  r[out + Q_VELOCITY + 1] = meets ? hit.vy : 0;
  r[out + Q_VELOCITY + 2] = meets ? hit.vz : 0;
  r[out + Q_SURFACES] = meets ? surfacesOf(plan, hit.tags) : 0;
  r[out + Q_MOVER] = meets ? hit.mover : -1;
}

/**
 * Writes where a probe begins to `FROM`: the middle of what it casts. Where there is no such point it misses, begins at the feet, and the answer is
 * false.
 */
function findBegin(c: Frame, plan: Plan, { from, at, ownBox }: ProbePlan): boolean {
  const { r } = c;
  const begins = from === null || from(c, FROM);
  if (from === null || !begins) {
    FROM[0] = r[X];
    FROM[1] = r[Y];
    FROM[2] = r[Z];
  }
  const fx = r[FX];
  const fz = r[FZ];
  FROM[0] += at[0] * fx - at[2] * fz;
  FROM[1] += at[1];
  if (ownBox) FROM[1] += plan.shapes[r[SHAPE]].hy;
  FROM[2] += at[0] * fz + at[2] * fx;
  return begins;
}

/** A probe for drawing: where it begins, where it ends or has hit, and how large the box is that it casts. Plain data. */
export interface ShownProbe {
  readonly name: string;
  readonly from: Vector;
  readonly to: Vector;
  readonly hit: boolean;
  /** Of what it hit; 0 for nothing. */
  readonly normal: Vector;
  /** Half sizes of what it casts; null for a ray. */
  readonly half: Vector | null;
}

/** What a probe asks and finds now; null for one that is made of others, which are shown themselves. */
export function showProbe(c: Frame, plan: Plan, index: number): ShownProbe | null {
  const probe = plan.probes[index];
  const { joins, name, box, ownBox } = probe;
  if (joins !== null) return null;
  c.probe(index);
  const { r } = c;
  const out = plan.probesAt + index * PROBE;
  const vector = (list: ArrayLike<number>, at: number): Vector => ({ x: list[at], y: list[at + 1], z: list[at + 2] });
  findBegin(c, plan, probe);
  const own = plan.shapes[r[SHAPE]];
  const half = ownBox ? { x: own.hx, y: own.hy, z: own.hz } : box && vector(box, 0);
  return {
    name,
    from: vector(FROM, 0),
    to: vector(r, out + Q_POINT),
    hit: r[out + Q_HIT] === 1,
    normal: vector(r, out + Q_NORMAL),
    half,
  };
}

/** Declared surfaces among the tags of what was hit: a bit each. */
export function surfacesOf({ names: { surface } }: Plan, tags: readonly string[]): number {
  let bits = 0;
  if (tags.length > 0) for (let i = 0; i < surface.length; i++) if (tags.includes(surface[i])) bits |= 1 << i;
  return bits;
}
