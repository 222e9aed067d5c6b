import { isFormula } from '../compile/pack.js';
import type { Plan } from '../compile/plan.js';
import { MODULE } from '../compile/version.js';
import { asksNobody, js, to, writeData, writeNumber } from '../record/code.js';
import { madeBy, type Recipe } from '../record/recipes.js';
import { codeOf, linesOf } from '../record/written.js';
import { indexesOf } from '../text/emitter.js';
import type { Printer } from '../text/printer.js';
import { TakenNames } from '../text/taken-names.js';

/** Parts of a plan that a module has as functions of its own or of the library, and those that nothing reads after it is compiled. */
const LEFT_OUT: ReadonlySet<string> = new Set([
  ...['code', 'parsed', 'indexes', 'arraySize', 'testOfTag', 'surfaces', 'pickStance', 'reading', 'conditions'],
  'amountOf',
  ...['factNames', 'ranges', 'sign', 'longConditions'],
]);

/** Lists that only those steps of a tick read which a module has of its own. */
const UNREAD: ReadonlySet<string> = new Set(['until', 'interrupt', 'end', 'unlatch']);

/** Lists of actions of which the same is true. */
const INLINED: ReadonlySet<string> = new Set(['eachs', 'folds', 'scales']);

/**
 * Writes the plan itself as JavaScript, with its closures: by their text, or by what made them. Undefined where some closure
 * has neither.
 */
export function emitPlan(plan: Plan, recipes: readonly Recipe[], printer: Printer): string | undefined {
  try {
    return new PlanWriter(plan, printer).write(recipes);
  } catch (error) {
    if (error instanceof Unwritten) return undefined;
    throw error;
  }
}

/** The start of a trigger is what the moveset says; a pool has one, too, which is a number. */
function isLeftOut(key: string, owner: object): boolean {
  return LEFT_OUT.has(key) || (key === 'start' && 'sign' in owner);
}

class Unwritten extends Error {}

/** No line of data is longer than this, if it can be broken. */
const LINE = 120;

/** Parts on one line, or on as few as they need; what has lines of its own begins a new one. */
function enclose(open: string, parts: readonly string[], close: string): string {
  const flat = `${open}${parts.join(', ')}${close}`;
  if (flat.length <= LINE && !flat.includes('\n')) return flat;
  const lines: string[] = [];
  for (const part of parts) {
    const last = lines.at(-1) ?? '\n';
    const joined = `${last} ${part},`;
    if (joined.includes('\n') || joined.length > LINE - INDENT.length) lines.push(`${part},`);
    else lines[lines.length - 1] = joined;
  }
  return [open.trim(), ...lines.map((line) => INDENT + line.replaceAll('\n', `\n${INDENT}`)), close.trim()].join('\n');
}

const INDENT = '  ';

/** Longer tables of 0 and 1 are written as the places of what is 1. */
const FEW = 12;

type Plain = Readonly<Record<string, unknown>>;

/** From so many objects with the same keys on, and so many keys, they are written as rows. */
const MANY = 3;

/** What so many of them have otherwise than most has a place in each row; the rest is named where it comes up. */
const OFTEN = 0.4;

/** How objects with the same keys are written: what they have in common once, and of each what is its own. */
interface RowKind {
  readonly name: string;
  /** For each key, the plain value that most of them have. */
  readonly common: ReadonlyMap<string, string>;
  /** Keys whose values stand in each row, in this order. */
  readonly columns: readonly string[];
}

/** The keys of an object that are written. */
function keysOf(value: object): string[] {
  return Object.entries(value).flatMap(([key, part]) => (isLeftOut(key, value) || part === undefined ? [] : key));
}

function keyText(key: string): string {
  return /^[A-Za-z_]\w*$/.test(key) ? key : writeData(key);
}

class PlanWriter {
  private readonly before: string[] = [];
  private readonly names = new Map<unknown, string>();
  private readonly rowNames = new TakenNames();
  private readonly seen = new Map<unknown, number>();
  /** Objects with the same keys, by these. */
  private readonly alike = new Map<string, Plain[]>();
  private readonly alikeOf = new Map<object, Plain[]>();
  private readonly kinds = new Map<Plain[], RowKind>();

  constructor(
    private readonly plan: Plan,
    private readonly printer: Printer,
  ) {}

