import { isPlain } from '../moveset/read.js';
import type { Diagnostic } from '../report/diagnostic.js';
import { Sink } from '../report/diagnostic.js';
import { describe } from '../report/words.js';
import { YamlFile } from './yaml-file.js';

/** How included files are read; paths are as they were resolved against the including file. */
export interface IncludeOptions {
  /** The text of a file, or the fault that keeps it from being read. Default: nothing can be included. */
  read?(path: string): { text: string } | { fault: Diagnostic };
  /** Whether a path may be included. Default: those below the first file's folder. */
  allows?(path: string): boolean;
  /** What to call the place that includes must stay in, for messages. */
  root?: string;
}

/** A moveset put together from a file and all that it includes. */
export interface Gathered {
  readonly data: unknown;
  /** The first file, then those it includes. */
  readonly sources: readonly YamlFile[];
}

/** Limits that no honest moveset comes near. */
const DEEPEST = 16;
const MOST_FILES = 100;
const HINT = 'begin with "loggia: 1" and a name';

/**
 * Reads a file and what it includes, and lays them over one another: later includes may not contradict
 * earlier ones, the including file overrides both. Maps are merged, all else is replaced.
 */
export function gather(text: string, file: string, options: IncludeOptions = {}): Gathered {
  const sources: YamlFile[] = [];
  const root = folderOf(file);
  const {
    read,
    allows = (path) => !path.startsWith('../') && path.startsWith(root),
    root: rootName = root || 'this folder',
  } = options;
  const data = gatherFile(text, file, []);
  return { data, sources };

  function gatherFile(text: string, file: string, way: readonly string[]): unknown {
    const source = new YamlFile(text, file, HINT);
    sources.push(source);
    const { data } = source;
    if (!isPlain(data) || data.include === undefined) return data;
    const { include, ...own } = data;
    const listed = Array.isArray(include) ? include : [include];
    const base: Record<string, unknown> = Object.create(null);
    const owners = new Map<string, string>();
    listed.forEach((entry, i) => {
      const part = gatherPart(source, entry, Array.isArray(include) ? ['include', i] : ['include'], [...way, file]);
      if (part) layUnder(base, part.data, part.path, own, source, [], owners);
    });
    return layOver(base, own);
  }

  function gatherPart(source: YamlFile, entry: unknown, at: (string | number)[], way: readonly string[]) {
    const sink = new Sink();
    const fail = (code: Diagnostic['code'], params: Record<string, unknown>) => {
      sink.add(code, at, params);
      source.add(sink.list);
    };
    if (typeof entry !== 'string')
      return fail('wrong-type', { expected: 'the path of a file', found: describe(entry) });
    const path = resolvePath(folderOf(source.file), entry);
    if (way.includes(path)) return fail('include-cycle', { way: [...way.slice(way.indexOf(path)), path] });
    if (way.length > DEEPEST) return fail('too-deep', { limit: DEEPEST });
    if (sources.length > MOST_FILES) return fail('too-many', { count: sources.length + 1, min: 0, max: MOST_FILES });
    if (!allows(path)) return fail('include-outside', { value: entry, root: rootName });
    const result = read ? read(path) : { fault: { params: { why: 'nothing can be included here' } } };
    if ('fault' in result) {
      const { why = 'it is not a small UTF-8 file' } = result.fault.params as { why?: string };
      return fail('file-unreadable', { why: `${why} (${path})` });
    }
    const data = gatherFile(result.text, path, way);
    if (!isPlain(data)) return undefined;
    const { loggia, ...part } = data;
    return { data: part, path };
  }

  /** Adds an included part to the base; what two of them say differently must be said by the including file. */
  function layUnder(
    base: Record<string, unknown>,
    part: Record<string, unknown>,
    path: string,
    own: unknown,
    source: YamlFile,
    at: string[],
    owners: Map<string, string>,
  ): void {
    for (const [key, value] of Object.entries(part)) {
      const here = [...at, key];
      const mine = isPlain(own) ? own[key] : undefined;
      const id = here.join('\n');
      if (isPlain(value)) {
        if (!isPlain(base[key])) base[key] = Object.create(null);
        layUnder(base[key] as Record<string, unknown>, value, path, mine, source, here, owners);
        continue;
      }
      const first = owners.get(id);
      if (first !== undefined && mine === undefined && here[0] !== 'name') {
        const sink = new Sink();
        sink.add('include-clash', ['include'], { key: here.join('.'), first, second: path });
        source.add(sink.list);
      }
      base[key] = value;
      owners.set(id, path);
    }
  }
}

function layOver(base: Record<string, unknown>, own: Record<string, unknown>): Record<string, unknown> {
  const out: Record<string, unknown> = Object.create(null);
  // What is included stands first, so that the including file's stances come last: one of them always holds.
  for (const key of [...Object.keys(base), ...Object.keys(own).filter((key) => !Object.hasOwn(base, key))]) {
    const [under, over] = [base[key], own[key]];
    out[key] = isPlain(under) && isPlain(over) ? layOver(under, over) : over !== undefined ? over : under;
  }
  return out;
}

function folderOf(file: string): string {
  return file.slice(0, file.lastIndexOf('/') + 1);
}

/** A path against a folder, with its `.` and `..` taken out. */
function resolvePath(folder: string, path: string): string {
  if (path.startsWith('/')) return path;
  const parts: string[] = [];
  for (const part of `${folder}${path}`.split('/')) {
    if (part === '.') continue;
    if (part === '..' && parts.length > 0 && parts.at(-1) !== '..' && parts.at(-1) !== '') parts.pop();
    else parts.push(part);
  }
  return parts.join('/');
}
