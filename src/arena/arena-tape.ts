import type { Plan } from '../compile/plan.js';
import { Rows } from '../record/rows.js';
import { DEEPEST, nestsTooDeep } from '../report/nesting.js';
import { UsageError } from '../report/usage-error.js';
import type { Character } from '../runtime/character.js';
import { faultOfRow } from '../runtime/door-rows.js';

/** Who joined before a tick: what `add` was given. */
export interface Join {
  readonly name: string;
  /** Index of its moveset among those of the arena. */
  readonly moveset: number;
  readonly at: readonly number[];
  readonly facing: 1 | -1;
  readonly team: string | null;
  readonly tags: readonly string[];
}

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
  readonly lists: Lists;
  snapshot(): Float64Array;
  restore(snapshot: Float64Array): void;
  checksum(): number;
  adopt(lists: Lists, plans: readonly Plan[]): void;
  join(join: Join): void;
  leave(id: number): void;
  characterOf(id: number): Character | undefined;
  readonly ids: readonly number[];
  /** What comes in next was recorded: opponents do not play. */
  fed: boolean;
}

/** What came into an arena, by its ticks: enough to do the whole run again. */
export class ArenaTape {
  private start: Float64Array | null = null;
  private entries: ArenaEntry[] = [];
  private last = 0;
  private lists: Lists | null = null;
  private first = 0;
  /** Checksums of the ticks so far, to tell this run's snapshots from others. */
  private sums: number[] = [];

  /** Takes a saved tape, as `toJSON` gave it. Throws a {@link UsageError} with the first fault for what is none. */
  static from(saved: unknown): ArenaTape {
    const fail = (why: string) => new UsageError(`ArenaTape: ${why}.`, 'wrong-record');
    if (nestsTooDeep(saved)) throw fail(`it nests deeper than ${DEEPEST} levels`);
    const tape = (saved ?? {}) as Partial<SavedArenaTape>;
    const lists = [tape.names, tape.teams, tape.tags, tape.movesets, tape.start, tape.entries];
    if (tape.loggia !== 1 || tape.arenaTape !== 1 || !lists.every(Array.isArray) || !Number.isInteger(tape.end))
      throw fail('this is no tape of format 1');
    const { names, teams, tags, movesets, start, entries, end } = tape as SavedArenaTape;
    const made = new ArenaTape();
    made.lists = { names, teams, tags, movesets };
    made.start = Float64Array.from(start, Number);
    made.first = made.start[0];
    made.last = end;
    let before = Number.NEGATIVE_INFINITY;
    for (const { tick, changes, rows } of entries) {
      if (!Number.isInteger(tick) || tick <= before || ![changes, rows].every(Array.isArray))
        throw fail('its entries must have rising ticks, changes and rows');
      before = tick;
      if (!rows.every(Array.isArray)) throw fail(`at tick ${tick}, a row must be a list`);
      made.entries.push({ tick, changes: [...changes], rows: rows.map((row) => [...row]) });
    }
    return made;
  }

  toJSON(): SavedArenaTape {
    if (this.start === null || this.lists === null)
      throw new UsageError('ArenaTape: nothing was recorded on it.', 'wrong-record');
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
   * Puts an arena where the recording begins: the one that it was recorded in, or a new one in the same world. `plans` are the
   * movesets of all who take part. Throws a UsageError where one is missing.
   */
  rewindTo(arena: RecordedArena, plans: readonly Plan[]): void {
    if (this.start === null || this.lists === null)
      throw new UsageError('ArenaTape: nothing was recorded on it.', 'wrong-record');
    arena.adopt(this.lists, plans);
    arena.restore(this.start);
    for (const id of arena.ids) arena.characterOf(id)?.door.load([]);
  }

  /** Gives an arena what was recorded for its next tick. Call it before each tick of one that `rewindTo` has put at the beginning. */
  feed(arena: RecordedArena): void {
    arena.fed = true;
    const tick = arena.tickCount + 1;
    const entry = this.entries.find((one) => one.tick === tick);
    for (const change of entry?.changes ?? [])
      if (typeof change === 'number') arena.leave(change);
      else arena.join(change);
    for (const id of arena.ids) {
      const c = arena.characterOf(id) as Character;
      const rows = (entry?.rows ?? []).filter((row) => row[0] === id).map((row) => row.slice(1));
      for (const row of rows) {
        const fault = faultOfRow(c.plan, row);
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
  noteJoin(tick: number, join: Join): void {
    this.entryOf(tick).changes.push(join);
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
