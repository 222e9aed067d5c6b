import { nearestName } from '../moveset/nearest.js';

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

/** Index of a name, or an error that names the nearest one. */
export function indexOfName(call: string, kind: string, name: string, known: readonly string[]): number {
  const index = known.indexOf(name);
  if (index >= 0) return index;
  const nearest = nearestName(name, known);
  const tail = nearest ? `Did you mean "${nearest}"?` : `There are ${known.join(', ') || 'none'}.`;
  throw new UsageError(`${call}: there is no ${kind} "${name}". ${tail}`, 'unknown-name');
}
