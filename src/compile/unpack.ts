import { isPlain, type Names, type Parsed, type ParsedFormula } from '../moveset/read.js';
import { Sink } from '../report/diagnostic.js';
import { DEEPEST, nestsTooDeep } from '../report/nesting.js';
import { describe } from '../report/words.js';
import { compilePlan } from './compile.js';
import type { Plan } from './plan.js';
import { PACKING, PackingError } from './version.js';

export { PackingError } from './version.js';

/** A moveset that was checked and read beforehand. Plain data for JSON, not written by hand. */
export interface PackedMoveset {
  readonly loggia: 1;
  readonly packing: number;
  readonly names: Names;
  readonly parsed: Parsed;
  readonly sum: number;
}

/**
 * The plan of a packed moveset, the same as that of the moveset itself. Throws a {@link PackingError} that says what is
 * wrong with what this version has not packed, or what was changed since.
 */
export function unpackMoveset(packed: unknown): Plan {
  const fail = (why: string) => new PackingError(`unpackMoveset: ${why}; pack the moveset again.`);
  if (!isPlain(packed)) throw fail(`a packed moveset is a map, not ${describe(packed)}`);
  if (packed.packing === undefined && packed.stances !== undefined)
    throw new PackingError(
      'unpackMoveset: this is a moveset that is not packed; use compileMoveset, or pack it first.',
    );
  if (packed.packing !== PACKING)
    throw fail(`it was packed as ${describe(packed.packing)}, but this Loggia reads ${PACKING}`);
  const { names, parsed, sum } = packed;
  if (!isPlain(names) || !isPlain(parsed)) throw fail('"names" and "parsed" must be maps');
  if (nestsTooDeep(packed)) throw fail(`it nests deeper than ${DEEPEST} levels`);
  if (sum !== sumOf(names, parsed)) throw fail('it was changed or cut off after it was packed');
  return compilePlan(parsed, names as Names, (parsed.rate as number) ?? 60, new Sink()).plan;
}

/** What tells a packed moveset from one that was changed since: FNV-1a over its text. */
export function sumOf(names: unknown, parsed: unknown): number {
  const text = JSON.stringify([names, parsed]);
  let sum = 0x811c9dc5;
  for (let i = 0; i < text.length; i++) sum = Math.imul(sum ^ text.charCodeAt(i), 0x01000193);
  return sum >>> 0;
}

/** Whether a part of what was read is a formula. */
export function isFormula(value: unknown): value is ParsedFormula {
  return isPlain(value) && Array.isArray(value.path) && typeof value.percent === 'boolean';
}
