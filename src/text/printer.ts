import type { Plan } from '../compile/plan.js';
import {
  type Block,
  Code,
  type Indexed,
  js,
  type Lines,
  type PlanList,
  type Reference,
  writeNumber,
} from '../record/code.js';
import { L_ABILITY, L_PHASE, LANE, LOADOUT, STANCE } from '../record/slots.js';
import { codeOf } from '../record/written.js';
import type { Path } from '../report/diagnostic.js';
import { type Emitter, functionOf } from './emitter.js';
import { constantName, SlotNames } from './slot-names.js';

/** Text, and for each of its lines the path of what it was made of. */
export interface PrintedLines {
  readonly code: readonly string[];
  readonly origins: readonly (Path | undefined)[];
}

interface Line {
  readonly text: string;
  readonly origin: Path | undefined;
}

/** Gives code its names, and notes what it takes: only what is printed is named, kept or imported. */
export class Printer {
  /** Names that the module imports. */
  readonly uses = new Set<string>();
  private readonly slots: SlotNames;
  private readonly usedSlots = new Map<number, string>();
  /** Constants before the functions: what is called where it stands in the plan, and tables. */
  private readonly kept = new Map<string, { readonly name: string; readonly text: string }>();
  private readonly constants = new Map<string, { readonly name: string; readonly value: number }>();
  private readonly lists = new Set<PlanList>();
  /** Functions for named conditions. */
  private readonly conditions = new Map<string, readonly Line[]>();
  private readonly kinds: ReadonlyMap<number, Indexed>;
  private usesHeights = false;

  constructor(private readonly e: Emitter) {
    this.slots = new SlotNames(e.plan);
    this.kinds = indexedSlots(e.plan);
  }

  /** An expression as text. */
  text({ parts }: Code): string {
    return parts.map((part) => (typeof part === 'string' ? part : this.nameOf(part))).join('');
  }

  /** Lines as text. */
  lines(lines: Lines, indent = ''): Line[] {
    return lines.flatMap((line) => {
      if (line instanceof Code) return { text: indent + this.text(line), origin: line.traits.origin };
      return (line as Block).parts.flatMap((part) =>
        part instanceof Code
          ? { text: indent + this.text(part), origin: part.traits.origin }
          : this.lines(part, `${indent}  `),
      );
    });
  }

  /**
   * Puts it all together: names for places of the record, constants, then the plan, which is given as text, and the
   * functions.
   */
  module(functions: readonly Lines[], plan: string): PrintedLines {
    const body = functions.filter((one) => one.length > 0).map((one) => this.lines(one));
    const { shapes } = this.e.plan;
    const kept = [...this.kept.values()];
    const lists = [...this.lists].sort();
    const plain = (text: string): Line => ({ text, origin: undefined });
    const all: Line[] = [
      plain('// Places in the record of a character.'),
      ...constants([...this.usedSlots].sort(([a], [b]) => a - b).map(([slot, name]) => `${name} = ${slot}`)).map(plain),
      ...(this.usesHeights ? [plain(`const HEIGHTS = [${shapes.map(({ height }) => height).join(', ')}];`)] : []),
      plain(''),
      plain('// Reasons, and what the numbers in those places stand for.'),
      ...constants([...this.constants.values()].map(({ name, value }) => `${name} = ${value}`).sort()).map(plain),
      plain(''),
      ...plan.split('\n').map(plain),
      plain(''),
      ...(lists.length > 0 ? [plain(`const { ${lists.join(', ')} } = plan;`), plain('')] : []),
      ...(kept.length > 0 ? [...kept.map(({ name, text }) => plain(`const ${name} = ${text};`)), plain('')] : []),
      ...[...body, ...this.conditions.values()].flatMap((lines) => [...lines, plain('')]),
    ].slice(0, -1);
    return { code: all.map(({ text }) => text), origins: all.map(({ origin }) => origin) };
  }

