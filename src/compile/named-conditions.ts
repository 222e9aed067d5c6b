import { type Node, type ParsedFormula, partsOf } from '../moveset/formula.js';
import type { Names } from '../moveset/read.js';
import type { ParsedMoveset } from '../moveset/schema.js';
import { call, conditionFunction } from '../record/code.js';
import type { Test } from '../record/frame.js';
import { codeOf, written } from '../record/written.js';
import type { Sink } from '../report/diagnostic.js';
import { NEVER_HOLDS } from './conditions.js';
import { DEEPEST_CHAIN, measureChains } from './depth.js';
import { type FormulaCompiler, MOST_PARTS } from './formula.js';

/** A named condition of more pieces is a function of a module. */
const MANY_PIECES = 40;

/** What a named condition says; it may stand beside words for a player. */
export function conditionOf({ conditions }: ParsedMoveset, name: string): ParsedFormula | undefined {
  const said = conditions?.[name];
  return said && !('source' in said) ? said.when : said;
}

/** The conditions that a moveset names: each is compiled when a formula reads it. */
export class NamedConditions {
  /** Those whose text is long, by their names. */
  readonly long = new Map<string, Test>();
  /** Those that are compiled, and those that are being compiled now. */
  private readonly compiled = new Map<string, Test>();
  private readonly compiling: string[] = [];
  /** Those that are too large. */
  private readonly tooLarge: ReadonlySet<string>;

  constructor(
    private readonly parsed: ParsedMoveset,
    names: Names,
    private readonly formulas: FormulaCompiler,
    private readonly sink: Sink,
  ) {
    this.tooLarge = this.measure(names);
  }

  /** Named conditions are of a limited size, with all that they name; those that are not, or read themselves, never hold. */
  private measure(names: Names): ReadonlySet<string> {
    const { parsed, formulas, sink } = this;
    const nodes = new Map<string, Node>();
    for (const name of names.condition) {
      const node = conditionOf(parsed, name)?.node;
      if (node) nodes.set(name, node);
    }
    const parts = new Map([...nodes].map(([name, node]) => [name, partsOf(node)]));
    const others = new Map(
      [...parts].map(([name, { names: read }]) => [name, read.filter((other) => nodes.has(other))] as const),
    );
    const sizes = measureChains([...nodes.keys()], others, (name) => parts.get(name)?.count ?? 0);
    for (const [name, { depth, sum }] of sizes) {
      if (depth <= DEEPEST_CHAIN && sum <= MOST_PARTS) continue;
      nodes.delete(name);
      if (depth === Number.POSITIVE_INFINITY) continue;
      const path = ['conditions', name];
      if (depth > DEEPEST_CHAIN)
        sink.add('chain-depth', path, { limit: DEEPEST_CHAIN, of: 'conditions' }, { on: 'key' });
      else sink.add('formula-depth', path, { limit: MOST_PARTS, of: 'parts, with the conditions that it names' });
    }
    formulas.conditionsByName = nodes;
    formulas.sizes = new Map([...sizes].map(([name, { sum }]) => [name, nodes.has(name) ? sum : 0]));
    return new Set(
      [...sizes].flatMap(([name, { depth }]) => (nodes.has(name) || depth === Number.POSITIVE_INFINITY ? [] : name)),
    );
  }

  /** What a condition says. */
  named(condition: string): Test {
    const known = this.compiled.get(condition);
    if (known) return known;
    if (this.tooLarge.has(condition)) return NEVER_HOLDS;
    if (this.compiling.includes(condition)) {
      const way = [...this.compiling.slice(this.compiling.indexOf(condition)), condition];
      this.sink.add('condition-cycle', ['conditions', condition], { way }, { on: 'key' });
      return () => false;
    }
    this.compiling.push(condition);
    const test = this.formulas.within(undefined, () => this.formulas.truth(conditionOf(this.parsed, condition)));
    this.compiling.pop();
    this.compiled.set(condition, test);
    const code = codeOf(test);
    // In a module, what is long stands once.
    if (code && code.parts.length > MANY_PIECES) {
      this.long.set(condition, test);
      const called: Test = (c) => test(c);
      this.compiled.set(
        condition,
        written(called, () => call(conditionFunction(condition), 'c')),
      );
    }
    return this.compiled.get(condition) as Test;
  }
}
