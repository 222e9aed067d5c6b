import { isAlias, isMap, isScalar, isSeq, LineCounter, parseDocument, visit } from 'yaml';
import type { TextPlace } from '../compile/origin.js';
import type { Path } from '../report/diagnostic.js';

/**
 * A file's text with another value at a place, and nothing else changed: comments, order and spaces stay. Undefined where the place does not hold
 * exactly what is said to be there.
 * @param text YAML or JSON.
 * @param place Line and column from 1 on, or the path of the value.
 * @param present What is there now.
 * @param value What is to be there: a number, or a text like `0.2s`.
 */
export function replaceAt(
  text: string,
  place: Pick<TextPlace, 'line' | 'column'> | Path,
  present: unknown,
  value: number | string,
): string | undefined {
  const lineCounter = new LineCounter();
  const doc = parseDocument(text, { lineCounter, logLevel: 'error', uniqueKeys: false });
  if (doc.errors.length > 0) return undefined;
  let range: readonly number[] | undefined | null;
  const offer = (node: unknown) => {
    if (isScalar(node) && node.value === present && !node.anchor) range = node.range;
  };
  if ('line' in place) {
    const from = lineCounter.lineStarts[place.line - 1] + place.column - 1;
    visit(doc, {
      Scalar: (key, node) => {
        if (key !== 'key' && node.range?.[0] === from) offer(node);
      },
    });
  } else {
    let node: unknown = doc.contents;
    for (const step of place) {
      if (isAlias(node)) return undefined;
      node = isMap(node) || isSeq(node) ? node.get(step, true) : undefined;
    }
    offer(node);
  }
  if (!range) return undefined;
  const written = text.slice(range[0], range[1]);
  const quote =
    /^(["'])/.exec(written)?.[1] ?? (typeof value === 'string' && text.trimStart().startsWith('{"') ? '"' : '');
  return `${text.slice(0, range[0])}${quote}${value}${quote}${text.slice(range[1])}`;
}
