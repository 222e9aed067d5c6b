import { closest, distance } from 'fastest-levenshtein';

/** The known name closest to `name`, or undefined when none is close enough to be what was meant. */
export function nearestName(name: string, known: Iterable<string>): string | undefined {
  const all = [...known];
  if (all.length === 0 || name.length > 80) return undefined;
  const folded = all.find((k) => k.toLowerCase() === name.toLowerCase());
  if (folded) return folded;
  const best = closest(name, all);
  return distance(name, best) <= Math.max(2, Math.floor(name.length / 3)) ? best : undefined;
}
