import { MEETING } from '../arena/events.js';
import type { Arena } from '../arena/index.js';
import type { Member } from '../arena/member.js';
import { ENTRY, I_CALLER, I_EXTRA, I_ID, I_NAME, I_PLAN, I_TAGS, I_TEAM } from '../arena/snapshot.js';
import type { Character } from '../character/character.js';
import type { Plan } from '../compile/plan.js';
import { PROBE, Q_HIT } from '../record/layout.js';
import { Rows } from '../record/rows.js';
import { HOST, T } from '../record/slots.js';
import type { World } from '../world/world.js';
import { movesOf } from '../world/world-data.js';
import type { Frames } from './frames.js';

/*
 * A frame: its tick, the id that comes next, how many members there are, how many left in this tick; for each of these what an arena's
 * snapshot has before a record, then the numbers that are kept of it, then those of its opponent; at its end, how the blocks of
 * the world move.
 */
export const F_TICK = 0;
export const F_NEXT = 1;
export const F_COUNT = 2;
export const F_LEFT = 3;
export const FRAME = 4;

/** What is told of a tick: stretches of numbers, each after its kind and its length. */
export const TOLD = {
  /** Rows that came through doors: the id of the member, and the row. */
  rows: 1,
  /** Of a member: its place in the frame, how many events, reasons and values, and these. */
  events: 2,
  /** What happened between members. */
  meetings: 3,
  /** What an engine or a host's world answered. */
  answers: 4,
} as const;

/** What is written: a tick's frame into {@link Frames}, or into a list. */
export interface Sheet {
  clock(behind?: number): void;
  put(value: number): void;
  range(from: Float64Array, start: number, end: number): void;
}

/** Stretches of a character's numbers that are kept: its record, what devices hold, what it sees of others; if so wanted, what probes answered. */
const KEPT = new WeakMap<Plan, Both>();
/** Mostly it is that of the same plan again, which is quicker than to look it up. */
let last: Both | null = null;

interface Both {
  readonly plan: Plan;
  readonly bare: Kept;
  readonly full: Kept;
}

/** First places and places behind the last, in turn; and how many numbers that makes. */
export interface Kept {
  readonly ranges: Int32Array;
  readonly size: number;
}

export function keptOf(plan: Plan, probes: boolean): Kept {
  let both = last !== null && last.plan === plan ? last : KEPT.get(plan);
  if (both === undefined) {
    const { recordSize, devicesAt, outAt, foeAt, blowAt, probesAt } = plan;
    const bare = [0, recordSize, devicesAt, outAt, foeAt, blowAt];
    const answers = plan.probes.flatMap((_, i) => [probesAt + i * PROBE + Q_HIT, probesAt + (i + 1) * PROBE]);
    both = { plan, bare: keep(bare), full: keep([...bare, ...answers]) };
    KEPT.set(plan, both);
  }
  last = both;
  return probes ? both.full : both.bare;
}

function keep(list: readonly number[]): Kept {
  const ranges = Int32Array.from(list);
  let size = 0;
  for (let i = 0; i < ranges.length; i += 2) size += ranges[i + 1] - ranges[i];
  return { ranges, size };
}

/** What is recorded: a character, or an arena. */
export interface Source {
  readonly tick: number;
  readonly rate: number;
  readonly world: World | null;
  readonly characters: readonly Character[];
  size(probes: boolean): number;
  write(to: Sheet, probes: boolean): void;
  /** Tells what happened to each, and between them. */
  tell(frames: Frames): void;
}

const HEAD = new Float64Array(6);

function writeEntry(
  to: Sheet,
  id: number,
  [plan, name, tags]: readonly [number, number, number],
  team: number,
  caller: number,
  extra: number,
): void {
  ENTRY_OF[I_ID] = id;
  ENTRY_OF[I_PLAN] = plan;
  ENTRY_OF[I_NAME] = name;
  ENTRY_OF[I_TAGS] = tags;
  ENTRY_OF[I_TEAM] = team;
  ENTRY_OF[I_CALLER] = caller;
  ENTRY_OF[I_EXTRA] = extra;
  to.range(ENTRY_OF, 0, ENTRY);
}
const ENTRY_OF = new Float64Array(ENTRY);

/** The numbers of a character that are kept. Its clocks go up by one. */
function writeKept(to: Sheet, { plan, r }: Character, probes: boolean): void {
  const { ranges } = keptOf(plan, probes);
  to.clock(T);
  to.clock(HOST);
  for (let i = 0; i < ranges.length; i += 2) to.range(r, ranges[i], ranges[i + 1]);
}

