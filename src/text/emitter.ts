import type { Action, Plan } from '../compile/plan.js';
import {
  any as anyOf,
  Block,
  type Code,
  closure,
  constant,
  equal,
  type Indexed,
  indexOf,
  js,
  type Lines,
  table,
  tight,
} from '../record/code.js';
import type { Test } from '../record/frame.js';
import { LANE } from '../record/slots.js';
import { codeOf, linesOf } from '../record/written.js';
import type { Path } from '../report/diagnostic.js';
import { commentText } from '../report/words.js';
import { constantName } from './slot-names.js';
import { TakenNames } from './taken-names.js';

/** How many values a list has at most that is written out; longer ones are looked up in a table. */
const WRITTEN_OUT = 6;

/** Functions of the library that are called as one about a pool could be. */
const TAKEN = ['updateDrains', 'updatePower', 'updateVarying', 'watchPools'];

interface Sayers {
  readonly abilities: readonly number[];
  readonly phases: readonly number[];
}

/** What the parts of a module share while it is written: the plan, what its functions are called, and pieces that many need. */
export class Emitter {
  private readonly functionNames = new TakenNames(TAKEN);
  private readonly poolNames = new Map<string, string>();
  private readonly sayers = new Map<'open' | 'bars', readonly Sayers[]>();

  constructor(readonly plan: Plan) {}

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

  /** A name of a function of the module that nothing else has: `update` and `wind` make `updateWind`. */
  private functionName(verb: string, of: string): string {
    return this.functionNames.claim(verb + of[0].toUpperCase() + of.slice(1));
  }

  /** The name of a function about a pool. */
  poolName(verb: 'update' | 'watch', pool: number): string {
    const key = `${verb} ${pool}`;
    let name = this.poolNames.get(key);
    if (name === undefined) {
      name = this.functionName(verb, this.plan.pools[pool].name);
      this.poolNames.set(key, name);
    }
    return name;
  }

  /** That an ability is known, and in the loadout. */
  here(ability: number): Code {
    return equal(js`c.roster.here[${indexOf('ability', ability)}]`, 1);
  }

  /** The name of the first place of a lane. */
  lane(slot: number): Code {
    const { names, lanesAt } = this.plan;
    return constant(`LANE_${constantName(names.lane[(slot - lanesAt) / LANE])}`, slot);
  }

  /** A condition: its code, or a call of what stands at that path of the plan. */
  test(test: Test, path: string): Code {
    return codeOf(test) ?? tight(js`${closure(path, 'test')}(c)`);
  }

  /** Whether any of several holds. */
  any(tests: readonly Test[], path: string): Code {
    return anyOf(...tests.map((test, i) => this.test(test, `${path}[${i}]`)));
  }

  /** Actions as lines. */
  actions(actions: readonly Action[], path: string, origin: Path): Lines {
    return actions.flatMap(({ run, own, key }, i) =>
      placed(linesOf(run, own) ?? [js`${closure(`${path}[${i}].run`, 'act')}(c, ${own});`], ...origin, key),
    );
  }

  /** Whether an expression is one of several indexes. */
  oneOf(expression: Code, values: readonly number[], kind: Indexed): Code {
    if (values.length <= WRITTEN_OUT) return anyOf(...values.map((value) => equal(expression, indexOf(kind, value))));
    const { stances, loadouts, abilities, phases, triggers } = this.plan;
    const { length } = { stance: stances, loadout: loadouts, ability: abilities, phase: phases, trigger: triggers }[
      kind
    ];
    return equal(js`${table(length, values)}[${expression}]`, 1);
  }
}

/** Lines that note what they were made of, where that is not known. */
export function placed(lines: Lines, ...origin: Path): Lines {
  return lines.map((line) =>
    line instanceof Block
      ? new Block(
          line.parts.map((part) => (Array.isArray(part) ? placed(part, ...origin) : (part as Code).from(...origin))),
        )
      : line.from(...origin),
  );
}

/** The indexes of a table that are 1. */
export function indexesOf(mask: Uint8Array | null | undefined): number[] {
  const indexes: number[] = [];
  if (mask) for (let i = mask.indexOf(1); i >= 0; i = mask.indexOf(1, i + 1)) indexes.push(i);
  return indexes;
}

/** `function name(c) { ... }` with its comment, and the path of what it is about. */
export function functionOf(comment: string, name: string, parameters: string, body: Lines, origin?: Path): Lines {
  const head = js`/** ${commentText(comment)} */`;
  return [origin ? head.from(...origin) : head, new Block([js`function ${name}(${parameters}) {`, body, js`}`])];
}
