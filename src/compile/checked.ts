import type { ParsedMoveset } from '../moveset/schema.js';
import type { Moveset } from '../moveset/types.js';
import type { Sink } from '../report/diagnostic.js';
import type { Plan } from './plan.js';

/** A moveset without errors, as advice looks at it. */
export interface Checked {
  readonly plan: Plan;
  readonly source: Moveset;
  /** @internal */
  readonly parsed: ParsedMoveset;
  /** Facts that some formula reads, by key; null when a function may read any. */
  readonly read: readonly string[] | null;
  readonly sink: Sink;
}
/** What adds warnings: see {@link advise}. */
export type Advise = (checked: Checked) => void;