function tellEvents(frames: Frames, c: Character, place: number): void {
  const events = c.events.count * Rows.WIDTH;
  if (events === 0) return;
  const reasons = c.reasons.count * Rows.WIDTH;
  const values = c.values.count;
  HEAD[0] = TOLD.events;
  HEAD[1] = 4 + events + reasons + values;
  HEAD[2] = place;
  HEAD[3] = events;
  HEAD[4] = reasons;
  HEAD[5] = values;
  frames.tell(HEAD, 0, 6);
  frames.tell(c.events.data, 0, events);
  frames.tell(c.reasons.data, 0, reasons);
  frames.tell(c.values.data, 0, values);
}

/** How the blocks of a world move, for a frame. */
let moves = new Float64Array(0);

function writeMoves(to: Sheet, world: World | null): void {
  const moving = movesOf(world);
  if (moving === null) return;
  const { stateSize } = moving;
  if (moves.length < stateSize) moves = new Float64Array(stateSize);
  moving.writeState(moves, 0);
  to.range(moves, 0, stateSize);
}

const ALONE = [0, 0, 0] as const;

/** One character by itself. */
export class CharacterSource implements Source {
  readonly characters: readonly Character[];

  constructor(
    private readonly c: Character,
    readonly world: World | null,
    /** Index of its plan, which a swap changes. */
    private readonly planOf: (plan: Plan) => number,
  ) {
    this.characters = [c];
  }

  get tick(): number {
    return this.c.r[HOST];
  }
  get rate(): number {
    return this.c.plan.rate;
  }

  size(probes: boolean): number {
    return FRAME + ENTRY + keptOf(this.c.plan, probes).size + (movesOf(this.world)?.stateSize ?? 0);
  }

  write(to: Sheet, probes: boolean): void {
    const { c } = this;
    to.clock();
    to.put(this.tick);
    to.put(1);
    to.put(1);
    to.put(0);
    this.entry[0] = this.planOf(c.plan);
    writeEntry(to, 0, this.entry, 0, 0, 0);
    writeKept(to, c, probes);
    writeMoves(to, this.world);
  }
  private readonly entry: [number, number, number] = [...ALONE];

  tell(frames: Frames): void {
    tellEvents(frames, this.c, 0);
  }
}

/** All of an arena. */
export class ArenaSource implements Source {
  constructor(
    private readonly arena: Arena,
    private readonly planOf: (plan: Plan) => number,
  ) {}

  /** From 0 on, as a character counts: -1 before the first. */
  get tick(): number {
    return this.arena.tickCount - 1;
  }
  get rate(): number {
    return this.arena.known.plans.list[0]?.rate ?? 60;
  }
  get world(): World | null {
    return this.arena.world ?? null;
  }
  get characters(): readonly Character[] {
    return this.arena.members.map(({ c }) => c);
  }

  size(probes: boolean): number {
    const { members, departed } = this.arena;
    let size = FRAME + (movesOf(this.world)?.stateSize ?? 0);
    for (let i = 0; i < members.length; i++) size += sizeOf(members[i], probes);
    for (let i = 0; i < departed.length; i++) size += sizeOf(departed[i], probes);
    return size;
  }

  write(to: Sheet, probes: boolean): void {
    const { arena } = this;
    const { members, departed } = arena;
    to.clock();
    to.put(this.tick);
    to.put(arena.comingId);
    to.put(members.length);
    to.put(departed.length);
    for (let i = 0; i < members.length; i++) this.writeMember(to, members[i], probes);
    for (let i = 0; i < departed.length; i++) this.writeMember(to, departed[i], probes);
    writeMoves(to, this.world);
  }

  private writeMember(to: Sheet, { id, indexes, team, caller, c, state }: Member, probes: boolean): void {
    const { entry } = this;
    entry[0] = this.planOf(c.plan);
    entry[1] = indexes[1];
    entry[2] = indexes[2];
    writeEntry(to, id, entry, team, caller, state.length);
    writeKept(to, c, probes);
    to.range(state, 0, state.length);
  }
  private readonly entry: [number, number, number] = [...ALONE];

  tell(frames: Frames): void {
    const { arena } = this;
    const { members, departed } = arena;
    for (let i = 0; i < members.length; i++) tellEvents(frames, members[i].c, i);
    for (let i = 0; i < departed.length; i++) tellEvents(frames, departed[i].c, members.length + i);
    if (arena.eventCount === 0) return;
    const met = arena.eventCount * MEETING;
    HEAD[0] = TOLD.meetings;
    HEAD[1] = met;
    frames.tell(HEAD, 0, 2);
    frames.tell(arena.meetings(), 0, met);
  }
}

function sizeOf({ c, state }: Member, probes: boolean): number {
  return ENTRY + keptOf(c.plan, probes).size + state.length;
}
