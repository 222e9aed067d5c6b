import type { Plan } from '../compile/plan.js';
import { Rows } from '../record/rows.js';
import { HOST } from '../record/slots.js';
import { wantCharacter } from '../report/arguments.js';
import { DEEPEST, nestsTooDeep } from '../report/nesting.js';
import { UsageError } from '../report/usage-error.js';
import { faultOfRow, strayValues } from '../tick/take-in/door-rows.js';

/** What came through a door in one host tick: rows of a kind, what it is about, and three numbers. */
export interface TapeEntry {
  readonly tick: number;
  readonly rows: readonly (readonly number[])[];
}

/** A tape as it is kept: plain data for JSON. */
export interface SavedTape {
  readonly loggia: 1;
  /** Format of the tape. */
  readonly tape: 1;
  /** Name of the moveset, for people, and what tells its records from those of others. */
  readonly moveset: string;
  readonly layout: number;
  /** The record in which the recording begins; JSON has no infinite numbers, so these are texts. */
  readonly start: readonly (number | string)[];
  /** Host tick up to which it was recorded. */
  readonly end: number;
  readonly entries: readonly TapeEntry[];
}

/** What a tape needs of a character. */
export interface Recorded {
  readonly plan: Plan;
  readonly hostTick: number;
  /** @internal */
  readonly door: { load(rows: readonly (readonly number[])[]): void };
  snapshot(): Float64Array;
  restore(snapshot: Float64Array): void;
  checksum(): number;
  tape: Tape | null;
}

/**
 * All that reaches a character from outside, with the record in which it begins: `character.tape = new Tape()`. A character
 * that is restored to an earlier tick of the same run goes on from there on the tape, too; restored to anything else, the tape
 * begins again with that.
 */
export class Tape {
  private start: Float64Array | null = null;
  private entries: { tick: number; rows: number[][] }[] = [];
  private last = -1;
  private moveset = '';
  private layout = 0;
  /** Checksums of the ticks so far, to tell this run's snapshots from others. */
  private sums: number[] = [];

  /**
   * Takes a saved tape, as `toJSON` gave it.
   * @param saved What JSON.parse gave.
   * @throws {UsageError} with the first fault for what is none.
   */
  static from(saved: unknown): Tape {
    const { loggia, tape, start, entries, end, moveset, layout } = (saved ?? {}) as Partial<SavedTape>;
    if (nestsTooDeep(saved)) throw new UsageError(`Tape: it nests deeper than ${DEEPEST} levels.`, 'wrong-record');
    if (loggia !== 1 || tape !== 1 || !Array.isArray(start) || !Array.isArray(entries) || !Number.isInteger(end))
      throw new UsageError('Tape: this is no tape of format 1.', 'wrong-record');
    const made = new Tape();
    made.moveset = String(moveset);
    made.layout = Number(layout);
    made.start = Float64Array.from(start, Number);
    made.last = end as number;
    let before = Number.NEGATIVE_INFINITY;
    for (const entry of entries) {
      if (!Number.isInteger(entry?.tick) || entry.tick <= before || !Array.isArray(entry.rows))
        throw new UsageError('Tape: its entries must have rising ticks, and rows.', 'wrong-record');
      before = entry.tick;
      if (!entry.rows.every(Array.isArray))
        throw new UsageError(`Tape: at tick ${entry.tick}, a row must be a list.`, 'wrong-record');
      made.entries.push({ tick: entry.tick, rows: entry.rows.map((row: number[]) => [...row]) });
    }
    return made;
  }

  /** As it is kept: for `JSON.stringify`, and back by `from`. */
  toJSON(): SavedTape {
    return {
      loggia: 1,
      tape: 1,
      moveset: this.moveset,
      layout: this.layout,
      start: Array.from(this.start ?? [], (n) => (Number.isFinite(n) ? n : String(n))),
      end: this.last,
      entries: this.entries,
    };
  }

  /** Host tick up to which it was recorded. */
  get end(): number {
    return this.last;
  }

  /**
   * Puts a character where the recording begins. One that it still records is recorded no longer, so that nothing of
   * it is lost.
   * @param character Of the same moveset; it is restored to where the recording begins.
   * @throws {UsageError} if it has another moveset.
   */
  rewindTo(character: Recorded): void {
    wantCharacter('Tape.rewindTo', character);
    const { plan } = character;
    if (this.start === null) throw new UsageError('Tape: nothing was recorded on it.', 'missing');
    if (this.layout !== plan.fingerprint && this.layout !== plan.former)
      throw new UsageError(
        `Tape: it was recorded with ${this.moveset}, not with ${plan.name} as it is.`,
        'other-moveset',
      );
    for (const { tick, rows } of this.entries)
      for (const row of rows) {
        const fault = faultOfRow(plan, row) ?? strayValues(plan, rows, row);
        if (fault) throw new UsageError(`Tape: at tick ${tick}, ${fault}.`, 'wrong-record');
      }
    // What is played again is not recorded again.
    if (character.tape === this) character.tape = null;
    character.restore(this.start);
    character.door.load([]);
  }

  /**
   * Gives a character what was recorded for its next tick, in place of what waits in its door. Call it before each
   * tick of a character that `rewindTo` has put at the beginning, and it does the same again.
   * @param character The one that `rewindTo` was given.
   * @throws {UsageError} for what is no character.
   */
  feed(character: Recorded): void {
    wantCharacter('Tape.feed', character);
    const tick = character.hostTick + 1;
    let low = 0;
    let high = this.entries.length;
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.entries[middle].tick < tick) low = middle + 1;
      else high = middle;
    }
    const entry = this.entries[low];
    character.door.load(entry?.tick === tick ? entry.rows : []);
  }

  /** @internal */
  begin(character: Recorded): void {
    if (this.start !== null) return;
    this.start = character.snapshot();
    this.moveset = character.plan.name;
    this.layout = character.plan.fingerprint;
    this.last = character.hostTick;
    this.sums = [character.checksum()];
  }

  /** @internal */
  write(tick: number, data: Float64Array, at: number): void {
    let entry = this.entries.at(-1);
    if (entry?.tick !== tick) {
      entry = { tick, rows: [] };
      this.entries.push(entry);
    }
    entry.rows.push(Array.from(data.subarray(at, at + Rows.WIDTH)));
  }

  /** @internal */
  noteTick(character: Recorded): void {
    this.last = character.hostTick;
    this.sums.push(character.checksum());
  }

  /** @internal */
  rewind(character: Recorded): void {
    const first = (this.start as Float64Array)[HOST];
    const { hostTick } = character;
    if (this.sums[hostTick - first] === character.checksum()) {
      this.entries = this.entries.filter(({ tick }) => tick <= hostTick);
      this.sums.length = hostTick - first + 1;
      this.last = hostTick;
      return;
    }
    this.start = null;
    this.entries = [];
    this.begin(character);
  }
}
