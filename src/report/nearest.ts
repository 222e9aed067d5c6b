import { distance } from 'fastest-levenshtein';

/** The longest name that is compared; a longer one is no typing mistake. */
const LONGEST = 80;

/** The known name closest to `name`, or undefined when none is close enough to be what was meant. */
export function nearestName(name: string, known: Iterable<string>): string | undefined {
  if (name.length === 0 || name.length > LONGEST) return undefined;
  const folded = name.toLowerCase();
  const most = mostEdits(name);
  let best: string | undefined;
  let fewest = most + 1;
  for (const other of known) {
    if (other.toLowerCase() === folded) return other;
    if (Math.abs(other.length - name.length) >= fewest) continue;
    const edits = isSwap(name, other) ? 1 : distance(name, other);
    if (edits >= fewest) continue;
    fewest = edits;
    best = other;
  }
  return best ?? partOf(name, known);
}

/** What to say of a name that is not there: the one that was meant, or all that there are. */
export function nearestOrAll(name: string, known: readonly string[]): string {
  const nearest = nearestName(name, known);
  return nearest === undefined ? `There are ${known.join(', ')}.` : `Did you mean "${nearest}"?`;
}

/** `right` for `move.right`, `Shift` for `ShiftLeft`: a whole part of a longer name. */
function partOf(name: string, known: Iterable<string>): string | undefined {
  if (name.length < 3) return undefined;
  for (const other of known) if (other.endsWith(`.${name}`)) return other;
  for (const other of known) if (other.startsWith(name) && /[A-Z.(]/.test(other.charAt(name.length))) return other;
  return undefined;
}

/** Whether two letters next to each other are the wrong way round: `wnid` for `wind`. */
function isSwap(name: string, other: string): boolean {
  if (name.length !== other.length) return false;
  let i = 0;
  while (i < name.length && name[i] === other[i]) i++;
  return (
    name[i] === other[i + 1] &&
    name[i + 1] === other[i] &&
    name.slice(i + 2) === other.slice(i + 2) &&
    i < name.length - 1
  );
}

/** One edit in words of up to four letters, so that `move` is not taken for `love`; then two, and three from nine on. */
function mostEdits({ length }: string): number {
  return length <= 4 ? 1 : length <= 8 ? 2 : 3;
}

/** How a bare name is written as a fact, for those who write `wind` for `pool.wind` or `hop` for `running(hop)`. */
const AS_FACT = [
  (name: string) => `pool.${name}`,
  (name: string) => `running(${name})`,
  (name: string) => `held(${name})`,
  (name: string) => `in(${name})`,
  (name: string) => `tagged(${name})`,
  (name: string) => `event(${name})`,
  (name: string) => `wearing(${name})`,
  (name: string) => `${name}.hit`,
  (name: string) => `${name}.x`,
];

/** What a fact begins with, along with others: `in(`, `pool.`. */
function familyOf(name: string): string | undefined {
  return /^\w+\((?=[\w.]*\)$)|^\w+\./.exec(name)?.[0];
}

/** All facts that begin as this one does: `in(stand)` for `in(standing)`. */
export function relativesOf(name: string, facts: ReadonlyMap<string, unknown>): string[] {
  const family = familyOf(name);
  return family ? [...facts.keys()].filter((key) => key.startsWith(family)) : [];
}

/** The fact that was meant: only of the same family, so that `held(jmp)` is never taken for `in(jam)`. */
export function suggestFact(name: string, facts: ReadonlyMap<string, unknown>, functions: readonly string[]) {
  const call = /^(\w+)\(([\w.]*)\)$/.exec(name);
  const family = familyOf(name);
  if (!family) {
    const fact = AS_FACT.map((write) => write(name)).find((key) => facts.has(key));
    return fact ?? nearestName(name, [...[...facts.keys()].filter((key) => /^\w+$/.test(key)), ...functions]);
  }
  // Only the part that differs is compared: a long family would make room for more edits than a short name has letters.
  const relatives = relativesOf(name, facts).map((key) => key.slice(family.length));
  if (relatives.length > 0) {
    const nearest = nearestName(
      name.slice(family.length).replace(/\)$/, ''),
      relatives.map((rest) => rest.replace(/\)$/, '')),
    );
    return nearest && `${family}${nearest}${call ? ')' : ''}`;
  }
  if (!call)
    return nearestName(
      name,
      [...facts.keys()].filter((key) => /^[\w.]+$/.test(key) && key.includes('.')),
    );
  const families = new Set([...facts.keys()].flatMap((key) => /^\w+(?=\()/.exec(key) ?? []));
  const nearest = nearestName(call[1], [...families, ...functions]);
  if (!nearest) return undefined;
  return facts.has(`${nearest}(${call[2]})`) ? `${nearest}(${call[2]})` : `${nearest}(…)`;
}
