import type { Facts } from '../moveset/name-types.js';
import type { Frame, Run, Test } from '../record/frame.js';

export type FactType = 'number' | 'time' | 'truth';

/** A fact that a formula reads, to be shown to people. */
export interface Reading {
  readonly text: string;
  readonly type: FactType;
  /** Writes its value to `r[at]`: ticks for a time, 0 or 1 for a truth. */
  readonly run: Run | null;
  readonly at: number;
}

/** A condition with what is needed to say why it does not hold. */
export interface Condition {
  readonly test: Test;
  readonly text: string;
  readonly readings: readonly Reading[];
}

/** What function formulas are given: the character's facts. */
export interface FactFrame extends Frame {
  readonly facts: Facts;
}
