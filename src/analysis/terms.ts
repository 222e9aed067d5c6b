import type { Node, ParsedFormula } from '../moveset/formula.js';
import { toTicks } from '../moveset/time.js';

/*
 * What can be told of conditions from their text alone: which cannot hold together, and which hold whenever others do. What is not
 * understood (a formula between two facts, a function) may hold or not, whatever else does.
 */

/** Something that must hold: a fact that is so or not, or a number within limits. */
interface Literal {
  readonly key: string;
  /** As it was written. */
  readonly text: string;
  /** Of a fact that holds or does not. */
  readonly is?: boolean;
  /** Of a number: its limits, and whether it may be at them. */
  readonly from?: Limit;
  readonly to?: Limit;
}
interface Limit {
  readonly value: number;
  readonly at: boolean;
}

/** What must hold together. */
export type Term = readonly Literal[];

/** More ways than these are not looked through. */
const MOST = 24;
const DEEPEST = 20;

/** The ways in which a condition may hold, each with all that it needs; undefined for what is too much. */
export class Terms {
  private functions = 0;

  constructor(
    private readonly conditions: Readonly<Record<string, ParsedFormula | undefined>>,
    private readonly rate: number,
  ) {}

  of(formula: ParsedFormula | undefined): readonly Term[] | undefined {
    return this.either(formula, true);
  }

  /** All of them together. */
  all(formulas: readonly (ParsedFormula | undefined)[]): readonly Term[] | undefined {
    return formulas.reduce<readonly Term[] | undefined>((terms, formula) => both(terms, this.of(formula)), [[]]);
  }

  /** That a condition does not hold. */
  not(formula: ParsedFormula | undefined): readonly Term[] | undefined {
    return this.either(formula, false);
  }

  private either(formula: ParsedFormula | undefined, holds: boolean): readonly Term[] | undefined {
    const { source, node } = formula ?? {};
    if (typeof source === 'boolean') return source === holds ? [[]] : [];
    if (typeof source === 'string' && node) return this.read(node, source, holds, 0);
    return [[{ key: `function ${this.functions++}`, text: 'a function', is: holds }]];
  }

  private read(node: Node, source: string, holds: boolean, depth: number): readonly Term[] | undefined {
    if (depth > DEEPEST) return undefined;
    if (node.kind === 'truth') return node.value === holds ? [[]] : [];
    if (node.kind === 'unary' && node.op === 'not') return this.read(node.of, source, !holds, depth + 1);
    if (node.kind === 'binary' && (node.op === 'and' || node.op === 'or')) {
      const left = this.read(node.left, source, holds, depth + 1);
      const right = this.read(node.right, source, holds, depth + 1);
      return (node.op === 'and') === holds ? both(left, right) : either(left, right);
    }
    const own = source.slice(node.from, node.to);
    const text = holds ? own : `not ${own}`;
    const limits = node.kind === 'binary' ? compared(node, source, holds, text, this.rate) : undefined;
    if (limits) return [[limits]];
    const named = node.kind === 'name' ? this.conditions[node.name] : undefined;
    if (typeof named?.source === 'string' && named.node) return this.read(named.node, named.source, holds, depth + 1);
    const key = own.replace(/\s/g, '');
    return [[key === 'airborne' ? { key: 'grounded', text, is: !holds } : { key, text, is: holds }]];
  }
}

function both(a: readonly Term[] | undefined, b: readonly Term[] | undefined): readonly Term[] | undefined {
  if (!a || !b || a.length * b.length > MOST) return undefined;
  return a.flatMap((one) => b.map((other) => [...one, ...other]));
}

function either(a: readonly Term[] | undefined, b: readonly Term[] | undefined): readonly Term[] | undefined {
  return a && b && a.length + b.length <= MOST ? [...a, ...b] : undefined;
}

const TURNED = { '<': '>', '<=': '>=', '>': '<', '>=': '<=', '==': '==', '!=': '!=' } as const;
const DENIED = { '<': '>=', '<=': '>', '>': '<=', '>=': '<', '==': '!=', '!=': '==' } as const;
type Comparison = keyof typeof TURNED;

/** A comparison of a fact with a number; undefined for others. */
function compared(
  node: Node & { kind: 'binary' },
  source: string,
  holds: boolean,
  text: string,
  rate: number,
): Literal | undefined {
  if (!(node.op in TURNED)) return undefined;
  let op = node.op as Comparison;
  let [fact, value] = [node.left, numberOf(node.right, rate)];
  if (value === undefined) {
    [fact, value] = [node.right, numberOf(node.left, rate)];
    op = TURNED[op];
  }
  if (!holds) op = DENIED[op];
  if (value === undefined || op === '!=' || (fact.kind !== 'name' && fact.kind !== 'call')) return undefined;
  const limit = { value, at: op !== '<' && op !== '>' };
  return {
    key: source.slice(fact.from, fact.to).replace(/\s/g, ''),
    text,
    ...(op !== '<' && op !== '<=' && { from: limit }),
    ...(op !== '>' && op !== '>=' && { to: limit }),
  };
}

function numberOf(node: Node, rate: number): number | undefined {
  if (node.kind === 'unary' && node.op === '-') {
    const value = numberOf(node.of, rate);
    return value === undefined ? undefined : -value;
  }
  if (node.kind !== 'number') return undefined;
  return node.unit ? toTicks(node.value, node.unit, rate) : node.value;
}

/** Two things of a term that cannot both be, as they were written. */
export function contradiction(term: Term): readonly [string, string] | undefined {
  for (const [i, a] of term.entries()) for (const b of term.slice(0, i)) if (excludes(a, b)) return [b.text, a.text];
  return undefined;
}

function excludes(a: Literal, b: Literal): boolean {
  // There is one stance at a time, and one shape.
  const kind = /^(in|shape|wearing)\(/.exec(a.key)?.[0];
  if (kind && a.key !== b.key && b.key.startsWith(kind)) return a.is === true && b.is === true;
  if (a.key !== b.key) return false;
  if (a.is !== undefined && b.is !== undefined) return a.is !== b.is;
  return isEmpty(a.from, b.to) || isEmpty(b.from, a.to);
}

function isEmpty(from: Limit | undefined, to: Limit | undefined): boolean {
  if (!from || !to) return false;
  return from.value > to.value || (from.value === to.value && !(from.at && to.at));
}

/** Whether all of a term holds whenever another one does. */
export function follows(term: Term, given: Term): boolean {
  return term.every((one) => given.some((other) => implies(other, one)));
}

function implies(given: Literal, one: Literal): boolean {
  if (given.key !== one.key) return false;
  if (one.is !== undefined) return given.is === one.is;
  return isWithin(given.from, one.from, 1) && isWithin(given.to, one.to, -1);
}

/** Whether a limit is as strict as another one. */
function isWithin(given: Limit | undefined, limit: Limit | undefined, sign: 1 | -1): boolean {
  if (!limit) return true;
  if (!given) return false;
  const further = sign * (given.value - limit.value);
  return further > 0 || (further === 0 && (limit.at || !given.at));
}
