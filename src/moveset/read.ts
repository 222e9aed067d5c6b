import { isPlain } from '../report/arguments.js';
import type { Path, Sink } from '../report/diagnostic.js';
import { FAULTS } from '../report/faults.js';
import { describe, withArticle } from '../report/words.js';
import { type Node, type ParsedFormula, parseFormula, QUOTE_IT } from './formula.js';
import {
  type FieldsShape,
  type FormulaShape,
  formula,
  type ListShape,
  type MapShape,
  type NameKind,
  type NameShape,
  type Needed,
  name,
  type Read,
  type Shape,
} from './shape.js';
import { LONGEST_SECONDS, parseTime } from './time.js';

export { isPlain } from '../report/arguments.js';

/** The names a definition declares, by kind; for each, the keys in their order. */
export type Names = Record<NameKind, readonly string[]>;

/**
 * Checks `value` against `shape`, reports every fault to `sink`, and returns it normalised: times
 * as ticks, `orOne` lists as lists, formulas as {@link ParsedFormula}. What was faulty is undefined.
 */
export function read<S extends Shape>(
  shape: S,
  value: unknown,
  path: Path,
  names: Names,
  rate: number,
  sink: Sink,
  /** Names may be declared elsewhere. */
  open = false,
): Read<S> | undefined {
  const known = new Map(Object.entries(names).map(([kind, list]) => [kind as NameKind, new Set(list)]));
  const around: FieldsShape[] = [];
  return readAny(shape, value, path) as Read<S> | undefined;

  function readAny(shape: Shape, value: unknown, path: Path): unknown {
    switch (shape.kind) {
      case 'number': {
        if (typeof value !== 'number' || Number.isNaN(value))
          return wrong(path, shape.whole ? 'a whole number' : 'a number', value);
        if (value < shape.min || value > shape.max || (shape.whole && !Number.isInteger(value)))
          return void sink.add('out-of-range', path, {
            value,
            min: shape.min,
            max: shape.max,
            whole: shape.whole,
          });
        return value;
      }
      case 'formula':
        return readFormula(shape, value, path);
      case 'time':
        if (shape.formula && isTimeFormula(value)) return readFormula(formula('time'), value, path);
        return readTime(shape.min, value, path);
      case 'text':
        if (typeof value !== 'string') return wrong(path, shape.expected ?? 'text', value);
        if (shape.pattern && !shape.pattern.test(value))
          return void sink.add('bad-text', path, { value, expected: shape.expected });
        return value;
      case 'truth':
        return typeof value === 'boolean' ? value : wrong(path, 'true or false', value);
      case 'data':
        return readData(value, path);
      case 'word':
        if (shape.of.includes(value as string)) return value;
        return void sink.add('unknown-name', path, {
          value,
          what: shape.what ?? 'word',
          known: shape.of,
          hint: typeof value === 'string' ? shape.hint?.(value) : undefined,
        });
      case 'name':
        return readName(shape, value, path, 'value');
      case 'list': {
        if (shape.orOne && !Array.isArray(value)) return [readAny(shape.of, value, path)];
        if (!Array.isArray(value)) return wrong(path, 'a list', value, [], asList(shape, value));
        const { min = 0, max = MOST_ENTRIES } = shape;
        if (value.length < min || value.length > max) sink.add('wrong-count', path, { count: value.length, min, max });
        return value.slice(0, max).map((item, i) => readAny(shape.of, item, [...path, i]));
      }
      case 'map': {
        if (!isPlain(value)) return wrong(path, 'a map of names', value, namesFor(shape), asMap(shape, value));
        const out: Record<string, unknown> = {};
        const { min = 0, max = MOST_ENTRIES } = shape;
        const count = Object.keys(value).length;
        if (count < min || count > max) sink.add('wrong-count', path, { count, min, max });
        for (const key of Object.keys(value)) {
          const at = [...path, key];
          const isKnown =
            shape.keys === 'new'
              ? checkNewName(key, at)
              : shape.keys === 'code'
                ? checkCode(key, at)
                : readName(name(shape.keys), key, at, 'key');
          const item = readAny(shape.of, value[key], at);
          if (isKnown) out[key] = item;
        }
        return out;
      }
      case 'fields':
        return readFields(shape, value, path);
      case 'either': {
        if (Array.isArray(value) && shape.list) return readAny(shape.list, value, path);
        if (isPlain(value) && shape.fields) return readAny(shape.fields, value, path);
        if (shape.plain?.kind === 'truth' && typeof value === 'string')
          return wrong(path, 'true or false', value, [], shape.list && asList(shape.list, value));
        if (shape.plain) return readAny(shape.plain, value, path);
        return readAny((shape.fields ?? shape.list) as Shape, value, path);
      }
    }
  }

  /** Of a key that what stands around has. */
  function whereElse(key: string): string | undefined {
    const owner = around.findLast(({ fields }) => Object.hasOwn(fields, key));
    return owner && `It is a key of ${owner.title}: write it there, not here.`;
  }

  function readFields(shape: FieldsShape, value: unknown, path: Path): unknown {
    if (!isPlain(value)) return wrong(path, shape.title, value, Object.keys(shape.fields), bareOf(shape.bare, value));
    const out: Record<string, unknown> = {};
    const known = Object.keys(shape.fields);
    for (const key of Object.keys(value)) {
      const field = Object.hasOwn(shape.fields, key) ? shape.fields[key] : undefined;
      if (!field) {
        if (value[key] === null && isCutByComma(path)) continue;
        const own = shape.elsewhere && Object.hasOwn(shape.elsewhere, key) ? shape.elsewhere[key] : undefined;
        const hint =
          key === '<<'
            ? 'Merge keys are not read: repeat the keys, or use "include".'
            : (own ?? (isSlip(key, known) ? undefined : (shape.wayOf?.(key) ?? whereElse(key))));
        sink.add('unknown-key', [...path, key], { key, title: shape.title, known, hint }, { on: 'key' });
      } else if (value[key] !== undefined) {
        around.push(shape);
        out[key] = readAny(field.shape, value[key], [...path, key]);
        around.pop();
      }
    }
    for (const [key, field] of Object.entries(shape.fields)) {
      if (field.required && value[key] === undefined && value[shape.unless ?? ''] === undefined)
        sink.add('missing-key', path, { key, title: shape.title, doc: field.doc }, { on: 'key' });
    }
    for (const [key, needed] of Object.entries(shape.needs ?? {}))
      if (value[key] !== undefined && !hasNeeded(value, needed) && Object.hasOwn(shape.fields, key))
        sink.add(
          'missing-key',
          [...path, key],
          { key: needed.key, doc: needed.doc, title: `${describe(key)} of ${shape.title}` },
          { on: 'key' },
        );
    const { some } = shape;
    if (some && !some.keys.some((key) => value[key] !== undefined))
      sink.add('missing-key', path, { key: some.keys[0], title: shape.title, doc: some.doc }, { on: 'key' });
    if (shape.oneOf) {
      const present = shape.oneOf.filter((key) => value[key] !== undefined);
      if (present.length !== 1) sink.add('one-of-keys', path, { keys: shape.oneOf, present, title: shape.title });
      else if (shape.together) checkTogether(shape.together, present[0], Object.keys(out), path);
    }
    return out;
  }

  /** Keys that only go with another kind than the one that is there. */
  function checkTogether(together: NonNullable<FieldsShape['together']>, kind: string, keys: string[], path: Path) {
    for (const key of keys) {
      const owners = Object.keys(together).filter((owner) => together[owner].includes(key));
      if (owners.length === 0 || owners.includes(kind)) continue;
      const why = `it belongs to ${owners.map((owner) => `"${owner}"`).join(', ')}, not to "${kind}"`;
      sink.add('pointless-key', [...path, key], { key, why }, { on: 'key' });
    }
  }

  /** Whether a formula of this map was cut by a comma: its rest looks like keys without values. */
  function isCutByComma(path: Path): boolean {
    const last = sink.list.at(-1);
    return last?.code === 'formula-syntax' && last.params.hint === QUOTE_IT && last.path.length === path.length + 1;
  }

  function readFormula(shape: FormulaShape, value: unknown, path: Path): ParsedFormula | undefined {
    const { min, max, gives } = shape;
    const parsed = (source: ParsedFormula['source'], percent = false): ParsedFormula => ({
      source,
      percent,
      ...(min !== undefined && !(percent && !shape.share) && { min }),
      ...(max !== undefined && !(percent && !shape.share) && { max }),
      path,
    });
    if (typeof value === 'function' && !shape.fixed) return parsed(value as ParsedFormula['source']);
    if (typeof value === 'string') {
      const percent = /^\s*(\d+(?:\.\d+)?)\s*%\s*$/.exec(value);
      if (!percent && shape.fixed) return void wrong(path, 'a number or a percentage', value);
      if (!percent) return { ...parsed(value), node: parse(value, path) };
      if (!shape.percent)
        return void wrong(
          path,
          `${gives === 'truth' ? 'a condition' : gives === 'time' ? 'a time or a formula' : gives === 'value' ? 'a number, a time or a formula' : 'a number or a formula'}, not a percentage`,
          value,
        );
      const most = shape.share ? 100 : MOST_PERCENT;
      if (Number(percent[1]) > most) return void sink.add('out-of-range', path, { value, min: '0%', max: `${most}%` });
      return parsed(Number(percent[1]) / 100, true);
    }
    if (gives === 'truth') {
      return typeof value === 'boolean' ? parsed(value) : void wrong(path, 'a condition', value);
    }
    if (gives === 'time') return void wrong(path, 'a time or a formula', value);
    if (typeof value !== 'number' || Number.isNaN(value)) return void wrong(path, 'a number or a formula', value);
    const [low, high] = [min ?? -MOST, max ?? MOST];
    if (value < low || value > high || (shape.whole && !Number.isInteger(value)))
      return void sink.add('out-of-range', path, { value, min: low, max: high, whole: shape.whole });
    return parsed(value);
  }

  function parse(text: string, path: Path): Node | undefined {
    const result = parseFormula(text);
    if ('node' in result) return result.node;
    const { fault } = result;
    const span = [fault.from, fault.to] as const;
    if (fault.code === 'formula-depth') sink.add(fault.code, path, fault.params, { span });
    else sink.add(fault.code, path, fault.params, { span });
    return undefined;
  }

  /** What is no time as it is written, and does not look like one that is misspelt. */
  function isTimeFormula(value: unknown): boolean {
    if (typeof value === 'function') return true;
    return typeof value === 'string' && parseTime(value, rate) === undefined && !LIKE_A_TIME.test(value);
  }

  /** As JSON, so that nothing takes it for a part of the moveset, and whoever reads it has one of their own. */
  function readData(value: unknown, path: Path): string | undefined {
    const before = sink.list.length;
    if (!isPlain(value)) return wrong(path, 'a map of plain data', value);
    const count = checkData(value, path, 0);
    if (count > MOST_DATA) sink.add('wrong-count', path, { count, min: 0, max: MOST_DATA });
    return sink.list.length > before ? undefined : JSON.stringify(value);
  }

  /** Counts the values of what should be plain data. */
  function checkData(value: unknown, path: Path, depth: number): number {
    if (typeof value === 'string' || typeof value === 'boolean' || value === null || Number.isFinite(value)) return 1;
    if (!Array.isArray(value) && !(isPlain(value) && [Object.prototype, null].includes(Object.getPrototypeOf(value)))) {
      wrong(path, 'plain data', value);
      return 1;
    }
    if (depth > DEEPEST_DATA) {
      sink.add('too-deep', path, { limit: DEEPEST_DATA });
      return 1;
    }
    let count = 1;
    for (const [key, part] of Object.entries(value)) {
      if (count > MOST_DATA) break;
      if (part === undefined && !Array.isArray(value)) continue;
      count += checkData(part, [...path, Array.isArray(value) ? Number(key) : key], depth + 1);
    }
    return count;
  }

  function readTime(min: number, value: unknown, path: Path): number | undefined {
    const ticks = typeof value === 'string' ? parseTime(value, rate) : undefined;
    if (ticks === undefined) return void sink.add('bad-time', path, { value });
    const max = LONGEST_SECONDS * rate;
    const whole = Math.round(ticks);
    if (whole < min || whole > max)
      return void sink.add('time-range', path, { value, min, longest: `${LONGEST_SECONDS}s` });
    if (whole !== ticks) sink.add('time-rounded', path, { value, ticks: whole, rate }, { severity: 'warning' });
    return whole;
  }

  function readName(shape: NameShape, value: unknown, path: Path, on: 'key' | 'value'): string | undefined {
    const { of, words = [], calls = {} } = shape;
    if (typeof value !== 'string') return wrong(path, `the name of ${of.map(withArticle).join(' or ')}`, value);
    if (words.includes(value) || of.some((kind) => known.get(kind)?.has(value))) return value;
    const call = /^(\w+)\(([\w.]+)\)$/.exec(value);
    const takes = call && Object.hasOwn(calls, call[1]) ? calls[call[1]] : undefined;
    if (call && takes && (takes.words?.includes(call[2]) || takes.of.some((kind) => known.get(kind)?.has(call[2]))))
      return value;
    if (open && (isName(value) || (call && takes))) return value;
    const all = namesOf(shape, names);
    // Values of messages are told of only where there are any.
    const told = of.filter((kind) => !kind.includes(' ') || names[kind].length > 0);
    const what = [...told, ...(words.length > 0 ? ['word'] : [])].join(' or ');
    const form = all.length === 0 && isName(value) ? DECLARED[of[0]] : undefined;
    const hint = form && `Declare it in the moveset: ${form.replace('_', () => value)}.`;
    sink.add('unknown-name', path, { value, what, known: all, ...(hint && { hint }) }, { on });
    return undefined;
  }

  function checkCode(key: string, path: Path): boolean {
    if (Object.hasOwn(FAULTS, key)) return true;
    sink.add('unknown-name', path, { value: key, what: 'warning', known: Object.keys(FAULTS) }, { on: 'key' });
    return false;
  }

  function checkNewName(key: string, path: Path): boolean {
    if (isName(key)) return true;
    sink.add('bad-name', path, { value: key }, { on: 'key' });
    return false;
  }

  /** The names that the keys of a map may be. */
  function namesFor({ keys }: MapShape): readonly string[] {
    return keys === 'new' || keys === 'code' ? [] : names[keys];
  }

  function wrong(
    path: Path,
    expected: string,
    value: unknown,
    known: readonly string[] = [],
    hint?: string,
  ): undefined {
    sink.add('wrong-type', path, { expected, found: describe(value), known, ...(hint && { hint }) });
    return undefined;
  }

  /** How to write a map, for who wrote a number alone: with the first of the names that it may have. */
  function asMap(shape: MapShape, value: unknown): string | undefined {
    const [first] = namesFor(shape);
    return first !== undefined && typeof value === 'number' ? `Write { ${first}: ${value} }.` : undefined;
  }
}

