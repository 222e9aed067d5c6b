import { advise } from '../analysis/advice.js';
import { checkMoveset } from '../compile/check.js';
import type { Plan } from '../compile/plan.js';
import type { Diagnostic } from '../report/diagnostic.js';
import { wordDiagnostic } from '../report/wording.js';
import { gather, type IncludeOptions } from './include.js';
import type { YamlFile } from './yaml-file.js';

/** A moveset read from text: its plan unless there are errors, and everything found, file by file in its order. */
export interface Loaded {
  readonly plan?: Plan;
  readonly diagnostics: readonly PlacedDiagnostic[];
}

/** A diagnostic with the line and column it points to, from 1 on. */
export interface PlacedDiagnostic extends Diagnostic {
  readonly file: string;
  readonly line: number;
  readonly column: number;
  readonly sentence: string;
}

/** Further diagnostics of a compiled moveset, such as those that need files of their own. */
type FurtherCheck = (plan: Plan) => readonly Diagnostic[];

/**
 * Reads a moveset from the text of a YAML or JSON file and what it includes.
 * Never throws for what is wrong in them.
 */
export function parseMoveset(
  text: string,
  file = 'moveset',
  options: IncludeOptions & { check?: FurtherCheck } = {},
): Loaded {
  const { data, sources } = gather(text, file, options);
  if (sources.some((source) => source.diagnostics.length > 0)) return { diagnostics: sources.flatMap(place) };
  const { plan, diagnostics } = checkMoveset(data, advise);
  const further = plan && options.check ? options.check(plan) : [];
  for (const d of [...diagnostics, ...further]) deepest(sources, d).add([d]);
  return { plan, diagnostics: sources.flatMap(place) };
}

/** The file in which a diagnostic's path leads furthest: there it was said. */
function deepest(sources: readonly YamlFile[], { path }: Diagnostic): YamlFile {
  return sources.reduce((best, source) => (source.depthOf(path) > best.depthOf(path) ? source : best));
}

/** Diagnostics of a file in its order, with their places and sentences. */
export function place(source: YamlFile): PlacedDiagnostic[] {
  return source.diagnostics
    .toSorted((a, b) => (a.range?.[0] ?? 0) - (b.range?.[0] ?? 0))
    .map((d) => ({
      ...d,
      file: source.file,
      ...source.position(d.range?.[0] ?? 0),
      sentence: wordDiagnostic(d),
    }));
}

/** `pell.yaml:12:7 error unknown-name: There is no pool "winf". Did you mean "wind"?` */
export function formatDiagnostic(d: PlacedDiagnostic): string {
  return `${d.file}:${d.line}:${d.column} ${d.severity} ${d.code}: ${d.sentence}`;
}
