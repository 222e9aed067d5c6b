import { expect, test } from 'vitest';
import { checkMoveset, compileMoveset, type Moveset, wordDiagnostic } from '../../src/index.js';
import { FACT_GROUPS, takenWords } from '../../src/moveset/collect-names.js';

/** What is told of the names of a moveset whose rest is sound. */
const clashes = (more: object) =>
  checkMoveset({ loggia: 1, name: 'Pell', stances: { stand: {} }, ...more })
    .diagnostics.filter(({ code }) => code === 'name-clash')
    .map((d) => wordDiagnostic(d).replace('; rename one of them.', ''));

test('no name may be a word that means something where it could stand', () => {
  const end = { start: { code: 'only' }, end: 'grounded' };
  expect(clashes({ marks: { target: {} } })).toEqual(['"target" is the name of both a mark and a point']);
  expect(clashes({ places: ['target'] })).toEqual(['"target" is the name of both a place and a point']);
  expect(clashes({ marks: { none: {} } })).toEqual(['"none" is the name of both a mark and a point']);
  expect(clashes({ probes: { head: { ray: [1, 0] } } })).toEqual(['"head" is the name of both a probe and a point']);
  for (const name of ['free', 'fixed', 'camera'])
    expect(clashes({ inputs: { [name]: { stick: { left: 'KeyA' } } } })).toEqual([
      `"${name}" is the name of both a stick and a direction`,
    ]);
  expect(clashes({ abilities: { dash: { ...end, tags: ['all'] } } })).toEqual([
    '"all" is the name of both a tag and a word for all others',
  ]);
  expect(clashes({ abilities: { dash: { ...end, phases: [{ for: '1f', tags: 'all' }] } } })).toHaveLength(1);
  expect(clashes({ marks: { hooked: {} }, inputs: { move: { stick: { left: 'KeyA' } } } })).toEqual([]);
});

test('every word of a shape is told of, and every group of facts is one that there is', () => {
  const words = [...takenWords()].map(([kind, known]) => [kind, known.size] as const);
  expect(Object.fromEntries(words)).toMatchObject({ stick: expect.any(Number), tag: 1, ability: 1, event: 2 });
  const moveset = {
    loggia: 1,
    name: 'Pell',
    pools: { wind: { max: 9 } },
    hurt: {},
    stances: { stand: {} },
  };
  const plan = compileMoveset(moveset as Moveset);
  const groups = new Set(plan.factNames().flatMap((fact) => /^(\w+)\./.exec(fact)?.[1] ?? []));
  expect([...groups].filter((group) => !FACT_GROUPS.includes(group))).toEqual([]);
  // Whom a target is chosen from can be read nowhere else.
  expect(FACT_GROUPS.filter((group) => !groups.has(group))).toEqual(['other']);
});

test('a body needs a shape, a direction a pace, and a pace a direction', () => {
  const told = (more: object) =>
    checkMoveset({ loggia: 1, name: 'Pell', stances: { stand: {} }, ...more }).diagnostics.map(wordDiagnostic);
  const dash = (move: object) => ({
    abilities: { dash: { start: { code: 'only' }, phases: [{ for: '9f', move }] } },
  });
  expect(told({ body: { shapes: {} } })).toEqual(['At least 1 entry must be here, but there are 0.']);
  expect(told(dash({ along: 'facing' }))).toEqual([
    '"along" of move needs "speed": how fast it goes in that direction (or "distance": how far).',
  ]);
  expect(told(dash({ speed: 6 }))).toEqual(['"speed" of move needs "along": the direction that this is about.']);
  expect(told(dash({ forward: 6, gap: 1 }))).toEqual(['"gap" of move needs "on": the probe that finds the surface.']);
  expect(told(dash({ along: 'facing', speed: 6, flat: true }))).toEqual([]);
});
