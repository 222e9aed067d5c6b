import type { CompletionContext, CompletionResult } from '@codemirror/autocomplete';
import { ensureSyntaxTree, syntaxTree } from '@codemirror/language';
import type { EditorState } from '@codemirror/state';
import { movesetSchema } from '../../src/format/json-schema.js';
import { FACT } from '../../src/recording/why.js';
import { wordReading } from './formulas.js';
import type { Model } from './model.js';

/** The parts of JSON Schema that are used here. */
interface Schema {
  readonly $ref?: string;
  readonly $defs?: Readonly<Record<string, Schema>>;
  readonly description?: string;
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly additionalProperties?: Schema | boolean;
  readonly patternProperties?: Readonly<Record<string, Schema>>;
  readonly propertyNames?: { readonly enum?: readonly unknown[] };
  readonly items?: Schema | boolean;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly allOf?: readonly Schema[];
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
}

type Step = string | number;

/** In milliseconds. */
const PARSING = 300;

/** Where in the data a place in the text is: the keys that lead to it, and whether it is at a key. */
export function pathAt(state: EditorState, at: number, side: -1 | 0 | 1 = 0): { path: Step[]; isKey: boolean } {
  const path: Step[] = [];
  let isKey = false;
  // What was not parsed yet, behind much text, is waited for a little.
  const tree = ensureSyntaxTree(state, Math.min(state.doc.length, at + 200), PARSING) ?? syntaxTree(state);
  let node = tree.resolveInner(at, side);
  for (let here: typeof node | null = node; here; here = here.parent) {
    node = here;
    if (here.name === 'Pair') {
      const key = here.getChild('Key');
      if (!key) continue;
      const text = state.sliceDoc(key.from, key.to).replace(/^["']|["']$/g, '');
      if (path.length === 0 && at <= key.to && at >= key.from) isKey = true;
      path.unshift(text);
    } else if (
      here.name === 'Item' ||
      (here.parent?.name === 'FlowSequence' && here.name !== '[' && here.name !== ']')
    ) {
      let index = 0;
      for (let before = here.prevSibling; before; before = before.prevSibling)
        if (
          before.name === here.name ||
          (here.parent?.name === 'FlowSequence' && before.name !== '[' && before.name !== ',')
        )
          index++;
      path.unshift(index);
    }
  }
  return { path, isKey };
}

/** All schemas that hold at a path, references followed. */
export function schemasAt(root: Schema, path: readonly Step[]): Schema[] {
  let found = openUp(root, root);
  for (const step of path) {
    found = found.flatMap((schema) => {
      if (typeof step === 'number') return typeof schema.items === 'object' ? openUp(root, schema.items) : [];
      const own = schema.properties?.[step];
      if (own) return openUp(root, own);
      const patterns = Object.entries(schema.patternProperties ?? {}).flatMap(([pattern, one]) =>
        new RegExp(pattern, 'u').test(step) ? openUp(root, one) : [],
      );
      if (patterns.length > 0) return patterns;
      return typeof schema.additionalProperties === 'object' ? openUp(root, schema.additionalProperties) : [];
    });
  }
  return found;
}

function openUp(root: Schema, schema: Schema, deep = 0): Schema[] {
  if (deep > 8) return [];
  const referred = schema.$ref?.startsWith('#/$defs/')
    ? root.$defs?.[decodeURIComponent(schema.$ref.slice(8))]
    : undefined;
  const parts = [
    ...(referred ? [referred] : []),
    ...(schema.anyOf ?? []),
    ...(schema.oneOf ?? []),
    ...(schema.allOf ?? []),
  ];
  return [schema, ...parts.flatMap((part) => openUp(root, part, deep + 1))];
}

const whole = movesetSchema() as Schema;

/** A text about a place, and from where to where it is about it. */
interface Doc {
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

/** What the reference says of the key at a place; of a fact in a formula, its value now. */
export function docAt(model: Model, state: EditorState, at: number): Doc | null {
  const { path, isKey } = pathAt(state, at);
  if (!isKey) return factAt(model, state, at);
  const key = syntaxTree(state).resolveInner(at, 0);
  const text = schemasAt(whole, path).find(({ description }) => description !== undefined)?.description;
  return text === undefined ? null : { from: key.from, to: key.to, text };
}

/** The fact at a place of a formula, and what it is in the tick that is looked at. */
function factAt(model: Model, state: EditorState, at: number): Doc | null {
  const line = state.doc.lineAt(at);
  const one = model.now;
  for (const { index, 0: text } of line.text.matchAll(FACT)) {
    const from = line.from + index;
    if (at < from || at > from + text.length || !one) continue;
    const reading = one.plan.reading(text);
    if (!reading) return null;
    // A formula that was not there before may need a number of its own.
    const now = model.now;
    if (!now) return null;
    return { from, to: from + text.length, text: `${text} is ${wordReading(now, reading)}` };
  }
  return null;
}

/** Keys and values that may stand at a place: of the schema with the file's own names. */
export function completionsAt(model: Model, context: CompletionContext): CompletionResult | null {
  const word = context.matchBefore(/[\w.$]*/);
  if (!word || (word.from === word.to && !context.explicit)) return null;
  const { plan } = model.now ?? {};
  const schema = (
    plan?.parsed ? movesetSchema(plan.names as unknown as Parameters<typeof movesetSchema>[0]) : whole
  ) as Schema;
  const { path, isKey } = pathAt(context.state, word.from, -1);
  const line = context.state.doc.lineAt(word.from);
  const before = line.text.slice(0, word.from - line.from);
  // Behind a colon, or in a list, a value is meant.
  const isValue = /:\s*$|\[[^\]]*$|^\s*-\s+$/.test(before) && !/\{\s*$|,\s*$/.test(before.replace(/\[[^\]]*$/, '['));
  const at = schemasAt(schema, isKey ? path.slice(0, -1) : path);
  const names = isValue
    ? [
        ...new Set(
          at.flatMap((one) => [
            ...(one.enum ?? []),
            ...(one.const === undefined ? [] : [one.const]),
            ...(one.items && typeof one.items === 'object' ? openUp(schema, one.items) : []).flatMap(
              (item) => item.enum ?? [],
            ),
          ]),
        ),
      ].map((label) => ({ label: String(label), type: 'constant' }))
    : [
        ...new Map([
          ...at.flatMap((one) => (one.propertyNames?.enum ?? []).map((name) => [String(name), {} as Schema] as const)),
          ...at.flatMap((one) => Object.entries(one.properties ?? {})),
        ]),
      ].map(([label, one]) => ({
        label,
        type: 'property',
        ...(one.description !== undefined && { info: one.description }),
      }));
  return names.length === 0 ? null : { from: word.from, options: names, validFor: /^[\w.$]*$/ };
}
