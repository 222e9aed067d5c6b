import type { Path } from '../report/diagnostic.js';
import type { LibraryName } from './library.js';

/*
 * Generated code before it is text. A piece knows what it refers to: places of the record, functions of the library, indexes, closures of the
 * plan. Names are given as it is printed (text/printer.ts), and only what is printed is named or imported.
 */

/** What indexes of the plan stand for. */
export type Indexed = 'stance' | 'loadout' | 'ability' | 'phase' | 'trigger';

/** Lists of the plan that generated code reads. */
export type PlanList = 'abilities' | 'loadouts' | 'phases' | 'pools' | 'stances' | 'triggers';

/** What the character is asked for. */
export type Asked = 'probe' | 'fits' | 'senseAgain' | 'updateRoster';

/** Something that has a name in the module. */
export type Reference =
  /** A number of the record, `r[...]`; whether it is written here. */
  | { readonly kind: 'slot'; readonly at: number; readonly writes: boolean }
  /** A function of the library, which the module imports. */
  | { readonly kind: 'library'; readonly name: LibraryName }
  | { readonly kind: 'list'; readonly name: PlanList }
  | { readonly kind: 'index'; readonly of: Indexed; readonly index: number }
  /** What a number of the record is compared with: where that holds an index, an index. */
  | { readonly kind: 'value'; readonly of: number; readonly value: number }
  /** A number with the name that it should have. */
  | { readonly kind: 'constant'; readonly wanted: string; readonly value: number }
  /** The function of the module about a pool. */
  | { readonly kind: 'pool'; readonly verb: 'update' | 'watch'; readonly index: number }
  /** The function of the module for a named condition. */
  | { readonly kind: 'condition'; readonly name: string }
  /** What stands at a path of the plan: a closure without a text. */
  | { readonly kind: 'closure'; readonly path: string; readonly word: string }
  /** A table that is 1 at some places, else 0. */
  | { readonly kind: 'table'; readonly length: number; readonly places: readonly number[] }
  | { readonly kind: 'asked'; readonly name: Asked }
  /** The character itself, where it is given to something. */
  | { readonly kind: 'character' }
  /** Heights of the body's shapes. */
  | { readonly kind: 'heights' };

/** How an expression stands beside `&&` and `||`: by itself, since it is in parentheses already or needs none, or in parentheses. */
type Binding = 'enclosed' | 'tight' | 'loose' | '&&' | '||';

type Operator = '===' | '!==' | '<' | '<=' | '>' | '>=';

interface Traits {
  readonly binding?: Binding;
  /** What is joined by `&&` or `||`. */
  readonly sides?: readonly Code[];
  /** A comparison. */
  readonly compared?: { readonly left: Code; readonly operator: Operator; readonly right: Code | number };
  readonly literal?: number;
  /** What it is the square root of. */
  readonly radicand?: Code;
  /** Where in the moveset it is from. */
  readonly origin?: Path;
}

/** An expression, or a line of code. */
export class Code {
  constructor(
    readonly parts: readonly (string | Reference)[],
    readonly traits: Traits = {},
  ) {}

  /** The same, noting what it was made of, unless that is known. */
  from(...path: Path): Code {
    return this.traits.origin ? this : new Code(this.parts, { ...this.traits, origin: path });
  }

  /** Whether it is a number, or a number of the record, and so may be read twice. */
  get isPlain(): boolean {
    const [only, ...more] = this.parts;
    return (
      more.length === 0 && (this.traits.literal !== undefined || (typeof only === 'object' && only.kind === 'slot'))
    );
  }
}

/** Lines, and blocks of them. */
export type Lines = readonly (Code | Block)[];

/** Lines that stand apart from those between them: `if (a) {`, lines, `} else {`, lines, `}`. */
export class Block {
  constructor(readonly parts: readonly (Code | Lines)[]) {}
}

/** What may stand in a template: code, a number as it is, or a word that is a name there. */
type Part = Code | number | string;

