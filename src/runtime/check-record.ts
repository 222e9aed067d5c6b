import type { Plan } from '../compile/plan.js';
import {
  BASE_LOADOUT,
  CLIP,
  HOST,
  L_ABILITY,
  L_DUE,
  L_PHASE,
  L_TRIGGER,
  LANE,
  LAYOUT_ID,
  LOADOUT,
  MESSAGES,
  NEVER,
  R_COUNT,
  SHAPE,
  STANCE,
  T,
  WANT_SHAPE,
} from '../record/slots.js';

/** More occurrences of one event than can wait. */
const MOST_WAITING = 1e6;

/**
 * What keeps numbers from outside from being a record of this moveset, or undefined. What stands for one of several things
 * must stand for one that there is; other numbers may be anything.
 */
export function faultOfRecord(plan: Plan, r: Float64Array): string | undefined {
  if (r?.length !== plan.recordSize)
    return `this snapshot has ${r?.length ?? 'no'} numbers, but a record of ${plan.name} has ${plan.recordSize}.`;
  if (r[LAYOUT_ID] !== plan.layout.fingerprint)
    return `this is no snapshot of ${plan.name}: its names or their order differ.`;
  if (hasNaN(r)) return `number ${r.findIndex(Number.isNaN)} of this snapshot is not a number.`;
  const stray = findStray(plan, r);
  return stray === undefined ? undefined : `number ${stray} of this snapshot is ${r[stray]}, which stands for nothing.`;
}

/** Four at a time: a rollback restores in every frame, and this loop is most of what that costs. */
function hasNaN(r: Float64Array): boolean {
  const whole = r.length - (r.length % 4);
  for (let i = 0; i < whole; i += 4) {
    // A sum is not a number if a part is none, or if infinite parts cancel out.
    const sum = r[i] + r[i + 1] + r[i + 2] + r[i + 3];
    if (
      sum - sum !== 0 &&
      (Number.isNaN(r[i]) || Number.isNaN(r[i + 1]) || Number.isNaN(r[i + 2]) || Number.isNaN(r[i + 3]))
    )
      return true;
  }
  for (let i = whole; i < r.length; i++) if (Number.isNaN(r[i])) return true;
  return false;
}

function findStray(plan: Plan, r: Float64Array): number | undefined {
  const { stances, shapes, loadouts, clips, abilities, phases, triggers, names, layout } = plan;
  /** Whether a place holds the index of one of so many, or -1 if that may be. */
  const isIndex = (at: number, count: number, least = -1) => Number.isInteger(r[at]) && r[at] >= least && r[at] < count;
  for (const clock of [T, HOST]) if (!Number.isSafeInteger(r[clock])) return clock;
  if (!isIndex(STANCE, stances.length, 0)) return STANCE;
  if (!isIndex(SHAPE, shapes.length, 0)) return SHAPE;
  if (!isIndex(WANT_SHAPE, shapes.length, 0)) return WANT_SHAPE;
  if (!isIndex(LOADOUT, loadouts.length)) return LOADOUT;
  if (!isIndex(BASE_LOADOUT, loadouts.length)) return BASE_LOADOUT;
  if (!isIndex(CLIP, clips.length)) return CLIP;
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const [ability, phase] = [lane + L_ABILITY, lane + L_PHASE];
    if (!isIndex(ability, abilities.length) || (r[ability] >= 0 && abilities[r[ability]].laneAt !== lane))
      return ability;
    if (!isIndex(phase, phases.length) || (r[phase] >= 0 && phases[r[phase]].ability !== r[ability])) return phase;
    if (r[phase] < 0 && r[lane + L_DUE] !== NEVER) return lane + L_DUE;
    if (r[ability] >= 0 && !isIndex(lane + L_TRIGGER, triggers.length, 0)) return lane + L_TRIGGER;
  }
  for (let i = 0; i < triggers.length; i++) {
    const count = triggers[i].at + R_COUNT;
    if (!(r[count] >= 0 && r[count] < MOST_WAITING)) return count;
  }
  const { messages } = layout;
  if (messages < 0) return undefined;
  if (!isIndex(messages, MESSAGES + 1, 0)) return messages;
  for (let i = 1; i <= r[messages]; i++) if (!isIndex(messages + i, names.event.length, 0)) return messages + i;
  return undefined;
}
