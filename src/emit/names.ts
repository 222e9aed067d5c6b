import type { Plan } from '../compile/plan.js';
import type { NameTypes } from '../moveset/name-types.js';
import { writeData } from '../record/code.js';

/** The names that a moveset declares as a TypeScript interface: `PellNames`. */
export function writeNames(plan: Plan): { readonly name: string; readonly text: string } {
  const name = `${typeName(plan.name)}Names`;
  const lines = (Object.keys(KINDS) as (keyof NameTypes)[]).map(
    (kind) => `  ${/ /.test(kind) ? `'${kind}'` : kind}: ${union(namesOf(plan, kind))};`,
  );
  return { name, text: [`export interface ${name} {`, ...lines, '}'].join('\n') };
}

function namesOf(plan: Plan, kind: keyof NameTypes): readonly string[] {
  if (kind === 'phase')
    return [...new Set(plan.phases.map((phase) => phase.name).filter((name) => !/^\d+$/.test(name)))];
  if (kind === 'untyped' || kind === 'ownMark') return [];
  if (kind === 'value')
    return plan.messages.flatMap(({ name, values }) =>
      values.flatMap(({ name: value, type }) => (type === 'point' || type === 'direction' ? [] : `${name}.${value}`)),
    );
  if (kind === 'option') return plan.names.button.filter((_, i) => plan.choiceOf[i].at >= 0);
  if (kind === 'input') return plan.names.button;
  const all = plan.names[kind] ?? [];
  return kind === 'button' ? all.filter((button) => !button.includes('.')) : all;
}

/** Every kind of name, in the order in which they are printed. */
const KINDS: Record<keyof NameTypes, true> = {
  pool: true,
  button: true,
  stick: true,
  aim: true,
  choice: true,
  option: true,
  place: true,
  mark: true,
  ownMark: true,
  surface: true,
  probe: true,
  lane: true,
  stance: true,
  ability: true,
  event: true,
  shape: true,
  tag: true,
  loadout: true,
  phase: true,
  condition: true,
  kind: true,
  summon: true,
  value: true,
  target: true,
  'point value': true,
  'direction value': true,
  input: true,
  untyped: true,
};

function union(names: readonly string[]): string {
  return names.length === 0 ? 'never' : names.map((name) => writeData(name)).join(' | ');
}

function typeName(name: string): string {
  const word = name.replace(/[^A-Za-z0-9]+(\w)?/g, (_, next = '') => next.toUpperCase()).replace(/^\d+/, '');
  return word.charAt(0).toUpperCase() + word.slice(1) || 'Moveset';
}
