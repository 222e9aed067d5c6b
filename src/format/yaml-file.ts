import {
  type Document,
  isAlias,
  isMap,
  isPair,
  isScalar,
  isSeq,
  LineCounter,
  type Node,
  type Pair,
  parseDocument,
} from 'yaml';
import { type Diagnostic, type Path, Sink } from '../report/diagnostic.js';

/** Limits that no honest file comes near. */
export const MOST_BYTES = 1 << 20;
const MOST_VALUES = 50_000;
const DEEPEST = 32;

/** A parsed file: its plain data, and where each piece of it stands. YAML and JSON are read alike. */
export class YamlFile {
  readonly data: unknown;
  readonly diagnostics: Diagnostic[] = [];
  private readonly lines = new LineCounter();
  private readonly doc: Document.Parsed | undefined;

  constructor(
    readonly text: string,
    readonly file: string,
    /** What to write, when the file is empty. */
    hint: string,
  ) {
    const sink = new Sink();
    this.doc = this.parse(sink);
    if (this.doc && !sink.failed) {
      if (this.doc.contents === null) sink.add('empty', [], { hint });
      else this.data = this.plain(this.doc, sink);
    }
    this.add(sink.list);
  }

  /** Adds diagnostics that point into this file by path. */
  add(list: readonly Diagnostic[]): void {
    for (const d of list) this.diagnostics.push({ ...d, file: this.file, range: d.range ?? this.locate(d) });
  }

  /** Line and column of an offset, from 1 on. */
  position(offset: number): { line: number; column: number } {
    const { line, col } = this.lines.linePos(offset);
    return { line: Math.max(1, line), column: Math.max(1, col) };
  }

  /** Half-open offsets of the value at a path. */
  rangeAt(path: Path): readonly [number, number] {
    return this.locate({ path, on: 'value' });
  }

  /** How many steps of a path can be gone in this file. */
  depthOf(path: Path): number {
    let value = this.data;
    for (const [i, part] of path.entries()) {
      if (typeof value !== 'object' || value === null || !Object.hasOwn(value, part)) return i;
      value = (value as Record<string | number, unknown>)[part];
    }
    return path.length;
  }

  private parse(sink: Sink): Document.Parsed | undefined {
    if (this.text.length > MOST_BYTES) {
      sink.add('file-too-large', [], { size: this.text.length, limit: MOST_BYTES });
      return undefined;
    }
    if (nestsDeeper(this.text, DEEPEST * 2)) {
      sink.add('too-deep', [], { limit: DEEPEST });
      return undefined;
    }
    const doc = parseDocument(this.text, { lineCounter: this.lines, prettyErrors: false, logLevel: 'silent' });
    for (const { code, message, pos } of doc.errors) {
      const range = [pos[0], Math.max(pos[1], pos[0] + 1)] as const;
      const d: Partial<Diagnostic> =
        code === 'DUPLICATE_KEY'
          ? { code: 'duplicate-key', params: { key: /^[^:\s]*/.exec(this.text.slice(pos[0]))?.[0] } }
          : { code: 'syntax', params: { why: message.endsWith('.') ? message : `${message}.` } };
      this.diagnostics.push({ severity: 'error', path: [], on: 'value', file: this.file, range, ...d } as Diagnostic);
    }
    return doc.errors.length === 0 ? (doc as Document.Parsed) : undefined;
  }

  /** Plain data without prototypes, aliases followed within a budget. */
  private plain(doc: Document.Parsed, sink: Sink): unknown {
    const anchors = new Map<string, Node>();
    let values = 0;
    const walk = (node: unknown, path: Path): unknown => {
      if (++values > MOST_VALUES) throw new Stop('alias-expansion', [], { limit: MOST_VALUES });
      if (path.length > DEEPEST) throw new Stop('too-deep', [], { limit: DEEPEST });
      if (isAlias(node)) {
        const target = anchors.get(node.source);
        if (!target) throw new Stop('syntax', path, { why: `no anchor "${node.source}" stands before this alias.` });
        return walk(target, path);
      }
      const { anchor } = (node ?? {}) as { anchor?: string };
      if (anchor) anchors.set(anchor, node as Node);
      if (isMap(node)) {
        const out: Record<string, unknown> = Object.create(null);
        for (const pair of node.items) {
          const key = keyOf(pair);
          out[key] = walk(pair.value, [...path, key]);
        }
        return out;
      }
      if (isSeq(node)) return node.items.map((item, i) => walk(item, [...path, i]));
      return isScalar(node) ? node.value : null;
    };
    try {
      return walk(doc.contents, []);
    } catch (stop) {
      if (!(stop instanceof Stop)) throw stop;
      sink.add(stop.code, stop.path, stop.params);
      return undefined;
    }
  }

  /** Half-open offsets of what a diagnostic points to: the nearest thing that exists. */
  private locate({ path, on, span }: Pick<Diagnostic, 'path' | 'on' | 'span'>): readonly [number, number] {
    let node: unknown = this.doc?.contents;
    let range = rangeOf(node) ?? [0, 0];
    for (const [i, part] of path.entries()) {
      if (isAlias(node)) node = this.doc && node.resolve(this.doc);
      const last = i === path.length - 1;
      if (isMap(node)) {
        const pair = node.items.find((item) => isPair(item) && keyOf(item) === part);
        if (!pair) break;
        node = pair.value;
        range = (last && on === 'key' ? rangeOf(pair.key) : undefined) ?? rangeOf(node) ?? rangeOf(pair.key) ?? range;
      } else if (isSeq(node) && typeof part === 'number' && node.items[part] !== undefined) {
        node = node.items[part];
        range = rangeOf(node) ?? range;
      } else break;
    }
    if (on === 'key' && isMap(node) && path.length > 0 && range === rangeOf(node)) range = [range[0], range[0] + 1];
    if (span && isScalar(node) && (node.type === 'PLAIN' || node.type?.startsWith('QUOTE'))) {
      const start = range[0] + (node.type === 'PLAIN' ? 0 : 1);
      return [start + span[0], start + span[1]];
    }
    return range;
  }
}

class Stop {
  constructor(
    readonly code: Diagnostic['code'],
    readonly path: Path,
    readonly params: Record<string, unknown>,
  ) {}
}

function keyOf(pair: Pair): string {
  return String(isScalar(pair.key) ? pair.key.value : pair.key);
}

function rangeOf(node: unknown): [number, number] | undefined {
  const range = (node as Node | null | undefined)?.range;
  return range ? [range[0], range[1]] : undefined;
}

/**
 * Whether brackets, or dashes and question marks that begin lists in lists, nest deeper than `limit`. The parser
 * calls itself for each level, so this is asked before it; brackets in quoted text count too, which no honest file notices.
 */
function nestsDeeper(text: string, limit: number): boolean {
  let depth = 0;
  let indent = 0;
  let run = 0;
  let atStart = true;
  for (let i = 0; i < text.length; i++) {
    const letter = text.charCodeAt(i);
    if (letter === 91 || letter === 123) depth++;
    else if (letter === 93 || letter === 125) depth--;
    if (letter === 10) {
      atStart = true;
      indent = 0;
      run = 0;
    } else if (atStart && (letter === 32 || letter === 45 || letter === 63)) {
      indent++;
      if (letter !== 32) run++;
    } else atStart = false;
    if (depth > limit || run > limit || indent > 16 * limit) return true;
  }
  return false;
}
