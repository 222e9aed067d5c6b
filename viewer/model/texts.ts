import { originOf } from '../../src/compile/origin.js';
import type { Plan } from '../../src/compile/plan.js';
import type { PlacedDiagnostic } from '../../src/format/show.js';

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

/** What was found in one of the files. */
export function faultsIn(diagnostics: readonly PlacedDiagnostic[], file: string): PlacedDiagnostic[] {
  return diagnostics.filter((one) => one.file === file);
}
