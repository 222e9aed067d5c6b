import { type Node, type ParsedFormula, partsOf, splitAnd } from '../moveset/formula.js';
import type { Facts } from '../moveset/name-types.js';
import { MOST } from '../moveset/read.js';
import { toTicks } from '../moveset/time.js';
import { type Code, enclose, js, pick } from '../record/code.js';
import type { Frame, Operand, Run, Test } from '../record/frame.js';
import { codeOf, withAll, written } from '../record/written.js';
import type { Path, Sink } from '../report/diagnostic.js';
import { ALWAYS_HOLDS, both, either, NEVER_HOLDS, negate } from './conditions.js';
import type { Fact } from './facts/fact.js';
import { ARITHMETIC, COMPARE, clamped, EXPRESSIONS, FUNCTIONS, MANY, ONE } from './operators.js';
import { Places } from './places.js';
import type { Condition, FactFrame, FactType, Reading } from './readings.js';

type Typed = { type: 'truth'; test: Test } | { type: 'number' | 'time'; operand: Operand; value?: number };
type TypedNumber = Extract<Typed, { operand: Operand }>;

/** Types formulas and compiles them to closures over the record. */
export class FormulaCompiler extends Places {
  facts = new Map<string, () => Fact>();
  /** The ability whose formulas are compiled: `charge` and `level(x)` are its own. */
  own: string | undefined;
  /** Whether what is compiled runs with that ability, or is judged before it starts. */
  runs = true;
  /** Facts that have another meaning inside an ability: by `ability:fact`. */
  inside = new Map<string, () => Fact>();
  /** Facts whose names another moveset has. */
  further: (key: string) => Fact | undefined = () => undefined;
  /** What there is of these just now, to be named where one is misspelt. */
  others: readonly string[] = [];
  /** Named conditions, by their names. */
  conditionsByName: ReadonlyMap<string, Node> = new Map();
  /** By named condition: how many parts it has, with all that it names. */
  sizes: ReadonlyMap<string, number> = new Map();
  private parts = 0;
  /** Whether some formula is a function. */
  hasFunctions = false;
  private made = new Map<string, Fact>();

  constructor(
    private readonly rate: number,
    private sink: Sink,
    freeAt: number,
  ) {
    super(freeAt);
  }

  /** Compiles a fact that no formula may read. */
  readAlways(key: string): void {
    this.facts.get(key)?.();
  }

  reportingTo(sink: Sink): this {
    this.sink = sink;
    return this;
  }

  /** `charge` and `level(x)` mean the ability whose formulas are compiled. */
  within<R>(ability: string | undefined, compile: () => R, runs = true): R {
    const { own, runs: ran } = this;
    this.own = ability;
    this.runs = runs;
    const result = compile();
    this.own = own;
    this.runs = ran;
    return result;
  }

  /** An expression of others, if all of them have one. */
  private joined(operator: string, out: number, operands: readonly Operand[]): Code | undefined {
    const codes = operands.map((operand) => this.codeOf(operand));
    return withAll(codes, (a, b, c) => EXPRESSIONS[operator](out, a, b, c));
  }

  readFacts(): string[] {
    return [...this.made.keys()].map((key) => key.slice(key.indexOf(':') + 1));
  }

  /**
   * A number, brought within the range of its place: a formula may come to anything. It is not a number only where
   * a function gives none.
   */
  number(parsed: ParsedFormula | undefined): Operand {
    const zero = () => this.constant(0);
    if (!parsed) return zero();
    const { source, node, path, min = -MOST, max = MOST } = parsed;
    if (typeof source === 'number') return this.tuned(source, path, min, max) ?? this.constant(source);
    if (typeof source === 'function') {
      this.hasFunctions = true;
      const fn = source as unknown as (facts: Facts) => unknown;
      const given = this.scratch((c, at) => {
        const value = fn((c as FactFrame).facts);
        c.r[at] = typeof value === 'number' ? value : Number.NaN;
      });
      return this.clamped(given, min, max);
    }
    const typed = node && this.isSmall(node, path) ? this.expression(node, path) : undefined;
    if (!node || !typed) return zero();
    if (typed.type !== 'number') {
      this.mismatch(path, node, 'This', 'number', typed.type);
      return zero();
    }
    if (typed.value === undefined) return this.clamped(typed.operand, min, max);
    if (typed.value < min || typed.value > max) this.sink.add('out-of-range', path, { value: typed.value, min, max });
    return typed.operand;
  }