  write(recipes: readonly Recipe[]): string {
    const { plan } = this;
    this.count(plan);
    // What lists itself is there whether or not anything else of it is used.
    for (const recipe of recipes) if (recipe.lists) this.recipe(recipe);
    const { guards, summonings, ...rest } = plan;
    const lines = Object.entries(rest).flatMap(([key, value]) =>
      LEFT_OUT.has(key) || value === undefined ? [] : `  ${key}: ${this.value(value, key).replaceAll('\n', '\n  ')},`,
    );
    return [
      'const guards = [];',
      'const summonings = [];',
      ...this.before,
      `const plan = ${this.take('writtenPlan')}(${MODULE}, {`,
      ...lines,
      '  guards,',
      '  summonings,',
      '  pickStance,',
      `  size: ${plan.arraySize()},`,
      '});',
    ].join('\n');
  }

  /** What several refer to is written once. */
  private count(value: unknown): void {
    if (typeof value !== 'object' || value === null || ArrayBuffer.isView(value) || madeBy(value)) return;
    const times = (this.seen.get(value) ?? 0) + 1;
    this.seen.set(value, times);
    if (times > 1) return;
    if (!Array.isArray(value) && !isFormula(value)) {
      const keys = keysOf(value).join();
      let alike = this.alike.get(keys);
      if (!alike) {
        alike = [];
        this.alike.set(keys, alike);
      }
      alike.push(value as Plain);
      this.alikeOf.set(value, alike);
    }
    for (const [key, part] of Object.entries(value)) if (!isLeftOut(key, value)) this.count(part);
  }

  private value(value: unknown, key: string, owner: Plain = {}): string {
    if (typeof value === 'number') return writeNumber(value);
    if (typeof value === 'function') return this.closure(value, key, owner);
    if (this.isEmpty(value, key)) return '[]';
    if (typeof value !== 'object' || value === null) return writeData(value);
    const known = this.names.get(value) ?? this.made(value);
    if (known !== undefined) return known;
    const text = this.object(value, key);
    if ((this.seen.get(value) ?? 0) < 2 || text.length < 12) return text;
    const name = `part${this.names.size}`;
    this.names.set(value, name);
    this.before.push(`const ${name} = ${text};`);
    return name;
  }

  /** Whether a list has nothing in it, or nothing that a module reads there. */
  private isEmpty(value: unknown, key: string): boolean {
    if (!Array.isArray(value)) return false;
    if (value.length === 0) return true;
    if (UNREAD.has(key)) return value.every((test) => codeOf(test) !== undefined);
    return INLINED.has(key) && value.every(({ run, own }) => linesOf(run, own) !== undefined);
  }

  /** How an object is written that stands at a key, if there are enough with the same keys. */
  private kindOf(value: object, key: string): RowKind | undefined {
    const all = this.alikeOf.get(value);
    const keys = keysOf(value);
    if (!all || all.length < MANY || keys.length < MANY) return undefined;
    let kind = this.kinds.get(all);
    if (!kind) {
      const common = new Map(keys.map((one) => [one, this.mostCommon(all, one)]));
      const differs = (one: Plain, column: string) => this.plain(one[column], column) !== common.get(column);
      const columns = keys.filter((one) => all.filter((each) => differs(each, one)).length >= all.length * OFTEN);
      const name = this.rowNames.claim(`${key}Row`);
      const entries = [...common].map(([one, text]) => `${keyText(one)}: ${text}`);
      const made = [enclose('{ ', entries, ' }'), ...columns.map(writeData)].join(', ');
      this.before.push(`const ${name} = ${this.take('rows')}(${made});`);
      kind = { name, common, columns };
      this.kinds.set(all, kind);
    }
    return kind;
  }

  private mostCommon(all: readonly Plain[], key: string): string {
    const times = new Map<string, number>();
    for (const one of all) {
      const text = this.plain(one[key], key);
      if (text !== undefined) times.set(text, (times.get(text) ?? 0) + 1);
    }
    const [most] = [...times].sort((a, b) => b[1] - a[1]);
    return most && most[1] > 1 ? most[0] : 'null';
  }

  /** An object as a row: a value for each column, then what else it has of its own. */
  private row(value: Plain, { name, common, columns }: RowKind): string {
    const isCommon = (key: string) => this.plain(value[key], key) === common.get(key);
    const cells = columns.map((key) => this.value(value[key], key, value));
    const more = keysOf(value).flatMap((key) =>
      columns.includes(key) || isCommon(key) ? [] : `${keyText(key)}: ${this.value(value[key], key, value)}`,
    );
    if (more.length > 0) return enclose(`${name}(`, [...cells, enclose('{ ', more, ' }')], ')');
    let last = columns.length;
    while (last > 0 && isCommon(columns[last - 1])) last--;
    return enclose(`${name}(`, cells.slice(0, last), ')');
  }

