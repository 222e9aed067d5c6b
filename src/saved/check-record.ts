import type { Plan } from '../compile/plan.js';
import {
  AIM,
  BASE_LOADOUT,
  BRAKE,
  CAMERA_X,
  CAMERA_Z,
  CLIP,
  FORCED_VELOCITY,
  FZ,
  GRAVITY,
  GROUND_NORMAL,
  HOST,
  L_ABILITY,
  L_DUE,
  L_PHASE,
  L_TRIGGER,
  LANE,
  LAYER,
  LAYOUT_ID,
  LOADOUT,
  M_COUNT,
  M_FIRST,
  M_HANDLED,
  MARK,
  NEVER,
  P_BASE,
  P_DRAIN,
  P_MAX,
  P_MIN,
  P_REGEN,
  R_COUNT,
  SHAPE,
  STANCE,
  T,
  WANT_SHAPE,
  X,
} from '../record/slots.js';
import { describe } from '../report/words.js';

/** What is further away, or faster, is nowhere: a step from there may lead to what is no number. */
const FARTHEST = 1e12;

/** Places of a body, and how it moves: from one number of the record to another. */
const BODY = [
  [X, FZ],
  [GROUND_NORMAL, GROUND_NORMAL + 5],
  [CAMERA_X, CAMERA_Z],
  [GRAVITY, BRAKE],
  [FORCED_VELOCITY, FORCED_VELOCITY + 2],
] as const;
const POOL_AMOUNTS = [P_BASE, P_DRAIN, P_MIN, P_MAX, P_REGEN];

/** More occurrences of one event than can wait. */
const MOST_WAITING = 1e6;

/** What a snapshot is, for who gives something else. JSON has no Infinity: as texts, all numbers come through. */
export const NUMBERS =
  'it must be a Float64Array. For JSON, keep Array.from(snapshot, String), and read it by Float64Array.from(list, Number).';

/**
 * What keeps numbers from outside from being a record of this moveset, or undefined. What stands for one of several things
 * must stand for one that there is, and places, paces and what is in pools must be finite; other numbers may be anything.
 */
export function faultOfRecord(plan: Plan, r: Float64Array): string | undefined {
  if (!(r instanceof Float64Array)) return `this is no snapshot: ${NUMBERS}`;
  if (r.length !== plan.recordSize && r.length !== plan.snapshotSize)
    return `this snapshot has ${r.length} numbers, but one of ${plan.name} has ${plan.recordSize}, or ${plan.snapshotSize} with its devices.`;
  if (r[LAYOUT_ID] !== plan.fingerprint && r[LAYOUT_ID] !== plan.former)
    return `this is no snapshot of ${plan.name}: its names or their order differ.`;
  if (hasNaN(r)) return `number ${r.findIndex(Number.isNaN)} of this snapshot is not a number.`;
  const stray = findStray(plan, r);
  return stray === undefined ? undefined : `number ${stray} of this snapshot is ${r[stray]}, which stands for nothing.`;
}

/**
 * Only NaN is not at most Infinity. Asked so, and four at a time, since a rollback restores in every frame: this loop is most of
 * what that costs, and takes half the time of Number.isNaN.
 */
function hasNaN(r: Float64Array): boolean {
  const { POSITIVE_INFINITY: most } = Number;
  const whole = r.length - (r.length % 4);
  for (let i = 0; i < whole; i += 4)
    if (!(r[i] <= most && r[i + 1] <= most && r[i + 2] <= most && r[i + 3] <= most)) return true;
  for (let i = whole; i < r.length; i++) if (!(r[i] <= most)) return true;
  return false;
}

/** What keeps numbers from outside from being what the devices held; `which` is the option of a restore. */
export function faultOfDevices(
  plan: Plan,
  r: Float64Array,
  which: unknown,
  from = plan.recordSize,
): string | undefined {
  if (which === 'now') return undefined;
  if (which !== 'then') return `"devices" must be "now" or "then", not ${describe(which)}.`;
  if (r.length < from + plan.snapshotSize - plan.recordSize)
    return `this snapshot holds no devices: it has ${r.length} numbers, and one with devices has ${plan.snapshotSize}.`;
  for (let i = from; i < from + plan.snapshotSize - plan.recordSize; i++)
    if (!(Math.abs(r[i]) <= MOST_WAITING)) return `number ${i} of this snapshot is ${r[i]}, which no device gives.`;
  return undefined;
}

