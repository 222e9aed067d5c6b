import { realpathSync } from 'node:fs';
import { relative, resolve, sep } from 'node:path';
import { type ClipTable, checkClips } from './clips.js';
import { readText } from './read-text.js';
import { type Loaded, parseMoveset } from './text.js';

export interface LoadOptions {
  /** The folder that included files must lie below. Default: where the process runs. */
  root?: string;
  /** Lengths of clips in seconds, to be held against the moveset. */
  clips?: ClipTable;
}

/** Reads a moveset from a YAML or JSON file and what it includes. Never throws for what is wrong with them. */
export async function loadMoveset(file: string, { root = process.cwd(), clips }: LoadOptions = {}): Promise<Loaded> {
  const result = readText(file);
  if ('fault' in result) return { diagnostics: [result.fault] };
  return parseMoveset(result.text, file, {
    read: readText,
    root,
    allows: (path) => isBelow(root, path),
    check: clips && ((plan) => checkClips(plan, clips)),
  });
}

/** Whether a path lies below a folder, links followed. */
function isBelow(root: string, path: string): boolean {
  const real = (p: string) => {
    try {
      return realpathSync(p);
    } catch {
      return resolve(p);
    }
  };
  const way = relative(real(root), real(path));
  return !way.startsWith('..') && !way.startsWith(sep);
}

export { type ClipTable, checkClips, parseClipTable } from './clips.js';
export { movesetSchema, toJsonSchema } from './json-schema.js';
export { formatDiagnostic, type Loaded, type PlacedDiagnostic, parseMoveset } from './text.js';
