import { expect, test } from 'vitest';
import { packModule, parseMoveset } from '../../src/format/text.js';
import { packMoveset, unpackMoveset } from '../../src/index.js';
import { generatedWhole } from '../emit/generated.js';
import { forRandom } from '../random/for-random.js';
import { plan } from '../support.js';

const HEAD = 'loggia: 1\nname: Pell\nstances: { stand: {} }\n';
const codes = (more: string, read?: (path: string) => { text: string }) =>
  parseMoveset(HEAD + more, 'moveset.yaml', { read }).diagnostics.map(({ code }) => code);
const numbers = (count: number, write: (i: number) => string) =>
  Array.from({ length: count }, (_, i) => write(i)).join(', ');

test.each(['events', 'kinds', 'summons', 'places', 'surfaces', 'lanes', 'tags'])(
  '%s that are no names are told as such',
  (kind) => {
    const dash = 'abilities: { dash: { start: { code: only }, phases: [{ for: 3f }] } }\n';
    for (const name of ['door-opened', 'Tür', '""', '"a b"', 'constructor', 'and', '"x("'])
      expect(codes(`${kind}: [${name}, good]\n${dash}`)).toContain('bad-text');
  },
);

test('an empty key is no name', () => {
  for (const key of ['?', '~', 'null'])
    expect(codes(`abilities: { ${key} : { start: { code: only }, end: grounded } }`)[0]).toBe('bad-name');
});

test('conditions and probes that are made of one another have a limit, and what they come to has', () => {
  const twice = numbers(30, (i) => `c${i + 1}: c${i} and c${i}`);
  expect(codes(`conditions: { c0: grounded, ${twice} }`)).toContain('formula-depth');
  // Each doubling counts: eight pass, nine are more than 2,000 parts.
  const doubled = (count: number) =>
    codes(`conditions: { c0: grounded, ${numbers(count, (i) => `c${i + 1}: c${i} and c${i}`)} }`);
  expect([8, 9].map((count) => doubled(count).includes('formula-depth'))).toEqual([false, true]);
  const row = numbers(900, (i) => `c${i + 1}: c${i} or airborne`);
  expect(codes(`conditions: { c0: grounded, ${row} }`)).toContain('chain-depth');
  const backwards = numbers(3000, (i) => `c${i}: c${i + 1} or airborne`);
  expect(codes(`conditions: { ${backwards}, c3000: grounded }`)).toContain('chain-depth');
  const all = numbers(14, (i) => `c${i}: ${Array.from({ length: 14 }, (_, k) => `c${k}`).join(' or ')}`);
  expect(codes(`conditions: { ${all} }`)).toContain('condition-cycle');
  for (const of of ['first: [p$, p$]', 'along: into(p$), reach: p$.distance', 'ray: [1, 0], from: p$'])
    expect(
      codes(
        `probes: { p0: { ray: [1, 0] }, ${numbers(3000, (i) => `p${i + 1}: { ${of.replaceAll('$', String(i))} }`)} }`,
      ),
    ).toContain('chain-depth');
  expect(codes(`conditions: { c0: grounded, ${numbers(30, (i) => `c${i + 1}: c${i} or airborne`)} }`)).toEqual([]);
});

test('all files together have a limit', () => {
  // 931 bytes that come to tens of thousands of values.
  const many = (i: number) =>
    `x${i}: &a [1,1,1,1,1,1,1,1,1,1]\ny: &b [*a,*a,*a,*a,*a,*a,*a,*a,*a,*a]\nz: &c [*b,*b,*b,*b,*b,*b,*b,*b,*b,*b]\nw: [*c,*c,*c,*c,*c,*c,*c,*c,*c,*c]\n`;
  const include = `include: [${numbers(60, (i) => `f${i}.yaml`)}]\n`;
  expect(codes(include, (path) => ({ text: many(Number(/\d+/.exec(path)?.[0])) }))).toContain('too-much');
  const large = `# ${'x'.repeat(1_000_000)}\nconditions: {}\n`;
  expect(codes(`include: [${numbers(9, (i) => `f${i}.yaml`)}]\n`, () => ({ text: large }))).toContain('too-much');
  for (const text of [`x: [${','.repeat(300_000)}]`, `x: {${'a,'.repeat(300_000)}}`, `x:\n${'- \n'.repeat(300_000)}`])
    expect(codes(text)).toEqual(['too-much']);
});

test('what check lets through can be packed, written as a module and played', () => {
  forRandom(60, (random) => {
    const term = () => random.pick(['grounded', 'airborne', 'vx > 3', 'calm', 'held(gaff)', '(vy < 2 or calm)']);
    const rule = Array.from({ length: random.whole(1, 90) }, term).join(random.pick([' or ', ' and ']));
    const sum = Array.from({ length: random.whole(1, 300) }, () => random.pick(['1', 'vx', '2.5'])).join(
      random.pick(['+', '-', '*']),
    );
    const text = `${HEAD}inputs: { gaff: { button: KeyJ } }
conditions: { calm: ${Array.from({ length: random.whole(1, 9) }, () => 'grounded').join(' or ')} }
abilities: { dash: { start: { press: gaff }, when: "${rule}", phases: [{ for: 3f, move: { forward: "${sum}" } }] } }
`;
    const made = plan(text);
    expect(unpackMoveset(JSON.parse(JSON.stringify(packMoveset(made)))).name).toBe('Pell');
    expect(generatedWhole(made).name).toBe('Pell');
  });
});

test('a long named condition stands once in a module', () => {
  const long = Array.from({ length: 40 }, (_, i) => `vx > ${i}.5`).join(' or ');
  const rules = numbers(
    40,
    (i) => `a${i}: { lane: l${i % 10}, start: { rule: far and vy > ${i} }, phases: [{ for: 3f }] }`,
  );
  const made = plan(
    `${HEAD}lanes: [${numbers(10, (i) => `l${i}`)}]\nconditions: { far: ${long} }\nabilities: { ${rules} }\n`,
  );
  const { code } = packModule(made);
  expect(code.match(/> 39\.5/g)).toHaveLength(1);
});