/** How names are declared, where a moveset has none of the kind. */
const DECLARED: Partial<Record<NameKind, string>> = {
  pool: 'pools: { _: { max: 9 } }',
  button: 'inputs: { _: { button: KeyF } }',
  stick: 'inputs: { _: { stick: { left: KeyA, right: KeyD } } }',
  event: 'events: [_]',
  kind: 'kinds: [_]',
  summon: 'summons: [_]',
  target: 'targets: { _: { reach: 8 } }',
  place: 'places: [_]',
  surface: 'surfaces: [_]',
  mark: 'marks: { _: {} }',
  probe: 'probes: { _: { ray: [1, 0] } }',
  condition: 'conditions: { _: grounded }',
};

/** What was meant as a time, and is no formula. */
export const LIKE_A_TIME = /^\s*[\d.]+\s*\w*\s*$/;

/** How many entries a list may have where its place says nothing else. */
const MOST_ENTRIES = 10_000;
/** How many values there may be in plain data, and how deep they may nest. */
const MOST_DATA = 1000;
const DEEPEST_DATA = 8;
/** What a number may be where its place says nothing else. */
export const MOST = 1e6;
/** The largest factor, as a percentage. */
const MOST_PERCENT = 10_000;

/** Everything that a name can be, with the names of a moveset. */
export function namesOf({ of, words = [], calls = {} }: NameShape, names: Names): string[] {
  const called = Object.entries(calls).flatMap(([word, of]) => namesOf(of, names).map((name) => `${word}(${name})`));
  return [...new Set([...of.flatMap((kind) => names[kind]), ...words, ...called])];
}