  /** A number, or a time in ticks, as the formula says; what a function gives is a number. */
  either(parsed: ParsedFormula): { readonly amount: Operand; readonly time: boolean } {
    const { node, path } = parsed;
    const typed = node && this.isSmall(node, path) ? this.expression(node, path) : undefined;
    if (typed?.type === 'time') return { amount: this.clamped(typed.operand, 0, MOST), time: true };
    if (typed?.type === 'number') return { amount: this.clamped(typed.operand, -MOST, MOST), time: false };
    if (node && typed) this.mismatch(path, node, 'This', 'number', typed.type);
    return { amount: node ? this.constant(0) : this.number(parsed), time: false };
  }

  /** A time, in ticks; not below 0. */
  time({ source, node, path }: ParsedFormula): Operand {
    const typed = node && this.isSmall(node, path) ? this.expression(node, path) : undefined;
    if (node && typed && typed.type !== 'time') this.mismatch(path, node, 'This', 'time', typed.type);
    if (typed?.type === 'time') return this.clamped(typed.operand, 0, MOST);
    // A plain number has no unit; a function gives seconds, as facts do.
    if (typeof source !== 'function') {
      if (typeof source === 'number') this.sink.add('bad-time', path, { value: source });
      return this.constant(0);
    }
    const { at: from, run } = this.number({ source, path, percent: false });
    return this.scratch((c, at) => {
      run?.(c);
      c.r[at] = Math.max(0, c.r[from] * this.rate);
    });
  }

  /** Whether a formula, with the conditions that it names, is small enough to be compiled; a fault if not. */
  private isSmall(node: Node, path: Path): boolean {
    const { count, names } = partsOf(node);
    const size = names.reduce((sum, name) => sum + (this.sizes.get(name) ?? 0), count);
    this.parts += size;
    if (size <= MOST_PARTS && this.parts <= MOST_PARTS_IN_ALL) return true;
    const all = size <= MOST_PARTS;
    this.sink.add('formula-depth', path, {
      limit: all ? MOST_PARTS_IN_ALL : MOST_PARTS,
      of: `parts${all ? ', together with all before it' : ', with the conditions that it names'}`,
    });
    return false;
  }

  private clamped(operand: Operand, min: number, max: number): Operand {
    const { at: from, run } = operand;
    return this.scratch(
      (c, at) => {
        run?.(c);
        const { r } = c;
        r[at] = Math.min(Math.max(r[from], min), max);
      },
      () => withAll([this.codeOf(operand)], (x) => clamped(x, min, max)),
    );
  }

  truth(parsed: ParsedFormula | undefined): Test {
    if (!parsed) return NEVER_HOLDS;
    const parts = this.conditions(parsed).map((c) => c.test);
    return parts.reduceRight((after, test) => both(test, after));
  }

  /** The parts joined by `and` at the top, each of which can fail by itself. */
  conditions(parsed: ParsedFormula): Condition[] {
    const { source, node, path } = parsed;
    if (typeof source === 'function') {
      this.hasFunctions = true;
      const fn = source as unknown as (facts: Facts) => unknown;
      return [{ test: (c) => Boolean(fn((c as FactFrame).facts)), text: 'its function', readings: [] }];
    }
    const text = String(source);
    if (!node) return [{ test: source === true ? ALWAYS_HOLDS : NEVER_HOLDS, text, readings: [] }];
    if (!this.isSmall(node, path)) return [{ test: NEVER_HOLDS, text, readings: [] }];
    return splitAnd(node).map((part) => this.condition(part, text, path));
  }