function findStray(plan: Plan, r: Float64Array): number | undefined {
  const { stances, shapes, loadouts, clips, abilities, phases, triggers, names, layout } = plan;
  if (!Number.isSafeInteger(r[T])) return T;
  if (!Number.isSafeInteger(r[HOST])) return HOST;
  const far = findFar(plan, r);
  if (far !== undefined) return far;
  if (!isIndex(r, STANCE, stances.length, 0)) return STANCE;
  if (!isIndex(r, SHAPE, shapes.length, 0)) return SHAPE;
  if (!isIndex(r, WANT_SHAPE, shapes.length, 0)) return WANT_SHAPE;
  if (!isIndex(r, LOADOUT, loadouts.length, -1)) return LOADOUT;
  if (!isIndex(r, BASE_LOADOUT, loadouts.length, -1)) return BASE_LOADOUT;
  for (let i = 0; i < plan.layers.length; i++) {
    const shown = layout.layers + i * LAYER + CLIP;
    if (!isIndex(r, shown, clips.length, -1)) return shown;
  }
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const ability = lane + L_ABILITY;
    const phase = lane + L_PHASE;
    if (!isIndex(r, ability, abilities.length, -1)) return ability;
    if (r[ability] >= 0 && abilities[r[ability]].laneAt !== lane) return ability;
    if (!isIndex(r, phase, phases.length, -1)) return phase;
    if (r[phase] >= 0 && phases[r[phase]].ability !== r[ability]) return phase;
    if (r[phase] < 0 && r[lane + L_DUE] !== NEVER) return lane + L_DUE;
    if (r[ability] >= 0 && !isIndex(r, lane + L_TRIGGER, triggers.length, 0)) return lane + L_TRIGGER;
  }
  for (let i = 0; i < triggers.length; i++) {
    const count = triggers[i].at + R_COUNT;
    if (!(r[count] >= 0 && r[count] < MOST_WAITING)) return count;
  }
  for (let i = 0; i < names.choice.length; i++) {
    const choice = layout.choices + i;
    const options = plan.choiceOf.filter(({ at }) => at === choice).length;
    if (!isIndex(r, choice, options, 0)) return choice;
  }
  const { messages } = layout;
  if (messages < 0) return undefined;
  const count = messages + M_COUNT;
  if (!isIndex(r, count, layout.mostMessages + 1, 0)) return count;
  if (!isIndex(r, messages + M_HANDLED, r[count] + 1, 0)) return messages + M_HANDLED;
  for (let i = 0; i < r[count]; i++) {
    const at = messages + M_FIRST + i * layout.message;
    if (!isIndex(r, at, names.event.length, 0)) return at;
  }
  return undefined;
}

/** The first number that should be finite, and is not. */
function findFar(plan: Plan, r: Float64Array): number | undefined {
  const places = finiteOf(plan);
  for (let i = 0; i < places.length; i++) if (!(Math.abs(r[places[i]]) <= FARTHEST)) return places[i];
  return undefined;
}

/** By plan, the places of what must be finite: listed once, since a rollback restores in every frame. */
const FINITE = new WeakMap<Plan, Int32Array>();

function finiteOf(plan: Plan): Int32Array {
  const known = FINITE.get(plan);
  if (known) return known;
  const { pools, marksAt, aimsAt, names } = plan;
  const range = (from: number, count: number) => Array.from({ length: count }, (_, i) => from + i);
  const places = Int32Array.from([
    ...BODY.flatMap(([from, to]) => range(from, to + 1 - from)),
    ...pools.flatMap(({ at }) => POOL_AMOUNTS.map((amount) => at + amount)),
    ...range(marksAt, names.mark.length * MARK),
    ...range(aimsAt, names.aim.length * AIM),
  ]);
  FINITE.set(plan, places);
  return places;
}

/** Whether a place holds the index of one of so many, or -1 where `least` allows it. */
function isIndex(r: Float64Array, at: number, count: number, least: number): boolean {
  return r[at] >= least && r[at] < count && (r[at] | 0) === r[at];
}
