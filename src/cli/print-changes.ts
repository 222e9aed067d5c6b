import type { MovesetChanges } from '../analysis/changes.js';
import { mayText } from '../draw/changes.js';
import { type Io, safe } from './io.js';

/** Abilities that only one of two versions has. */
export function printWhole({ added, removed }: MovesetChanges, io: Io): void {
  for (const name of added) io.out(io.color.green(`+ ${safe(name)} is new`));
  for (const name of removed) io.out(io.color.red(`- ${safe(name)} is gone`));
}

/** Pairs that may be followed otherwise, each on a line that begins so. */
export function printLegal({ legal }: MovesetChanges, indent: string, io: Io): void {
  for (const { moment, into, before, after } of legal)
    io.out(
      `${indent}${safe(moment)} to ${safe(into)}: ${mayText(before)} -> ${mayText(after)} ${io.color.dim(`(${after?.by})`)}`,
    );
}
