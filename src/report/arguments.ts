import { UsageError } from './usage-error.js';
import { describe } from './words.js';

/*
 * What public calls check of what they are given, where TypeScript did not: each throws a UsageError that says what is wanted.
 */

/** Throws unless something holds of an argument. */
export function want(holds: boolean, call: string, what: string, expected: string, value: unknown): void {
  if (!holds) throw new UsageError(`${call}: ${what} must be ${expected}, not ${describe(value)}.`, 'wrong-type');
}

export function wantText(call: string, what: string, value: unknown): void {
  want(typeof value === 'string', call, what, 'a text', value);
}

export function wantTruth(call: string, what: string, value: unknown): void {
  want(typeof value === 'boolean', call, what, 'true or false', value);
}

export function wantList(call: string, what: string, value: unknown): void {
  want(Array.isArray(value), call, what, 'a list', value);
}

/** A list of two or three finite numbers. */
export function isPoint(value: unknown): value is readonly [x: number, y: number, z?: number] {
  return Array.isArray(value) && (value.length === 2 || value.length === 3) && value.every(Number.isFinite);
}

/** Any object. */
export function wantObject(call: string, what: string, value: unknown, expected = 'an object'): void {
  want(typeof value === 'object' && value !== null, call, what, expected, value);
}

/** A map: an object that is no list. */
export function isPlain(value: unknown): value is Record<string, unknown> {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

/** A function, or nothing. */
export function wantFunction(call: string, what: string, value: unknown): void {
  want(value === undefined || typeof value === 'function', call, what, 'a function', value);
}

export function wantPlan(call: string, plan: unknown): void {
  if (typeof (plan as { then?: unknown } | null | undefined)?.then === 'function')
    throw new UsageError(`${call}: this is a promise of a moveset: write "await" before it.`, 'wrong-type');
  if (typeof (plan as { arraySize?: unknown } | null | undefined)?.arraySize !== 'function')
    throw new UsageError(
      `${call}: the first argument must be a compiled moveset: what compileMoveset or a loader returns.`,
      'wrong-type',
    );
}

export function wantCharacter(call: string, character: unknown): void {
  const { plan, door } = (character ?? {}) as { plan?: unknown; door?: unknown };
  want(typeof plan === 'object' && typeof door === 'object', call, 'the first argument', 'a Character', character);
}

/** Options, or nothing: an object with no other keys than these. */
export function wantOptions(call: string, options: unknown, known: readonly string[]): void {
  if (options === undefined) return;
  if (typeof (options as { sweep?: unknown } | null)?.sweep === 'function')
    throw new UsageError(`${call}: this is a world; give it as { world }.`, 'wrong-type');
  want(
    typeof options === 'object' && options !== null && !Array.isArray(options),
    call,
    'options',
    'an object',
    options,
  );
  for (const key of Object.keys(options as object)) {
    if (known.includes(key)) continue;
    throw new UsageError(
      `${call}: there is no option ${describe(key)}. There are ${known.join(', ')}.`,
      'unknown-name',
    );
  }
}
