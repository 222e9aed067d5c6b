import type { Checked } from '../compile/checked.js';
import { conditionOf } from '../compile/named-conditions.js';
import type { ParsedFormula } from '../moveset/formula.js';
import type { ParsedAbility } from '../moveset/schema.js';
import type { Path } from '../report/diagnostic.js';
import { contradiction, follows, type Term, Terms } from './terms.js';
import { warn } from './tools.js';

/** Conditions of abilities and phases that end something, or let it begin. */
type Conditions = { readonly [K in (typeof CONDITIONS)[number]]?: ParsedFormula | (ParsedFormula | undefined)[] };
const CONDITIONS = ['end', 'until', 'interrupt', 'when'] as const;

/** Conditions that can never hold, stances that never come to be, and abilities whose stances and conditions exclude one another. */
export function adviseImpossible({ plan, parsed, sink }: Checked): void {
  const named = Object.fromEntries(plan.names.condition.map((name) => [name, conditionOf(parsed, name)]));
  const terms = new Terms(named, plan.rate);
  const tell = (formulas: readonly (ParsedFormula | undefined)[], path: Path): boolean => {
    let told = false;
    formulas.forEach((formula, i) => {
      const pair = never(terms.of(formula));
      if (!pair) return;
      told = true;
      warn(
        sink,
        'never-holds',
        formulas.length > 1 ? [...path, i] : path,
        { first: pair[0], second: pair[1] },
        'value',
      );
    });
    return told;
  };
  const tellAll = (scope: Conditions, path: Path) => {
    for (const key of CONDITIONS) if (scope[key]) tell([scope[key]].flat(), [...path, key]);
  };
  const ways = new Map<string, readonly Term[] | undefined>();
  /** Of the stances before: that they do not hold, where that can be said in one way. */
  let before: readonly Term[] = [[]];
  const above: { readonly stance: string; readonly terms: readonly Term[] | undefined }[] = [];
  for (const stance of plan.names.stance) {
    const when = parsed.stances?.[stance]?.when;
    const own = when ? terms.of(when) : ([[]] as readonly Term[]);
    const shadow = own && above.find((other) => other.terms && isShadowed(own, other.terms));
    if (when && !tell([when], ['stances', stance, 'when']) && shadow)
      warn(sink, 'stance-shadowed', ['stances', stance], { stance, by: shadow.stance });
    ways.set(
      stance,
      own?.flatMap((term) => before.map((others) => [...others, ...term])),
    );
    const not = when ? terms.not(when) : [];
    if (not?.length === 1) before = before.map((term) => [...term, ...(not[0] ?? [])]);
    if (own) above.push({ stance, terms: own });
  }
  for (const ability of plan.abilities) {
    const own: ParsedAbility = parsed.abilities?.[ability.name] ?? {};
    const path = ['abilities', ability.name];
    tellAll({ ...own, when: undefined }, path);
    (own.phases ?? []).forEach((phase, k) => {
      if (phase) tellAll(phase, [...path, 'phases', k]);
    });
    const { from } = ability;
    const needs = terms.all(own.when ?? []);
    const pair = never(needs);
    const no = (why: string) => warn(sink, 'no-start', path, { ability: ability.name, why });
    if (pair) no(`its "when" needs both ${pair[0]} and ${pair[1]}; remove one of them`);
    if (!from || !needs || needs.length === 0 || pair) continue;
    const pairs = plan.names.stance.flatMap((stance, k) => {
      if (from[k] === 0) return [];
      const way = ways.get(stance);
      return [way && never(way.flatMap((term) => needs.map((need) => [...term, ...need])))];
    });
    const [first] = pairs;
    if (first && pairs.every((pair) => pair))
      no(`"from" and "when" exclude one another: together they need ${first[0]} and ${first[1]}; change one of them`);
  }
}

/** Why none of some ways can be, if none can. */
function never(ways: readonly Term[] | undefined): readonly [string, string] | undefined {
  if (!ways || ways.length === 0) return undefined;
  const pairs = ways.map(contradiction);
  return pairs.every((pair) => pair) ? pairs[0] : undefined;
}

/** Whether one of the other ways holds in each of these. */
function isShadowed(own: readonly Term[], others: readonly Term[]): boolean {
  return own.length > 0 && own.every((term) => others.some((other) => follows(other, term)));
}
