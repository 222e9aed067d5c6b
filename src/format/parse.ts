import { advise } from '../analysis/advice.js';
import { noteOrigin, type TextPlace } from '../compile/origin.js';
import type { Plan } from '../compile/plan.js';
import { checkMoveset } from '../interpret/check.js';
import { MovesetError } from '../interpret/compile-moveset.js';
import { isThere, nameOfItem } from '../moveset/lay-over.js';
import { isPlain, type Names } from '../moveset/read.js';
import { DECLARING } from '../moveset/schema.js';
import { wantOptions, wantText } from '../report/arguments.js';
import { type Diagnostic, type Path, Sink } from '../report/diagnostic.js';
import { wordDiagnostic } from '../report/wording.js';
import { escapeText } from '../report/words.js';
import { gather, type IncludeOptions } from './include.js';
import { formatDiagnostic, type PlacedDiagnostic } from './show.js';
import type { YamlFile } from './yaml-file.js';

/** A moveset read from text: its plan unless there are errors, and what was found, file by file in its order. */
export interface Loaded {
  readonly plan?: Plan;
  /** The names that it declares, also where it has errors; undefined where it could not be read. */
  readonly names?: Names;
  /** Every fact that its formulas can read, also where it has errors. */
  readonly factNames?: () => readonly string[];
  /** The first {@link MOST_SHOWN} of each file, errors before warnings. */
  readonly diagnostics: readonly PlacedDiagnostic[];
  /** How many more there are. */
  readonly omitted: number;
  /** The files it is made of: the first, then those it includes. */
  readonly files: readonly string[];
  /** Files that it includes and that could not be read. */
  readonly missing: readonly string[];
  /** Where what stands at a path of the moveset was written; undefined for what was not read. */
  readonly placeOf?: (path: Path) => TextPlace | undefined;
  /** The text of each file, in their order. */
  readonly texts?: readonly string[];
}

/** Further diagnostics of a compiled moveset, such as those that need files of their own. */
type FurtherCheck = (plan: Plan) => readonly Diagnostic[];

/** How many diagnostics of one file are listed. */
export const MOST_SHOWN = 50;
/** Longest part of a line that is shown, and how much of it before the place. */
const EXCERPT = 110;
const BEFORE = 60;

/**
 * Reads a moveset from the text of a YAML or JSON file and what it includes. Never throws for what is wrong in them.
 * @param text YAML or JSON.
 * @param file What messages call it.
 * @param options How included files are read.
 */
export function parseMoveset(
  text: string,
  file = 'moveset',
  options: IncludeOptions & { check?: FurtherCheck } = {},
): Loaded {
  wantText('parseMoveset', 'the text', text);
  wantText('parseMoveset', 'the name of the file', file);
  wantOptions('parseMoveset', options, ['read', 'root', 'allows', 'check']);
  const { data, sources, missing } = gather(text, file, options);
  if (isPlain(data) && data.stances === undefined && (data.scenario !== undefined || data.acts !== undefined)) {
    const sink = new Sink();
    sink.add(data.scenario === undefined ? 'is-opponent' : 'is-scenario', [], {});
    sources[0].add(sink.list);
  }
  if (sources.some((source) => source.diagnostics.length > 0)) return { ...placeAll(sources), missing };
  const { plan, names, factNames, diagnostics, omitted } = checkMoveset(data, advise);
  const further = plan && options.check ? options.check(plan) : [];
  for (const d of [...diagnostics, ...further]) {
    const path = pathInFile(data, sources, d.path);
    deepest(sources, { path }).add([{ ...d, path }]);
  }
  const origin = {
    placeOf: (path: Path) => placeOf(sources, pathInFile(data, sources, path)),
    texts: sources.map(({ text }) => text),
  };
  if (plan) noteOrigin(plan, { ...origin, files: sources.map((source) => source.file) });
  return { plan, names, factNames, ...placeAll(sources, omitted), missing, ...origin };
}

/** Where a path of a moveset was written: the nearest part of it that is there. */
function placeOf(sources: readonly YamlFile[], path: Path): TextPlace {
  const source = deepest(sources, { path });
  const [from] = source.rangeAt(path.slice(0, source.depthOf(path)));
  return { file: source.file, ...source.position(from) };
}

