import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { colors } from '../../src/cli/io.js';
import { main } from '../../src/cli/main.js';
import { ROOT } from '../support.js';

/** The command line as it is shipped. */
export const BIN = join(ROOT, 'dist/cli/bin.js');

/** What a command printed, and its exit code. */
export interface Ran {
  readonly status: number;
  readonly out: string;
  readonly err: string;
}

/** A command as a process of its own: such as one that has workers, which are files beside what was built. */
export function loggiaProcess(...words: string[]): Ran {
  const { status, stdout, stderr } = spawnSync('node', [BIN, ...words], { cwd: ROOT, encoding: 'utf8' });
  return { status: status ?? -1, out: stdout, err: stderr };
}

/**
 * A command as the process runs it, within this one: a process of its own takes half a second to begin. What the process itself does, such
 * as streams that close and colours, is tested with processes in `manners.test.ts`.
 */
export function loggia(...words: string[]): Promise<Ran> {
  return loggiaIn(ROOT, words);
}

/** The same in a folder. */
export async function loggiaIn(folder: string, words: readonly string[]): Promise<Ran> {
  const before = process.cwd();
  let out = '';
  let err = '';
  process.chdir(folder);
  try {
    const status = await main(words, {
      out: (line) => {
        out += `${line}\n`;
      },
      err: (line) => {
        err += `${line}\n`;
      },
      progress: () => {},
      color: colors(false),
      errColor: colors(false),
    });
    return { status, out, err };
  } finally {
    process.chdir(before);
  }
}
