import { expect, test } from 'vitest';
import { formatDiagnostic } from '../../src/format/index.js';
import { parseMoveset } from '../../src/format/text.js';
import { Character, checkMoveset, compileMoveset, describe, flatGround } from '../../src/index.js';
import { sentences, tick } from '../support.js';

const HEAD = `loggia: 1
name: Pell
inputs: { gaff: { button: KeyJ }, gale: { button: KeyF, allow: { unread-input: a sample } } }
pools: { wind: { max: 24, regen: 2 }, oil: { like: wind, max: 9, data: { icon: oil } } }
stances: { stand: { when: grounded, walk: { speed: 3, brake: 20 } }, wade: { like: stand, when: x > 3, walk: { speed: 1 } }, fall: {} }
`;

const JAB = `  jab:
    start: { press: gaff }
    cost: { wind: 3 }
    tags: attack
    marks: [spot]
    phases: [{ name: windup, for: 5f }, { name: active, for: 4f, gravity: 0, move: { forward: 4 } }, { for: 9f }]
`;

const of = (abilities: string) => parseMoveset(`${HEAD}abilities:\n${JAB}${abilities}`);

test('what is like another is that, but for what it says itself', () => {
  const { plan, diagnostics } = of(`  heavy:
    like: jab
    start: { hold: gale }
    cost: { oil: 2 }
    phases: { active: { for: 8f, move: { forward: 6 } }, 3: { for: 12f } }
  light: { like: heavy, without: [cost, tags, phases.windup], start: { tap: gaff }, phases: { active: { for: 2f } } }
`);
  expect(diagnostics).toEqual([]);
  if (!plan) throw new Error('no plan');
  const { abilities, pools } = describe(plan);
  expect(abilities.heavy).toMatchObject({
    starts: [{ kind: 'hold', input: 'gale' }],
    cost: { wind: 3, oil: 2 },
    tags: ['attack'],
    phases: [
      { name: 'windup', lasts: 5 / 60 },
      { name: 'active', lasts: 8 / 60 },
      { name: '3', lasts: 0.2 },
    ],
  });
  expect(abilities.light).toMatchObject({
    starts: [{ kind: 'tap', input: 'gaff' }],
    cost: {},
    tags: [],
    phases: [
      { name: 'active', lasts: 2 / 60 },
      { name: '2', lasts: 0.2 },
    ],
  });
  expect(pools.oil).toEqual({ min: 0, max: 9, regen: 2, data: { icon: 'oil' } });
  const pell = new Character(plan, { world: flatGround() });
  pell.door.press('gale');
  tick(pell, 6);
  expect([pell.readout.vx, pell.facts.fact('gravity')]).toEqual([6, 0]);
  tick(pell, 40);
  pell.door.place(5, 0);
  tick(pell, 2);
  expect(pell.readout.stance).toBe('stand'); // the first one that holds
});

test('a fault is told once, where it was written', () => {
  const text = (more: string) => sentences(of(more)).map((line) => line.replace(/\d+:/, ''));
  expect(
    sentences(
      parseMoveset(
        `${HEAD}abilities:\n${JAB.replace('gravity', 'graviti')}  heavy: { like: jab, start: { press: gael } }\n`,
      ),
    ),
  ).toEqual([
    '12:66 unknown-key A phase has no key "graviti". Did you mean "gravity"?',
    '13:39 unknown-name There is no button "gael". Did you mean "gale"?',
  ]);
  // Whichever of them is declared first.
  const early = `${HEAD}abilities:\n  heavy: { like: jab, start: { press: gale } }\n${JAB.replace('gravity', 'graviti')}`;
  expect(sentences(parseMoveset(early))).toEqual([
    expect.stringContaining('13:66 unknown-key A phase has no key "graviti"'),
  ]);
  expect(text('  heavy: { like: jba }\n')[0]).toContain('There is no ability "jba". Did you mean "jab"?');
  expect(text('  heavy: { like: light }\n  light: { like: heavy }\n')[0]).toContain(
    'This is like itself: heavy is like light is like heavy.',
  );
  expect(text('  heavy: { like: jab, without: [csot, 3, phases.go] }\n')).toEqual([
    expect.stringContaining('There is no key "csot"'),
    expect.stringContaining('Expected the keys of a part, as in cost or phases.windup'),
    expect.stringContaining('There is no key "phases.go"'),
  ]);
  expect(text('  heavy: { like: jab, phases: { go: { for: 1f } } }\n')[0]).toContain(
    'There is no phase "go". It can be windup, active, 3',
  );
  expect(text('  heavy: { start: { press: gale }, phases: { go: { for: 1f } } }\n')[0]).toContain(
    'Write a list of them',
  );
  expect(text('  heavy: { start: { press: gale }, without: cost, phases: [{ for: 1f }] }\n')[0]).toContain(
    '"without" of an ability needs "like"',
  );
});

