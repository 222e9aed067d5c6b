import type { NameTypes } from '../moveset/name-types.js';
import type { CommandSpec } from './command.js';
import { refuse, safe } from './io.js';

export const types: CommandSpec = {
  name: 'types',
  summary: 'Print the names of a moveset as TypeScript types, so that code that uses the file is checked.',
  args: '<file>',
  argsDoc: 'a moveset file, YAML or JSON',
  options: [],
  example: 'loggia types demo/boatyard/pell.yaml > pell-names.d.ts',
  async run([file], _, io) {
    const { loadMoveset } = await import('../format/index.js');
    const { plan, diagnostics } = await loadMoveset(file);
    if (!plan) return refuse(io, diagnostics, `loggia types: ${safe(file)} has errors; nothing was printed.`);
    const name = `${typeName(plan.name)}Names`;
    io.out(
      `// Names of the moveset ${safe(plan.name)}. Made by "loggia types"; run it again when the moveset changes.`,
    );
    io.out(`// Use: new Character(plan as Plan<${name}>, ...)`);
    io.out(`export interface ${name} {`);
    for (const kind of Object.keys(KINDS) as (keyof NameTypes)[])
      io.out(`  ${/ /.test(kind) ? `'${kind}'` : kind}: ${union(namesOf(kind))};`);
    io.out('}');
    return 0;

    function namesOf(kind: keyof NameTypes): readonly string[] {
      if (kind === 'phase')
        return [...new Set(plan?.phases.map((phase) => phase.name).filter((name) => !/^\d+$/.test(name)))];
      if (kind === 'untyped' || kind === 'ownMark') return [];
      if (kind === 'value')
        return (plan?.messages ?? []).flatMap(({ name, values }) =>
          values.flatMap(({ name: value, type }) =>
            type === 'point' || type === 'direction' ? [] : `${name}.${value}`,
          ),
        );
      if (kind === 'option') return (plan?.names.button ?? []).filter((_, i) => (plan?.choiceOf[i].at ?? -1) >= 0);
      if (kind === 'input') return plan?.names.button ?? [];
      const all = plan?.names[kind] ?? [];
      return kind === 'button' ? all.filter((button) => !button.includes('.')) : all;
    }
  },
};

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
  'point value': true,
  'direction value': true,
  input: true,
  untyped: true,
};

function union(names: readonly string[]): string {
  return names.length === 0 ? 'never' : names.map((name) => JSON.stringify(name)).join(' | ');
}

function typeName(name: string): string {
  const word = name.replace(/[^A-Za-z0-9]+(\w)?/g, (_, next = '') => next.toUpperCase()).replace(/^\d+/, '');
  return word.charAt(0).toUpperCase() + word.slice(1) || 'Moveset';
}
