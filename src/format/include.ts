import { layOver, leaveOut } from '../moveset/lay-over.js';
import { isPlain } from '../moveset/read.js';
import { DECLARING, FORMAT, MOVESET } from '../moveset/schema.js';
import type { Code, Diagnostic, FaultData } from '../report/diagnostic.js';
import { Sink } from '../report/diagnostic.js';
import { describe, escapeText } from '../report/words.js';
import { newBudget, YamlFile } from './yaml-file.js';

/** How included files are read; paths are as they were resolved against the including file. */
export interface IncludeOptions {
  /** The text of a file, or the fault that keeps it from being read. Default: nothing can be included. */
  read?(path: string): { text: string } | { fault: Diagnostic };
  /** The folder that included files must be in, as the first file's path is written. Default: the first file's folder. */
  root?: string;
  /** Whether a path may be included. Default: whether it is inside `root` as it is written. */
  allows?(path: string): boolean;
}

/** A moveset put together from a file and all that it includes. */
export interface Gathered {
  readonly data: unknown;
  /** The first file, then those it includes. */
  readonly sources: readonly YamlFile[];
  /** Paths that it includes and that could not be read. */
  readonly missing: readonly string[];
}

/** Limits that no honest moveset comes near. */
const DEEPEST = 16;
const MOST_FILES = 100;
const HINT = 'begin with "loggia: 1" and a name';

/**
 * Reads a file and what it includes, and lays them over one another: later includes may not contradict
 * earlier ones, the including file overrides both. Maps are merged, lists that declare names are united, all else is replaced.
 */
export function gather(text: string, file: string, options: IncludeOptions = {}): Gathered {
  const sources: YamlFile[] = [];
  const missing: string[] = [];
  const parts = new Map<string, unknown>();
  const { read, root = folderOf(file), allows = (path) => isInside(root, path) } = options;
  const budget = newBudget();
  const data = gatherFile(new YamlFile(text, file, HINT, budget), resolvePath('', file), []);
  return { data, sources, missing };

  function gatherFile(source: YamlFile, path: string, way: readonly string[]): unknown {
    sources.push(source);
    const { data } = source;
    if (!isPlain(data) || data.include === undefined) return data;
    const { include, without, ...own } = data;
    const listed = Array.isArray(include) ? include : [include];
    const base: Record<string, unknown> = Object.create(null);
    const owners = new Map<string, string>();
    listed.forEach((entry, i) => {
      const part = gatherPart(source, entry, Array.isArray(include) ? ['include', i] : ['include'], [...way, path]);
      if (part) layUnder(base, part.data, part.path, own, source, [], owners);
    });
    return layOverWhole(base, without, own, source);
  }

  function gatherPart(source: YamlFile, entry: unknown, at: (string | number)[], way: readonly string[]) {
    const sink = new Sink();
    const fail = <C extends Code>(code: C, params: FaultData<C>) => {
      sink.add(code, at, params);
      source.add(sink.list);
      return undefined;
    };
    if (typeof entry !== 'string')
      return fail('wrong-type', { expected: 'the path of a file', found: describe(entry) });
    // No path that is meant has signs that a terminal or a program could misread.
    if (escapeText(entry) !== entry)
      return fail('bad-text', { value: entry, expected: 'a path without control characters' });
    const path = resolvePath(folderOf(source.file), entry);
    if (way.includes(path)) return fail('include-cycle', { way: [...way.slice(way.indexOf(path)), path] });
    if (way.length > DEEPEST) return fail('too-deep', { limit: DEEPEST });
    if (!path || !allows(path)) return fail('include-outside', { value: entry, root: root || 'this folder' });
    if (parts.has(path)) return { data: parts.get(path) as Record<string, unknown>, path };
    if (sources.length > MOST_FILES) return fail('wrong-count', { count: sources.length + 1, min: 0, max: MOST_FILES });
    const result = read ? read(path) : { fault: { params: { why: 'nothing can be included here' } } };
    if ('fault' in result) {
      missing.push(path);
      const { why = 'it is not a small UTF-8 file' } = result.fault.params as { why?: string };
      return fail('file-unreadable', { why: `${why} (${path})` });
    }
    const part = new YamlFile(result.text, path, HINT, budget);
    const data = checkPart(part, gatherFile(part, path, way));
    parts.set(path, data);
    return { data, path };
  }

  /** The keys of an included file; none, and a fault, of what is no part of a moveset. */
  function checkPart(source: YamlFile, part: unknown): Record<string, unknown> {
    const sink = new Sink();
    if (isPlain(part)) {
      const { loggia, part: _, ...rest } = part;
      if (loggia !== undefined && loggia !== FORMAT)
        sink.add('unknown-version', ['loggia'], { value: loggia, known: FORMAT });
      source.add(sink.list);
      return rest;
    }
    if (source.diagnostics.length === 0) {
      sink.add('wrong-type', [], { expected: 'a map with parts of a moveset', found: describe(part) });
      source.add(sink.list);
    }
    return {};
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
      if (at.length === 0 && DECLARING.includes(key) && !(isPlain(value) && isPlain(base[key]))) {
        base[key] = unite(base[key], value);
        continue;
      }
      if (isPlain(value)) {
        if (!isPlain(base[key])) base[key] = Object.create(null);
        layUnder(base[key] as Record<string, unknown>, value, path, mine, source, here, owners);
        continue;
      }
      const first = owners.get(id);
      const clashes = first !== undefined && mine === undefined && here[0] !== 'name' && !isSame(base[key], value);
      if (first !== undefined && clashes) {
        const sink = new Sink();
        sink.add('include-clash', ['include'], { key: here.join('.'), first, second: path });
        source.add(sink.list);
      }
      base[key] = value;
      owners.set(id, path);
    }
  }
}

