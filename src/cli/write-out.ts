import { writeWhole } from '../format/write-whole.js';
import { type ExitCode, type Io, safe } from './io.js';

/**
 * Writes a file in the format that its ending names.
 * @param makers What makes the content, by ending.
 * @param sources Files that it must not be written over.
 */
export async function writeOut(
  file: string,
  makers: Readonly<Record<string, () => string | Uint8Array | Promise<string | Uint8Array>>>,
  sources: readonly string[],
  io: Io,
): Promise<ExitCode> {
  const ending = /\.(\w+)$/.exec(file)?.[1].toLowerCase() ?? '';
  const make = Object.hasOwn(makers, ending) ? makers[ending] : undefined;
  if (!make) {
    const known = Object.keys(makers).map((one) => `.${one}`);
    io.err(`loggia: ${safe(file)} ends in nothing that can be written here; the endings are ${known.join(', ')}.`);
    return 2;
  }
  const fault = writeWhole(file, await make(), sources);
  if (fault) {
    io.err(safe(`loggia: ${file} cannot be written: ${fault}.`));
    return 1;
  }
  io.out(safe(`wrote ${file}`));
  return 0;
}
