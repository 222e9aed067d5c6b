import { checkMoveset } from '../compile/compile.js';
import type { Plan } from '../compile/plan.js';
import type { Diagnostic } from '../moveset/diagnostic.js';
import { wordDiagnostic } from '../moveset/wording.js';
import { YamlFile } from './yaml-file.js';

/** A moveset read from text: its plan unless there are errors, and everything found, in the file's order. */
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

/** Reads a moveset from the text of a YAML or JSON file. Never throws for what is wrong in it. */
export function parseMoveset(text: string, file = 'moveset'): Loaded {
  const source = new YamlFile(text, file, 'begin with "loggia: 1" and a name');
  if (source.diagnostics.length > 0) return { diagnostics: place(source) };
  const { plan, diagnostics } = checkMoveset(source.data);
  source.add(diagnostics);
  return { plan, diagnostics: place(source) };
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
