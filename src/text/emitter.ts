import type { Action, Plan } from '../compile/plan.js';
import type { Test } from '../record/frame.js';
import { L_ABILITY, L_PHASE, LANE, LOADOUT, STANCE } from '../record/slots.js';
import { NAMED, textOf } from '../record/written.js';
import type { Path } from '../report/diagnostic.js';
import { commentText } from '../report/words.js';
import { constantName, SlotNames } from './slot-names.js';

/** How many values a list has at most that is written out; longer ones are looked up in a table. */
const WRITTEN_OUT = 6;

/** What indexes of the plan stand for. */
export type Indexed = 'stance' | 'loadout' | 'ability' | 'phase' | 'trigger';

/** Functions of the library that are called as those of a module could be. */
const TAKEN = [
  'endAstray',
  'endUnavailable',
  'judgeAbility',
  'judgeRequests',
  'startCooldown',
  'updateDrains',
  'updatePower',
  'updateVarying',
];

/** Between a line of code and the path of what it was made of, until all is put together. */
const ORIGIN = '\u0000';

/** Before a number that is a place of the record, where it does not stand in brackets. */
const PLACE = '\u0001';
const PLACES = new RegExp(`\\br\\[(\\d+)\\]|${PLACE}(\\d+)`, 'g');

const CALL_OF_NAMED = new RegExp(`\\b${NAMED}(\\w+)\\(`, 'g');

/** Where a plan stands that is not written out. */
export const PLAN_HERE = '// The plan.';

interface Sayers {
  readonly abilities: readonly number[];
  readonly phases: readonly number[];
}

/** Code, and for each of its lines the path of what it was made of. */
export interface Lines {
  readonly code: readonly string[];
  readonly origins: readonly (Path | undefined)[];
}

/** What the parts of a module share while it is written: what it takes from the library, what it keeps beside its functions. */
export class Emitter {
  /** Names that it takes from the library. */
  readonly uses = new Set<string>();
  /** Constants before the functions: what is called where it stands in the plan, and tables. */
  private readonly kept: string[] = [];
  private readonly names = new Map<string, string>();
  private readonly constants = new Map<string, { readonly name: string; readonly value: number }>();
  private readonly functionNames = new Set(TAKEN);
  private readonly poolFunctions = new Map<string, string>();
  private readonly sayers = new Map<'open' | 'bars', readonly Sayers[]>();
  private readonly slots: SlotNames;
  /** Functions that begin and end abilities, and phases. */
  readonly abilityNames: readonly { readonly start: string; readonly end: string }[];
  readonly phaseNames: readonly { readonly begin: string; readonly close: string; readonly leave: string }[];

  constructor(readonly plan: Plan) {
    this.slots = new SlotNames(plan);
    const { abilities, phases } = plan;
    this.abilityNames = abilities.map(({ name }) => ({
      start: this.functionName('start', name),
      end: this.functionName('end', name),
    }));
    this.phaseNames = phases.map(({ ability, name }) => {
      const of = `${abilities[ability].name}${name[0].toUpperCase()}${name.slice(1)}`;
      return {
        begin: this.functionName('begin', of),
        close: this.functionName('close', of),
        leave: this.functionName('leave', of),
      };
    });
  }

  /** Abilities and phases that let an ability follow, or bar it: by their own indexes. */
  sayersOf(word: 'open' | 'bars', ability: number): Sayers {
    let known = this.sayers.get(word);
    if (!known) {
      const { abilities, phases } = this.plan;
      const found = abilities.map((): { abilities: number[]; phases: number[] } => ({ abilities: [], phases: [] }));
      for (const kind of ['abilities', 'phases'] as const)
        (kind === 'abilities' ? abilities : phases).forEach(({ scope }, i) => {
          scope[word]?.forEach((is, other) => {
            if (is === 1) found[other][kind].push(i);
          });
        });
      known = found;
      this.sayers.set(word, known);
    }
    return known[ability];
  }

  /** The name of something of the library. */
  use(name: string): string {
    this.uses.add(name);
    return name;
  }

  /** Notes what a line was made of. */
  from(line: string, ...path: Path): string {
    return line.includes(ORIGIN) ? line : `${line}${ORIGIN}${JSON.stringify(path)}`;
  }

  /** A name of a function of the module that nothing else has: `judge` and `galeDash` make `judgeGaleDash`. */
  functionName(verb: string, of: string): string {
    const wanted = verb + of[0].toUpperCase() + of.slice(1);
    let name = wanted;
    for (let n = 2; this.functionNames.has(name); n++) name = `${wanted}${n}`;
    this.functionNames.add(name);
    return name;
  }

