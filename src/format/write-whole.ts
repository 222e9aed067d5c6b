import { randomBytes } from 'node:crypto';
import { chmodSync, realpathSync, renameSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

/**
 * Writes a file whole or not at all, through links, with the mode it had. Never one of `sources`. Returns why it could
 * not, or undefined.
 */
export function writeWhole(file: string, text: string, sources: readonly string[]): string | undefined {
  const target = real(file) ?? file;
  if (sources.some((source) => real(source) === target))
    return 'it is one of the files that this moveset is made of; choose another name';
  const unfinished = `${target}.${randomBytes(6).toString('hex')}.tmp`;
  try {
    const before = statSync(target, { throwIfNoEntry: false });
    if (before && !before.isFile()) return before.isDirectory() ? 'it is a folder' : 'it is not a plain file';
    writeFileSync(unfinished, text, { flag: 'wx' });
    if (before) chmodSync(unfinished, before.mode);
    renameSync(unfinished, target);
    return undefined;
  } catch (error) {
    rmSync(unfinished, { force: true });
    const { code } = error as NodeJS.ErrnoException;
    if (code === 'ENOENT') return `there is no folder ${dirname(target)}`;
    return code === 'EACCES' || code === 'EROFS'
      ? 'permission is denied'
      : code === 'ENOSPC'
        ? 'the disk is full'
        : `${code}`;
  }
}

function real(path: string): string | undefined {
  try {
    return realpathSync(path);
  } catch {
    return undefined;
  }
}
