import type { Checked } from '../compile/checked.js';
import type { AbilityPlan, Plan, TriggerPlan } from '../compile/plan.js';
import type { ParsedMoveset } from '../moveset/schema.js';
import { conditionsOf, covers, overlap, warn } from './tools.js';

/** The presses that listen to the very same thing, by what they want, in the order in which they are judged. */
function sharedPresses(plan: Plan): TriggerPlan[][] {
  const groups = new Map<string, TriggerPlan[]>();
  for (const trigger of plan.triggers) {
    if (trigger.on === null || trigger.button < 0) continue;
    const group = groups.get(trigger.sign);
    if (group) group.push(trigger);
    else groups.set(trigger.sign, [trigger]);
  }
  return [...groups.values()].filter((group) => group.length > 1);
}

/** Of two abilities that want the same press, the second never answers where the first may always start instead. */
export function advisePresses({ plan, parsed, sink }: Checked): void {
  const openers = [...plan.abilities, ...plan.phases].flatMap(({ scope }) => scope.open ?? []);
  for (const group of sharedPresses(plan)) {
    // Only what is bare can stand in the way of all others.
    const bare: AbilityPlan[] = [];
    for (const { ability } of group) {
      const second = plan.abilities[ability];
      const first = bare.find((a) => a !== second && takesAll(openers, parsed, a, second));
      if (first) warn(sink, 'same-press', ['abilities', second.name], { first: first.name, second: second.name });
      else if (isBare(plan, second)) bare.push(second);
    }
  }
}

/** Whether nothing but its stances and conditions keeps an ability from starting in a free lane. */
function isBare(plan: Plan, a: AbilityPlan): boolean {
  const free = a.costs.length === 0 && a.upkeeps.length === 0 && a.cooldownAt < 0 && a.charges === null;
  return free && !a.follows && !a.locked && a.warp === null && a.summon < 0 && plan.barred[a.index] === 0;
}

/** Whether the first may start wherever and whenever the second may. */
function takesAll(
  openers: readonly Uint8Array[],
  parsed: ParsedMoveset,
  first: AbilityPlan,
  second: AbilityPlan,
): boolean {
  if (first.lane !== second.lane || second.follows) return false;
  if (!covers(first.loadouts, second.loadouts)) return false;
  if (second.grace <= first.grace || (!second.from && second.when.length === 0)) {
    const conditions = new Set(conditionsOf(parsed, second));
    if (!covers(first.from, second.from) || conditionsOf(parsed, first).some((c) => !conditions.has(c))) return false;
  } else if (first.from || first.when.length > 0) return false;
  // While something runs, the first must be let in wherever the second is.
  const opens = openers.some((open) => open[second.index] === 1 && open[first.index] === 0);
  const breaks = second.breaks?.some((broken, i) => broken === 1 && first.breaks?.[i] !== 1);
  return !opens && !breaks;
}

/** A jump in the air that is declared before a jump with grace takes the press that the grace is for. */
export function adviseGrace({ plan, parsed, sink }: Checked): void {
  for (const group of sharedPresses(plan)) {
    const airborne: AbilityPlan[] = [];
    for (const { ability } of group) {
      const second = plan.abilities[ability];
      if (second.grace > 0 && second.from) {
        const first = airborne.find((a) => a !== second && takesGrace(parsed, a, second));
        const path = ['abilities', second.name, 'grace'];
        if (first) warn(sink, 'grace-lost', path, { first: first.name, second: second.name });
      } else airborne.push(second);
    }
  }
}

function takesGrace(parsed: ParsedMoveset, first: AbilityPlan, second: AbilityPlan): boolean {
  if (first.lane !== second.lane || first.follows || !overlap(first.loadouts, second.loadouts)) return false;
  const elsewhere = !first.from || first.from.some((allowed, i) => allowed === 1 && second.from?.[i] !== 1);
  const known = new Set([...conditionsOf(parsed, second), 'airborne', 'not grounded']);
  return elsewhere && conditionsOf(parsed, first).every((condition) => known.has(condition));
}
