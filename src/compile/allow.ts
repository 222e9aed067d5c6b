import { isPlain } from '../moveset/read.js';
import type { Diagnostic } from '../report/diagnostic.js';

/** Warnings that are not allowed at their place, or around it; errors stay. */
export function withoutAllowed(list: readonly Diagnostic[], source: unknown): Diagnostic[] {
  return list.filter((d) => d.severity === 'error' || !isAllowed(d, source));
}

function isAllowed({ code, path }: Diagnostic, source: unknown): boolean {
  let value = source;
  for (const part of [undefined, ...path]) {
    if (part !== undefined) value = (value as Record<string | number, unknown> | undefined)?.[part];
    if (isPlain(value) && isPlain(value.allow) && typeof value.allow[code] === 'string') return true;
  }
  return false;
}