  private nameOf(reference: Reference): string {
    switch (reference.kind) {
      case 'slot':
        return `r[${this.slot(reference.at)}]`;
      case 'library':
        this.uses.add(reference.name);
        return reference.name;
      case 'list':
        this.lists.add(reference.name);
        return reference.name;
      case 'value': {
        const kind = this.kinds.get(reference.of);
        return kind ? this.index(kind, reference.value) : writeNumber(reference.value);
      }
      case 'index':
        return this.index(reference.of, reference.index);
      case 'constant':
        return this.constant(reference.wanted, reference.value);
      case 'pool':
        return this.e.poolName(reference.verb, reference.index);
      case 'condition':
        return this.condition(reference.name);
      case 'closure': {
        const name = /^\w+/.exec(reference.path)?.[0];
        if (name !== undefined) this.lists.add(name as PlanList);
        return this.keep(reference.path, reference.word);
      }
      case 'table':
        this.uses.add('markAt');
        return this.keep(`markAt(${[reference.length, ...reference.places].join(', ')})`, 'TABLE_');
      case 'asked':
        return `c.${reference.name}`;
      case 'character':
        return 'c';
      case 'heights':
        this.usesHeights = true;
        return 'HEIGHTS';
    }
  }

  private slot(at: number): string {
    let name = this.usedSlots.get(at);
    if (name === undefined) {
      name = this.slots.of(at);
      this.usedSlots.set(at, name);
    }
    return name;
  }

  private keep(text: string, word: string): string {
    const known = this.kept.get(text);
    if (known) return known.name;
    const name = `${word}${this.kept.size}`;
    this.kept.set(text, { name, text });
    return name;
  }

  private constant(wanted: string, value: number): string {
    const key = `${wanted} ${value}`;
    const known = this.constants.get(key);
    if (known) return known.name;
    const name = this.slots.claim(wanted);
    this.constants.set(key, { name, value });
    return name;
  }

  private index(of: Indexed, index: number): string {
    const { stances, loadouts, abilities, phases } = this.e.plan;
    const words = {
      stance: () => stances[index]?.name,
      loadout: () => loadouts[index]?.name,
      ability: () => abilities[index]?.name,
      phase: () => phases[index] && `${abilities[phases[index].ability].name}_${phases[index].name}`,
      trigger: () => String(index),
    };
    const word = words[of]();
    return word === undefined ? writeNumber(index) : this.constant(`${of.toUpperCase()}_${constantName(word)}`, index);
  }

  /** A function for a named condition, which says whether it holds. */
  private condition(name: string): string {
    const called = `named_${name}`;
    if (this.conditions.has(name)) return called;
    this.conditions.set(name, []);
    const test = this.e.plan.longConditions.get(name);
    const holds = test && codeOf(test);
    const body = [js`const { r } = c;`, js`return ${holds ?? 'false'};`];
    const comment = `Whether the condition ${name} holds.`;
    this.conditions.set(name, this.lines(functionOf(comment, called, 'c', body, ['conditions', name])));
    return called;
  }
}

/** Constants on as few lines as they need. */
function constants(all: readonly string[]): string[] {
  const lines: string[] = [];
  for (const one of all) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + one.length < LINE) lines[lines.length - 1] = `${last}, ${one}`;
    else lines.push(`const ${one}`);
  }
  return lines.map((line) => `${line};`);
}

/** No line of constants is longer than this. */
const LINE = 118;

/** Places of the record that hold an index, and of what. */
function indexedSlots({ lanesAt, lanesEnd }: Plan): Map<number, Indexed> {
  const kinds = new Map<number, Indexed>([
    [STANCE, 'stance'],
    [LOADOUT, 'loadout'],
  ]);
  for (let lane = lanesAt; lane < lanesEnd; lane += LANE)
    kinds.set(lane + L_ABILITY, 'ability').set(lane + L_PHASE, 'phase');
  return kinds;
}
