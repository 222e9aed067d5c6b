import { parse } from 'yaml';
import { isPlain } from '../report/arguments.js';

/** Which files of a folder a page may see, wherever it reads them: so many, of so many bytes, with these endings. */
export const MOST_FILES = 2000;
export const MOST_BYTES = 1 << 20;
export const NAMES = /\.(ya?ml|json)$/;

/** Whether a folder holds what others made. */
export function isSkipped(folder: string): boolean {
  return folder.startsWith('.') || ['node_modules', 'dist', 'build'].includes(folder);
}

/** What a page may know of a scenario before it opens it. */
export interface ScenarioFile {
  readonly file: string;
  readonly scenario: string;
  /** Its moveset, who else is in it, and who may be called, as it is written; of scenarios that have any of the latter. */
  readonly moveset?: string;
  readonly others?: Readonly<Record<string, unknown>>;
  readonly summons?: Readonly<Record<string, unknown>>;
}

/** What a file says of its scenario; undefined for what is none. */
export function scenarioIn(file: string, text: string): ScenarioFile | undefined {
  const found = /^scenario:[ \t]*(.+)$/m.exec(text)?.[1];
  const scenario = found?.replace(/^(['"])(.*)\1$/, '$2').slice(0, 200);
  if (!scenario) return undefined;
  // Most have nobody else, and need not be read.
  if (!/^["']?(others|summons)\b/m.test(text)) return { file, scenario };
  let data: unknown;
  try {
    data = parse(text, { maxAliasCount: 100 });
  } catch {
    return { file, scenario };
  }
  const { moveset, others, summons } = isPlain(data) ? data : {};
  if (typeof moveset !== 'string') return { file, scenario };
  return { file, scenario, moveset, ...(isPlain(others) && { others }), ...(isPlain(summons) && { summons }) };
}
