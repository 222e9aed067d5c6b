import pc from 'picocolors';
import { type PlacedDiagnostic, paintDiagnostic, paintExcerpt } from '../format/show.js';
import { escapeText } from '../report/words.js';

type Colors = ReturnType<typeof pc.createColors>;

/** Where a command writes, so that it can be called like a function. */
export interface Io {
  out(line: string): void;
  err(line: string): void;
  /** Shows how far a long command is on one line of the terminal, or clears it without a text. Nothing where errors are piped. */
  progress(text?: string): void;
  /** Colours of `out` and of `err`: each stream by itself may be piped. */
  readonly color: Colors;
  readonly errColor: Colors;
}

/** What a command came to: 0 all well, 1 the work found a fault, 2 called wrongly or the output could not be written. */
export type ExitCode = 0 | 1 | 2;

export const colors = (enabled: boolean): Colors => pc.createColors(enabled);

/** Text from outside, for one line of output. */
export const safe = escapeText;

/** A diagnostic as a line, with the line of the file below it. */
export function showDiagnostic(d: PlacedDiagnostic, color: Colors): string {
  const paint = d.severity === 'error' ? color.red : color.yellow;
  return [paintDiagnostic(d, paint), paintExcerpt(d, paint)].filter(Boolean).join('\n');
}

/** Says why a command can't do its work on a file: what is wrong in it, and a sentence. */
export function refuse(io: Io, diagnostics: readonly PlacedDiagnostic[], sentence: string): ExitCode {
  for (const d of diagnostics) io.err(showDiagnostic(d, io.errColor));
  io.err(sentence);
  return 1;
}

/** A tick as it is told: `0.40 s 24f`. */
export function wordTick(tick: number, rate: number): string {
  return `${(Math.max(0, tick) / rate).toFixed(2)} s ${tick}f`;
}
