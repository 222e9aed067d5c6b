import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { beforeAll, describe, expect, test } from 'vitest';
import { parse } from 'yaml';
import { loadMoveset, movesetSchema, parseMoveset } from '../../src/format/index.js';
import { checkMoveset, compileMoveset } from '../../src/index.js';
import { DOCS } from '../../src/moveset/docs.js';
import { PELL_TEXT, sentences } from '../support.js';

const HEAD = 'loggia: 1\nname: Pell\n';

test('every fault is told at once, each with its place and the nearest right name', () => {
  const loaded = parseMoveset(`loggia: 1
name: Pell
pools:
  wind: { max: 24, rets: 0.6s }
inputs:
  jump: { button: [Spcae], buffer: 100 }
stances:
  stand: { when: grouded }
  fall: {}
abilities:
  hop:
    start: { press: jmup }
    from: [stnd]
    when: airborne and pool.wnd >= 3
    cost: { wnid: 3 }
    phases: [{ for: 1f, move: { up: 9 + } }]
  glide:
    start: { press: jump }
    when: stance.time > 3
    gravity: held(jump)
`);
  expect(loaded.plan).toBeUndefined();
  expect(sentences(loaded)).toEqual([
    '4:20 unknown-key A pool has no key "rets". Did you mean "rest"?',
    '6:20 unknown-name There is no key or button "Spcae". Did you mean "Space"?',
    '6:36 bad-time 100 is not a time: write seconds, milliseconds or ticks, like 0.2s, 200ms or 12f.',
    '8:18 formula-name There is no fact or function "grouded" here. Did you mean "grounded"?',
    '12:21 unknown-name There is no button "jmup". Did you mean "jump"?',
    '13:12 unknown-name There is no stance or tag "stnd". Did you mean "stand"?',
    '14:24 formula-name There is no fact or function "pool.wnd" here. Did you mean "pool.wind"?',
    '15:13 unknown-name There is no pool "wnid". Did you mean "wind"?',
    '16:40 formula-syntax Expected a value but found the end.',
    '19:25 formula-type This must be a time, but this is a number; write a unit, like 0.2s or 12f.',
    '20:14 formula-type This must be a number, but this is a condition.',
  ]);
});

test('of many diagnostics the first fifty of a file are listed, errors before warnings, and the rest are counted', () => {
  const warned = Array.from({ length: 80 }, (_, i) => `  p${i}: { max: 9, rest: 0.21s }\n`);
  const { diagnostics, omitted } = parseMoveset(
    `${HEAD}stances: { a: {} }\npools:\n${warned.join('')}  bad: { mix: 3 }\n`,
  );
  expect(diagnostics.filter((d) => d.severity === 'error').map((d) => [d.line, d.code])).toEqual([
    [85, 'missing-key'],
    [85, 'unknown-key'],
  ]);
  expect([diagnostics.length, omitted]).toEqual([50, 32]);
});

test.each([
  ['a surplus bracket', PELL_TEXT.replace('max: 24', 'max: 24 }'), ['syntax']],
  [
    'a bad time',
    `${HEAD}stances: { a: {} }\nabilities: { b: { start: { code: only }, phases: [{ for: 3x }] } }`,
    ['bad-time'],
  ],
  ['a comma in a formula', `${HEAD}stances: { a: { gravity: max(3, vy) } }`, ['formula-syntax']],
])('%s is told once, without what follows from it', (_, text, codes) => {
  expect(parseMoveset(text).diagnostics.map((d) => d.code)).toEqual(codes);
});

