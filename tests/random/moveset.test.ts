import { expect, test } from 'vitest';
import { checkMoveset } from '../../src/index.js';
import { MOVESET } from '../../src/moveset/schema.js';
import type { FieldsShape, Shape } from '../../src/moveset/shape.js';
import { makeSource } from './moveset.js';
import { Random } from './random.js';

/** Shapes below a shape, each with what it adds to a path and the part of a value that it is the shape of. */
function below(shape: Shape, value?: unknown): [step: string, shape: Shape, values: unknown[]][] {
  switch (shape.kind) {
    case 'either':
      return [shape.plain, shape.list, shape.fields].flatMap((form) => (form ? below(form as Shape, value) : []));
    case 'list':
      return [['', shape.of, [value].flat()]];
    case 'map':
      return [['.*', shape.of, Object.values(value ?? {})]];
    case 'fields':
      return Object.entries(shape.fields).map(([key, field]) => [
        `.${key}`,
        field.shape,
        [(value as Record<string, unknown> | undefined)?.[key]],
      ]);
    default:
      return [];
  }
}

function listKeys(shape: Shape, path: string, into: Set<string>, above: readonly Shape[] = []): void {
  for (const [step, inner] of below(shape)) {
    if (above.includes(inner)) continue;
    if (step !== '' && step !== '.*') into.add(path + step);
    listKeys(inner, path + step, into, [...above, shape]);
  }
}

function listUsed(shape: Shape, value: unknown, path: string, into: Set<string>): void {
  if (value === undefined || (shape.kind === 'fields' && (typeof value !== 'object' || Array.isArray(value)))) return;
  for (const [step, inner, values] of below(shape, value))
    for (const one of values) {
      if (one === undefined) continue;
      into.add(path + step);
      listUsed(inner, one, path + step, into);
    }
}

test('whatever key the format has comes up in random movesets', () => {
  const all = new Set<string>();
  const used = new Set<string>();
  let sound = 0;
  listKeys(MOVESET as FieldsShape, '', all);
  // What is for the checks and for files, and no meaning; and what is there twice, for one volume and for several.
  const never = /\.(allow|include|without|part)$|volumes\.flat$/;
  const unused = () => [...all].filter((key) => !used.has(key) && !never.test(key));
  for (let seed = 1; seed <= 800 && (seed <= 100 || unused().length > 0); seed++) {
    const source = makeSource(new Random(seed), { fights: seed % 2 === 0 });
    listUsed(MOVESET as FieldsShape, source, '', used);
    if (seed <= 100 && checkMoveset(source).plan) sound++;
  }
  expect(unused()).toEqual([]);
  expect(all.size).toBeGreaterThan(300);
  expect(sound).toBeGreaterThan(75);
});