/** Words of formulas, and of JavaScript's objects, that cannot be names. */
export const RESERVED: ReadonlySet<string> = new Set(['and', 'or', 'not', 'true', 'false', 'constructor', 'prototype']);

/** Names begin with a letter and go on with letters, digits and underscores. */
export const NAME = new RegExp(`^(?!(?:${[...RESERVED].join('|')})$)[A-Za-z][A-Za-z0-9_]{0,63}$`);

export function isName(key: string): boolean {
  return NAME.test(key);
}

/** Whether a key is one of `known` but for an `s` at its end. */
function isSlip(key: string, known: readonly string[]): boolean {
  return known.includes(`${key}s`) || (key.endsWith('s') && known.includes(key.slice(0, -1)));
}

/** How to write what was given without its key. */
function bareOf(form: string | undefined, value: unknown): string | undefined {
  const isList = Array.isArray(value);
  const isOne = typeof value === 'number' || (typeof value === 'string' && isName(value));
  if (form === undefined || !(isList || isOne) || form.includes('[_]') !== isList) return undefined;
  return `Write ${form.replace('_', () => (isList ? '...' : String(value)))}.`;
}

/** How to write a list, for who wrote a name alone, or a map of its items. */
function asList(shape: ListShape, value: unknown): string | undefined {
  const names = ['name', 'text', 'word'].includes(shape.of.kind);
  if (names && typeof value === 'string' && isName(value)) return `Write [${value}].`;
  const item = shape.of.kind === 'fields' ? shape.of : undefined;
  if (!isPlain(value) || !item) return undefined;
  return Object.hasOwn(item.fields, 'name')
    ? 'Write a list of them in their order, as in [{ name: first }, { name: second }].'
    : 'Write a list of them, as in [{ ... }].';
}

/** Whether the key is there that another one needs. */
export function hasNeeded(value: Record<string, unknown>, { key, or = key }: Needed): boolean {
  return value[key] !== undefined || value[or] !== undefined;
}

/** An empty set of names, to be filled by whoever collects them. */
export function noNames(): Record<NameKind, string[]> {
  return {
    pool: [],
    button: [],
    stick: [],
    aim: [],
    choice: [],
    place: [],
    mark: [],
    surface: [],
    probe: [],
    lane: [],
    stance: [],
    ability: [],
    event: [],
    shape: [],
    tag: [],
    loadout: [],
    condition: [],
    kind: [],
    summon: [],
    target: [],
    'point value': [],
    'blow point': [],
    'direction value': [],
  };
}
