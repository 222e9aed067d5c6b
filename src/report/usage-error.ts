import { describe } from './words.js';

/** A call named something that the moveset does not declare, or passed a value out of range. */
export class UsageError extends Error {
  override readonly name = 'UsageError';

  constructor(
    message: string,
    readonly code: 'unknown-name' | 'out-of-range' | 'wrong-record',
  ) {
    super(message);
  }
}

/** The name that was meant, of those that there are. Whoever compiles movesets brings it; a game of modules does without. */
let nearest: (name: string, known: readonly string[]) => string | undefined = () => undefined;

/** Errors suggest a name from now on. */
export function suggestBy(find: typeof nearest): void {
  nearest = find;
}

/** The name that was meant, if that is looked for. */
export function nearestOf(name: string, known: readonly string[]): string | undefined {
  return nearest(name, known);
}

/** Index of a name, or an error that names the nearest one, or all. */
export function indexOfName(call: string, kind: string, name: string, known: readonly string[]): number {
  const index = known.indexOf(name);
  if (index >= 0) return index;
  const meant = typeof name === 'string' ? nearest(name, known) : undefined;
  const tail = meant ? `Did you mean "${meant}"?` : `There are ${known.join(', ') || 'none'}.`;
  throw new UsageError(`${call}: there is no ${kind} "${String(name)}". ${tail}`, 'unknown-name');
}

/** A number from outside, or an error that says what is allowed. -0 becomes 0, so that equal runs have equal records. */
export function checkNumber(call: string, what: string, value: number, min = -LARGEST, max = LARGEST): number {
  if (typeof value === 'number' && value >= min && value <= max) return value + 0;
  throw new UsageError(
    `${call}: ${what} must be a number from ${min} to ${max}, not ${describe(value)}.`,
    'out-of-range',
  );
}

/** The largest number that comes in from outside: the most that a moveset may declare, too. */
export const LARGEST = 1e6;