test.each([
  ['cost: { wnid: 3 }', 'There is no pool "wnid". Did you mean "wind"?'],
  ['cost: { gale: 3 }', 'There is no pool "gale". It can be wind.'],
  ['start: { press: right }', 'Did you mean "move.right"?'],
  ['start: { press: love }', 'There is no button "love". It can be jump, move.left, move.right, move.up, move.down.'],
  ['when: wind > 3', 'Did you mean "pool.wind"?'],
  ['when: held(jmup)', 'Did you mean "held(jump)"?'],
  [
    'when: held(hop)',
    'There is no fact or function "held(hop)" here. It can be held(jump), held(move.left), held(move.right), held(move.up), held(move.down).',
  ],
  ['for: 3f', 'An ability has no key "for". Put it in a phase, as in phases: [{ for: 0.2s }].'],
  ['keep: 30%', 'An ability has no key "keep". Put it in "move", as in move: { up: 9 }.'],
])('%s: %s', (line, told) => {
  const text = `${HEAD}pools: { wind: { max: 9 } }
inputs: { jump: { button: Space }, move: { stick: { left: KeyA } } }
stances: { a: {} }
abilities:
  hop:
    ${line.startsWith('start') ? '' : 'start: { press: jump }'}
    phases: [{ for: 1f }]
    ${line}
`;
  expect(parseMoveset(text).diagnostics.map((d) => d.sentence)).toContainEqual(expect.stringContaining(told));
});

test.each([
  ['A', 'Did you mean "KeyA"?'],
  ['Shift', 'Did you mean "ShiftLeft"?'],
  ['7', 'Did you mean "Digit7"?'],
  ['Spcae', 'Did you mean "Space"?'],
  ['pad.a', 'Pad buttons are named by their place: pad.south, pad.east, pad.west and pad.north.'],
  ['__proto__', 'There is no key or button "__proto__".'],
])('a key named %s: %s', (key, told) => {
  const { diagnostics } = parseMoveset(`${HEAD}inputs: { jump: { button: "${key}" } }\nstances: { a: {} }`);
  expect(diagnostics[0].sentence).toContain(told);
});

test('YAML, JSON and TypeScript give the same compiled moveset', () => {
  const data = parse(PELL_TEXT);
  const plans = [parseMoveset(PELL_TEXT).plan, parseMoveset(JSON.stringify(data)).plan, compileMoveset(data)];
  const shape = (plan: unknown) => JSON.stringify(plan, (key, value) => (key === 'moveset' ? undefined : value));
  expect(shape(plans[1])).toBe(shape(plans[0]));
  expect(shape(plans[2])).toBe(shape(plans[0]));
});

test('only files include others', () => {
  expect(() => compileMoveset({ loggia: 1, name: 'x', include: 'y.yaml', stances: { a: {} } })).toThrow(
    'include: "include" works only in files',
  );
});

test('a thrown fault of compileMoveset lists them all', () => {
  const bad: unknown = { loggia: 1, name: 'x', stances: { a: { when: 'tru' }, b: { gravity: -1 } } };
  expect(() => compileMoveset(bad)).toThrow(/2 errors:\n {2}stances\.b\.gravity: -1 .*\n {2}stances\.a\.when: .*"tru"/);
});

