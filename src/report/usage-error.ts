import { describe } from './words.js';

/** What a call was wrong about, by the code of its error. */
export const USAGE = {
  'unknown-name': 'There is nothing of that name: an ability, an input, a member, an option.',
  'name-taken': 'Another member has that name, or may get it.',
  'wrong-type': 'An argument is of another kind than what is wanted.',
  'out-of-range': 'A number is not within what is allowed.',
  missing: 'What the call needs was not given: a world, a moveset, a recording.',
  'not-now': 'The call may not come at this time, as while an arena ticks.',
  'other-rate': 'The moveset has another rate of ticks than the others of its arena.',
  'other-moveset': 'It was made with another moveset, or with this one before it was changed.',
  'wrong-record': 'A snapshot or a tape is damaged, or of another layout.',
} as const;

/** A code of a {@link UsageError}. */
export type UsageCode = keyof typeof USAGE;

/** A call that is not possible as it is: its message says what is wrong and what to do, its code what kind of fault it is. */
export class UsageError extends Error {
  override readonly name = 'UsageError';

  constructor(
    message: string,
    readonly code: UsageCode,
  ) {
    super(message);
  }
}

/** Who finds the name that was meant, of those that there are. What compiles movesets brings it; a game of modules does without. */
export interface Guesser {
  nearest?(name: string, known: readonly string[]): string | undefined;
}

/** Index of a name, or an error that names the nearest one, or all. */
export function indexOfName(
  call: string,
  kind: string,
  name: string,
  known: readonly string[],
  guesser?: Guesser,
): number {
  const index = known.indexOf(name);
  if (index >= 0) return index;
  const meant = typeof name === 'string' ? guesser?.nearest?.(name, known) : undefined;
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
