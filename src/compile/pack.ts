import type { ParsedFormula } from '../moveset/formula.js';
import { isPlain, type Names } from '../moveset/read.js';
import { wantPlan } from '../report/arguments.js';
import { wordPath } from '../report/wording.js';
import type { Plan } from './plan.js';
import { PACKING, PackingError } from './version.js';

/** A moveset that was checked and read beforehand. Plain data for JSON, not written by hand. */
export interface PackedMoveset {
  readonly loggia: 1;
  readonly packing: number;
  readonly names: Names;
  readonly parsed: Readonly<Record<string, unknown>>;
  readonly sum: number;
}

/**
 * A checked moveset as plain data for JSON, all of it read and parsed: a game that ships it carries neither checks
 * nor parsers.
 * @param plan What `compileMoveset`, a file or a module gives.
 * @throws {PackingError} with the places of all functions, since those are not data.
 */
export function packMoveset(plan: Plan): PackedMoveset {
  wantPlan('packMoveset', plan);
  const { parsed, names } = plan;
  const functions: string[] = [];
  const text = JSON.stringify({ names, parsed }, (_, value) => {
    if (!isFormula(value)) return value;
    const { path, percent, ...rest } = value;
    if (typeof rest.source === 'function') functions.push(wordPath(path));
    return { ...rest, ...(percent && { percent }) };
  });
  if (functions.length > 0)
    throw new PackingError(
      `packMoveset: a function cannot be packed; write ${functions.join(', ')} as text, or ship the moveset unpacked.`,
    );
  // As it comes back from JSON, so that the sum is that of what is read.
  const packed: Pick<PackedMoveset, 'names' | 'parsed'> = JSON.parse(text);
  return { loggia: 1, packing: PACKING, ...packed, sum: sumOf(packed.names, packed.parsed) };
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
