import pc, { type createColors } from 'picocolors';

/** Where a command writes, so that it can be called like a function. */
export interface Io {
  out(line: string): void;
  err(line: string): void;
  readonly color: ReturnType<typeof createColors>;
}

/** What a command came to: 0 all well, 1 the work found a fault, 2 called wrongly. */
export type ExitCode = 0 | 1 | 2;

export const colors = (enabled: boolean): Io['color'] => pc.createColors(enabled);
