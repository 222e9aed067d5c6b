import type { Test } from '../effects/effect.js';
import type { WrittenFormula } from '../read.js';
import type { Field } from '../shape.js';

export interface StartTools {
  /** First slot of a button. */
  buttonAt(name: string): number;
  /** First slot of the stick that walks, or -1 for none. */
  stickAt(): number;
  /** First slot of the four sides of that stick. */
  sidesAt(): number;
  eventAt(name: string): number;
  /** Two slots of the record of its own. */
  memory(): number;
  /** Slot that is 1 while this ability is latched. */
  readonly latchAt: number;
  /** Slot of the tick at which code asked for this ability. */
  readonly requestAt: number;
  /** Ticks of a time that is the default of a field. */
  ticks(time: string): number;
  readonly view: 'side' | 'open';
  /** What was faulty never holds. */
  truth(written: WrittenFormula | undefined): Test;
}

export type Moment = 'press' | 'release' | 'edges' | 'queue';

/** One way in which an ability asks to start, compiled. Its moment is kept for its buffer. */
export interface AskPiece {
  /** What asks first in a tick: 0 rules, 1 events, 2 inputs and code. */
  readonly turn: 0 | 1 | 2;
  /** Among inputs, the more specific one goes first: how much more than a press it wants. */
  readonly rank: number;
  /** What may bring its moment about: a press or release of its button, any button, or the door's queue. */
  readonly moment?: Moment;
  /** What must hold besides for its moment to come about, then. */
  readonly happens?: Test;
  /** Whether it asks now. When it stops, so does the ability it started. */
  readonly stands?: Test;
  /** First slot of the button it listens to; a press grants one ask only. */
  readonly button?: number;
  /** Name of the button, for the buffer it declares. */
  readonly input?: string;
  /** Flips when its moment comes about. */
  readonly latch?: boolean;
  /** Undoes the latch when any holds. */
  readonly unlatch?: readonly Test[];
}

/** Everything Loggia knows about one way to start; listed once in index.ts. */
export interface StartKind {
  readonly key: string;
  readonly fields: Readonly<Record<string, Field>>;
  compile(value: never, tools: StartTools): AskPiece;
}

export function startKind<T>(
  key: string,
  fields: Record<string, Field>,
  compile: (value: T, tools: StartTools) => AskPiece,
): StartKind {
  return { key, fields, compile };
}
