import { wordPath } from '../report/wording.js';
import type { Plan } from './plan.js';
import { isFormula, type PackedMoveset, sumOf } from './unpack.js';
import { PACKING, PackingError } from './version.js';

/**
 * A checked moveset as plain data for JSON, all of it read and parsed: a game that ships it carries neither
 * checks nor parsers. Throws a {@link PackingError} with the places of all functions, since those are not data.
 */
export function packMoveset(plan: Plan): PackedMoveset {
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
