import { type FSWatcher, statSync, watch } from 'node:fs';
import { basename, dirname } from 'node:path';

/** Editors write a file in several steps: this long after the last of them it is read again, in milliseconds. */
const QUIET = 60;
/** How often files are looked at whose changes nobody tells, in milliseconds. */
const EVERY = 1000;

/**
 * Does something, and again whenever one of the files that it tells of has changed, until the process is stopped. Folders are watched, not
 * files: many editors put a new file in the place of the old one.
 */
export async function onEachChange(work: () => Promise<readonly string[]>): Promise<never> {
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
        // A folder that is not there, or one too many for this machine: its files are looked at below.
      }
    }
    const saved = [...files].map(savedAt);
    // What was changed before it was watched.
    if (saved.some((at) => at > began)) wake();
    // Not every drive tells of changes.
    const looking = setInterval(() => {
      if ([...files].some((file, i) => savedAt(file) !== saved[i])) wake();
    }, EVERY);
    await changed;
    clearInterval(looking);
    for (const watcher of folders.values()) watcher.close();
  }
}

/** When a file was last written; 0 if it cannot be seen. */
function savedAt(file: string): number {
  try {
    return statSync(file).mtimeMs;
  } catch {
    return 0;
  }
}
