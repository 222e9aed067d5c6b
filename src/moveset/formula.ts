import type { Path } from '../report/diagnostic.js';
import type { TimeUnit } from './time.js';

/** The syntax tree of a formula. Offsets are half-open, in the formula's text. */
export type Node =
  | { kind: 'number'; value: number; unit?: TimeUnit; from: number; to: number }
  | { kind: 'truth'; value: boolean; from: number; to: number }
  | { kind: 'name'; name: string; from: number; to: number }
  | { kind: 'call'; name: string; args: Node[]; from: number; to: number }
  | { kind: 'unary'; op: '-' | 'not'; of: Node; from: number; to: number }
  | { kind: 'binary'; op: BinaryOp; left: Node; right: Node; from: number; to: number };

/** A formula with its place, parsed; typed and compiled later. Without functions it is plain data. */
export interface ParsedFormula {
  readonly source: string | number | boolean | ((...facts: never[]) => unknown);
  /** What the text says, unless it is faulty. */
  readonly node?: Node;
  /** `40%` was written: a factor of 0.4. */
  readonly percent: boolean;
  /** What its number may be, where its place limits it; whatever it comes to is brought within. */
  readonly min?: number;
  readonly max?: number;
  readonly path: Path;
}

/** The parts of a condition that `and` joins at its top. */
export function splitAnd(node: Node): Node[] {
  return node.kind === 'binary' && node.op === 'and' ? [...splitAnd(node.left), ...splitAnd(node.right)] : [node];
}

/** How many parts a formula has, and the names in it that stand alone, each as often as it is there. */
export function partsOf(node: Node): { readonly count: number; readonly names: readonly string[] } {
  const names: string[] = [];
  let count = 0;
  const waiting: Node[] = [node];
  for (let next = waiting.pop(); next; next = waiting.pop()) {
    count++;
    if (next.kind === 'name') names.push(next.name);
    else if (next.kind === 'call') waiting.push(...next.args);
    else if (next.kind === 'unary') waiting.push(next.of);
    else if (next.kind === 'binary') waiting.push(next.left, next.right);
  }
  return { count, names };
}

export type BinaryOp = 'or' | 'and' | '<' | '<=' | '>' | '>=' | '==' | '!=' | '+' | '-' | '*' | '/' | '%';

export type FormulaFault = { from: number; to: number } & (
  | { code: 'formula-syntax'; params: { expected: string; found: string; hint?: string } }
  | { code: 'formula-depth'; params: { limit: number; of: string } }
);

const LONGEST = 2000;
const DEEPEST = 40;
const LEVELS: readonly (readonly BinaryOp[])[] = [
  ['or'],
  ['and'],
  ['<', '<=', '>', '>=', '==', '!='],
  ['+', '-'],
  ['*', '/', '%'],
];
const NOT_LEVEL = 2;
const TOKEN =
  /\s*(?:(\d+(?:\.\d+)?|\.\d+)(ms|s|f)?(?![\w.])|([A-Za-z_]\w*(?:\.[A-Za-z_]\w*)*)|(<=|>=|==|!=|[-+*/%<>(),])|(\d[\w.]*|\S))/y;

interface Token {
  kind: 'number' | 'name' | 'sign' | 'end' | 'stray';
  text: string;
  unit?: TimeUnit;
  from: number;
  to: number;
}

/** Parses a formula; a fault names what was expected, and where. */
export function parseFormula(text: string): { node: Node } | { fault: FormulaFault } {
  if (text.length > LONGEST)
    return {
      fault: { code: 'formula-depth', from: LONGEST, to: text.length, params: { limit: LONGEST, of: 'characters' } },
    };
  try {
    return { node: new Parser(text).whole() };
  } catch (fault) {
    if (fault instanceof Error) throw fault;
    return { fault: fault as FormulaFault };
  }
}

class Parser {
  private at = 0;
  private depth = 0;
  private token: Token;

  constructor(private readonly text: string) {
    this.token = this.scan();
  }

  whole(): Node {
    const node = this.level(0);
    if (this.token.kind !== 'end') this.fail('an operator or the end');
    return node;
  }

