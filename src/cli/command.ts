import type { ExitCode, Io } from './io.js';

/** One command: what `--help` says of it, and what it does. What is heavy it imports when it runs. */
export interface CommandSpec {
  readonly name: string;
  readonly summary: string;
  /** As usage shows them: `<file...>`; and what they are. */
  readonly args: string;
  readonly argsDoc: string;
  readonly options: readonly (readonly [flags: string, doc: string])[];
  readonly example: string;
  run(args: readonly string[], options: Readonly<Record<string, string | true | undefined>>, io: Io): Promise<ExitCode>;
}

/** The option of every command that reads a moveset with what it includes. */
export const ROOT_OPTION = [
  '--root <folder>',
  'the folder that included files must be in (default: the nearest with package.json or .git)',
] as const;

/** The same of every command that takes scenarios. */
export const SCENARIO_ROOT_OPTION = [
  '--root <folder>',
  'the folder that movesets must be in (default: the nearest with package.json or .git)',
] as const;

/** What that option gives to a loader; nothing, so that its default holds, where it is left out. */
export function rootOf({ root }: Readonly<Record<string, string | true | undefined>>): { root?: string } {
  return root === undefined ? {} : { root: String(root) };
}
