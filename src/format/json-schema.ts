import { DOCS } from '../moveset/docs.js';
import { MOVESET } from '../moveset/schema.js';
import type { Field, Shape } from '../moveset/shape.js';

type Schema = Record<string, unknown>;

const NAME = '^[A-Za-z][A-Za-z0-9_]{0,63}$';
const TIME = '^\\s*(\\d+(\\.\\d+)?|\\.\\d+)\\s*(s|ms|f)\\s*$';

/** A JSON Schema (draft 2020-12) of the moveset format, for editors. Names are checked by `loggia check`. */
export function movesetSchema(): Schema {
  const { required, ...schema } = toJsonSchema(MOVESET);
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Loggia moveset',
    ...schema,
    required: ['loggia'],
    // What a file includes may hold the rest.
    anyOf: [{ required: ['include'] }, { required }],
  };
}

/** What a shape allows, as JSON Schema. */
export function toJsonSchema(shape: Shape): Schema {
  switch (shape.kind) {
    case 'number':
      return { type: shape.whole ? 'integer' : 'number', minimum: shape.min, maximum: shape.max };
    case 'formula':
      return shape.gives === 'truth'
        ? { type: ['string', 'boolean'], description: 'A condition.' }
        : {
            type: ['number', 'string'],
            description: `A number or a formula${shape.percent ? ', or a percentage' : ''}.`,
          };
    case 'time':
      return { type: 'string', pattern: TIME, description: 'A time: 0.2s, 200ms or 12f.' };
    case 'text':
      return { type: 'string', ...(shape.pattern && { pattern: shape.pattern.source }) };
    case 'truth':
      return { type: 'boolean' };
    case 'word':
      return { enum: [...shape.of] };
    case 'name':
      return { type: 'string', description: `The name of a ${[...shape.of, ...(shape.words ?? [])].join(', ')}.` };
    case 'list': {
      const items = toJsonSchema(shape.of);
      const list = {
        type: 'array',
        items,
        ...(shape.min && { minItems: shape.min }),
        ...(shape.max && { maxItems: shape.max }),
      };
      return shape.orOne ? { anyOf: [items, list] } : list;
    }
    case 'map':
      return {
        type: 'object',
        additionalProperties: toJsonSchema(shape.of),
        ...(shape.keys === 'new' && { propertyNames: { pattern: NAME } }),
      };
    case 'fields':
      return {
        type: 'object',
        properties: Object.fromEntries(
          Object.entries(shape.fields).map(([key, field]) => [key, fieldSchema(field, shape.title, key)]),
        ),
        required: Object.keys(shape.fields).filter((key) => shape.fields[key].required),
        additionalProperties: false,
        ...(shape.oneOf && { oneOf: shape.oneOf.map((key) => ({ required: [key] })) }),
      };
    case 'either':
      return { anyOf: [shape.plain, shape.list, shape.fields].flatMap((form) => (form ? toJsonSchema(form) : [])) };
  }
}

function fieldSchema({ shape, doc }: Field, title: string, key: string): Schema {
  const said = doc ?? DOCS[title]?.[key] ?? DOCS['*'][key] ?? '';
  return { ...toJsonSchema(shape), description: said.charAt(0).toUpperCase() + said.slice(1) };
}