  private level(n: number): Node {
    if (n === NOT_LEVEL && this.token.kind === 'name' && this.token.text === 'not') {
      const { from } = this.next();
      const of = this.nested(() => this.level(NOT_LEVEL));
      return { kind: 'unary', op: 'not', of, from, to: of.to };
    }
    if (n === LEVELS.length) return this.unary();
    let left = this.level(n + 1);
    while (LEVELS[n].includes(this.token.text as BinaryOp) && this.token.kind !== 'end') {
      const op = this.next().text as BinaryOp;
      const right = this.level(n + 1);
      left = { kind: 'binary', op, left, right, from: left.from, to: right.to };
      if (n === NOT_LEVEL) break;
    }
    return left;
  }

  private unary(): Node {
    if (this.token.text === '-') {
      const { from } = this.next();
      const of = this.nested(() => this.unary());
      return { kind: 'unary', op: '-', of, from, to: of.to };
    }
    return this.primary();
  }

  private primary(): Node {
    const token = this.token;
    if (token.kind === 'number') {
      this.next();
      return { kind: 'number', value: Number(token.text), unit: token.unit, from: token.from, to: token.to };
    }
    if (token.text === '(') {
      this.next();
      const inner = this.nested(() => this.level(0));
      this.expect(')');
      return inner;
    }
    if (token.kind !== 'name' || ['and', 'or', 'not'].includes(token.text)) this.fail('a value');
    this.next();
    if (token.text === 'true' || token.text === 'false')
      return { kind: 'truth', value: token.text === 'true', from: token.from, to: token.to };
    if (this.token.text !== '(') return { kind: 'name', name: token.text, from: token.from, to: token.to };
    this.next();
    const args: Node[] = [];
    while (!this.sees(')')) {
      if (args.length > 0) this.expect(',');
      args.push(this.nested(() => this.level(0)));
    }
    const { to } = this.next();
    return { kind: 'call', name: token.text, args, from: token.from, to };
  }

  private sees(sign: string): boolean {
    return this.token.kind === 'sign' && this.token.text === sign;
  }

  private nested(inner: () => Node): Node {
    if (++this.depth > DEEPEST)
      throw {
        code: 'formula-depth',
        from: this.token.from,
        to: this.text.length,
        params: { limit: DEEPEST, of: 'levels of nesting' },
      };
    const node = inner();
    this.depth--;
    return node;
  }

  private expect(sign: string): void {
    if (!this.sees(sign)) this.fail(`"${sign}"`);
    this.next();
  }

  private next(): Token {
    const token = this.token;
    this.token = this.scan();
    return token;
  }

  private scan(): Token {
    TOKEN.lastIndex = this.at;
    const match = TOKEN.exec(this.text);
    if (!match) return { kind: 'end', text: '', from: this.text.length, to: this.text.length };
    this.at = TOKEN.lastIndex;
    const [, digits, unit, name, sign, stray] = match;
    const text = digits ?? name ?? sign ?? stray;
    const kind = digits ? 'number' : name ? 'name' : sign ? 'sign' : 'stray';
    const length = text.length + (unit?.length ?? 0);
    return { kind, text, unit: unit as TimeUnit | undefined, from: this.at - length, to: this.at };
  }

  /** Whether a parenthesis is open at the end. */
  private opened(): boolean {
    return this.text.split('(').length > this.text.split(')').length;
  }

  private fail(expected: string): never {
    const { kind, text, from, to } = this.token;
    const found = kind === 'end' ? 'the end' : `"${text}"`;
    throw {
      code: 'formula-syntax',
      from,
      to: Math.max(to, from + 1),
      params: {
        expected,
        found,
        hint: kind === 'end' && this.opened() ? QUOTE_IT : /^\d/.test(text) ? NUMBERS : HINTS.get(text),
      },
    };
  }
}

const HINTS = new Map(
  Object.entries({
    '&': 'write "and"',
    '|': 'write "or"',
    '!': 'write "not"',
    '=': 'write "==" to compare',
  }),
);

const NUMBERS = 'write a number as 5 or 0.5, a time as 5f, 0.2s or 200ms, a factor as a percentage: 50%';

/** What a formula that ends inside its parentheses mostly suffers from. */
export const QUOTE_IT = 'inside { } or [ ], put a formula with a comma in quotes';
