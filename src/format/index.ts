import type { Plan } from '../compile/plan.js';
import { wantOptions, wantText } from '../report/arguments.js';
import { type ClipTable, checkClips } from './clips.js';
import { type Loaded, parseMoveset, planOf } from './parse.js';
import { readText } from './read-text.js';
import { findRoot, isInFolder } from './root.js';

/** Where included files may be, and what clips are compared with. */
export interface LoadOptions {
  /** The folder that included files must be in. Default: the nearest one above the file with a package.json or .git. */
  root?: string;
  /** Lengths of clips in seconds, to be compared with the moveset. */
  clips?: ClipTable;
}

/**
 * Reads a moveset from a YAML or JSON file and what it includes. Never throws for what is wrong with them.
 * @param file A path, YAML or JSON.
 * @param options The folder that includes must be in, and the like.
 */
export async function loadMoveset(file: string, options: LoadOptions = {}): Promise<Loaded> {
  wantText('loadMoveset', 'the file', file);
  wantOptions('loadMoveset', options, ['root', 'clips']);
  const { root = findRoot(file), clips } = options;
  const result = readText(file);
  if ('fault' in result) return { diagnostics: [result.fault], omitted: 0, files: [], missing: [] };
  return parseMoveset(result.text, file, {
    read: readText,
    root,
    allows: (path) => isInFolder(root, path),
    check: clips && ((plan) => checkClips(plan, clips)),
  });
}

/**
 * The plan of a moveset file and what it includes, or a {@link MovesetError} that lists every error with its place.
 * @param file A path, YAML or JSON.
 * @param options The same as `loadMoveset` takes.
 */
export async function compileFile(file: string, options: LoadOptions = {}): Promise<Plan> {
  return planOf(await loadMoveset(file, options), file);
}

export { type ClipTable, checkClips, parseClipTable } from './clips.js';
export { movesetSchema, toJsonSchema } from './json-schema.js';
export * from './text.js';