test('what is like a giant is bounded', () => {
  const phases = Array.from({ length: 60 }, () => ({ for: '1f', emit: [], when: 'grounded' }));
  const abilities: Record<string, object> = { base: { start: { code: 'only' }, phases } };
  for (let i = 0; i < 2000; i++) abilities[`a${i}`] = { like: 'base' };
  const made = checkMoveset({ loggia: 1, name: 'Pell', stances: { stand: {} }, abilities });
  expect(made.diagnostics[0].code).toBe('too-much');
  const row: Record<string, object> = { a0: { start: { code: 'only' }, phases: [{ for: '1f' }] } };
  for (let i = 1; i < 99; i++) row[`a${i}`] = { like: `a${i - 1}` };
  const faults = (abilities: object) =>
    checkMoveset({ loggia: 1, name: 'Pell', stances: { stand: {} }, abilities }).diagnostics.filter(
      ({ severity }) => severity === 'error',
    );
  // In their order each finds the one before it written out; the other way round, they are a row.
  expect(faults(row)).toEqual([]);
  expect(faults(Object.fromEntries(Object.entries(row).reverse()))[0]).toMatchObject({ code: 'chain-depth' });
});

test('names that all objects have are names like others', () => {
  const made = checkMoveset({
    loggia: 1,
    name: 'Pell',
    pools: { toString: { max: 9 }, wind: { max: 9 } },
    stances: { stand: {} },
    abilities: {
      valueOf: { start: { code: 'only' }, cost: { toString: 3 }, phases: [{ for: '1f' }] },
      other: { like: 'valueOf', cost: { wind: 1 } },
    },
  });
  expect(made.diagnostics).toEqual([]);
  expect(made.plan && describe(made.plan).abilities.other?.cost).toEqual({ toString: 3, wind: 1 });
});

test('in TypeScript, too', () => {
  const plan = compileMoveset({
    loggia: 1,
    name: 'Pell',
    inputs: { gaff: { button: 'KeyJ' }, gale: { button: 'KeyF' } },
    pools: { wind: { max: 9 }, oil: { like: 'wind' } },
    stances: { stand: { when: 'grounded' }, fall: { tags: 'air' } },
    abilities: {
      jab: { start: { press: 'gaff' }, phases: [{ name: 'active', for: '9f' }] },
      poke: { like: 'jab', start: { press: 'gale' }, phases: { active: { for: '6f' } } },
    },
  });
  expect(plan.abilities.map(({ lasts }) => lasts)).toEqual([9, 6]);
});

test('a file that includes others changes phases by their names', () => {
  const files: Record<string, string> = {
    'pell.yaml': `include: jab.yaml\n${HEAD}abilities: { jab: { phases: { active: { for: 8f, graviti: 1 } }, start: { hold: gale } } }\n`,
    'jab.yaml': `abilities:\n${JAB}`,
  };
  const read = (path: string) => ({ text: files[path] });
  const told = () => parseMoveset(files['pell.yaml'], 'pell.yaml', { read });
  expect(told().diagnostics.map(formatDiagnostic)).toEqual([
    'pell.yaml:7:50 error unknown-key: A phase has no key "graviti". Did you mean "gravity"?',
  ]);
  files['pell.yaml'] = files['pell.yaml'].replace(', graviti: 1', '');
  const { plan } = told();
  expect(plan && describe(plan).abilities.jab).toMatchObject({
    starts: [{ kind: 'hold', input: 'gale' }],
    phases: [{ lasts: 5 / 60 }, { name: 'active', lasts: 8 / 60 }, {}],
  });
});

test('a part is checked by itself, but for names that are declared elsewhere', () => {
  const part = (text: string) =>
    sentences(parseMoveset(`part: true\n${text}`)).map((line) => line.replace(/^\S+ /, ''));
  const own =
    'abilities: { hop: { like: leap, start: { press: jump }, from: floor, when: held(jump) and dry, cost: { wind: 3 } } }';
  expect(part(own)).toEqual([
    'is-part This is a part of a moveset, for others to include. Load a moveset that includes it.',
  ]);
  expect(part(`${own}\npools: { oil: { max: 2, regn: 2 } }`)).toEqual([
    'unknown-key A pool has no key "regn". Did you mean "regen"?',
  ]);
  expect(part('abilities: { hop: { start: { press: jump }, from: [2], phases: [{ fro: 2f }] } }')).toEqual([
    'wrong-type Expected the name of a stance or a tag, but found 2.',
    'unknown-key A phase has no key "fro". Did you mean "for"?',
  ]);
  const whole = parseMoveset(`include: part.yaml\n${HEAD}`, 'pell.yaml', {
    read: () => ({ text: `part: true\nabilities:\n${JAB}` }),
  });
  expect(whole.plan?.names.ability).toEqual(['jab']);
});
