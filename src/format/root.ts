import { existsSync, realpathSync } from 'node:fs';
import { dirname, isAbsolute, join, relative, resolve } from 'node:path';

/**
 * The folder that files included by `file` must be in: the nearest one above it with a package.json or a .git, else
 * the folder of the file itself. Links are followed.
 */
export function findRoot(file: string): string {
  const own = realPath(dirname(file));
  for (let folder = own; ; folder = dirname(folder)) {
    if (existsSync(join(folder, 'package.json')) || existsSync(join(folder, '.git'))) return folder;
    if (folder === dirname(folder)) return own;
  }
}

/** Whether a path lies in a folder, links followed. */
export function isInFolder(root: string, path: string): boolean {
  const way = relative(realPath(root), realPath(path));
  return way !== '..' && !/^\.\.[/\\]/.test(way) && !isAbsolute(way);
}

/** A path without links; as it is, where there is no such file. */
export function realPath(path: string): string {
  try {
    return realpathSync(path);
  } catch {
    return resolve(path);
  }
}