/** Code as it is written, with what it refers to. */
export function js(strings: TemplateStringsArray, ...parts: readonly Part[]): Code {
  const all: (string | Reference)[] = [];
  strings.forEach((text, i) => {
    if (text !== '') all.push(text);
    const part = parts[i];
    if (part === undefined) return;
    if (part instanceof Code) all.push(...part.parts);
    else all.push(typeof part === 'number' ? writeNumber(part) : part);
  });
  return new Code(all, { binding: 'loose' });
}

const refer = (reference: Reference): Code => new Code([reference], { binding: 'tight' });

/** A number of the record that is read. */
export const at = (slot: number): Code => refer({ kind: 'slot', at: slot, writes: false });

/** A number of the record that is written. */
export const to = (slot: number): Code => refer({ kind: 'slot', at: slot, writes: true });

export const library = (name: LibraryName): Code => refer({ kind: 'library', name });
export const list = (name: PlanList): Code => refer({ kind: 'list', name });
/** One of a list of the plan. */
export const item = (name: PlanList, index: number | Code): Code => js`${list(name)}[${index}]`;
export const indexOf = (of: Indexed, index: number): Code => refer({ kind: 'index', of, index });
export const constant = (wanted: string, value: number): Code => refer({ kind: 'constant', wanted, value });
export const poolFunction = (verb: 'update' | 'watch', index: number): Code => refer({ kind: 'pool', verb, index });
export const conditionFunction = (name: string): Code => refer({ kind: 'condition', name });
export const closure = (path: string, word: string): Code => refer({ kind: 'closure', path, word });
export const table = (length: number, places: readonly number[]): Code => refer({ kind: 'table', length, places });
export const asked = (name: Asked): Code => refer({ kind: 'asked', name });
/** The character itself. */
export const CHARACTER: Code = refer({ kind: 'character' });
/** Height of the body as it is now, by the slot of its shape. */
export const heightOf = (shape: number): Code => tight(js`${refer({ kind: 'heights' })}[${at(shape)}]`);

/** Code that needs no parentheses beside `&&` and `||`. */
export const tight = ({ parts, traits }: Code): Code => new Code(parts, { ...traits, binding: 'tight' });

export const literal = (value: number): Code => new Code([writeNumber(value)], { binding: 'tight', literal: value });

export const TRUE: Code = new Code(['true'], { binding: 'tight' });
export const FALSE: Code = new Code(['false'], { binding: 'tight' });

/** A text as a literal, on one line however lines are counted. */
export const quoted = (text: string): Code => tight(js`${writeData(text)}`);

export function compare(left: Code, operator: Operator, right: Code | number): Code {
  const [slot] = left.parts;
  const isSlot = left.isPlain && typeof slot === 'object' && slot.kind === 'slot';
  const other = isSlot && typeof right === 'number' ? refer({ kind: 'value', of: slot.at, value: right }) : right;
  return new Code(js`${left} ${operator} ${other}`.parts, { binding: 'tight', compared: { left, operator, right } });
}

export const equal = (left: Code, right: Code | number): Code => compare(left, '===', right);

/** Whether a bit of a number is set. */
export const hasBit = (slot: number, bit: number): Code => compare(js`(${at(slot)} & ${bit})`, '!==', 0);

/** The square root of what is never below 0. */
export const root = (radicand: Code): Code =>
  new Code(js`Math.sqrt(${radicand})`.parts, { binding: 'tight', radicand });

const isBound = ({ traits }: Code): boolean => traits.binding === 'tight' || traits.binding === 'enclosed';

function join(operator: '&&' | '||', sides: readonly Code[]): Code {
  const flat = sides.flatMap((side) => (side.traits.binding === operator && side.traits.sides) || [side]);
  const [first, ...rest] = flat.map((side) => (isBound(side) ? side : js`(${side})`));
  return new Code(rest.reduce((before, side) => js`${before} ${operator} ${side}`, first).parts, {
    binding: operator,
    sides: flat,
  });
}

/** That all of them hold; true without any. */
export function all(...tests: readonly Code[]): Code {
  const some = tests.filter((test) => test !== TRUE);
  if (some.includes(FALSE)) return FALSE;
  return some.length === 0 ? TRUE : some.length === 1 ? some[0] : join('&&', some);
}

