import type { Plan, ProbePlan } from '../compile/plan.js';
import type { JoinedProbe } from '../moveset/probes/index.js';
import type { Frame } from '../record/frame.js';
import { PROBE, Q_DISTANCE, Q_HIT, Q_MOVER, Q_NORMAL, Q_SURFACES } from '../record/layout.js';

/** By the key of a probe that is made of others: writes its answers, which are those of a miss so far. */
export const JOINS: Readonly<Record<JoinedProbe, (c: Frame, plan: Plan, probe: ProbePlan, out: number) => void>> = {
  first: joinFirst,
  average: joinAll,
};

/** The answers of the first that hits; of the last one, if none does. */
function joinFirst(c: Frame, plan: Plan, { parts }: ProbePlan, out: number): void {
  const { r } = c;
  let from = -1;
  for (let i = 0; i < parts.length; i++) {
    c.probe(parts[i]);
    from = plan.probesAt + parts[i] * PROBE;
    if (r[from + Q_HIT] === 1) break;
  }
  if (from >= 0) for (let k = Q_HIT; k < PROBE; k++) r[out + k] = r[from + k];
}

const NOT_YET = -2;

/** The mean of those that hit, or of all if none does; the normal is again a unit vector. */
function joinAll(c: Frame, plan: Plan, { parts }: ProbePlan, out: number): void {
  const { r } = c;
  let hits = 0;
  for (let i = 0; i < parts.length; i++) {
    c.probe(parts[i]);
    hits += r[plan.probesAt + parts[i] * PROBE + Q_HIT];
  }
  const count = hits > 0 ? hits : parts.length;
  let mover = NOT_YET;
  for (let i = 0; i < parts.length; i++) {
    const from = plan.probesAt + parts[i] * PROBE;
    if (hits > 0 && r[from + Q_HIT] === 0) continue;
    for (let k = Q_DISTANCE; k < Q_SURFACES; k++) r[out + k] += r[from + k] / count;
    r[out + Q_SURFACES] |= r[from + Q_SURFACES];
    // What is between two things is on neither.
    r[out + Q_MOVER] = mover === NOT_YET || mover === r[from + Q_MOVER] ? r[from + Q_MOVER] : -1;
    mover = r[out + Q_MOVER];
  }
  const nx = r[out + Q_NORMAL];
  const ny = r[out + Q_NORMAL + 1];
  const nz = r[out + Q_NORMAL + 2];
  const length = Math.sqrt(nx * nx + ny * ny + nz * nz);
  // Of surfaces that face each other, none is met.
  r[out + Q_HIT] = length > 1e-6 || (hits > 0 && isFlat(r, plan, parts)) ? 1 : 0;
  for (let k = 0; k < 3; k++) r[out + Q_NORMAL + k] = length > 1e-6 ? r[out + Q_NORMAL + k] / length : 0;
}

/** Whether what is averaged has no normals at all: overlaps. */
function isFlat(r: Float64Array, plan: Plan, parts: readonly number[]): boolean {
  for (let i = 0; i < parts.length; i++) {
    const at = plan.probesAt + parts[i] * PROBE + Q_NORMAL;
    if (r[at] !== 0 || r[at + 1] !== 0 || r[at + 2] !== 0) return false;
  }
  return true;
}