/** The names that a part of a moveset declares, as a map, a list, or one alone. */
function namesIn(part: unknown): readonly string[] {
  if (isPlain(part)) return Object.keys(part);
  return [part].flat().filter((name) => typeof name === 'string');
}

/** What two files declare by lists of names; a map, which says more of each, if one of them has one. */
function unite(under: unknown, over: unknown): unknown {
  if (under === undefined || under === null) return over;
  if (isPlain(under) || isPlain(over)) return layOver(undefined, asMap(under), asMap(over), [], new Sink());
  return [...new Set([under, over].flat())];
}

function asMap(declared: unknown): Record<string, unknown> {
  if (isPlain(declared)) return declared;
  return Object.fromEntries([declared].flat().map((name) => [name, {}]));
}

/** What the including file says, over what it includes. */
function layOverWhole(
  base: Record<string, unknown>,
  without: unknown,
  own: Record<string, unknown>,
  source: YamlFile,
): unknown {
  const sink = new Sink();
  const known = Object.entries(base).flatMap(([room, value]) => namesIn(value).map((name) => `${room}.${name}`));
  const words = { what: 'included part', example: 'abilities.hop', known };
  const left = leaveOut(base, without, ['without'], words, sink) as Record<string, unknown>;
  const united = Object.keys(own).filter((key) => DECLARING.includes(key) && own[key] !== undefined);
  const both = { ...own, ...Object.fromEntries(united.map((key) => [key, unite(left[key], own[key])])) };
  const laid = layOver(MOVESET, left, both, [], sink);
  source.add(sink.list);
  return laid;
}

/** Whether two files say the same. */
function isSame(a: unknown, b: unknown): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}

/** With its slash; empty for a file in the folder where the process runs. */
function folderOf(file: string): string {
  const path = resolvePath('', file);
  return path.slice(0, path.lastIndexOf('/') + 1);
}

/** Whether a path lies in a folder, as both are written. An address (`https:…`) lies nowhere. */
function isInside(root: string, path: string): boolean {
  const folder = resolvePath('', root);
  if (/^[a-z][a-z0-9+.-]+:/i.test(path)) return false;
  if (folder === '' || folder === '.') return !isAbsolute(path) && path !== '..' && !path.startsWith('../');
  return path.startsWith(folder.endsWith('/') ? folder : `${folder}/`);
}

function isAbsolute(path: string): boolean {
  return path.startsWith('/') || /^[A-Za-z]:\//.test(path);
}

/** A path against a folder, with forward slashes, and with its `.` and `..` taken out. */
function resolvePath(folder: string, given: string): string {
  const path = given.replaceAll('\\', '/');
  const parts: string[] = [];
  for (const part of `${isAbsolute(path) ? '' : folder}${path}`.split('/')) {
    if (part === '.') continue;
    const last = parts.at(-1);
    if (part === '..' && last !== undefined && last !== '..' && last !== '') parts.pop();
    else if (part !== '..' || last !== '') parts.push(part);
  }
  return parts.join('/');
}
