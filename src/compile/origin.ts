import type { Path } from '../report/diagnostic.js';
import type { Plan } from './plan.js';

/** A place in a file; line and column from 1 on. */
export interface TextPlace {
  readonly file: string;
  readonly line: number;
  readonly column: number;
}

/** What a plan was made of, as far as that is known. */
export interface Origin {
  /** The moveset as data, with what it includes; undefined for a packed one and for a module. */
  readonly source?: unknown;
  readonly files?: readonly string[];
  readonly texts?: readonly string[];
  readonly placeOf?: (path: Path) => TextPlace | undefined;
}

const ORIGINS = new WeakMap<Plan, Origin>();

/** Notes more of it. */
export function noteOrigin(plan: Plan, more: Origin): void {
  ORIGINS.set(plan, { ...ORIGINS.get(plan), ...more });
}

export function originOf(plan: Plan): Origin {
  return ORIGINS.get(plan) ?? {};
}
