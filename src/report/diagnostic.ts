import type { Code, FaultData } from './faults.js';

export type { Code, FaultData } from './faults.js';

/** Where in the definition a diagnostic points: keys and indexes from the root. */
export type Path = readonly (string | number)[];

/** An error or warning of a moveset or scenario, as data: `wordDiagnostic` makes a sentence of it. */
export interface Diagnostic {
  readonly code: Code;
  readonly severity: 'error' | 'warning';
  readonly path: Path;
  /** Whether the key or the value at `path` is meant. */
  readonly on: 'key' | 'value';
  /** Half-open offsets inside the text of the value, for formulas. */
  readonly span?: readonly [from: number, to: number];
  /** What the wording needs: names, limits, what was found. */
  readonly params: Readonly<Record<string, unknown>>;
  /** Half-open offsets in the file's text; present when the definition came from a file. */
  readonly range?: readonly [from: number, to: number];
  /** The file it came from, as it was named to the loader. */
  readonly file?: string;
}

/** How many diagnostics are kept of one moveset; a file with more is generated, or no moveset at all. */
const MOST_KEPT = 1000;

/** Collects diagnostics; stages report to it and go on. */
export class Sink {
  readonly list: Diagnostic[] = [];
  /** How many more there were than are kept. */
  omitted = 0;
  private errors = 0;

  add<C extends Code>(
    code: C,
    path: Path,
    params: FaultData<C>,
    more: Partial<Pick<Diagnostic, 'severity' | 'on' | 'span'>> = {},
  ): void {
    if ((more.severity ?? 'error') === 'error') this.errors++;
    if (this.list.length >= MOST_KEPT) this.omitted++;
    else this.list.push({ code, severity: 'error', on: 'value', path: [...path], params: params as never, ...more });
  }

  get failed(): boolean {
    return this.errors > 0;
  }
}
