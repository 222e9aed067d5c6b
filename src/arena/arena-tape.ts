import type { Character } from '../character/character.js';
import type { Plan } from '../compile/plan.js';
import { Rows } from '../record/rows.js';
import { isPoint, want, wantList, wantPlan } from '../report/arguments.js';
import { DEEPEST, nestsTooDeep } from '../report/nesting.js';
import { LARGEST, UsageError } from '../report/usage-error.js';
import { describe } from '../report/words.js';
import type { Join } from '../saved/watcher.js';
import { faultOfRow, strayValues } from '../tick/take-in/door-rows.js';

/** What came into an arena before one tick. */
export interface ArenaEntry {
  readonly tick: number;
  /** Who joined, and the ids of those who left, in their order. */
  readonly changes: (Join | number)[];
  /** Rows of doors: the id of the member, and the row. */
  readonly rows: number[][];
}

/** Everything that the numbers of a snapshot stand for. */
export interface Lists {
  readonly names: readonly string[];
  readonly teams: readonly string[];
  readonly tags: readonly (readonly string[])[];
  /** Names of those who were called. */
  readonly kinds: readonly string[];
  readonly movesets: readonly { readonly name: string; readonly layout: number }[];
}

/** A tape of an arena as it is kept: plain data for JSON. */
export interface SavedArenaTape extends Lists {
  readonly loggia: 1;
  /** Format of the tape. */
  readonly arenaTape: 1;
  readonly start: readonly (number | string)[];
  /** Tick up to which it was recorded. */
  readonly end: number;
  readonly entries: readonly ArenaEntry[];
}

/** What a tape needs of an arena. */
export interface RecordedArena {
  readonly tickCount: number;
  /** @internal */
  readonly lists: Lists;
  snapshot(): Float64Array;
  restore(snapshot: Float64Array): void;
  checksum(): number;
  /** @internal */
  adopt(lists: Lists, plans: readonly Plan[]): void;
  /** @internal */
  join(join: Join): void;
  /** @internal */
  leave(id: number): void;
  /** @internal */
  characterOf(id: number): Character | undefined;
  /** @internal */
  readonly ids: readonly number[];
  /** @internal What comes in next was recorded: opponents do not play. */
  replaysTick: boolean;
  tape: ArenaTape | null;
}

/** What came into an arena, by its ticks: enough to do the whole run again. */
export class ArenaTape {
  private start: Float64Array | null = null;
  private entries: ArenaEntry[] = [];
  private last = 0;
  private lists: Lists | null = null;
  private first = 0;
  /** The entry that is played next, most likely. */
  private next = 0;
  /** Checksums of the ticks so far, to tell this run's snapshots from others. */
  private sums: number[] = [];

  /**
   * Takes a saved tape, as `toJSON` gave it.
   * @param saved What JSON.parse gave.
   * @throws {UsageError} with the first fault for what is none.
   */
  static from(saved: unknown): ArenaTape {
    const fault = faultOfTape(saved);
    if (fault) throw new UsageError(`ArenaTape: ${fault}.`, 'wrong-record');
    const { names, teams, tags, kinds, movesets, start, entries, end } = saved as SavedArenaTape;
    const made = new ArenaTape();
    made.lists = { names, teams, tags, kinds, movesets };
    made.start = Float64Array.from(start, Number);
    made.first = made.start[0];
    made.last = end;
    for (const { tick, changes, rows } of entries)
      made.entries.push({ tick, changes: [...changes], rows: rows.map((row) => [...row]) });
    return made;
  }

  /** As it is kept: for `JSON.stringify`, and back by `from`. */
  toJSON(): SavedArenaTape {
    if (this.start === null || this.lists === null)
      throw new UsageError('ArenaTape: nothing was recorded on it.', 'missing');
    return {
      loggia: 1,
      arenaTape: 1,
      ...this.lists,
      start: Array.from(this.start, (n) => (Number.isFinite(n) ? n : String(n))),
      end: this.last,
      entries: this.entries,
    };
  }

  /** Tick up to which it was recorded. */
  get end(): number {
    return this.last;
  }

  /**
   * Puts an arena where the recording begins: the one that it was recorded in, or a new one in the same world. One
   * that it still records is recorded no longer, so that nothing of it is lost. `plans` are the movesets of all who
   * take part.
   * @param arena It is restored to where the recording begins.
   * @param plans In any order.
   * @throws {UsageError} where one is missing.
   */
  rewindTo(arena: RecordedArena, plans: readonly Plan[]): void {
    if (this.start === null || this.lists === null)
      throw new UsageError('ArenaTape: nothing was recorded on it.', 'missing');
    wantArena('rewindTo', arena);
    wantList('ArenaTape.rewindTo', 'the movesets', plans);
    for (const plan of plans) wantPlan('ArenaTape.rewindTo: of the movesets', plan);
    arena.adopt(this.lists, plans);
    if (arena.tape === this) arena.tape = null;
    arena.restore(this.start);
    for (const id of arena.ids) arena.characterOf(id)?.door.load([]);
    this.next = 0;
  }

