import type { Plan } from '../compile/plan.js';
import type { Renamed } from '../tick/take-in/map-rows.js';

/** Who joined an arena before a tick: what `add` was given. */
export interface Join {
  readonly name: string;
  /** Index of its moveset among those of the arena. */
  readonly moveset: number;
  readonly at: readonly number[];
  readonly facing: 1 | -1;
  readonly team: string | null;
  readonly tags: readonly string[];
}

/** Told of all that happens to a character or an arena: a recording. */
export interface Watcher {
  /** A tick begins. */
  before(): void;
  /** A tick is over, and nobody has read it yet. */
  after(): void;
  /** A row comes in through the door of a member; 0 for a character by itself. */
  write(id: number, data: Float64Array, at: number): void;
  /** It was restored. */
  rewound(): void;
  /** Another moveset is that of a member from now on, or of a character by itself: 0. */
  swapped(id: number, next: Plan, renamed: Renamed): void;
  /** Between two ticks, the world may be asked: somebody is about to join, or to get another moveset. */
  asking(): void;
  /** Somebody joined, or the member of an id left, by a call of the host. */
  changed(change: Join | number): void;
}

export const NOBODY: readonly Watcher[] = [];

interface Writer {
  write(tick: number, rows: Float64Array, at: number): void;
}

/** What writes down the rows of a member for a tape and for those who watch; null for nobody. */
export function writerFor(tape: Writer | null, watchers: readonly Watcher[], id: number): Writer | null {
  if (watchers.length === 0) return tape;
  return {
    write(tick, data, at) {
      tape?.write(tick, data, at);
      for (let i = 0; i < watchers.length; i++) watchers[i].write(id, data, at);
    },
  };
}
