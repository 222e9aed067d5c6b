import type { Moment } from '../../recording/moment.js';
import type { Recording } from '../../recording/recording.js';
import { rowsOf } from '../../recording/rows-of.js';

/** What can be looked at, tick by tick: a recording, or several that follow one another. */
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

/** A recording, and from which tick on it is what is looked at; the first part is so from its first tick on. */
export interface Part {
  readonly from: number;
  readonly recording: Recording;
}

/** The part that a tick is on. */
export function partOf(parts: readonly Part[], tick: number): Part {
  return parts.findLast(({ from }) => from <= tick) ?? parts[0];
}

/** Several recordings as one: each up to the tick from which the next one is. */
export function joined(parts: readonly Part[]): Ticks {
  const last = parts[parts.length - 1].recording;
  return {
    rate: last.rate,
    get first() {
      // A recording that goes on forgets its first ticks; what was before them is out of reach.
      const torn = parts.findLastIndex(({ from, recording }, i) => i > 0 && recording.first > from);
      return parts[Math.max(0, torn)].recording.first;
    },
    get last() {
      return last.last;
    },
    at: (tick) => partOf(parts, tick).recording.at(tick),
    // What came in in the first tick of a part is on the one before it.
    rows: (tick) => ticksOf(partOf(parts, tick - 1).recording).rows(tick),
  };
}
