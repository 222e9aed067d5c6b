import { compilePlan } from '../compile/compile.js';
import { sumOf } from '../compile/pack.js';
import type { Plan } from '../compile/plan.js';
import { PACKING, PackingError } from '../compile/version.js';
import { isPlain, type Names } from '../moveset/read.js';
import { Sink } from '../report/diagnostic.js';
import { DEEPEST_PACKED, nestsTooDeep } from '../report/nesting.js';
import { describe } from '../report/words.js';
import { interpreter } from './interpreter.js';

/**
 * The plan of a packed moveset, the same as that of the moveset itself. Its sum tells a pack that was cut off or
 * changed by accident, not one that somebody made on purpose: do not unpack what comes from strangers; check their
 * movesets as text.
 * @param packed What `packMoveset` gave, also out of JSON.
 * @throws {PackingError} that says what is wrong with what this version has not packed, or what was changed
 * since.
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
  if (nestsTooDeep(packed, DEEPEST_PACKED)) throw fail(`it nests deeper than ${DEEPEST_PACKED} levels`);
  if (sum !== sumOf(names, parsed)) throw fail('it was changed or cut off after it was packed');
  return compilePlan(parsed, names as Names, (parsed.rate as number) ?? 60, new Sink(), interpreter()).plan;
}
