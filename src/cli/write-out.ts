import { mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { type Output, writeAll } from '../format/write-whole.js';
import { type ExitCode, type Io, safe } from './io.js';

type Pages = readonly (string | Uint8Array)[];
type Maker = () => Pages | Promise<Pages>;

/** Writes files into a folder, all or none; what is wrong is told. */
export function writeFolder(
  command: string,
  folder: string,
  files: Iterable<Output>,
  sources: readonly string[],
  io: Io,
): boolean {
  const outputs = [...files].map(([file, text]): Output => [join(folder, file), text]);
  try {
    for (const [file] of outputs) mkdirSync(dirname(file), { recursive: true });
  } catch (error) {
    io.err(safe(`loggia ${command}: ${folder} cannot be made: ${(error as NodeJS.ErrnoException).code}.`));
    return false;
  }
  const fault = writeAll(outputs, sources);
  if (fault) io.err(safe(`loggia ${command}: ${fault.file} cannot be written: ${fault.why}.`));
  return !fault;
}

/** Something that a command needs and that is not installed, in a sentence. */
export class Missing extends Error {}

/**
 * Writes a file in the format that its ending names; several pages are numbered: `pell-1.svg`.
 * @param makers What makes the pages, by ending.
 * @param sources Files that it must not be written over.
 */
export async function writePages(
  file: string,
  makers: Readonly<Record<string, Maker>>,
  sources: readonly string[],
  io: Io,
): Promise<ExitCode> {
  const ending = /\.(\w+)$/.exec(file)?.[1].toLowerCase() ?? '';
  const make = Object.hasOwn(makers, ending) ? makers[ending] : undefined;
  if (!make) {
    const known = Object.keys(makers).map((one) => `.${one}`);
    io.err(`loggia: ${safe(file)} has none of the endings that can be written here: ${known.join(', ')}.`);
    return 2;
  }
  let pages: Pages;
  try {
    pages = await make();
  } catch (error) {
    if (!(error instanceof Missing)) throw error;
    io.err(`loggia: ${error.message}`);
    return 1;
  }
  const stem = file.slice(0, -ending.length - 1);
  const outputs = pages.map((page, i): Output => [pages.length === 1 ? file : `${stem}-${i + 1}.${ending}`, page]);
  const fault = writeAll(outputs, sources);
  if (fault) {
    io.err(safe(`loggia: ${fault.file} cannot be written: ${fault.why}.`));
    return 1;
  }
  for (const [written] of outputs) io.out(safe(`wrote ${written}`));
  return 0;
}