  /** The name of a function about a pool. */
  poolFunction(verb: 'update' | 'watch', pool: number): string {
    const key = `${verb} ${pool}`;
    let name = this.poolFunctions.get(key);
    if (name === undefined) {
      name = this.functionName(verb, this.plan.pools[pool].name);
      this.poolFunctions.set(key, name);
    }
    return name;
  }

  /** A call that finds out what a pool has now. */
  updatePool(pool: number): string {
    return `${this.poolFunction('update', pool)}(r)`;
  }

  /** Something of the plan by its path, kept as a constant. */
  keep(value: string, word: string): string {
    const known = this.names.get(value);
    if (known !== undefined) return known;
    const name = `${word}${this.kept.length}`;
    this.names.set(value, name);
    this.kept.push(`const ${name} = ${value};`);
    return name;
  }

  /** The name of a number that is written as a constant. */
  constant(wanted: string, value: number): string {
    const key = `${wanted} ${value}`;
    const known = this.constants.get(key);
    if (known !== undefined) return known.name;
    const name = this.slots.claim(wanted);
    this.constants.set(key, { name, value });
    return name;
  }

  /** The name of an index. */
  index(kind: Indexed, index: number): string {
    const { stances, loadouts, abilities, phases } = this.plan;
    const words = {
      stance: () => stances[index].name,
      loadout: () => loadouts[index].name,
      ability: () => abilities[index].name,
      phase: () => `${abilities[phases[index].ability].name}_${phases[index].name}`,
      trigger: () => String(index),
    };
    return this.constant(`${kind.toUpperCase()}_${constantName(words[kind]())}`, index);
  }

  /** That an ability is known, and in the loadout. */
  here(ability: number): string {
    return `here[${this.index('ability', ability)}] === 1`;
  }

  /** A place of the record by itself. */
  place(at: number): string {
    return PLACE + at;
  }

  /** The name of the first place of a lane. */
  lane(at: number): string {
    const { names, lanesAt } = this.plan;
    return this.constant(`LANE_${constantName(names.lane[(at - lanesAt) / LANE])}`, at);
  }

  /** A condition as an expression: its text, or a call of what stands at that path of the plan. */
  test(test: Test, path: string): string {
    const text = textOf(test);
    return text === undefined ? `${this.keep(path, 'test')}(c)` : bare(this.known(text));
  }

  /** The same, to be joined with others. */
  part(test: Test, path: string): string {
    const text = this.test(test, path);
    return /&&|\|\||,/.test(text) ? `(${text})` : text;
  }

  /** That a condition does not hold. */
  not(text: string): string {
    const whole = bare(text);
    const known = /^([\w.[\]]+) (===|!==) ([\w.[\]-]+)$/.exec(whole);
    if (known) return `${known[1]} ${known[2] === '===' ? '!==' : '==='} ${known[3]}`;
    return `!(${whole})`;
  }

  /** Whether any of several holds. */
  any(tests: readonly Test[], path: string): string {
    if (tests.length === 1) return this.test(tests[0], `${path}[0]`);
    return tests.map((test, i) => this.part(test, `${path}[${i}]`)).join(' || ') || 'false';
  }

  /** Actions as statements. */
  actions(actions: readonly Action[], path: string, origin: Path): string[] {
    return actions.flatMap(({ run, own, key }, i) => {
      const text = textOf(run, own);
      const lines =
        text === undefined ? [`${this.keep(`${path}[${i}].run`, 'act')}(c, ${own});`] : this.known(text).split('\n');
      return lines.map((line) => this.from(line, ...origin, key));
    });
  }

  /** Notes what a text takes from the library. */
  known(text: string): string {
    for (const name of ['isPhase', 'updatePower', 'unitOf', 'usable']) if (text.includes(`${name}(`)) this.use(name);
    if (text.includes('aimed[')) this.use('aimed');
    return text.replace(/updatePool\(r, pools\[(\d+)\]\)/g, (_, pool) => this.updatePool(Number(pool)));
  }

  /** Whether an expression is one of several indexes. */
  oneOf(expression: string, values: readonly number[], kind: Indexed): string {
    if (values.length === 0) return 'false';
    const is = (value: number) => `${expression} === ${this.index(kind, value)}`;
    if (values.length === 1) return is(values[0]);
    if (values.length <= WRITTEN_OUT) return `(${values.map(is).join(' || ')})`;
    const { stances, loadouts, abilities, phases, triggers } = this.plan;
    const { length } = { stance: stances, loadout: loadouts, ability: abilities, phase: phases, trigger: triggers }[
      kind
    ];
    return `${this.keep(this.table(length, values), 'TABLE_')}[${expression}] === 1`;
  }