  /**
   * A single fact for those who ask by name once characters live: it takes no new place behind the
   * record, since a fact by itself needs one scratch number at most.
   */
  lateReading(key: string): Reading | undefined {
    this.late = true;
    const fact = this.facts.get(key)?.() ?? this.further(key);
    const reading = fact && this.reading(key, fact);
    this.late = false;
    return reading;
  }

  private reading(key: string, fact: Fact): Reading {
    if (fact.type !== 'truth') return { text: key, type: fact.type, run: fact.operand.run, at: fact.operand.at };
    const { test } = fact;
    const { at, run } = this.scratch(
      (c, at) => {
        c.r[at] = test(c) ? 1 : 0;
      },
      () => withAll([codeOf(test)], (holds) => pick(holds, 1, 0)),
    );
    return { text: key, type: 'truth', run, at };
  }

  private condition(node: Node, text: string, path: Path): Condition {
    const typed = this.expression(node, path);
    let test: Test = () => false;
    if (typed?.type === 'truth') test = typed.test;
    else if (typed) this.mismatch(path, node, 'This', 'truth', typed.type);
    const readings = this.factsIn(node).flatMap((key) => {
      const fact = this.fact(this.owned(key));
      return fact ? this.reading(key, fact) : [];
    });
    return { test, text: text.slice(node.from, node.to), readings };
  }

  /** What a condition reads; in place of a named condition, what that one reads. */
  factsIn(node: Node, within: readonly string[] = []): string[] {
    const keys = factsIn(node).flatMap((key) => {
      const named = within.includes(key) ? undefined : this.conditionsByName.get(key);
      return named ? this.factsIn(named, [...within, key]) : [key];
    });
    return [...new Set(keys)];
  }

  private owned(key: string): string {
    if (this.own === undefined) return key;
    if (key === 'charge') return `charge(${this.own})`;
    if (this.runs && this.inside.has(`${this.own}:${key}`)) return `${this.own}:${key}`;
    const level = /^level\((\w+)\)$/.exec(key);
    return level ? `level(${this.own}.${level[1]})` : key;
  }

  private fact(key: string): Fact | undefined {
    let fact = this.made.get(key);
    if (!fact) {
      fact = (this.facts.get(key) ?? this.inside.get(key))?.() ?? this.further(key);
      if (fact) this.made.set(key, fact);
    }
    return fact;
  }

  private expression(node: Node, path: Path): Typed | undefined {
    switch (node.kind) {
      case 'number':
        return node.unit
          ? this.known('time', toTicks(node.value, node.unit, this.rate))
          : this.known('number', node.value);
      case 'truth': {
        return { type: 'truth', test: node.value ? ALWAYS_HOLDS : NEVER_HOLDS };
      }
      case 'name':
        return this.named(node, node.name, path);
      case 'call':
        return this.call(node, path);
      case 'unary':
        return this.unary(node, path);
      case 'binary':
        return this.binary(node, path);
    }
  }

  private named(node: Node, key: string, path: Path): Typed | undefined {
    const fact = this.fact(this.owned(key));
    if (fact) return fact;
    this.sink.add(
      'formula-name',
      path,
      { name: key, facts: this.allFacts(), functions: FUNCTIONS },
      { span: [node.from, node.to] },
    );
    return undefined;
  }

  /** Facts that can be meant here. */
  private allFacts(): ReadonlyMap<string, unknown> {
    return this.others.length === 0
      ? this.facts
      : new Map<string, unknown>([...this.facts, ...this.others.map((key) => [key, key] as const)]);
  }

