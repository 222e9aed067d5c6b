import { want } from '../report/arguments.js';
import type { Diagnostic } from '../report/diagnostic.js';
import { escapeText } from '../report/words.js';

/** A diagnostic with the place it points to. */
export interface PlacedDiagnostic extends Diagnostic {
  readonly file: string;
  /** From 1 on. */
  readonly line: number;
  readonly column: number;
  /** What is wrong and what to do, in a sentence. */
  readonly sentence: string;
  /** The line of the file, or the part of it around the place; escaped, so that it stays one line. */
  readonly excerpt: string;
  /** Half-open columns of `excerpt`, from 0 on, that are meant. */
  readonly caret: readonly [from: number, to: number];
}

/** Colours a piece of text. */
type Paint = (text: string) => string;
const plain: Paint = (text) => text;

/**
 * `pell.yaml:12:7 error unknown-name: There is no pool "winf". Did you mean "wind"?`
 * @param d What was found in a file.
 */
export function formatDiagnostic(d: PlacedDiagnostic): string {
  wantPlaced('formatDiagnostic', d);
  return paintDiagnostic(d, plain);
}

/**
 * The line of the file that a diagnostic points to, and below it a mark under what is meant; empty for an empty line.
 * @param d What was found in a file.
 */
export function formatExcerpt(d: PlacedDiagnostic): string {
  wantPlaced('formatExcerpt', d);
  return paintExcerpt(d, plain);
}

/** {@link formatDiagnostic} with the word for its severity coloured. */
export function paintDiagnostic(d: PlacedDiagnostic, paint: Paint): string {
  return `${escapeText(d.file)}:${d.line}:${d.column} ${paint(d.severity)} ${d.code}: ${d.sentence}`;
}

/** {@link formatExcerpt} with its mark coloured. */
export function paintExcerpt({ excerpt, caret: [from, to] }: PlacedDiagnostic, paint: Paint): string {
  if (excerpt === '') return '';
  return `    ${excerpt}\n    ${' '.repeat(from)}${paint('^'.repeat(to - from))}`;
}

function wantPlaced(call: string, d: PlacedDiagnostic): void {
  const { file, sentence, caret } = (d ?? {}) as Partial<PlacedDiagnostic>;
  const holds = typeof file === 'string' && typeof sentence === 'string' && Array.isArray(caret);
  want(holds, call, 'its argument', 'a diagnostic of a loader', d);
}
