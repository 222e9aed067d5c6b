import { hashText } from '../record/layout.js';
import type { Plan } from './plan.js';

type Meaning = Pick<
  Plan,
  | 'layout'
  | 'rate'
  | 'view'
  | 'names'
  | 'stances'
  | 'loadouts'
  | 'abilities'
  | 'phases'
  | 'triggers'
  | 'clips'
  | 'layers'
  | 'choiceOf'
  | 'messages'
>;

/**
 * A number of all that the meaning of a record rests on: what its places are called, and what the indexes in it stand for. It is equal
 * for movesets that differ only in what their numbers and formulas are tuned to.
 */
export function fingerprintOf(plan: Meaning): number {
  // 0 is what stands in an array that holds no record yet.
  return hashText(linesOf(plan).join('\n')) || 1;
}

/** The fingerprint that a moveset with the names of before would have: equal to that of a record of then, where only names are others. */
export function formerFingerprint(plan: Meaning & Pick<Plan, 'renamed'>): number {
  const before = new Map(Object.entries(plan.renamed).map(([old, now]) => [now, old]));
  const lines = linesOf(plan).map((line) => line.replace(/[A-Za-z_]\w*/g, (word) => before.get(word) ?? word));
  return hashText(lines.join('\n')) || 1;
}

function linesOf(plan: Meaning): string[] {
  const { layout, rate, view, names, stances, loadouts, abilities, phases, triggers, clips, layers } = plan;
  return [
    ...layout.ranges.map(({ label, count }) => `${label}:${count}`),
    `${rate} ${view}`,
    ...Object.entries(names).map(([kind, list]) => `${kind} ${list}`),
    `clips ${clips} on ${layers}`,
    ...plan.choiceOf.map(({ at, option }) => `option ${at} ${option}`),
    ...plan.messages.flatMap(({ name, values }) =>
      values.map((value) => `${name}.${value.name} ${value.type} ${value.words} ${value.at}`),
    ),
    ...[...stances, ...loadouts, ...abilities, ...phases].map(
      ({ name, scope }) => `${name} ${scope.ownAt} ${scope.owns} ${scope.strikes.map(({ own }) => own)}`,
    ),
    ...abilities.map(({ name, lane, heard }) => `${name} in ${lane} hears ${heard.map(({ event }) => event)}`),
    ...phases.map(({ name, ability, next }) => `${ability}.${name} ${next}`),
    ...triggers.map(
      ({ ability, at, on, event, button, after }) => `${ability} ${at} ${on} ${event} ${button} ${after}`,
    ),
  ];
}
