import { DOCS } from '../moveset/docs.js';
import { LIKE_A_TIME, MOST, NAME, type Names, namesOf } from '../moveset/read.js';
import { LIKE_SHAPES, MOVESET } from '../moveset/schema.js';
import type { Field, FieldsShape, FormulaShape, NameKind, Shape } from '../moveset/shape.js';
import { want } from '../report/arguments.js';
import { FAULTS } from '../report/faults.js';

type Schema = Record<string, unknown>;

/** Up to an hour; how many ticks that is, depends on the rate. */
const SECONDS = '0*(?:3600(?:\\.0+)?|(?:3[0-5]\\d\\d|[0-2]?\\d{1,3})(?:\\.\\d+)?)|\\.\\d+';
const MILLISECONDS = '0*(?:3600000(?:\\.0+)?|(?:3[0-5]\\d{5}|[0-2]?\\d{1,6})(?:\\.\\d+)?)|\\.\\d+';
const TICKS = '0*\\d{1,6}(?:\\.\\d+)?|\\.\\d+';
const TIME = `^\\s*(?:(?:${SECONDS})\\s*s|(?:${MILLISECONDS})\\s*ms|(?:${TICKS})\\s*f)\\s*$`;
const TIME_ABOVE_0 = TIME.replace('^', '^(?=.*[1-9])');
const PERCENT = '^\\s*\\d+(\\.\\d+)?\\s*%\\s*$';
const MORE_THAN_100 = '^\\s*0*([1-9]\\d{3,}|[2-9]\\d\\d|1(0[1-9]|[1-9]\\d)|100\\.0*[1-9])(\\d*|\\.\\d+)\\s*%\\s*$';

/**
 * A JSON Schema (draft 2020-12) of the moveset format, for editors. With the names of a moveset it offers them where
 * one can stand; without, names are checked by `loggia check` only.
 * @param names Names to offer where one is expected. Default: any.
 */
export function movesetSchema(names?: Names): Schema {
  wantNames('movesetSchema', names);
  const { required, ...schema } = toJsonSchema(MOVESET, names);
  return {
    $schema: 'https://json-schema.org/draft/2020-12/schema',
    title: 'Loggia moveset',
    ...schema,
    // Parts of what a file includes may be changed by a key or two.
    if: { anyOf: [{ required: ['include'] }, { required: ['part'] }] },
    else: {
      properties: Object.fromEntries(
        Object.entries(LIKE_SHAPES).map(([room, shape]) => [
          room,
          { additionalProperties: requiredOf(shape as FieldsShape) },
        ]),
      ),
    },
    // What a file includes, or what includes it, may hold the rest.
    anyOf: [{ required }, { required: ['loggia', 'include'] }, { required: ['part'] }],
  };
}

/** What a shape allows, as JSON Schema. */
export function toJsonSchema(shape: Shape, names?: Names): Schema {
  want(typeof shape?.kind === 'string', 'toJsonSchema', 'its argument', 'a shape', shape);
  switch (shape.kind) {
    case 'number':
      return { type: shape.whole ? 'integer' : 'number', minimum: shape.min, maximum: shape.max };
    case 'formula':
      return formulaSchema(shape);
    case 'time':
      if (shape.formula)
        return {
          type: 'string',
          anyOf: [
            { pattern: shape.min > 0 ? TIME_ABOVE_0 : TIME },
            { not: { pattern: `${PERCENT}|${LIKE_A_TIME.source}` } },
          ],
          description: 'A time like 0.2s or 12f, or a formula.',
        };
      return {
        type: 'string',
        pattern: shape.min > 0 ? TIME_ABOVE_0 : TIME,
        description: 'A time: 0.2s, 200ms or 12f (ticks).',
      };
    case 'text':
      return { type: 'string', ...(shape.pattern && { pattern: shape.pattern.source }) };
    case 'truth':
      return { type: 'boolean' };
    case 'data':
      return { type: 'object' };
    case 'word':
      return { enum: [...shape.of] };
    case 'name': {
      if (names) return { enum: namesOf(shape, names) };
      return { type: 'string', description: `The name of a ${[...shape.of, ...(shape.words ?? [])].join(', ')}.` };
    }
    case 'list': {
      const items = toJsonSchema(shape.of, names);
      const list = {
        type: 'array',
        items,
        ...(shape.min && { minItems: shape.min }),
        ...(shape.max && { maxItems: shape.max }),
      };
      if (shape.named) return { anyOf: [list, { type: 'object', additionalProperties: items }] };
      return shape.orOne ? { anyOf: [items, list] } : list;
    }
    case 'map':
      return {
        type: 'object',
        additionalProperties: toJsonSchema(shape.of, names),
        ...keySchema(shape.keys, names),
        ...(shape.min && { minProperties: shape.min }),
        ...(shape.max && { maxProperties: shape.max }),
      };
    case 'fields':
      return {
        type: 'object',
        properties: Object.fromEntries(
          Object.entries(shape.fields).map(([key, field]) => [key, fieldSchema(field, shape.title, key, names)]),
        ),
        ...(shape.unless === undefined && requiredOf(shape)),
        additionalProperties: false,
        ...(shape.some && { anyOf: shape.some.keys.map((key) => ({ required: [key] })) }),
        ...(shape.needs && {
          dependentSchemas: Object.fromEntries(
            Object.entries(shape.needs).map(([key, needed]) => [
              key,
              { anyOf: [needed.key, ...(needed.or ? [needed.or] : [])].map((one) => ({ required: [one] })) },
            ]),
          ),
        }),
        ...(shape.oneOf && { oneOf: shape.oneOf.map((key) => kindSchema(shape, key)) }),
      };
    case 'either':
      return {
        anyOf: [shape.plain, shape.list, shape.fields].flatMap((form) => (form ? toJsonSchema(form, names) : [])),
      };
  }
}

