import { isPlain } from '../moveset/read.js';
import type { Path } from '../report/diagnostic.js';
import { nearestName } from '../report/nearest.js';
import { describe } from '../report/words.js';

/** Most values of one number. */
const MOST = 100_000;
/** How many values a range has that does not say. */
const USUAL = 11;

/** A number of a moveset or a scenario that is varied. Plain data. */
export interface Varied {
  /** As it was asked for. */
  readonly text: string;
  readonly of: 'moveset' | 'scenario';
  readonly path: Path;
  /** What is written there, one after the other. */
  readonly values: readonly (number | string)[];
  /** The same as numbers, to be plotted; of words, their places. */
  readonly numbers: readonly number[];
  /** `s`, `ms`, `f`, `%`, or nothing. */
  readonly unit: string;
  /** What is written there now; undefined where nothing is. */
  readonly present: unknown;
}

/** A text like `abilities.galeDash.phases.go.move.speed=10..30/21` that cannot be understood: why, in a sentence. */
export class VaryFault extends Error {}

/**
 * Reads what is to be varied.
 * @param text A path, `=`, and a range (`10..30/21`: so many values), a list (`10,12,20`), or either in percent of what is there.
 * @param moveset The moveset, as data.
 * @param scenario The scenario, as data.
 */
export function readVaried(text: string, moveset: unknown, scenario: unknown): Varied {
  const at = text.indexOf('=');
  if (at <= 0)
    throw new VaryFault(
      `"${text}" says no values: write the path of a number, "=", and values, like "pools.wind.max=10..30/5".`,
    );
  const written = text.slice(0, at).trim();
  const [, where, name] = /^(?:(moveset|scenario):)?(.*)$/s.exec(written) as RegExpExecArray;
  const parts = name.split(/[.[\]]+/).filter(Boolean);
  const own = where === 'scenario' ? undefined : walk(moveset, parts);
  const found = own ?? (where === 'moveset' ? undefined : walk(scenario, parts));
  if (!found)
    throw new VaryFault(
      notThere(written, parts, where === 'scenario' ? scenario : moveset, where ?? 'moveset, nor in the scenario'),
    );
  const values = readValues(text.slice(at + 1).trim(), found.value, written);
  return { text, of: own ? 'moveset' : 'scenario', path: found.path, present: found.value, ...values };
}

/** What a part of a path leads to: an entry of a list by its name, or by its place from 0 on. */
function stepInto(
  value: unknown,
  part: string,
): { readonly key: string | number; readonly value: unknown } | undefined {
  if (Array.isArray(value)) {
    const named = value.findIndex((item) => isPlain(item) && item.name === part);
    const key = named >= 0 ? named : /^\d+$/.test(part) ? Number(part) : -1;
    return key >= 0 && key < value.length ? { key, value: value[key] } : undefined;
  }
  return isPlain(value) && Object.hasOwn(value, part) ? { key: part, value: value[part] } : undefined;
}

/** The path that a text means, with what is there. */
function walk(data: unknown, parts: readonly string[]): { path: Path; value: unknown } | undefined {
  let value: unknown = data;
  const path: (string | number)[] = [];
  for (const [i, part] of parts.entries()) {
    const next = stepInto(value, part);
    // What is not written yet may be varied, too, in a part that is.
    if (!next && !(isPlain(value) && i > 0 && i === parts.length - 1)) return undefined;
    path.push(next?.key ?? part);
    value = next?.value;
  }
  return parts.length === 0 ? undefined : { path, value };
}

/** The first step that is not there, and what there is instead. */
function notThere(written: string, parts: readonly string[], data: unknown, of: string): string {
  let value: unknown = data;
  for (const [i, part] of parts.entries()) {
    const next = stepInto(value, part);
    if (next) {
      value = next.value;
      continue;
    }
    const known = Array.isArray(value)
      ? value.map((item, k) => (isPlain(item) && typeof item.name === 'string' ? item.name : String(k)))
      : Object.keys(isPlain(value) ? value : {});
    const where = i === 0 ? `at the top of the ${of}` : `in ${parts.slice(0, i).join('.')}`;
    const nearest = nearestName(part, known);
    const all = known.length > 0 ? `There are ${known.slice(0, 12).join(', ')}.` : '';
    return `There is no "${part}" ${where}, so "${written}" cannot be varied. ${nearest ? `Did you mean "${nearest}"?` : all}`.trim();
  }
  return `"${written}" is ${describe(value)}; only a number, a time or a word can be varied.`;
}