  /** A value as text where that needs nothing else; undefined for others. */
  private plain(value: unknown, key: string): string | undefined {
    if (typeof value === 'number') return writeNumber(value);
    if (value === null || typeof value === 'boolean') return String(value);
    return this.isEmpty(value, key) ? '[]' : undefined;
  }

  private object(value: object, at = ''): string {
    if (value instanceof Uint8Array && value.length > FEW && value.every((one) => one <= 1)) return this.table(value);
    if (value instanceof Uint8Array || value instanceof Float64Array)
      return `${value.constructor.name}.of(${[...value].map(writeNumber).join(', ')})`;
    if (Array.isArray(value)) {
      const items = value.map((item) => this.value(item, at));
      return enclose('[', items, ']');
    }
    const given = isFormula(value)
      ? { ...(typeof value.source !== 'function' && { source: value.source }), ...(value.percent && { percent: true }) }
      : value;
    const kind = given === value ? this.kindOf(value, at) : undefined;
    if (kind) return this.row(value as Plain, kind);
    const entries = Object.entries(given).flatMap(([key, part]) =>
      isLeftOut(key, value) || part === undefined ? [] : `${keyText(key)}: ${this.value(part, key, value as Plain)}`,
    );
    return entries.length === 0 ? '{}' : enclose('{ ', entries, ' }');
  }

  /** A table that several have alike is written once. */
  private table(values: Uint8Array): string {
    const key = values.join('');
    let name = this.names.get(key);
    if (name === undefined) {
      name = `table${this.names.size}`;
      this.names.set(key, name);
      this.before.push(`const ${name} = ${this.take('markAt')}(${[values.length, ...indexesOf(values)].join(', ')});`);
    }
    return name;
  }

  private closure(run: object, key: string, owner: Plain): string {
    const isAction = key === 'run' && typeof owner.own === 'number';
    const body = isAction ? this.action(run, owner.own as number) : this.expression(run, key, owner);
    if (body !== undefined) return body;
    const made = this.made(run);
    if (made === undefined) throw new Unwritten();
    return made;
  }

  private action(run: object, own: number): string | undefined {
    const lines = linesOf(run, own);
    if (lines === undefined) return undefined;
    const [first, ...more] = this.printer.lines(lines).map(({ text }) => text);
    const head = asksNobody(lines) ? '({ r }) => {' : '(c, own, r = c.r) => {';
    if (more.length === 0) return `${head} ${first} }`;
    return [head, ...[first, ...more].map((line) => INDENT + line), '}'].join('\n');
  }

  private expression(run: object, key: string, owner: Plain): string | undefined {
    const code = codeOf(run);
    if (code === undefined) return undefined;
    const result = key === 'run' ? js`{ ${to(owner.at as number)} = ${code}; }` : code;
    const given = key === 'aim' ? 'aimed' : 'what';
    const needsAll = key === 'aim' || !asksNobody([code]);
    const head = needsAll ? `c, ${given}, r = c.r` : key === 'happens' ? `{ r }, ${given}` : '{ r }';
    return `(${head}) => ${this.printer.text(result)}`;
  }

  /** Something of the library. */
  private take(name: string): string {
    this.printer.uses.add(name);
    return name;
  }

  /** What a recipe makes, or a part of it. */
  private made(thing: object): string | undefined {
    const made = madeBy(thing);
    if (!made) return undefined;
    const whole = this.recipe(made.recipe);
    return made.part === null ? whole : `${whole}.${made.part}`;
  }

  /** What tools are beside functions: the same for all effects. */
  private base(base: Plain): string {
    const text = this.object(base);
    const known = this.names.get(text) ?? `tools${this.names.size}`;
    if (!this.names.has(text)) this.before.push(`const ${known} = ${text};`);
    this.names.set(text, known);
    return known;
  }

  private recipe(recipe: Recipe): string {
    const known = this.names.get(recipe);
    if (known !== undefined) return known;
    const name = `made${this.names.size}`;
    this.names.set(recipe, name);
    const { make, args, base, answers, lists } = recipe;
    this.take(make.split('.')[0]);
    const written = (value: unknown) => this.value(value, '');
    const tools = [
      this.base(base),
      written(answers),
      ...(lists ? ['{ addGuard: guards, addSummoning: summonings }'] : []),
    ];
    this.before.push(
      `const ${name} = ${make}(${[...args.map(written), `${this.take('answered')}(${tools.join(', ')})`].join(', ')});`,
    );
    return name;
  }
}
