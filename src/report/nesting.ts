/** How deep data from outside may nest: more than any moveset, save or tape does, and little enough to walk by recursion. */
export const DEEPEST = 32;

/** How deep a packed moveset may nest: a formula of many terms nests a level for each. */
export const DEEPEST_PACKED = 2000;

/** Whether data nests deeper than a limit, or contains itself. */
export function nestsTooDeep(value: unknown, limit = DEEPEST): boolean {
  const seen = new Map<object, number>();
  const waiting: [value: unknown, depth: number][] = [[value, 0]];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const [item, depth] = next;
    if (typeof item !== 'object' || item === null || ArrayBuffer.isView(item)) continue;
    if (depth > limit) return true;
    if ((seen.get(item) ?? -1) >= depth) continue;
    seen.set(item, depth);
    for (const inside of Object.values(item)) waiting.push([inside, depth + 1]);
  }
  return false;
}
