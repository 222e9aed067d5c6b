import { ABILITIES_DOCS } from '../compile/facts/abilities.js';
import { BLOWS_DOCS } from '../compile/facts/blows.js';
import { BODY_DOCS } from '../compile/facts/body.js';
import { EVENTS_DOCS } from '../compile/facts/events.js';
import { INPUTS_DOCS } from '../compile/facts/inputs.js';
import { POINTS_DOCS } from '../compile/facts/points.js';
import { POOLS_DOCS } from '../compile/facts/pools.js';
import { PROBES_DOCS } from '../compile/facts/probes.js';
import type { FactType } from '../compile/readings.js';
import type { Names } from '../moveset/read.js';

/** What formulas can read, by family: how it is written, what it gives, and what it is outside its time. */
export interface FactDoc {
  readonly family: string;
  /** With `{kind}` where a name stands. */
  readonly write: string;
  readonly gives: 'condition' | 'number' | 'time';
  readonly doc: string;
  /** Its value while there is nothing to tell. */
  readonly otherwise?: string;
}

/** Every family of facts; a test holds this list against the facts that there are. */
export const FACT_DOCS: readonly FactDoc[] = [
  BODY_DOCS,
  INPUTS_DOCS,
  POINTS_DOCS,
  POOLS_DOCS,
  ABILITIES_DOCS,
  EVENTS_DOCS,
  PROBES_DOCS,
  BLOWS_DOCS,
].flatMap((rows) =>
  Object.entries(rows).flatMap(([family, facts]) =>
    facts.map(([write, gives, doc, otherwise]) => ({ family, write, gives, doc, otherwise })),
  ),
);

/** Functions of formulas. */
export const FUNCTION_DOCS: Readonly<Record<string, string>> = {
  'abs(n)': 'Without its sign.',
  'floor(n)': 'Rounded down.',
  'ceil(n)': 'Rounded up.',
  'round(n)': 'Rounded to the nearest whole number.',
  'sign(n)': '1, 0 or -1.',
  'sqrt(n)': 'The square root; 0 of a negative number.',
  'min(a, b)': 'The smaller one.',
  'max(a, b)': 'The larger one.',
  'clamp(n, low, high)': 'Brought within the limits.',
  'pick(condition, yes, no)': 'One of two numbers, by a condition.',
};

/** Every fact of a moveset, by the key it has in formulas, with its documentation. */
export function documentFacts(
  names: Names,
  facts: readonly string[],
  typeOf: (fact: string) => FactType | undefined = () => undefined,
): { key: string; doc: FactDoc | undefined }[] {
  const known = new Map(Object.entries(names).map(([kind, list]) => [kind, new Set(list)]));
  known.set('target', new Set(['foe', ...names.target]));
  const patterns = FACT_DOCS.map((doc) => ({ doc, ...patternOf(doc.write) }));
  const fits = (key: string, { pattern, kinds }: ReturnType<typeof patternOf>) => {
    const parts = pattern.exec(key)?.slice(1);
    return parts?.every((name, i) => known.get(kinds[i])?.has(name) ?? true) ?? false;
  };
  return facts.map((key) => {
    const type = typeOf(key);
    const gives = type === 'truth' ? 'condition' : type;
    const suits = patterns.filter((pattern) => fits(key, pattern)).map(({ doc }) => doc);
    return { key, doc: suits.find((doc) => doc.gives === gives) ?? suits[0] };
  });
}

/** What formulas of a moveset can read of others by names of theirs, with `{pool}` and the like where those stand. */
export function factsOfOthers({ target }: Names): { key: string; doc: FactDoc }[] {
  return FACT_DOCS.filter(({ write }) => /^\{target\}.*\{/.test(write)).flatMap((doc) =>
    ['foe', ...target].map((who) => ({ key: doc.write.replace('{target}', who), doc })),
  );
}

/** What keys of a family look like, and the kinds of the names in them. */
function patternOf(write: string): { pattern: RegExp; kinds: string[] } {
  const kinds = [...write.matchAll(/\{(\w+)\}/g)].map(([, kind]) => kind);
  const text = write
    .replace(/[.()]/g, '\\$&')
    .replaceAll('{button}', '([\\w.]+)')
    .replaceAll('{point}', '([\\w.]+)')
    .replace(/\{\w+\}/g, '(\\w+)');
  return { pattern: new RegExp(`^${text}$`), kinds };
}
