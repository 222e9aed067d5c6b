import { originOf } from '../../src/compile/origin.js';
import type { Plan } from '../../src/compile/plan.js';
import { type Loaded, parseMoveset } from '../../src/format/parse.js';
import type { PlacedDiagnostic } from '../../src/format/show.js';
import { type Diagnostic, Sink } from '../../src/report/diagnostic.js';

/** A file of a moveset, as it is in the editor. */
export interface TextFile {
  readonly name: string;
  text: string;
  /** As it was opened, or written last. */
  saved: string;
}

/** The files of some movesets: each once, in their order. */
export function filesOf(plans: readonly Plan[]): TextFile[] {
  const found = new Map<string, TextFile>();
  for (const plan of plans) {
    const { files = [], texts = [] } = originOf(plan);
    for (const [i, name] of files.entries())
      if (texts[i] !== undefined && !found.has(name)) found.set(name, { name, text: texts[i], saved: texts[i] });
  }
  return [...found.values()];
}

/** The file that a moveset begins with, if it comes from files. */
export function mainFile(plan: Plan): string | undefined {
  return originOf(plan).files?.[0];
}

/** Compiles a moveset from what stands in the editor. */
export function compileFrom(files: readonly TextFile[], main: string): Loaded {
  const text = files.find(({ name }) => name === main)?.text ?? '';
  return parseMoveset(text, main, {
    allows: () => true,
    read(path) {
      const found = files.find(({ name }) => name === path);
      return found ? { text: found.text } : { fault: missing(path) };
    },
  });
}

function missing(file: string): Diagnostic {
  const sink = new Sink();
  sink.add('file-unreadable', [], { why: `${file} is not part of this run` });
  return sink.list[0];
}

/** What was found in one of the files. */
export function faultsIn(diagnostics: readonly PlacedDiagnostic[], file: string): PlacedDiagnostic[] {
  return diagnostics.filter((one) => one.file === file);
}