/** The keys that a thing needs, or another one that it is like. */
function requiredOf({ fields, unless }: FieldsShape): Schema {
  const required = Object.keys(fields).filter((key) => fields[key].required);
  return unless === undefined ? { required } : { anyOf: [{ required: [unless] }, { required }] };
}

/** A value within its range, or a text: a formula, whose own faults `loggia check` finds. */
function formulaSchema({ gives, percent, share, fixed, min, max }: FormulaShape): Schema {
  if (gives === 'truth')
    return { anyOf: [{ type: 'boolean' }, { type: 'string', not: { pattern: PERCENT } }], description: 'A condition.' };
  if (gives === 'time')
    return { type: 'string', not: { pattern: PERCENT }, description: 'A time like 0.2s or 12f, or a formula.' };
  if (fixed)
    return {
      anyOf: [
        { type: 'number', minimum: min ?? -MOST, maximum: max ?? MOST },
        { type: 'string', pattern: PERCENT, ...(share && { not: { pattern: MORE_THAN_100 } }) },
      ],
      description: 'A number or a percentage.',
    };
  if (gives === 'value')
    return {
      anyOf: [
        { type: 'number', minimum: -MOST, maximum: MOST },
        { type: 'string', not: { pattern: PERCENT } },
      ],
      description: 'A number, a time like 0.2s or 12f, or a formula.',
    };
  const text = percent ? (share ? { not: { pattern: MORE_THAN_100 } } : {}) : { not: { pattern: PERCENT } };
  return {
    anyOf: [
      { type: 'number', minimum: min ?? -MOST, maximum: max ?? MOST },
      { type: 'string', ...text },
    ],
    description: `A number or a formula${percent ? ', or a percentage' : ''}.`,
  };
}

/** One kind of several: its key, and none of the keys that only go with others. */
function kindSchema({ together = {} }: FieldsShape, key: string): Schema {
  const strange = Object.values(together)
    .flat()
    .filter((other) => !together[key]?.includes(other));
  return {
    required: [key],
    ...(strange.length > 0 && { properties: Object.fromEntries(strange.map((k) => [k, false])) }),
  };
}

function keySchema(keys: NameKind | 'new' | 'code', names: Names | undefined): Schema {
  if (keys === 'new') return { propertyNames: { pattern: NAME.source } };
  if (keys === 'code') return { propertyNames: { enum: Object.keys(FAULTS) } };
  return names ? { propertyNames: { enum: [...names[keys]] } } : {};
}

function fieldSchema({ shape, doc }: Field, title: string, key: string, names: Names | undefined): Schema {
  const said = doc ?? DOCS[title]?.[key] ?? DOCS['*'][key] ?? '';
  return { ...toJsonSchema(shape, names), description: said.charAt(0).toUpperCase() + said.slice(1) };
}

/** Names of a moveset, or nothing. */
export function wantNames(call: string, names: Names | undefined): void {
  const holds = names === undefined || Array.isArray(names?.ability);
  want(holds, call, 'its argument', 'the names of a moveset', names);
}
