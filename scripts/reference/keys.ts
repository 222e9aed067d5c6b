import { stringify } from 'yaml';
import { isPlain } from '../../src/moveset/read.js';
import type { Field, FieldsShape, Shape } from '../../src/moveset/shape.js';
import { withArticle } from '../../src/report/words.js';
import { fieldDocs } from './field-docs.js';

/** A page of all keys: a table for each thing that has keys, with examples taken from `example`. */
export function describeKeys(root: FieldsShape, example: unknown): string {
  const shapes: FieldsShape[] = [];
  collect(root, shapes);
  const examples = new Map<FieldsShape, Map<string, unknown>>();
  note(root, [example], examples);
  // Effects stand in several things; an example of one serves all.
  const shared = new Map([...examples.values()].flatMap((own) => [...own]));
  return shapes.map((shape) => describeShape(shape, new Map([...shared, ...(examples.get(shape) ?? [])]))).join('\n');
}

/** Everything with keys, in the order in which it is met. */
function collect(shape: Shape, found: FieldsShape[]): void {
  switch (shape.kind) {
    case 'fields':
      if (found.includes(shape)) return;
      found.push(shape);
      for (const { shape: inner } of Object.values(shape.fields)) collect(inner, found);
      return;
    case 'list':
    case 'map':
      collect(shape.of, found);
      return;
    case 'either':
      for (const form of [shape.plain, shape.list, shape.fields]) if (form) collect(form, found);
  }
}

/** Notes the first value of each key. */
function note(shape: Shape, values: unknown[], into: Map<FieldsShape, Map<string, unknown>>): void {
  switch (shape.kind) {
    case 'fields': {
      const known = into.get(shape) ?? new Map<string, unknown>();
      into.set(shape, known);
      for (const [key, field] of Object.entries(shape.fields)) {
        const inside = values.flatMap((value) => (isPlain(value) && value[key] !== undefined ? [value[key]] : []));
        if (inside.length > 0 && !known.has(key)) known.set(key, inside[0]);
        note(field.shape, inside, into);
      }
      return;
    }
    case 'list':
      note(shape.of, values.flat(), into);
      return;
    case 'map':
      note(
        shape.of,
        values.flatMap((value) => (isPlain(value) ? Object.values(value) : [])),
        into,
      );
      return;
    case 'either':
      for (const form of [shape.plain, shape.list, shape.fields]) if (form) note(form, values, into);
  }
}

function describeShape(shape: FieldsShape, examples: ReadonlyMap<string, unknown>): string {
  const rows = Object.entries(shape.fields).map(([key, field]) => {
    const value = examples.get(key);
    if (value === undefined) throw new Error(`The example of ${shape.title} does not use "${key}".`);
    const needed = field.required ? ' *' : '';
    return `| \`${key}\`${needed} | ${describeType(field.shape)} | ${cell(docOf(shape, key, field))} | ${exampleOf(key, value)} |`;
  });
  const one = shape.oneOf ? `\nExactly one of ${shape.oneOf.map((key) => `\`${key}\``).join(', ')}.\n` : '';
  const head = '| key | type and range | meaning | example |\n| --- | --- | --- | --- |';
  return `## ${capital(shape.title)}\n${one}\n${head}\n${rows.join('\n')}\n`;
}

function docOf(shape: FieldsShape, key: string, field: Field): string {
  const docs = fieldDocs();
  const doc = field.doc ?? docs[shape.title]?.[key] ?? docs['*'][key];
  if (!doc) throw new Error(`${shape.title} says nothing of "${key}".`);
  return capital(doc);
}

/** What a key takes, in a few words. */
function describeType(shape: Shape): string {
  switch (shape.kind) {
    case 'number':
      return `${shape.whole ? 'whole number' : 'number'}, ${shape.min} to ${shape.max}`;
    case 'formula': {
      if (shape.gives === 'truth') return 'condition';
      const range = shape.min === undefined ? '' : `, ${shape.min} to ${shape.max ?? 1e6}`;
      const what = { number: 'number', time: 'time', value: 'number, time' }[shape.gives];
      return `${what} or formula${shape.percent ? ' or percentage' : ''}${range}`;
    }
    case 'time':
      return `time${shape.formula ? ' or formula' : ''}${shape.min > 0 ? `, at least ${shape.min}f` : ''}`;
    case 'text':
      return shape.expected ?? 'text';
    case 'truth':
      return '`true` or `false`';
    case 'data':
      return 'map of plain data';
    case 'word':
      return shape.what ?? shape.of.map((word) => `\`${word}\``).join(', ');
    case 'name': {
      const calls = Object.entries(shape.calls ?? {}).map(
        ([word, inner]) => `\`${word}(${inner.words ? 'point' : inner.of.join(' or ')})\``,
      );
      return `name of ${[...shape.of.map(withArticle), ...(shape.words ?? []).map((word) => `\`${word}\``), ...calls].join(', ')}`;
    }
    case 'list':
      return shape.orOne ? `${describeType(shape.of)}, or a list` : `list of ${describeType(shape.of)}`;
    case 'map':
      return `map of ${shape.keys === 'new' ? 'new names' : shape.keys === 'code' ? 'codes' : `${shape.keys} names`} to ${describeType(shape.of)}`;
    case 'fields':
      return `[${shape.title}](#${shape.title.replaceAll(' ', '-')})`;
    case 'either':
      return [shape.plain, shape.list, shape.fields].flatMap((form) => (form ? describeType(form) : [])).join(', or ');
  }
}

function exampleOf(key: string, value: unknown): string {
  const text = stringify({ [key]: value }, { collectionStyle: 'flow', lineWidth: 0, flowCollectionPadding: true });
  const inner = text.trim().replace(/^\{ /, '').replace(/ \}$/, '').replace(/\n\s*/g, ' ');
  return inner.length > 90 ? '' : `\`${cell(inner)}\``;
}

/** Text that stays in one cell of a table. */
export function cell(text: string): string {
  return text.replaceAll('|', '\\|').replace(/\s*\n\s*/g, ' ');
}

function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}
