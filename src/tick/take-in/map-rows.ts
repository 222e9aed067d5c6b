import type { Plan } from '../../compile/plan.js';
import type { NameKind } from '../../moveset/shape.js';
import { ROW, SHAPES } from './door-rows.js';

/** New names for old ones. */
export type Renamed = Readonly<Record<string, string>>;

/** The index in one moveset of what has an index in another, by its name; -1 for what is gone. */
export function mapIndex(from: Plan, to: Plan, kind: NameKind, index: number, renamed: Renamed): number {
  const name = from.names[kind][index];
  return name === undefined ? -1 : indexOfWas(to, kind, name, renamed);
}

/** The index of a name, or of what it is called now; -1 for what is gone. */
export function indexOfWas(to: Plan, kind: NameKind, name: string, renamed: Renamed): number {
  const { indexes } = to;
  const is = indexes[kind].get(name);
  if (is !== undefined) return is;
  return indexes[kind].get(nameNow(name, renamed)) ?? -1;
}

/** What a name is called now: also a side of a stick, or an option. */
export function nameNow(name: string, renamed: Renamed): string {
  const own = Object.hasOwn(renamed, name) ? renamed[name] : undefined;
  if (own !== undefined) return own;
  const dot = name.indexOf('.');
  const first = dot < 0 ? '' : name.slice(0, dot);
  return dot >= 0 && Object.hasOwn(renamed, first) ? renamed[first] + name.slice(dot) : name;
}

/** Whether the values of an event stand in the same places in two movesets. */
export function sameValues(from: Plan, event: number, to: Plan, now: number): boolean {
  return JSON.stringify(from.messages[event].values) === JSON.stringify(to.messages[now].values);
}

/** Rows of the door of one moveset as another one has them, by their names; what is gone is left out. */
export function mapRows(from: Plan, to: Plan, rows: readonly (readonly number[])[], renamed: Renamed): number[][] {
  let values = true;
  return rows.flatMap((row): number[][] => {
    const [kind, what, ...numbers] = row;
    if (kind === ROW.values) return values ? [[...row]] : [];
    if (kind === ROW.groundSurfaces) return [[kind, what, mapSurfaces(from, to, numbers[0], renamed), 0, 0]];
    const { of } = SHAPES[kind];
    if (of === null) return [[...row]];
    const index = mapIndex(from, to, of, what, renamed);
    if (kind === ROW.event) values = index >= 0 && sameValues(from, what, to, index);
    return index < 0 ? [] : [[kind, index, ...numbers]];
  });
}

/** Bits of surfaces, one for each in the order of their declaration. */
export function mapSurfaces(from: Plan, to: Plan, bits: number, renamed: Renamed): number {
  let mapped = 0;
  from.names.surface.forEach((_, i) => {
    const index = bits & (1 << i) ? mapIndex(from, to, 'surface', i, renamed) : -1;
    if (index >= 0) mapped |= 1 << index;
  });
  return mapped;
}
