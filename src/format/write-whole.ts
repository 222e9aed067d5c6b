import { randomBytes } from 'node:crypto';
import { chmodSync, linkSync, readlinkSync, realpathSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname, resolve } from 'node:path';

/** A file and what is to stand in it. */
export type Output = readonly [file: string, text: string | Uint8Array];

/**
 * Writes a file whole or not at all, through links, with the mode it had. Never one of `sources`. Returns why it could
 * not, or undefined.
 */
export function writeWhole(file: string, text: string | Uint8Array, sources: readonly string[]): string | undefined {
  return writeAll([[file, text]], sources)?.why;
}

/** The same of several files: all of them or none. Returns which could not be written, and why, or undefined. */
export function writeAll(
  outputs: readonly Output[],
  sources: readonly string[],
): { readonly file: string; readonly why: string } | undefined {
  const mark = randomBytes(6).toString('hex');
  const undo: (() => void)[] = [];
  const done: (() => void)[] = [];
  let file = '';
  try {
    const made = outputs.map(([to, text]) => {
      file = to;
      const target = targetOf(to);
      if (sources.some((source) => real(source) === target))
        throw new Refusal('it is one of the files that this is made of; choose another name');
      const before = statSync(target, { throwIfNoEntry: false });
      if (before && !before.isFile())
        throw new Refusal(before.isDirectory() ? 'it is a folder' : 'it is not a plain file');
      const unfinished = `${target}.${mark}.tmp`;
      undo.push(() => rmSync(unfinished, { force: true }));
      writeFileSync(unfinished, text, { flag: 'wx' });
      if (before) chmodSync(unfinished, before.mode);
      return { to, target, unfinished, before };
    });
    for (const { to, target, unfinished, before } of made) {
      file = to;
      // What stands there is kept until all are in place. A single file needs no such care.
      const old = `${target}.${mark}.old`;
      if (before && made.length > 1) {
        linkSync(target, old);
        done.push(() => rmSync(old, { force: true }));
        undo.push(() => renameSync(old, target));
      } else if (!before) undo.push(() => rmSync(target, { force: true }));
      renameSync(unfinished, target);
    }
    for (const clean of done) clean();
    return undefined;
  } catch (error) {
    for (const back of undo.reverse()) attempt(back);
    return { file, why: error instanceof Refusal ? error.message : wordError(error, file) };
  }
}

class Refusal extends Error {}

function attempt(step: () => void): void {
  try {
    step();
  } catch {
    // The fault that led here is told.
  }
}

function wordError(error: unknown, file: string): string {
  const { code } = error as NodeJS.ErrnoException;
  if (code === 'ENOENT') return `there is no folder ${dirname(targetOf(file))}`;
  return code === 'EACCES' || code === 'EROFS'
    ? 'permission is denied'
    : code === 'ENOSPC'
      ? 'the disk is full'
      : `${code}`;
}

/** Where a path leads to, through links: also one that leads to where nothing is yet. */
function targetOf(file: string): string {
  const known = real(file);
  if (known !== undefined) return known;
  try {
    return resolve(dirname(file), readlinkSync(file));
  } catch {
    return file;
  }
}

function real(path: string): string | undefined {
  try {
    return realpathSync(path);
  } catch {
    return undefined;
  }
}
