/** How deep data from outside may nest: more than any moveset, save or tape does, and little enough to walk by recursion. */
export const DEEPEST = 32;

/** Whether data nests deeper than {@link DEEPEST}, or contains itself. */
export function nestsTooDeep(value: unknown): boolean {
  const seen = new Map<object, number>();
  const waiting: [value: unknown, depth: number][] = [[value, 0]];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    const [item, depth] = next;
    if (typeof item !== 'object' || item === null || ArrayBuffer.isView(item)) continue;
    if (depth > DEEPEST) return true;
    if ((seen.get(item) ?? -1) >= depth) continue;
    seen.set(item, depth);
    for (const inside of Object.values(item)) waiting.push([inside, depth + 1]);
  }
  return false;
}
