import type { Path } from '../report/diagnostic.js';
import type { Plan } from './plan.js';

/** A place in a file; line and column from 1 on. */
export interface TextPlace {
  readonly file: string;
  readonly line: number;
  readonly column: number;
}

/** What a plan was made of, as far as that is known. */
export interface Origin {
  /** The moveset as data, with what it includes; undefined for a packed one and for a module. */
  readonly source?: unknown;
  readonly files?: readonly string[];
  readonly texts?: readonly string[];
  readonly placeOf?: (path: Path) => TextPlace | undefined;
}

const ORIGINS = new WeakMap<Plan, Origin>();

/** Notes more of it. */
export function noteOrigin(plan: Plan, more: Origin): void {
  ORIGINS.set(plan, { ...ORIGINS.get(plan), ...more });
}

export function originOf(plan: Plan): Origin {
  return ORIGINS.get(plan) ?? {};
}

/** The same as plain data. */
export interface OriginData {
  readonly source?: unknown;
  readonly files?: readonly string[];
  readonly texts?: readonly string[];
  /** By paths as JSON: the index of the file, the line, the column. */
  readonly places?: Readonly<Record<string, readonly [number, number, number]>>;
}

/** What a plan was made of as plain data, with other names for its files; nothing where it has functions, or is not known. */
export function writeOrigin(plan: Plan, nameOf: (file: string) => string = (file) => file): OriginData {
  const { source, files, texts, placeOf } = originOf(plan);
  if (source === undefined || holdsFunctions(source)) return {};
  if (!files || !placeOf) return { source };
  const places: Record<string, [number, number, number]> = {};
  for (const path of pathsOf(source)) {
    const at = placeOf(path);
    if (at) places[JSON.stringify(path)] = [files.indexOf(at.file), at.line, at.column];
  }
  return { source, files: files.map(nameOf), texts, places };
}

/** The other way round: what is at no place is where it is part of. */
export function readOrigin({ source, files = [], texts = [], places = {} }: OriginData): Origin {
  return {
    ...(source !== undefined && { source }),
    files,
    texts,
    placeOf(path): TextPlace | undefined {
      for (let length = path.length; length >= 0; length--) {
        const at = places[JSON.stringify(path.slice(0, length))];
        if (!Array.isArray(at)) continue;
        const [file, line, column] = at.map(Number);
        if (files[file] !== undefined) return { file: files[file], line, column };
      }
      return undefined;
    },
  };
}

function holdsFunctions(value: unknown): boolean {
  if (typeof value === 'function') return true;
  return typeof value === 'object' && value !== null && Object.values(value).some(holdsFunctions);
}

function pathsOf(value: unknown, path: Path = []): Path[] {
  if (typeof value !== 'object' || value === null) return [path];
  const keys = Object.keys(value).map((key) => (Array.isArray(value) ? Number(key) : key));
  return [path, ...keys.flatMap((key) => pathsOf((value as Record<string | number, unknown>)[key], [...path, key]))];
}
