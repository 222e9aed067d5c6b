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
  type YAMLError,
  type YAMLMap,
  type YAMLWarning,
} from 'yaml';
import { depthOf } from '../moveset/lay-over.js';
import { type Diagnostic, type Path, Sink } from '../report/diagnostic.js';
import { DEEPEST } from '../report/nesting.js';
import { nestingFault } from './nesting.js';

/** Limits that no honest file comes near. */
export const MOST_BYTES = 1 << 20;
const MOST_VALUES = 50_000;

/** What all files that are loaded together may hold: bytes, and values once aliases are expanded. Counted down as they are read. */
export interface Budget {
  bytes: number;
  values: number;
}

export const newBudget = (): Budget => ({ bytes: 4 * MOST_BYTES, values: 4 * MOST_VALUES });

/** A parsed file: its plain data, and where each piece of it stands. YAML and JSON are read alike. */
export class YamlFile {
  readonly data: unknown;
  readonly diagnostics: Diagnostic[] = [];
  private readonly lines = new LineCounter();
  private readonly doc: Document.Parsed | undefined;
  private readonly anchors = new Map<string, Node>();
  private readonly pairs = new WeakMap<YAMLMap, Map<string, Pair>>();

  constructor(
    readonly text: string,
    readonly file: string,
    /** What to write, when the file is empty. */
    hint: string,
    private readonly budget: Budget = newBudget(),
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

  /** The text of a line, from 1 on. */
  lineText(line: number): string {
    const from = this.lines.lineStarts[line - 1] ?? 0;
    return this.text.slice(from, this.lines.lineStarts[line] ?? this.text.length).trimEnd();
  }

  /** Half-open offsets of the value at a path. */
  rangeAt(path: Path): readonly [number, number] {
    return this.locate({ path, on: 'value' });
  }

  /** How many steps of a path exist in this file. */
  depthOf(path: Path): number {
    return depthOf(this.data, path);
  }

  private parse(sink: Sink): Document.Parsed | undefined {
    if (this.text.length > MOST_BYTES) {
      sink.add('file-too-large', [], { limit: MOST_BYTES });
      return undefined;
    }
    this.budget.bytes -= this.text.length;
    if (this.budget.bytes < 0) {
      sink.add('too-much', [], { limit: newBudget().bytes, of: 'bytes' });
      return undefined;
    }
    const fault = nestingFault(this.text, DEEPEST * 2, MOST_VALUES);
    if (fault) {
      if (fault === 'too-deep') sink.add('too-deep', [], { limit: DEEPEST });
      else if (fault === 'too-many') sink.add('too-much', [], { limit: MOST_VALUES, of: 'values' });
      else sink.add('syntax', [], { why: COMPLEX_KEYS });
      return undefined;
    }
    const doc = this.parseYaml(sink);
    // A tag of one's own (`!foo`) would be passed over by the parser.
    const [error] = [...(doc?.errors ?? []), ...(doc?.warnings ?? [])];
    if (!error) return doc;
    // The parser goes on after an error, but what it then finds is mostly what the first one caused.
    const range: [number, number] = [error.pos[0], Math.max(error.pos[1], error.pos[0] + 1)];
    const d = { severity: 'error', path: [], on: 'value', file: this.file, range } as const;
    this.diagnostics.push({ ...d, code: 'syntax', params: { why: wordError(error, this.text) } });
    return undefined;
  }

  private parseYaml(sink: Sink): Document.Parsed | undefined {
    try {
      const options = { lineCounter: this.lines, prettyErrors: false, logLevel: 'error', uniqueKeys: false } as const;
      return parseDocument(this.text, options) as Document.Parsed;
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      sink.add('too-deep', [], { limit: DEEPEST });
      return undefined;
    }
  }

  /** Plain data without prototypes, aliases followed within a budget. */
  private plain(doc: Document.Parsed, sink: Sink): unknown {
    let values = 0;
    const walk = (node: unknown, path: Path): unknown => {
      if (++values > MOST_VALUES) throw new Stop('alias-expansion', { limit: MOST_VALUES, of: 'values' });
      if (--this.budget.values < 0) throw new Stop('too-much', { limit: newBudget().values, of: 'values' });
      if (path.length > DEEPEST) throw new Stop('too-deep', { limit: DEEPEST, of: 'levels' });
      if (isAlias(node)) {
        const target = this.anchors.get(node.source);
        if (!target) {
          const d = { severity: 'error', path, on: 'value', params: { name: node.source } } as const;
          this.add([{ ...d, code: 'alias-unknown', range: rangeOf(node) }]);
          return null;
        }
        return walk(target, path);
      }
      const { anchor } = (node ?? {}) as { anchor?: string };
      if (anchor) this.anchors.set(anchor, node as Node);
      if (isMap(node)) {
        const out: Record<string, unknown> = Object.create(null);
        for (const pair of node.items) {
          const key = keyOf(pair);
          if (isScalar(pair.key) && pair.key.value === null) {
            const d = { severity: 'error', path: [...path, key], on: 'key', params: { value: null } } as const;
            this.add([{ ...d, code: 'bad-name', range: rangeOf(pair.key) ?? rangeOf(node) }]);
          }
          if (Object.hasOwn(out, key)) {
            const d = { severity: 'error', path: [...path, key], on: 'key', params: { key } } as const;
            this.add([{ ...d, code: 'duplicate-key', range: rangeOf(pair.key) }]);
          }
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
      sink.add(stop.code, [], stop.params);
      return undefined;
    }
  }

  /** Half-open offsets of what a diagnostic points to: the nearest thing that exists. */
  private locate({ path, on, span }: Pick<Diagnostic, 'path' | 'on' | 'span'>): readonly [number, number] {
    let node: unknown = this.doc?.contents;
    let range = rangeOf(node) ?? [0, 0];
    for (const [i, part] of path.entries()) {
      if (isAlias(node)) node = this.anchors.get(node.source);
      const last = i === path.length - 1;
      if (isMap(node)) {
        const pair = this.pairOf(node, String(part));
        if (!pair) break;
        node = pair.value;
        range = (last && on === 'key' ? rangeOf(pair.key) : undefined) ?? rangeOf(node) ?? rangeOf(pair.key) ?? range;
      } else if (isSeq(node) && typeof part === 'number' && node.items[part] !== undefined) {
        node = node.items[part];
        range = rangeOf(node) ?? range;
      } else break;
    }
    if (on === 'key' && isMap(node) && path.length > 0 && range === rangeOf(node)) range = [range[0], range[0] + 1];
    // Where a text is written with escapes, its letters are not those of the file.
    const isAsWritten = !/[\\\n]|''/.test(this.text.slice(range[0], range[1]));
    if (span && isScalar(node) && isAsWritten && (node.type === 'PLAIN' || node.type?.startsWith('QUOTE'))) {
      const start = range[0] + (node.type === 'PLAIN' ? 0 : 1);
      return [start + span[0], start + span[1]];
    }
    return range;
  }

  private pairOf(map: YAMLMap, key: string): Pair | undefined {
    let pairs = this.pairs.get(map);
    if (!pairs) {
      pairs = new Map(map.items.filter(isPair).map((pair) => [keyOf(pair), pair]));
      this.pairs.set(map, pairs);
    }
    return pairs.get(key);
  }
}

const COMPLEX_KEYS = 'it has too many complex keys ("? "); write each key as plain text before a colon.';

/** What the parser found, for people who do not know its insides. */
function wordError({ code, message, pos }: YAMLError | YAMLWarning, text: string): string {
  switch (code) {
    case 'TAG_RESOLVE_FAILED':
      return 'a tag that begins with "!" has no meaning here; remove it.';
    case 'MULTIPLE_DOCS':
      return 'a second document begins here after "---"; a file can hold only one.';
    case 'TAB_AS_INDENT':
      return 'a tab is used for indentation; use spaces.';
    case 'BAD_INDENT':
      return 'the indentation does not match the lines above.';
    case 'MISSING_CHAR':
      if (text.charAt(pos[0]) === ',' || message.includes('","'))
        return 'something is missing here, perhaps a comma. If a text contains a comma, a colon or a bracket, put it in quotes.';
      return `${message.replace(/\.$/, '')}.`;
    default:
      return `${message.replace(/\.$/, '')}.`;
  }
}

class Stop {
  constructor(
    readonly code: 'alias-expansion' | 'too-deep' | 'too-much',
    readonly params: { limit: number; of: string },
  ) {}
}

function keyOf(pair: Pair): string {
  return String(isScalar(pair.key) ? pair.key.value : pair.key);
}

function rangeOf(node: unknown): [number, number] | undefined {
  const range = (node as Node | null | undefined)?.range;
  return range ? [range[0], range[1]] : undefined;
}
