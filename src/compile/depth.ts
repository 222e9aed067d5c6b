/** How many may be made of one another in a row: named conditions, probes. */
export const DEEPEST_CHAIN = 40;

/**
 * By name: how many others stand in a row behind it at most, and what `own` says of each, summed over all that it is made of, as often as it is.
 * Infinite for what is made of itself. Without recursion, since chains from outside may be of any length.
 */
export function measureChains(
  names: readonly string[],
  others: ReadonlyMap<string, readonly string[]>,
  own: (name: string) => number,
): ReadonlyMap<string, { readonly depth: number; readonly sum: number }> {
  const found = new Map<string, { depth: number; sum: number }>();
  const open = new Set<string>();
  for (const name of names) {
    const waiting = [name];
    for (let at = waiting.at(-1); at !== undefined; at = waiting.at(-1)) {
      if (found.has(at)) {
        waiting.pop();
        continue;
      }
      const parts = others.get(at) ?? [];
      if (!open.has(at)) {
        open.add(at);
        const missing = parts.filter((part) => !found.has(part));
        // What is open already is part of itself.
        if (missing.some((part) => open.has(part))) found.set(at, { depth: Infinity, sum: Infinity });
        else waiting.push(...missing);
        continue;
      }
      let depth = 0;
      let sum = own(at);
      for (const part of parts) {
        const of = found.get(part) ?? { depth: Infinity, sum: Infinity };
        depth = Math.max(depth, of.depth + 1);
        sum += of.sum;
      }
      found.set(at, { depth, sum });
      waiting.pop();
    }
    open.clear();
  }
  return found;
}
