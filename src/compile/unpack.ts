import type { Names, Parsed } from '../moveset/read.js';
import { Sink } from '../report/diagnostic.js';
import { compilePlan } from './compile.js';
import type { Plan } from './plan.js';

/** How this version packs; it changes whenever `Parsed` does. */
export const PACKING = 3;

/** A moveset that was checked and read beforehand. Plain data for JSON; nobody writes it by hand. */
export interface PackedMoveset {
  readonly loggia: 1;
  readonly packing: number;
  readonly names: Names;
  readonly parsed: Parsed;
}

/** Something cannot be packed, or was not packed by this version. */
export class PackingError extends Error {
  override readonly name = 'PackingError';
}

/**
 * The plan of a packed moveset, the same as that of the moveset itself. It is trusted: what was changed by hand since
 * may behave in any way. Throws a {@link PackingError} for what this version has not packed.
 */
export function unpackMoveset(packed: unknown): Plan {
  const { packing, names, parsed } = (packed ?? {}) as PackedMoveset;
  if (packing !== PACKING)
    throw new PackingError('unpackMoveset: this version of Loggia has not packed that; pack the moveset again.');
  return compilePlan(parsed, names, parsed.rate ?? 60, new Sink()).plan;
}
