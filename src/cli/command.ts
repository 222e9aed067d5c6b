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
