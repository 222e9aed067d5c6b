import type { Door } from './door.js';

/** What came through a door in one host tick. */
export interface TapeEntry {
  readonly tick: number;
  readonly buttons: readonly number[];
  readonly sticks: readonly number[];
  readonly queue: readonly number[];
}

/** All that reached a character from outside. Plain data: `JSON.stringify(tape.entries)` keeps it. */
export class Tape {
  readonly entries: TapeEntry[];
  private next = 0;

  constructor(entries: readonly TapeEntry[] = []) {
    this.entries = [...entries];
  }

  /** @internal */
  write(tick: number, door: Door): void {
    this.entries.push({ tick, buttons: [...door.buttons], sticks: [...door.sticks], queue: door.queue.all() });
  }

  /**
   * Gives a character what was recorded for its next tick. Call it before each tick of a character that
   * starts as the recorded one did, and it does the same again.
   */
  feed(character: { readonly door: Door; readonly hostTick: number }): void {
    const tick = character.hostTick + 1;
    while (this.next < this.entries.length && this.entries[this.next].tick < tick) this.next++;
    const entry = this.entries[this.next];
    if (entry?.tick === tick) character.door.load(entry.buttons, entry.sticks, entry.queue);
  }
}
