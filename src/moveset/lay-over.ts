import type { Path, Sink } from '../report/diagnostic.js';
import { describe } from '../report/words.js';
import { isPlain } from './read.js';
import type { FieldsShape, Shape } from './shape.js';

type Plain = Record<string, unknown>;

/**
 * What is said of something over what was said of it before, as both were written. Maps are merged, all else is replaced. Where a map says
 * of another kind than before what it is, the keys of the former kind go. A map over a list of named things changes those it names.
 */
export function layOver(shape: Shape | undefined, under: unknown, over: unknown, path: Path, sink: Sink): unknown {
  if (over === undefined) return under;
  if (Array.isArray(under) && isPlain(over) && shape?.kind === 'list' && shape.named)
    return layOverItems(shape.of, under, over, path, sink);
  if (!isPlain(under) || !isPlain(over)) return over;
  const inner = mapOf(shape);
  const base = inner?.kind === 'fields' ? ofSameKind(inner, under, over) : under;
  const out: Plain = Object.create(null);
  // What was there stands first, so that the stances of a file which includes others come last: one of them always holds.
  for (const key of new Set([...Object.keys(base), ...Object.keys(over)])) {
    const own = inner?.kind === 'map' ? inner.of : inner?.fields[key]?.shape;
    out[key] = layOver(own, ownOf(base, key), ownOf(over, key), [...path, key], sink);
  }
  return out;
}

/** What a map has under a key: a name may be one that all objects have, such as `toString`. */
function ownOf(map: Plain, key: string): unknown {
  return Object.hasOwn(map, key) ? map[key] : undefined;
}

/** What a shape says of a map. */
function mapOf(shape: Shape | undefined) {
  const inner = shape?.kind === 'either' ? shape.fields : shape;
  return inner?.kind === 'fields' || inner?.kind === 'map' ? inner : undefined;
}

/** Without what only goes with the kind that it no longer is. */
function ofSameKind({ oneOf = [], together = {} }: FieldsShape, under: Plain, over: Plain): Plain {
  const kind = oneOf.find((key) => over[key] !== undefined);
  if (kind === undefined || under[kind] !== undefined) return under;
  const strange = (key: string) =>
    oneOf.includes(key) ||
    (!together[kind]?.includes(key) && Object.values(together).some((keys) => keys.includes(key)));
  return Object.fromEntries(Object.entries(under).filter(([key]) => !strange(key)));
}

/** The place of an item in a list: by its name, or from 1 on where it has none; -1 if it is not there. */
export function placeOfItem(list: readonly unknown[], name: string): number {
  return list.findIndex((item, i) => nameOfItem(item, i) === name);
}

export function nameOfItem(item: unknown, i: number): string {
  return isPlain(item) && typeof item.name === 'string' ? item.name : String(i + 1);
}

function layOverItems(shape: Shape, under: readonly unknown[], over: Plain, path: Path, sink: Sink): unknown[] {
  const out = [...under];
  for (const [name, item] of Object.entries(over)) {
    const at = placeOfItem(under, name);
    if (at >= 0) out[at] = layOver(shape, under[at], item, [...path, name], sink);
    else
      sink.add(
        'unknown-name',
        [...path, name],
        { value: name, what: 'phase', known: under.map(nameOfItem) },
        { on: 'key' },
      );
  }
  return out;
}

/** What is said without some parts of it, each told by its keys with points between; `what` and `example` are for faults. */
export function leaveOut(
  said: unknown,
  without: unknown,
  at: Path,
  { what, example, known }: { readonly what: string; readonly example: string; readonly known: readonly string[] },
  sink: Sink,
): unknown {
  let left = said;
  for (const [i, part] of [without].flat().entries()) {
    if (part === undefined) continue;
    const here = Array.isArray(without) ? [...at, i] : at;
    const taken = typeof part === 'string' ? takeOut(left, part.split('.')) : undefined;
    if (taken) left = taken.left;
    else if (typeof part === 'string') sink.add('unknown-name', here, { value: part, what, known });
    else sink.add('wrong-type', here, { expected: `the keys of a part, as in ${example}`, found: describe(part) });
  }
  return left;
}

/** How many steps of a path lead to something. */
export function depthOf(value: unknown, path: Path): number {
  let at = value;
  for (const [i, part] of path.entries()) {
    if (typeof at !== 'object' || at === null || !Object.hasOwn(at, part)) return i;
    at = (at as Plain)[part];
  }
  return path.length;
}

/** Whether something stands at a path. */
export function isThere(value: unknown, path: Path): boolean {
  return depthOf(value, path) === path.length;
}

/** Takes out what some keys with points between lead to; whether it was there. Nothing that is given is changed. */
function takeOut(part: unknown, [key, ...rest]: readonly string[]): { left: unknown } | undefined {
  if (Array.isArray(part)) {
    const at = part.includes(key) ? part.indexOf(key) : placeOfItem(part, key);
    if (at < 0) return undefined;
    if (rest.length === 0) return { left: part.filter((_, i) => i !== at) };
    const inner = takeOut(part[at], rest);
    return inner && { left: part.map((item, i) => (i === at ? inner.left : item)) };
  }
  if (!isPlain(part) || !Object.hasOwn(part, key)) return undefined;
  const { [key]: taken, ...others } = part;
  if (rest.length === 0) return { left: others };
  const inner = takeOut(taken, rest);
  return inner && { left: { ...part, [key]: inner.left } };
}