const NUMBER = /^(-?(?:\d+(?:\.\d+)?|\.\d+))\s*(s|ms|f|%)?$/;

function readValues(text: string, present: unknown, written: string): Pick<Varied, 'values' | 'numbers' | 'unit'> {
  if (text === '')
    throw new VaryFault(`"${written}=" has no values: write a range like 10..30/21, or a list like 10,12,20.`);
  if (typeof present === 'object' && present !== null)
    throw new VaryFault(`"${written}" is ${describe(present)}; name one of the numbers within it.`);
  const range = /^(.+?)\.\.(.+?)(?:\/(\d+))?$/.exec(text);
  const there = NUMBER.exec(String(present ?? ''));
  if (range) {
    const [from, to] = [one(range[1], written), one(range[2], written)];
    const unit = from.unit || to.unit;
    if ((from.unit || unit) !== (to.unit || unit))
      throw new VaryFault(`The range of "${written}" goes from ${from.unit} to ${to.unit}; write both in one unit.`);
    const count = Number(range[3] ?? USUAL);
    if (count < 2 || count > MOST)
      throw new VaryFault(`The range of "${written}" has ${count} values; it can have 2 to ${MOST}.`);
    const steps = Array.from({ length: count }, (_, i) => from.value + ((to.value - from.value) * i) / (count - 1));
    return unify(steps, unit, there, written);
  }
  const items = text.split(',').map((item) => item.trim());
  if (items.length > MOST) throw new VaryFault(`"${written}" has ${items.length} values; it can have up to ${MOST}.`);
  const numbers = items.map((item) => NUMBER.exec(item));
  if (numbers.every((number) => number)) {
    const units = new Set(numbers.map((number) => number?.[2] ?? ''));
    if (units.size > 1) throw new VaryFault(`The values of "${written}" are in several units; write all in one.`);
    return unify(
      numbers.map((number) => Number(number?.[1])),
      [...units][0],
      there,
      written,
    );
  }
  // Words, such as the curves of a charge.
  return { values: items, numbers: items.map((_, i) => i), unit: '' };
}

function one(text: string, written: string): { value: number; unit: string } {
  const found = NUMBER.exec(text.trim());
  if (!found)
    throw new VaryFault(`"${text.trim()}" is no number for "${written}": write one like 12, 0.5s, 8f or 80%.`);
  return { value: Number(found[1]), unit: found[2] ?? '' };
}

/** Numbers as they are to be written: shares of what is there, in its unit. */
function unify(
  given: readonly number[],
  unit: string,
  there: RegExpExecArray | null,
  written: string,
): Pick<Varied, 'values' | 'numbers' | 'unit'> {
  const own = there?.[2] ?? '';
  let numbers = given;
  let shown = unit;
  // Where a percentage is written, a percentage is a value; elsewhere it is a share of what is written.
  if (unit === '%' && own !== '%') {
    if (!there) throw new VaryFault(`"${written}" has no number that a percentage could be of; write plain values.`);
    numbers = given.map((share) => (share / 100) * Number(there[1]));
    shown = own;
  } else if (unit === '') shown = own;
  const exact = numbers.map((number) => (shown === 'f' ? Math.round(number) : Number(number.toPrecision(12))));
  const once = [...new Set(exact)];
  return { values: once.map((number) => (shown === '' ? number : `${number}${shown}`)), numbers: once, unit: shown };
}

/** A copy of data with another value at a path; what is beside the path is shared. */
export function withValue(data: unknown, path: Path, value: unknown): unknown {
  const [step, ...rest] = path;
  if (step === undefined) return value;
  if (Array.isArray(data)) return data.map((item, i) => (i === step ? withValue(item, rest, value) : item));
  const given = (data ?? {}) as Record<string, unknown>;
  return { ...given, [step]: withValue(given[step], rest, value) };
}
