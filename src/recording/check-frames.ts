import { ENTRY, I_CALLER, I_EXTRA, I_ID, I_NAME, I_PLAN, I_TAGS, I_TEAM } from '../arena/snapshot.js';
import { UsageError } from '../report/usage-error.js';
import { faultOfRecord } from '../saved/check-record.js';
import { faultOfRow, strayValues } from '../tick/take-in/door-rows.js';
import { movesOf } from '../world/world-data.js';
import type { Run } from './run.js';
import { F_COUNT, F_LEFT, F_TICK, FRAME, keptOf, TOLD } from './source.js';
import { surround } from './surroundings.js';

/** Looks at every frame of a run that comes from outside, before any of it is used. */
export function checkFrames(run: Run): void {
  const { frames } = run;
  const { world, keepsProbes } = surround(run);
  const moves = movesOf(world)?.stateSize ?? 0;
  for (const page of frames.all)
    for (let tick = page.first; tick <= page.last; tick++) {
      const fault = faultOfFrame(run, frames.read(tick), page.size, tick, moves, keepsProbes) ?? faultOfRows(run, tick);
      if (fault) throw new UsageError(`fromFile: in tick ${tick}, ${fault.replace(/\.$/, '')}.`, 'wrong-record');
    }
}

function faultOfFrame(
  run: Run,
  frame: Float64Array,
  size: number,
  tick: number,
  moves: number,
  keepsProbes: boolean,
): string | undefined {
  if (size < FRAME || frame[F_TICK] !== tick) return 'the frame is not that of this tick';
  const count = frame[F_COUNT] + frame[F_LEFT];
  if (!(Number.isInteger(frame[F_COUNT]) && Number.isInteger(frame[F_LEFT]) && count >= 0 && count <= size / ENTRY))
    return 'it has another number of members than there is room for';
  if (frame[F_COUNT] < 0 || frame[F_LEFT] < 0 || (!run.isArena && (frame[F_COUNT] !== 1 || frame[F_LEFT] !== 0)))
    return 'there must be one character, and there is not';
  let at = FRAME;
  let last = -1;
  for (let i = 0; i < count; i++) {
    if (at + ENTRY > size) return 'the frame is too short for its members';
    const plan = run.plans[frame[at + I_PLAN]];
    const name = frame[at + I_NAME];
    const extra = frame[at + I_EXTRA];
    if (!plan || (name >= 0 ? run.names[name] : run.kinds[-1 - name]) === undefined || !run.tags[frame[at + I_TAGS]])
      return 'a member has a moveset, a name or tags that the file does not have';
    const id = frame[at + I_ID];
    if (!Number.isSafeInteger(id) || id < 0 || (i < frame[F_COUNT] && id <= last))
      return 'the ids of its members do not rise';
    last = id;
    if (!Number.isSafeInteger(frame[at + I_TEAM]) || !Number.isSafeInteger(frame[at + I_CALLER]))
      return 'a member is on a side that is none';
    const kept = keptOf(plan, keepsProbes).size;
    if (!(Number.isInteger(extra) && extra >= 0 && at + ENTRY + kept + extra <= size))
      return 'the frame is too short for its members';
    const fault = faultOfRecord(plan, frame.slice(at + ENTRY, at + ENTRY + plan.recordSize));
    if (fault) return fault;
    at += ENTRY + kept + extra;
  }
  return at + moves === size
    ? undefined
    : `the frame has ${size} numbers, and its members and blocks have ${at + moves}`;
}

/** What came in must be what could come in. */
function faultOfRows(run: Run, tick: number): string | undefined {
  const page = run.frames.pageOf(tick);
  const index = tick - page.first;
  const { told } = page;
  for (let at = index === 0 ? 0 : page.toldEnds[index - 1]; at < page.toldEnds[index]; at += 2 + told[at + 1]) {
    if (told[at] === TOLD.answers) {
      const end = at + 2 + told[at + 1];
      let next = at + 2;
      while (next < end) next += 2 + (told[next + 1] >= 1 ? told[next + 1] : Number.NaN);
      if (next !== end) return 'what was answered is not made of whole answers';
    }
    if (told[at] !== TOLD.rows) continue;
    if (told[at + 1] % 6 !== 0) return 'what came in is not made of whole rows';
    const rows: number[][] = [];
    for (let k = at + 2; k < at + 2 + told[at + 1]; k += 6) rows.push(Array.from(told.subarray(k + 1, k + 6)));
    for (const row of rows) {
      // Whose it is shows only as the run goes on: it must be known to one of the movesets.
      const faults = run.plans.map((plan) => faultOfRow(plan, row) ?? strayValues(plan, rows, row));
      if (faults.every((fault) => fault !== undefined)) return faults[0];
    }
  }
  return undefined;
}