  private call(node: Extract<Node, { kind: 'call' }>, path: Path): Typed | undefined {
    const { name, args } = node;
    if (!FUNCTIONS.includes(name)) return this.named(node, callKey(node), path);
    const count = name === 'clamp' || name === 'pick' ? 3 : name in ONE ? 1 : 2;
    if (args.length !== count) {
      const expected = count === 1 ? 'one value' : `${count} values`;
      this.sink.add('formula-argument', path, { name, expected, found: args.length }, { span: [node.from, node.to] });
      return undefined;
    }
    if (name === 'pick') return this.pick(args, path);
    const numbers = args.map((arg) => this.numeric(arg, path));
    if (numbers.some((n) => !n)) return undefined;
    const all = numbers as TypedNumber[];
    for (let i = 1; i < all.length; i++) if (!this.sameType(args[i], all[0], all[i], path)) return undefined;
    const compute =
      name in ONE
        ? ([x]: number[]) => ONE[name](x)
        : name === 'clamp'
          ? ([x, low, high]: number[]) => Math.min(Math.max(x, low), high)
          : ([a, b]: number[]) => MANY[name](a, b);
    if (all.every((n) => n.value !== undefined))
      return this.known(all[0].type, compute(all.map((n) => n.value as number)));
    const [a, b, c] = all.map((n) => n.operand.at);
    const run = join(all.map((n) => n.operand.run));
    const write: (r: Float64Array, out: number) => void =
      name in ONE
        ? (r, out) => {
            r[out] = ONE[name](r[a]);
          }
        : name === 'clamp'
          ? (r, out) => {
              r[out] = Math.min(Math.max(r[a], r[b]), r[c]);
            }
          : (r, out) => {
              r[out] = MANY[name](r[a], r[b]);
            };
    return {
      type: all[0].type,
      operand: this.scratch(
        (c, at) => {
          run?.(c);
          write(c.r, at);
        },
        (at) =>
          this.joined(
            name,
            at,
            all.map((n) => n.operand),
          ),
      ),
    };
  }

  private pick([when, yes, no]: Node[], path: Path): Typed | undefined {
    const test = this.truthful(when, path);
    const a = this.numeric(yes, path);
    const b = this.numeric(no, path);
    if (!test || !a || !b || !this.sameType(no, a, b, path)) return undefined;
    const operand = this.scratch(
      (c, at) => {
        const { at: from, run } = (test(c) ? a : b).operand;
        run?.(c);
        c.r[at] = c.r[from];
      },
      () => withAll([codeOf(test), this.codeOf(a.operand), this.codeOf(b.operand)], pick),
    );
    return { type: a.type, operand };
  }

  private unary(node: Extract<Node, { kind: 'unary' }>, path: Path): Typed | undefined {
    if (node.op === 'not') {
      const test = this.truthful(node.of, path);
      return test && { type: 'truth', test: negate(test) };
    }
    const of = this.numeric(node.of, path);
    if (!of) return undefined;
    if (of.value !== undefined) return this.known(of.type, -of.value);
    const { at: from, run } = of.operand;
    return {
      type: of.type,
      operand: this.scratch(
        (c, at) => {
          run?.(c);
          c.r[at] = -c.r[from];
        },
        () => withAll([this.codeOf(of.operand)], (x) => enclose(js`-${x}`)),
      ),
    };
  }