/** That one of them holds; false without any. */
export function any(...tests: readonly Code[]): Code {
  const some = tests.filter((test) => test !== FALSE);
  if (some.includes(TRUE)) return TRUE;
  return some.length === 0 ? FALSE : some.length === 1 ? some[0] : join('||', some);
}

/** That it does not hold. What compares with a number that is not one differs from its contrary, but for equality. */
export function not(test: Code): Code {
  if (test === TRUE) return FALSE;
  if (test === FALSE) return TRUE;
  const { compared } = test.traits;
  if (compared?.operator === '===') return compare(compared.left, '!==', compared.right);
  if (compared?.operator === '!==') return compare(compared.left, '===', compared.right);
  return tight(test.traits.binding === 'enclosed' ? js`!${test}` : js`!(${test})`);
}

/** Code in parentheses. */
export const enclose = (code: Code): Code => new Code(js`(${code})`.parts, { binding: 'enclosed' });

/** `test ? yes : no`, in parentheses. */
export const pick = (test: Code, yes: Code | number, no: Code | number): Code => enclose(js`${test} ? ${yes} : ${no}`);

/** A call. */
export function call(of: Code, ...given: readonly Part[]): Code {
  return new Code(js`${of}(${commas(given)})`.parts, { binding: 'enclosed' });
}

/** Parts one behind the other, with commas between them. */
export function commas([first, ...rest]: readonly Part[]): Code {
  return rest.reduce<Code>((before, part) => js`${before}, ${part}`, js`${first ?? ''}`);
}

/** `if (test) line`, or with a block for several. */
export function when(test: Code, body: Lines): Code | Block {
  const [only, ...more] = body;
  if (more.length > 0 || !(only instanceof Code)) return new Block([js`if (${test}) {`, body, js`}`]);
  const { origin } = only.traits;
  const line = js`if (${test}) ${only}`;
  return origin ? line.from(...origin) : line;
}

/** The same lines, which read some numbers of the record from variables: by the place of each, its name. */
export function readFrom(variables: ReadonlyMap<number, string>, lines: Lines): Lines {
  const piece = (code: Code) =>
    new Code(
      code.parts.map((part) =>
        typeof part === 'object' && part.kind === 'slot' && !part.writes ? (variables.get(part.at) ?? part) : part,
      ),
      code.traits,
    );
  return lines.map((line) =>
    line instanceof Code
      ? piece(line)
      : new Block(line.parts.map((part) => (part instanceof Code ? piece(part) : readFrom(variables, part)))),
  );
}

/** Each piece of some lines, in their order. */
export function* piecesOf(lines: Lines): Generator<Code> {
  for (const line of lines)
    if (line instanceof Code) yield line;
    else for (const part of line.parts) yield* part instanceof Code ? [part] : piecesOf(part);
}

/** All that some lines refer to. */
export function referencesOf(lines: Lines): Reference[] {
  return [...piecesOf(lines)].flatMap(({ parts }) => parts.filter((part) => typeof part === 'object'));
}

/** Whether some lines only read and write numbers. */
export function asksNobody(lines: Lines): boolean {
  return referencesOf(lines).every(({ kind }) => NUMBERS.has(kind));
}

const NUMBERS: ReadonlySet<Reference['kind']> = new Set(['slot', 'index', 'value', 'constant', 'heights']);

/** Whether some lines come to the same as long as certain numbers do: they read nothing else, and ask nobody. */
export function readsOnly(lines: Lines, known: (slot: number) => boolean): boolean {
  return asksNobody(lines) && referencesOf(lines).every((one) => one.kind !== 'slot' || known(one.at));
}

/** A number as it is written, so that it is read back the same. */
export function writeNumber(value: number): string {
  return Object.is(value, -0) ? '-0' : String(value);
}

/** Plain data as it is written in generated code, on one line however lines are counted; undefined for what is none. */
export function writeData(value: unknown): string {
  return (JSON.stringify(value) ?? 'undefined').replace(
    /[\u2028\u2029]/g,
    (sign) => `\\u${sign.charCodeAt(0).toString(16)}`,
  );
}

/** A case of a switch. */
export function caseOf(value: Code, body: Lines): Block {
  return new Block([js`case ${value}:`, [...body, js`break;`]]);
}
