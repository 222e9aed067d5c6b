import type { Moment } from '../../recording/moment.js';
import type { Recording } from '../../recording/recording.js';
import { rowsOf } from '../../recording/rows-of.js';

/** What can be looked at, tick by tick: a recording, or one up to a tick and another one from there on. */
export interface Ticks {
  readonly rate: number;
  readonly first: number;
  readonly last: number;
  /** A view: the next call moves it to another tick. */
  at(tick: number): Moment;
  /** What came in through the doors of each in a tick. */
  rows(tick: number): ReturnType<typeof rowsOf>;
}

/** When a tick is, for people: `0.40 s`. */
export function wordSeconds(tick: number, rate: number): string {
  return `${(tick / rate).toFixed(2)} s`;
}

export function ticksOf(recording: Recording): Ticks {
  return {
    rate: recording.rate,
    get first() {
      return recording.first;
    },
    get last() {
      return recording.last;
    },
    at: (tick) => recording.at(tick),
    rows: (tick) => (tick > recording.first ? rowsOf(recording.run, tick) : []),
  };
}

/** One up to and without a tick, the other one from that on. */
export function splice(before: Ticks, after: Ticks, from: number): Ticks {
  return {
    rate: before.rate,
    get first() {
      return before.first;
    },
    get last() {
      return after.last;
    },
    at: (tick) => (tick < from ? before : after).at(tick),
    // What came in in the tick itself is the same in both.
    rows: (tick) => (tick <= from ? before : after).rows(tick),
  };
}