  private binary(node: Extract<Node, { kind: 'binary' }>, path: Path): Typed | undefined {
    const { op, left, right } = node;
    if (op === 'and' || op === 'or') {
      const a = this.truthful(left, path);
      const b = this.truthful(right, path);
      if (!a || !b) return undefined;
      return { type: 'truth', test: op === 'and' ? both(a, b) : either(a, b) };
    }
    const a = this.numeric(left, path);
    const b = this.numeric(right, path);
    if (!a || !b) return undefined;
    const compare = COMPARE[op];
    if (compare) {
      if (!this.sameType(right, a, b, path)) return undefined;
      const test = compare(a.operand.at, b.operand.at);
      const run = join([a.operand.run, b.operand.run]);
      const read: Test = (c) => {
        run?.(c);
        return test(c);
      };
      return { type: 'truth', test: written(run ? read : test, () => this.joined(op, -1, [a.operand, b.operand])) };
    }
    const type = this.resultType(node, a, b, path);
    if (!type) return undefined;
    const arithmetic = ARITHMETIC[op] as (a: number, b: number, out: number) => Run;
    if (a.value !== undefined && b.value !== undefined) {
      const r = new Float64Array([a.value, b.value, 0]);
      arithmetic(0, 1, 2)({ r } as Frame);
      return this.known(type, r[2]);
    }
    const before = join([a.operand.run, b.operand.run]);
    const out = this.place();
    const compute = arithmetic(a.operand.at, b.operand.at, out);
    const run: Run = before
      ? (c) => {
          before(c);
          compute(c);
        }
      : compute;
    written(run, () => this.joined(op, out, [a.operand, b.operand]));
    return { type, operand: { at: out, run, constant: false } };
  }

  private resultType(
    node: Extract<Node, { kind: 'binary' }>,
    a: TypedNumber,
    b: TypedNumber,
    path: Path,
  ): 'number' | 'time' | undefined {
    const { op, right } = node;
    if (op === '*' && (a.type === 'number' || b.type === 'number')) return a.type === 'time' ? 'time' : b.type;
    if (op === '/' && b.type === 'number') return a.type;
    if (op === '/' && a.type === 'time') return 'number';
    if (op === '*') {
      this.mismatch(path, right, 'One of the factors', 'number', 'time');
      return undefined;
    }
    return this.sameType(right, a, b, path) ? a.type : undefined;
  }

  private known(type: 'number' | 'time', value: number): Typed {
    return { type, operand: this.constant(value), value };
  }

  private truthful(node: Node, path: Path): Test | undefined {
    const typed = this.expression(node, path);
    if (!typed || typed.type === 'truth') return typed?.test;
    this.mismatch(path, node, 'This', 'truth', typed.type);
    return undefined;
  }

  private numeric(node: Node, path: Path): TypedNumber | undefined {
    const typed = this.expression(node, path);
    if (typed?.type !== 'truth') return typed;
    this.mismatch(path, node, 'This', 'number', 'truth');
    return undefined;
  }

  private sameType(node: Node, a: TypedNumber, b: TypedNumber, path: Path): boolean {
    if (a.type === b.type) return true;
    this.mismatch(path, node, 'This', a.type, b.type);
    return false;
  }

  private mismatch(path: Path, node: Node, what: string, expected: FactType, found: FactType): void {
    const hint = expected === 'time' && found === 'number' ? 'write a unit, like 0.2s or 12f' : undefined;
    this.sink.add('formula-type', path, { what, expected, found, hint }, { span: [node.from, node.to] });
  }
}

/** How many parts a formula may have, with the conditions that it names, and all formulas of a moveset together. */
export const MOST_PARTS = 2000;
const MOST_PARTS_IN_ALL = 200_000;

/** `held(move.left)`: a call of a fact, as its key is written. */
function callKey(node: Extract<Node, { kind: 'call' }>): string {
  return `${node.name}(${node.args.map((arg) => (arg.kind === 'name' ? arg.name : '?')).join(', ')})`;
}

function factsIn(node: Node): string[] {
  switch (node.kind) {
    case 'name':
      return [node.name];
    case 'call':
      return FUNCTIONS.includes(node.name) ? node.args.flatMap(factsIn) : [callKey(node)];
    case 'unary':
      return factsIn(node.of);
    case 'binary':
      return [...new Set([...factsIn(node.left), ...factsIn(node.right)])];
    default:
      return [];
  }
}

function join(runs: readonly (Run | null)[]): Run | null {
  return runs.reduce((before, run) => {
    if (!before || !run) return before ?? run;
    return (c) => {
      before(c);
      run(c);
    };
  }, null);
}
