import type { Frame, Test } from '../../record/frame.js';
import type { ParsedFormula } from '../formula.js';
import type { Field, Fields, ReadFields } from '../shape.js';
import type { Direction } from './direction.js';

export interface StartTools {
  /** First slot of a button. */
  buttonAt(name: string): number;
  /** First slot of the stick that walks, or -1 for none. */
  stickAt(): number;
  /** First slot of the four sides of that stick. */
  sidesAt(): number;
  eventIndex(name: string): number;
  abilityIndex(name: string): number;
  /** First of the numbers of the record that this start owns. */
  readonly own: number;
  /** Slot that is 1 while this ability is latched. */
  readonly latchAt: number;
  /** Slot of the own tick at which another ability or code last ended this one. */
  readonly brokenAt: number;
  /** This ability as a button notes it for the one that used its press. */
  readonly user: number;
  /** Ticks of a time that is the default of a field. */
  ticks(time: string): number;
  readonly view: 'side' | 'open';
  /** What was faulty never holds. */
  truth(parsed: ParsedFormula | undefined): Test;
}

/**
 * What can trigger a request: a press or release of its button, a press of any button, an event, the end of an ability,
 * code; `tick` looks in each tick.
 */
export type Moment = 'press' | 'release' | 'edge' | 'event' | 'ending' | 'tick' | 'code';

/** What must hold besides; `what` is the first slot of the button that was pressed or released, or the kind of ending. */
export type MomentTest = (c: Frame, what: number) => boolean;

/** What a start wants of devices besides its input, for who describes it. Times are in ticks. */
export interface Wants {
  readonly with?: string;
  readonly toward?: Direction;
  readonly sequence?: readonly string[];
  readonly held?: number;
  readonly within?: number;
}

/** One way in which an ability is requested, compiled: at a moment, which is kept for its buffer, or as long as something holds. */
export interface TriggerPiece {
  /** Of several requests in one tick the more specific goes first: how much more than a press it wants. */
  readonly rank: number;
  readonly on?: Moment;
  readonly happens?: MomentTest;
  /** Whether it requests now. When it stops, so does the ability it started. */
  readonly sustained?: Test;
  /** First slot of the button it listens to; a press starts one ability only. */
  readonly button?: number;
  /** Name of the button, for the buffer it declares. */
  readonly input?: string;
  /** What it wants besides. */
  readonly wants?: Wants;
  /** Index of the event it listens to. */
  readonly event?: number;
  /** Index of the ability whose end it listens to. */
  readonly after?: number;
  /** Flips when its moment comes. */
  readonly latch?: boolean;
  /** Undoes the latch when any holds. */
  readonly unlatch?: readonly Test[];
  /** While `sustained` does not hold, only the press of the button makes it; else it is asked in each tick. */
  readonly wokenByPress?: boolean;
  /** Facing must not follow the stick before it starts: it means a direction away from facing, or nobody has asked for it. */
  readonly keepsFacing?: boolean;
}

/** A start as it was read: the key that makes it one of its kind is there. */
export type ReadStart<K extends string, F extends Fields> = ReadFields<F> & {
  readonly [Own in K & keyof F]: NonNullable<ReadFields<F>[Own]>;
};

/** Everything Loggia knows about one way to start; listed once in index.ts. */
export interface StartKind<K extends string = string, F extends Fields = Fields> {
  readonly key: K;
  readonly fields: F;
  /** How many numbers of the record such a start owns. */
  owns(start: ReadStart<K, F>): number;
  compile(start: ReadStart<K, F>, tools: StartTools): TriggerPiece;
}

export function startKind<const K extends string, F extends Fields & { [Own in K]: Field }>(
  key: K,
  fields: F,
  compile: (start: ReadStart<K, F>, tools: StartTools) => TriggerPiece,
  owns: number | ((start: ReadStart<K, F>) => number) = 0,
): StartKind<K, F> {
  return { key, fields, compile, owns: typeof owns === 'number' ? () => owns : owns };
}