describe('hostile files get a diagnostic', () => {
  let folder = '';
  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'loggia-'));
  });
  const bomb = Array.from({ length: 6 }, (_, i) => {
    const name = (k: number) => String.fromCharCode(97 + k);
    return `${name(i + 1)}: &${name(i + 1)} [${Array(10)
      .fill(`*${name(i)}`)
      .join()}]`;
  });
  const cases: [what: string, text: string | Uint8Array, code: string][] = [
    ['a million-fold alias expansion', `${HEAD}a: &a [1]\n${bomb.join('\n')}`, 'alias-expansion'],
    ['an alias of itself', `${HEAD}a: &a [*a]`, 'too-deep'],
    ['brackets nested 10,000 deep', `${HEAD}a: ${'['.repeat(10_000)}`, 'too-deep'],
    ['lists nested 10,000 deep', `${HEAD}a:\n${'- '.repeat(10_000)}1`, 'too-deep'],
    ['complex keys within each other', `${'? '.repeat(30)}a`, 'syntax'],
    [
      'lists nested line by line',
      `${HEAD}a:\n${Array.from({ length: 999 }, (_, i) => `${' '.repeat(i + 1)}-\n`).join('')}`,
      // The parser tells it of its own accord, or runs out of stack.
      'syntax or too-deep',
    ],
    [
      '40,000 keys that nobody knows',
      HEAD + Array.from({ length: 40_000 }, (_, i) => `k${i}: 1\n`).join(''),
      'unknown-key',
    ],
    ['a key __proto__', `${HEAD}stances: { __proto__: {}, a: {} }`, 'bad-name'],
    ['a file of 50 MB', new Uint8Array(50_000_000).fill(32), 'file-too-large'],
    ['not a number', `${HEAD}rate: .nan\nstances: { a: {} }`, 'wrong-type'],
    ['an infinite number', `${HEAD}pools: { p: { max: .inf } }\nstances: { a: {} }`, 'out-of-range'],
    ['no time at all', `${HEAD}stances: { a: {} }\npools: { p: { max: 1, rest: 0.2 } }`, 'bad-time'],
    [
      'a time of zero',
      `${HEAD}stances: { a: {} }\nabilities: { b: { start: { code: only }, phases: [{ for: 0s }] } }`,
      'time-range',
    ],
    ['a time of a year', `${HEAD}stances: { a: {} }\npools: { p: { max: 1, rest: 31536000s } }`, 'time-range'],
    ['an unknown format', 'loggia: 9\nname: x', 'unknown-version'],
    ['bytes that are not UTF-8', Uint8Array.of(0x6c, 0xff, 0xfe), 'not-utf8'],
    ['an empty file', '', 'empty'],
    ['a list', '- 1\n- 2', 'wrong-type'],
    ['a formula nested 10,000 deep', `${HEAD}stances: { a: { when: "${'('.repeat(1500)}" }, b: {} }`, 'formula-depth'],
  ];
  test.each(cases)('%s', async (_, content, code) => {
    const file = join(folder, 'hostile.yaml');
    writeFileSync(file, content);
    const { plan, diagnostics } = await loadMoveset(file);
    expect(plan).toBeUndefined();
    expect(code.split(' or ')).toContain(diagnostics.find((d) => code.includes(d.code))?.code);
    expect(({} as { polluted?: boolean }).polluted).toBeUndefined();
  });
});

test('editors are told of every field, and of no field that is not there', () => {
  const told = new Set<string>();
  const look = (value: unknown): void => {
    if (typeof value !== 'object' || value === null) return;
    const { properties } = value as { properties?: Record<string, false | { description?: string }> };
    for (const [key, field] of Object.entries(properties ?? {})) {
      if (field === false) continue;
      expect([key, field.description]).toEqual([key, expect.stringMatching(/^.{4,}$/)]);
      told.add(field.description as string);
    }
    Object.values(value).forEach(look);
  };
  // What is only asked of a whole moveset says nothing else of its keys.
  const { else: whole, ...schema } = movesetSchema();
  look(schema);
  const written = Object.values(DOCS).flatMap((docs) => Object.values(docs));
  expect(written.filter((doc) => ![...told].some((one) => one.toLowerCase() === doc.toLowerCase()))).toEqual([]);
});

test('the JSON Schema takes what the loader takes and refuses what it refuses', () => {
  const validate = new Ajv2020({ strict: false }).compile(movesetSchema());
  expect(validate(parse(PELL_TEXT)) || validate.errors).toBe(true);
  // A file that includes others may change a part of them by a key; a whole one needs all of it.
  const few = { loggia: 1, name: 'Pell', abilities: { hop: { cooldown: '3f' } }, pools: { wind: { regen: 3 } } };
  expect(validate({ ...few, include: 'pell-basics.yaml' }) || validate.errors).toBe(true);
  expect(validate({ ...few, part: true }) || validate.errors).toBe(true);
  expect(validate({ ...few, stances: { stand: {} } })).toBe(false);
  expect(validate({ loggia: 1, include: 'pell-basics.yaml' })).toBe(true);
  const good = parse(PELL_TEXT);
  const spoil: ((m: any) => void)[] = [
    (m) => (m.pools.wind.maxx = 3),
    (m) => (m.pools.wind.rest = '3 hours'),
    (m) => (m.inputs.jump.stick = {}),
    (m) => (m.abilities.hop.phases[0].for = 4),
    (m) => (m.abilities.hop.start.hold = 'jump'),
    (m) => delete m.name,
  ];
  for (const change of spoil) {
    const bad = structuredClone(good);
    change(bad);
    expect(validate(bad)).toBe(false);
    expect(checkMoveset(bad).plan).toBeUndefined();
  }
});