  /** A table that is 1 at some of its places, else 0. */
  table(length: number, places: readonly number[]): string {
    return `${this.use('markAt')}(${[length, ...places].join(', ')})`;
  }

  /**
   * Puts it all together: names for places of the record, constants first, then the plan, if that is written out, or
   * {@link PLAN_HERE}.
   */
  finish(functions: readonly string[], plan = PLAN_HERE): Lines {
    const used = new Map<string, number>();
    const kinds = this.indexedSlots();
    const named = this.namedIn([...this.kept, ...functions, plan]);
    const rest = [...this.kept, ...functions, ...named].join('\n\n');
    const parts = ['abilities', 'loadouts', 'phases', 'pools', 'stances', 'triggers'].filter((name) =>
      rest.includes(`${name}[`),
    );
    const text = [plan, ...(parts.length > 0 ? [`const { ${parts.join(', ')} } = plan;`] : []), rest]
      .join('\n\n')
      .replace(/\br\[(\d+)\] (===|!==) (\d+)\b/g, (whole, at, operator, value) => {
        const kind = kinds.get(Number(at));
        return kind === undefined ? whole : `r[${at}] ${operator} ${this.index(kind, Number(value))}`;
      })
      .replace(PLACES, (_, inBrackets, alone) => {
        const at = Number(inBrackets ?? alone);
        const name = this.slots.of(at);
        used.set(name, at);
        return alone === undefined ? `r[${name}]` : name;
      });
    const constants = [...this.constants.values()].map(({ name, value }) => `const ${name} = ${value};`);
    const { shapes } = this.plan;
    const lines = [
      '// Places in the record of a character.',
      ...[...used].sort((a, b) => a[1] - b[1]).map(([name, value]) => `const ${name} = ${value};`),
      ...(/\bHEIGHTS\[/.test(text) ? [`const HEIGHTS = [${shapes.map(({ height }) => height).join(', ')}];`] : []),
      '',
      '// Reasons, and what the numbers in those places stand for.',
      ...constants.toSorted(),
      '',
      ...text.split('\n'),
    ].map((line) => line.split(ORIGIN));
    return {
      code: lines.map(([code]) => code),
      origins: lines.map(([, path]) => (path ? JSON.parse(path) : undefined)),
    };
  }

  /** Functions for the named conditions that some texts call, and those that these call. */
  private namedIn(texts: readonly string[]): string[] {
    const found = new Map<string, string>();
    const look = (text: string): void => {
      for (const [, name] of text.matchAll(CALL_OF_NAMED)) {
        const test = this.plan.longConditions.get(name);
        if (found.has(name) || test === undefined) continue;
        const holds = this.known(textOf(test) ?? 'false');
        const comment = `Whether the condition ${name} holds.`;
        const body = ['const { r } = c;', `return ${bare(holds)};`];
        found.set(name, functionOf(comment, `${NAMED}${name}`, 'c', body, ['conditions', name]));
        look(holds);
      }
    };
    for (const text of texts) look(text);
    return [...found.values()];
  }

  /** Places of the record that hold an index, and of what. */
  private indexedSlots(): Map<number, Indexed> {
    const { lanesAt, lanesEnd } = this.plan;
    const kinds = new Map<number, Indexed>([
      [STANCE, 'stance'],
      [LOADOUT, 'loadout'],
    ]);
    for (let lane = lanesAt; lane < lanesEnd; lane += LANE)
      kinds.set(lane + L_ABILITY, 'ability').set(lane + L_PHASE, 'phase');
    return kinds;
  }
}

/** The indexes of a table that are 1. */
export function indexesOf(mask: Uint8Array | null | undefined): number[] {
  const indexes: number[] = [];
  if (mask) for (let i = mask.indexOf(1); i >= 0; i = mask.indexOf(1, i + 1)) indexes.push(i);
  return indexes;
}

/** `function name(c) { ... }` with its comment, and the path of what it is about. */
export function functionOf(
  comment: string,
  name: string,
  parameters: string,
  body: readonly string[],
  origin?: Path,
): string {
  const head = `/** ${commentText(comment)} */${origin ? ORIGIN + JSON.stringify(origin) : ''}`;
  return [head, `function ${name}(${parameters}) {`, ...body.map((line) => `  ${line}`), '}'].join('\n');
}

/** An expression without parentheses around all of it. */
export function bare(text: string): string {
  if (!text.startsWith('(')) return text;
  let depth = 0;
  for (let i = 0; i < text.length; i++) {
    if (text[i] === '(') depth++;
    else if (text[i] === ')') depth--;
    if (depth === 0) return i === text.length - 1 ? bare(text.slice(1, -1)) : text;
  }
  return text;
}