  /**
   * Gives an arena what was recorded for its next tick. Call it before each tick of one that `rewindTo` has put at
   * the beginning.
   * @param arena The one that `rewindTo` was given.
   * @throws {UsageError} for what is no arena, and for rows that its members could not have got.
   */
  feed(arena: RecordedArena): void {
    wantArena('feed', arena);
    arena.replaysTick = true;
    const tick = arena.tickCount + 1;
    const { entries } = this;
    // Mostly it is the next one.
    if (this.next > 0 && !(entries[this.next - 1].tick < tick)) this.next = 0;
    while (this.next < entries.length && entries[this.next].tick < tick) this.next++;
    const entry = entries[this.next]?.tick === tick ? entries[this.next] : undefined;
    for (const change of entry?.changes ?? [])
      if (typeof change === 'number') arena.leave(change);
      else arena.join(change);
    for (const id of arena.ids) {
      const c = arena.characterOf(id) as Character;
      const rows = (entry?.rows ?? []).filter((row) => row[0] === id).map((row) => row.slice(1));
      for (const row of rows) {
        const fault = faultOfRow(c.plan, row) ?? strayValues(c.plan, rows, row);
        if (fault) throw new UsageError(`ArenaTape: at tick ${tick}, ${fault}.`, 'wrong-record');
      }
      c.door.load(rows);
    }
  }

  /** @internal */
  begin(arena: RecordedArena): void {
    if (this.start !== null) return;
    this.start = arena.snapshot();
    this.lists = arena.lists;
    this.first = this.last = arena.tickCount;
    this.sums = [arena.checksum()];
  }

  /** @internal */
  write(id: number, tick: number, data: Float64Array, at: number): void {
    this.entryOf(tick).rows.push([id, ...data.subarray(at, at + Rows.WIDTH)]);
  }

  /** @internal */
  noteJoin(arena: RecordedArena, join: Join): void {
    this.entryOf(arena.tickCount + 1).changes.push(join);
    // It may have a moveset, a name or tags that nobody had before.
    this.lists = arena.lists;
  }

  /** @internal */
  noteLeave(tick: number, id: number): void {
    this.entryOf(tick).changes.push(id);
  }

  /** @internal */
  noteTick(arena: RecordedArena): void {
    this.last = arena.tickCount;
    this.sums.push(arena.checksum());
  }

  /** @internal */
  rewind(arena: RecordedArena): void {
    const now = arena.tickCount;
    if (this.sums[now - this.first] === arena.checksum()) {
      this.entries = this.entries.filter(({ tick }) => tick <= now);
      this.sums.length = now - this.first + 1;
      this.last = now;
      return;
    }
    this.start = null;
    this.entries = [];
    this.begin(arena);
  }

  private entryOf(tick: number): ArenaEntry {
    let entry = this.entries.at(-1);
    if (entry?.tick !== tick) {
      entry = { tick, changes: [], rows: [] };
      this.entries.push(entry);
    }
    return entry;
  }
}

/** What keeps data from being a saved tape, or undefined. Its snapshot and rows are looked at again as they are used: that takes movesets. */
function faultOfTape(saved: unknown): string | undefined {
  if (nestsTooDeep(saved)) return `it nests deeper than ${DEEPEST} levels`;
  const tape = (saved ?? {}) as Partial<SavedArenaTape>;
  const lists = [tape.names, tape.teams, tape.tags, tape.kinds, tape.movesets, tape.start, tape.entries];
  if (tape.loggia !== 1 || tape.arenaTape !== 1 || !lists.every(Array.isArray) || !Number.isInteger(tape.end))
    return 'this is no tape of format 1';
  const { names, teams, tags, kinds, movesets, start, entries } = tape as SavedArenaTape;
  if (![...names, ...teams, ...kinds, ...tags].flat().every((name) => typeof name === 'string'))
    return 'names, teams, kinds and tags must be texts';
  if (!movesets.every((one) => typeof one?.name === 'string' && Number.isInteger(one.layout)))
    return 'its movesets must have names and layouts';
  if (!start.every((n) => typeof n === 'number' || n === 'Infinity' || n === '-Infinity'))
    return 'its start must be numbers';
  let before = Number.NEGATIVE_INFINITY;
  for (const entry of entries) {
    const { tick, changes, rows } = (entry ?? {}) as Partial<ArenaEntry>;
    if (!Number.isInteger(tick) || (tick as number) <= before || !Array.isArray(changes) || !Array.isArray(rows))
      return 'its entries must have rising ticks, changes and rows';
    before = tick as number;
    if (!rows.every(Array.isArray)) return `at tick ${tick}, a row must be a list`;
    for (const change of changes) {
      const fault = faultOfChange(change, movesets.length);
      if (fault) return `at tick ${tick}, ${fault}`;
    }
  }
  return undefined;
}

/** Who leaves is a number; who joins is what `add` was given. */
function faultOfChange(change: unknown, movesets: number): string | undefined {
  if (Number.isInteger(change)) return undefined;
  const { name, moveset, at, facing, team, tags } = (change ?? {}) as Partial<Join>;
  if (typeof name !== 'string') return 'who joins must have a name';
  if (!Number.isInteger(moveset) || (moveset as number) < 0 || (moveset as number) >= movesets)
    return `${JSON.stringify(name)} joins with the moveset ${describe(moveset)}, and there are ${movesets}`;
  if (!isPoint(at) || !at.every((n) => Math.abs(n as number) <= LARGEST))
    return `${JSON.stringify(name)} joins at no place`;
  if (facing !== 1 && facing !== -1) return `${JSON.stringify(name)} must face 1 or -1`;
  if (team !== null && typeof team !== 'string') return `${JSON.stringify(name)} is on no team`;
  if (!Array.isArray(tags) || !tags.every((tag) => typeof tag === 'string'))
    return `tags of ${JSON.stringify(name)} must be texts`;
  return undefined;
}

function wantArena(call: string, arena: RecordedArena): void {
  want(typeof arena?.adopt === 'function', `ArenaTape.${call}`, 'the first argument', 'an Arena', arena);
}