/**
 * The plan of a moveset from the text of a YAML or JSON file, or a {@link MovesetError} that lists every error with
 * its place. Warnings are passed over: `parseMoveset` and `loggia check` tell them.
 * @param text YAML or JSON.
 * @param file What messages call it.
 * @param options How included files are read.
 */
export function compileText(text: string, file = 'moveset', options: IncludeOptions = {}): Plan {
  return planOf(parseMoveset(text, file, options), file);
}

/** What was loaded, or an error for people. */
export function planOf({ plan, diagnostics }: Loaded, file: string): Plan {
  if (plan) return plan;
  const errors = diagnostics.filter((d) => d.severity === 'error');
  throw new MovesetError(file, errors, (d) => formatDiagnostic(d as PlacedDiagnostic));
}

/** The path of a name of united lists, in the first file that declares it; of a phase, where a file changes it by its name. */
function pathInFile(data: unknown, sources: readonly YamlFile[], path: Path): Path {
  const [room, at, ...rest] = path;
  const [key, place, ...inside] = rest;
  if (key === 'phases' && typeof place === 'number' && sources.length > 1) {
    const phases = valueAt(data, [room, at, key]);
    const name = Array.isArray(phases) ? nameOfItem(phases[place], place) : '';
    const named = [room, at, key, name, ...inside];
    return sources.some((source) => isThere(source.data, named)) ? named : path;
  }
  if (sources.length === 1 || at === undefined || !DECLARING.includes(String(room)) || !isPlain(data)) return path;
  const united = data[room];
  const name = Array.isArray(united) ? united[Number(at)] : at;
  for (const source of sources) {
    const declared = isPlain(source.data) ? source.data[room] : undefined;
    if (Array.isArray(declared) && declared.includes(name)) return [room, declared.indexOf(name), ...rest];
    if (declared === name) return [room];
  }
  return path;
}

function valueAt(value: unknown, path: Path): unknown {
  return path.reduce((at, part) => (isPlain(at) ? at[part] : undefined), value);
}

/** The file in which a diagnostic's path leads furthest: there it was said. */
function deepest(sources: readonly YamlFile[], { path }: Pick<Diagnostic, 'path'>): YamlFile {
  if (sources.length === 1) return sources[0];
  return sources.reduce((best, source) => (source.depthOf(path) > best.depthOf(path) ? source : best));
}

function placeAll(sources: readonly YamlFile[], beside = 0): Pick<Loaded, 'diagnostics' | 'omitted' | 'files'> {
  const placed = sources.map(place);
  const omitted = placed.reduce((sum, list, i) => sum + sources[i].diagnostics.length - list.length, beside);
  return { diagnostics: placed.flat(), omitted, files: sources.map((source) => source.file) };
}

/** Diagnostics of a file in its order, with their places and sentences: at most {@link MOST_SHOWN}. */
export function place(source: YamlFile): PlacedDiagnostic[] {
  return source.diagnostics
    .toSorted((a, b) => rankOf(a) - rankOf(b) || offsetOf(a) - offsetOf(b))
    .slice(0, MOST_SHOWN)
    .sort((a, b) => offsetOf(a) - offsetOf(b))
    .map((d) => {
      const { line, column } = source.position(offsetOf(d));
      const length = Math.max(1, (d.range?.[1] ?? 0) - offsetOf(d));
      const shown = excerptOf(source.lineText(line), column - 1, length);
      return { ...d, file: source.file, line, column, ...shown, sentence: wordDiagnostic(d) };
    });
}

const rankOf = (d: Diagnostic): number => (d.severity === 'error' ? 0 : 1);
const offsetOf = (d: Diagnostic): number => d.range?.[0] ?? 0;

/** The part of a line around a place, escaped, and where in it the place is. */
function excerptOf(text: string, column: number, length: number): Pick<PlacedDiagnostic, 'excerpt' | 'caret'> {
  const cut = column > BEFORE && text.length > EXCERPT ? column - BEFORE : text.length - text.trimStart().length;
  const before = escapeText(text.slice(cut, column).replaceAll('\t', ' '));
  const meant = escapeText(text.slice(column, column + length).replaceAll('\t', ' '));
  const after = escapeText(text.slice(column + length).replaceAll('\t', ' '));
  const excerpt = `${before}${meant}${after}`.slice(0, EXCERPT);
  const from = before.length;
  return { excerpt, caret: [from, Math.max(from + 1, Math.min(from + meant.length, excerpt.length))] };
}
