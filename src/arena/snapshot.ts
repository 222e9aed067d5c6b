import { describe } from '../report/words.js';
import { faultOfDevices, faultOfRecord, NUMBERS } from '../saved/check-record.js';
import type { Known } from './known.js';
import type { Member } from './member.js';

export const HEADER = 4;
export const H_TICK = 0;
export const H_NEXT = 1;
export const H_COUNT = 2;
export const H_SIZE = 3;
/**
 * Per member, before its record: id, plan, name (of who was called, -1 less the index of its kind), tags, team, id of its caller, how many
 * numbers come after its record: what its devices hold, and those of its opponent.
 */
export const ENTRY = 7;
export const I_ID = 0;
export const I_PLAN = 1;
export const I_NAME = 2;
export const I_TAGS = 3;
export const I_TEAM = 4;
export const I_CALLER = 5;
export const I_EXTRA = 6;

/** How many numbers of a snapshot a member takes: what stands before its record, that, its devices, its opponent. */
export function sizeOf({ c, state }: Member): number {
  return ENTRY + c.plan.snapshotSize + state.length;
}

/** How many numbers a snapshot of all takes. */
export function sizeOfAll(list: readonly Member[]): number {
  let size = HEADER;
  for (let i = 0; i < list.length; i++) size += sizeOf(list[i]);
  return size;
}

/** Writes all of them. */
export function writeSnapshot(
  to: Float64Array,
  size: number,
  ticks: number,
  nextId: number,
  list: readonly Member[],
): void {
  to[H_TICK] = ticks;
  to[H_NEXT] = nextId;
  to[H_COUNT] = list.length;
  to[H_SIZE] = size;
  let at = HEADER;
  for (let i = 0; i < list.length; i++) {
    const { id, indexes, team, caller, c, state } = list[i];
    const { recordSize, devicesAt, outAt } = c.plan;
    to[at + I_ID] = id;
    to[at + I_PLAN] = indexes[0];
    to[at + I_NAME] = indexes[1];
    to[at + I_TAGS] = indexes[2];
    to[at + I_TEAM] = team;
    to[at + I_CALLER] = caller;
    to[at + I_EXTRA] = sizeOf(list[i]) - ENTRY - recordSize;
    at += ENTRY;
    to.set(c.record, at);
    at += recordSize;
    for (let k = devicesAt; k < outAt; k++) to[at++] = c.r[k];
    for (let k = 0; k < state.length; k++) to[at++] = state[k];
  }
}

/** Whether a member is who a snapshot tells of from some place on: in another run its id may belong to another one. */
export function isSame(member: Member, snapshot: Float64Array, at: number): boolean {
  const { id, indexes, team, caller } = member;
  if (id !== snapshot[at + I_ID] || team !== snapshot[at + I_TEAM] || caller !== snapshot[at + I_CALLER]) return false;
  for (let k = 0; k < 3; k++) if (indexes[k] !== snapshot[at + I_PLAN + k]) return false;
  return true;
}

/** Whether a snapshot is of those who are there now, in their order. */
export function holdsSame(list: readonly Member[], snapshot: Float64Array): boolean {
  if (snapshot[H_COUNT] !== list.length) return false;
  let at = HEADER;
  for (let i = 0; i < list.length; i++) {
    if (!isSame(list[i], snapshot, at)) return false;
    at += ENTRY + list[i].c.plan.recordSize + snapshot[at + I_EXTRA];
  }
  return true;
}

/** What keeps numbers from being a snapshot of an arena that knows these things, or undefined: all of it is looked at before anything changes. */
export function faultOfSnapshot(known: Known, snapshot: Float64Array, devices: unknown): string | undefined {
  if (devices !== 'now' && devices !== 'then') return `"devices" must be "now" or "then", not ${describe(devices)}.`;
  if (!(snapshot instanceof Float64Array)) return `this is no snapshot: ${NUMBERS}`;
  if (!(snapshot.length >= HEADER)) return 'this is no snapshot of an arena.';
  const next = snapshot[H_NEXT];
  const count = snapshot[H_COUNT];
  const size = snapshot[H_SIZE];
  if (!(snapshot.length >= size)) return 'this is no snapshot of an arena.';
  if (!Number.isSafeInteger(snapshot[H_TICK])) return 'its tick is no whole number.';
  if (!(count >= 0 && count <= size / ENTRY)) return `it says that it has ${count} members, for which it is too short.`;
  let last = 0;
  let at = HEADER;
  for (let i = 0; i < count; i++) {
    const id = snapshot[at + I_ID];
    if (!(Number.isSafeInteger(id) && id > 0 && id < next))
      return `a member has the id ${describe(id)}, which stands for nobody.`;
    if (id <= last) return 'its members are not in the order of their ids.';
    last = id;
    const plan = known.plans.list[snapshot[at + I_PLAN]];
    const name = snapshot[at + I_NAME];
    const named = name >= 0 ? known.names.list[name] : known.kinds.list[-1 - name];
    if (!plan || named === undefined || !known.tagLists.list[snapshot[at + I_TAGS]])
      return 'it has a member that this arena never had; add the same members in the same order first.';
    const team = snapshot[at + I_TEAM];
    const caller = snapshot[at + I_CALLER];
    const extra = snapshot[at + I_EXTRA];
    if (!(Number.isSafeInteger(team) && (team < 0 || team in known.teams.list)) || !Number.isSafeInteger(caller))
      return `the member ${named} is on a side that is none.`;
    const from = at + ENTRY;
    const held = plan.snapshotSize - plan.recordSize;
    if (!(Number.isSafeInteger(extra) && extra >= held && from + plan.recordSize + extra <= size))
      return 'this is no snapshot of an arena with these movesets.';
    const fault =
      faultOfRecord(plan, snapshot.subarray(from, from + plan.recordSize)) ??
      faultOfDevices(plan, snapshot, 'then', from + plan.recordSize);
    if (fault) return `of the member ${named}, ${fault}`;
    at = from + plan.recordSize + extra;
    for (let k = at - extra + held; k < at; k++)
      if (Number.isNaN(snapshot[k])) return `of the opponent of ${named}, number ${k} is not a number.`;
  }
  return at === size ? undefined : 'this is no snapshot of an arena with these movesets.';
}
