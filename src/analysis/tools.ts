import type { AbilityPlan, PhasePlan, Plan, Predecessor, ScopePlan } from '../compile/plan.js';
import { splitAnd } from '../moveset/formula.js';
import type { ParsedMoveset } from '../moveset/schema.js';
import { sound } from '../moveset/shape.js';
import type { Code, FaultData, Path, Sink } from '../report/diagnostic.js';
import { shortNumber } from '../report/reasons.js';

export function warn<C extends Code>(
  sink: Sink,
  code: C,
  path: Path,
  params: FaultData<C>,
  on: 'key' | 'value' = 'key',
): void {
  sink.add(code, path, params, { severity: 'warning', on });
}

export function phasesOf(plan: Plan, { firstPhase }: AbilityPlan): PhasePlan[] {
  const phases: PhasePlan[] = [];
  for (let i = firstPhase; i >= 0; i = plan.phases[i].next) phases.push(plan.phases[i]);
  return phases;
}

/** The scopes of an ability: its own and those of its phases. */
export function scopesOf(plan: Plan, a: AbilityPlan): ScopePlan[] {
  return [a.scope, ...phasesOf(plan, a).map((phase) => phase.scope)];
}

/** A time in seconds, for people. */
export function secondsText(seconds: number): string {
  return `${shortNumber(seconds)} s`;
}

/** How long after the end of another ability this may follow: a time or the text of its formula; null where a function says it. */
export function withinText(
  { rate, names, parsed }: Plan,
  b: AbilityPlan,
  { ability, within, time }: Predecessor,
): string | null {
  if (time === null) return secondsText(within / rate);
  const follows = parsed?.abilities?.[b.name]?.follows ?? [];
  const formula = Array.isArray(follows) ? undefined : follows[names.ability[ability]];
  return typeof formula === 'object' && typeof formula.source === 'string' ? formula.source : null;
}

/** Whether two tables allow something in common; no table allows all. */
export function overlap(a: Uint8Array | null, b: Uint8Array | null): boolean {
  return !a || !b || a.some((allowed, i) => allowed === 1 && b[i] === 1);
}

/** Whether a table allows all that another one allows; no table allows all. */
export function covers(wide: Uint8Array | null, narrow: Uint8Array | null): boolean {
  if (!wide || !narrow) return !wide;
  return narrow.every((allowed, i) => allowed === 0 || wide[i] === 1);
}

/** The parts of an ability's conditions, to compare them by what was written. */
export function conditionsOf(parsed: ParsedMoveset, { name }: AbilityPlan): string[] {
  return sound(parsed.abilities?.[name]?.when).flatMap((formula) => {
    const source = String(formula.source);
    return formula.node ? splitAnd(formula.node).map(({ from, to }) => source.slice(from, to)) : [source];
  });
}
