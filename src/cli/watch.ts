import { type FSWatcher, statSync, watch } from 'node:fs';
import { basename, dirname } from 'node:path';

/** Editors write a file in several steps: this long after the last of them it is read again, in milliseconds. */
const QUIET = 60;

/**
 * Does something, and again whenever one of the files that it tells of has changed, until the process is stopped. Folders are watched, not
 * files: many editors put a new file in the place of the old one.
 */
export async function again(work: () => Promise<readonly string[]>): Promise<never> {
  for (;;) {
    const files = new Set<string>();
    let wake = () => {};
    const changed = new Promise<void>((resolve) => {
      wake = resolve;
    });
    const folders = new Map<string, FSWatcher>();
    let waiting: NodeJS.Timeout | undefined;
    const began = Date.now();
    for (const file of await work()) {
      files.add(file);
      const folder = dirname(file);
      if (folders.has(folder)) continue;
      try {
        const watcher = watch(folder, (_, name) => {
          if (name !== null && ![...files].some((one) => basename(one) === name)) return;
          clearTimeout(waiting);
          waiting = setTimeout(wake, QUIET);
        });
        watcher.on('error', wake);
        folders.set(folder, watcher);
      } catch {
        // A folder that is not there: a file in it that was asked for is told of already.
      }
    }
    // What was changed before it was watched.
    if ([...files].some((file) => (statSync(file, { throwIfNoEntry: false })?.mtimeMs ?? 0) > began)) wake();
    await changed;
    for (const watcher of folders.values()) watcher.close();
  }
}
