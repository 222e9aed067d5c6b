/** Where in the definition a diagnostic points: keys and indexes from the root. */
export type Path = readonly (string | number)[];

/** Every fault that a moveset or scenario can have. The sentence for each is in wording.ts. */
export const CODES = [
  'alias-expansion',
  'bad-name',
  'bad-text',
  'bad-time',
  'bound-twice',
  'clip-length',
  'clip-unknown',
  'duplicate-key',
  'empty',
  'file-too-large',
  'file-unreadable',
  'formula-argument',
  'formula-depth',
  'formula-name',
  'formula-syntax',
  'formula-type',
  'include-clash',
  'include-cycle',
  'include-outside',
  'include-unread',
  'lost-loadout',
  'missing-key',
  'name-clash',
  'never-ends',
  'no-drain',
  'no-follow',
  'no-release',
  'no-start',
  'not-utf8',
  'one-of-keys',
  'out-of-range',
  'same-press',
  'short-cooldown',
  'stance-last',
  'stance-unreachable',
  'syntax',
  'time-range',
  'time-rounded',
  'too-deep',
  'too-many',
  'unbound-input',
  'unknown-key',
  'unknown-name',
  'unknown-version',
  'unread-input',
  'wrong-type',
] as const;
export type Code = (typeof CODES)[number];

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

/** Collects diagnostics; stages report to it and go on. */
export class Sink {
  readonly list: Diagnostic[] = [];

  add(
    code: Code,
    path: Path,
    params: Record<string, unknown> = {},
    more: Partial<Pick<Diagnostic, 'severity' | 'on' | 'span'>> = {},
  ): void {
    this.list.push({ code, severity: 'error', on: 'value', path: [...path], params, ...more });
  }

  get failed(): boolean {
    return this.list.some((d) => d.severity === 'error');
  }
}
