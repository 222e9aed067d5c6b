import { mkdirSync, mkdtempSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { checkClips, formatDiagnostic, loadMoveset, parseClipTable } from '../../src/format/index.js';
import { parseMoveset } from '../../src/format/text.js';

/** Reads the first of some files, which may include the others. */
function load(files: Record<string, string>) {
  const [first] = Object.keys(files);
  const { plan, diagnostics } = parseMoveset(files[first], first, {
    read: (path) =>
      path in files
        ? { text: files[path] }
        : {
            fault: {
              code: 'file-unreadable',
              severity: 'error',
              path: [],
              on: 'value',
              params: { why: 'there is no such file' },
            },
          },
  });
  return { plan, told: diagnostics.map(formatDiagnostic) };
}

const BODY = 'stances: { stand: { when: grounded }, fall: {} }';

test('a file takes over what it includes and overrides parts of it', () => {
  const { plan, told } = load({
    'yard/pell.yaml': `loggia: 1\nname: Pell\ninclude: [../yard/pools.yaml, moves.yaml]\n${BODY}\nabilities: { hop: { cooldown: 9f } }`,
    'yard/pools.yaml': 'loggia: 1\npools: { wind: { max: 24 } }',
    'yard/moves.yaml':
      'loggia: 1\ninputs: { jump: { button: Space } }\nabilities: { hop: { start: { press: jump }, cooldown: 3f, cost: { wind: 2 }, phases: [{ for: 1f }] } }',
  });
  expect(told).toEqual([]);
  expect(plan?.abilities[0]).toMatchObject({ name: 'hop', cooldown: 9, costs: [{ pool: 0 }] });
});

test('a fault is told in the file that holds it', () => {
  const { told } = load({
    'pell.yaml': `loggia: 1\nname: Pell\ninclude: pools.yaml\n${BODY}\nabilities: { hop: { start: { press: jmp }, phases: [{ for: 1f }] } }`,
    'pools.yaml': 'loggia: 1\npools:\n  wind: { max: 24, rset: 3f }\ninputs: { jump: { button: Space } }',
  });
  expect(told).toEqual([
    'pell.yaml:5:37 error unknown-name: There is no button "jmp". Did you mean "jump"?',
    'pools.yaml:3:20 error unknown-key: A pool has no key "rset". Did you mean "rest"?',
  ]);
});

test('cycles, clashes, strangers and what lies outside are told', () => {
  const head = (include: string) => `loggia: 1\nname: Pell\n${BODY}\ninclude: ${include}`;
  expect(load({ 'a.yaml': head('b.yaml'), 'b.yaml': 'loggia: 1\ninclude: a.yaml' }).told[0]).toBe(
    'b.yaml:2:10 error include-cycle: This file includes itself: a.yaml includes b.yaml includes a.yaml.',
  );
  const clash = {
    'b.yaml': 'loggia: 1\npools: { wind: { max: 1 } }',
    'c.yaml': 'loggia: 1\npools: { wind: { max: 2 } }',
  };
  expect(load({ 'a.yaml': head('[b.yaml, c.yaml]'), ...clash }).told).toEqual([
    'a.yaml:4:10 error include-clash: "pools.wind.max" is set in both b.yaml and c.yaml; set it in this file to choose a value.',
  ]);
  expect(load({ 'a.yaml': `${head('[b.yaml, c.yaml]')}\npools: { wind: { max: 3 } }`, ...clash }).told).toEqual([]);
  expect(load({ 'x/a.yaml': head('../b.yaml') }).told[0]).toContain(
    '4:10 error include-outside: "../b.yaml" is outside',
  );
  expect(load({ 'a.yaml': head('b.yaml') }).told[0]).toContain('there is no such file (b.yaml)');
});

test('a diamond, and equal values in two files, are no clash', () => {
  const files = {
    'a.yaml': `loggia: 1\nname: Pell\ninclude: [b.yaml, c.yaml]\n${BODY}`,
    'b.yaml': 'include: d.yaml\nrate: 60',
    'c.yaml': 'include: d.yaml\nrate: 60',
    'd.yaml': 'pools: { wind: { max: 9 } }\ninputs: { jump: { button: [Space] } }',
  };
  expect(load(files).told.filter((line) => line.includes('error'))).toEqual([]);
  expect(load({ ...files, 'c.yaml': 'include: d.yaml\nrate: 30' }).told[0]).toContain('include-clash');
});

test.each([
  ['a list', '- 1', 'b.yaml:1:1 error wrong-type: Expected a map with parts of a moveset, but found a list.'],
  ['a text', 'wind', 'b.yaml:1:1 error wrong-type: Expected a map with parts of a moveset, but found "wind".'],
  ['another format', 'loggia: 9', 'b.yaml:1:9 error unknown-version: This is format 9,'],
  [
    'a second document',
    'rate: 60\n---\nrate: 30',
    'b.yaml:2:1 error syntax: This is not valid YAML or JSON: a second document',
  ],
  ['nothing', '', 'b.yaml:1:1 error empty'],
])('an included file that is %s is told of', (_, text, told) => {
  const first = load({ 'a.yaml': `loggia: 1\nname: Pell\ninclude: b.yaml\n${BODY}`, 'b.yaml': text }).told[0];
  expect(first).toContain(told);
});

test.each([
  ['pell.yaml', 'pools.yaml', 'pools.yaml'],
  ['pell.yaml', './moves/../pools.yaml', 'pools.yaml'],
  ['pell.yaml', 'moves\\pools.yaml', 'moves/pools.yaml'],
  ['yard/pell.yaml', 'pools.yaml', 'yard/pools.yaml'],
  ['./yard/pell.yaml', '..pools.yaml', 'yard/..pools.yaml'],
  ['C:\\yard\\pell.yaml', 'pools.yaml', 'C:/yard/pools.yaml'],
  ['/yard/pell.yaml', '/yard/moves/pools.yaml', '/yard/moves/pools.yaml'],
  ['pell.yaml', '../pools.yaml', null],
  ['pell.yaml', '/etc/passwd', null],
  ['pell.yaml', 'https://example.org/pools.yaml', null],
  ['yard/pell.yaml', '../yardarm/pools.yaml', null],
  ['yard/pell.yaml', 'C:/pools.yaml', null],
  ['../yard/pell.yaml', '../pools.yaml', null],
])('where a moveset is only text, %s includes %s', (file, include, wanted) => {
  const asked: string[] = [];
  const { diagnostics } = parseMoveset(`loggia: 1\nname: Pell\ninclude: '${include}'\n${BODY}`, file, {
    read: (path) => {
      asked.push(path);
      return { text: 'rate: 60' };
    },
  });
  expect([asked, diagnostics.map((d) => d.code)]).toEqual(wanted ? [[wanted], []] : [[], ['include-outside']]);
});

test('files that include each other without end stop soon', () => {
  const twice = Object.fromEntries(
    Array.from({ length: 30 }, (_, i) => [
      `f${i}.yaml`,
      `loggia: 1\nname: n\ninclude: [f${i + 1}.yaml, f${i + 1}.yaml]\n${BODY}`,
    ]),
  );
  const { told } = load(twice);
  expect(told.some((line) => line.includes('too-deep'))).toBe(true);
  expect(told.length).toBeLessThan(200);
});

test('a link does not lead outside of the root', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'loggia-include-'));
  mkdirSync(join(folder, 'root'));
  writeFileSync(join(folder, 'secret.yaml'), 'loggia: 1');
  symlinkSync(join(folder, 'secret.yaml'), join(folder, 'root/link.yaml'));
  writeFileSync(join(folder, 'root/a.yaml'), `loggia: 1\nname: a\n${BODY}\ninclude: link.yaml`);
  const { diagnostics } = await loadMoveset(join(folder, 'root/a.yaml'), { root: join(folder, 'root') });
  expect(diagnostics.map((d) => d.code)).toEqual(['include-outside']);
});

test('clips that disagree with what shows them are told', () => {
  const text = `loggia: 1
name: Pell
stances: { stand: { clip: pellStnad } }
abilities:
  jab: { start: { code: only }, clip: jab, phases: [{ for: 6f }, { name: hit, for: 6f, clip: hit }] }
`;
  const table = parseClipTable('{ "pellStand": 1, "jab": 0.2, "hit": 0.15 }');
  const { diagnostics } = parseMoveset(text, 'pell.yaml', { check: (plan) => checkClips(plan, table) });
  expect(diagnostics.map(formatDiagnostic)).toEqual([
    'pell.yaml:3:27 error clip-unknown: There is no clip "pellStnad" in the table. Did you mean "pellStand"?',
    'pell.yaml:5:94 warning clip-length: The clip "hit" lasts 9f, but its phase hit lasts 6f; change one of them.',
  ]);
  expect(() => parseClipTable('{ "jab": 0 }')).toThrow('seconds above 0');
});

const BASE = `loggia: 1
events: [gone, splash]
tags: wet
lanes: [body]
inputs: { jump: { button: Space } }
stances: { rest: {} }
abilities:
  hop: { start: { press: jump }, tags: wet, phases: [{ for: 2f, beats: [{ at: 1f, emit: splash }] }] }
  dive: { start: { press: jump }, cost: { wind: 1 }, phases: [{ for: 1f }] }`;

test('names that lists declare are united, and parts that are named are left out', () => {
  const own = `loggia: 1\nname: Pell\ninclude: base.yaml`;
  const told = load({
    'a.yaml': `${own}\nwithout: [abilities.dive, events.gone]\nevents: [bell]\nlanes: [body, hands]`,
    'base.yaml': BASE,
  });
  expect(told.told.filter((line) => line.includes('error'))).toEqual([]);
  expect(told.plan?.names).toMatchObject({
    event: ['splash', 'bell'],
    lane: ['body', 'hands'],
    tag: ['wet'],
    ability: ['hop'],
  });
  // A map of one file says more of the names that another lists.
  const more = load({
    'a.yaml': `${own}\nwithout: abilities.dive\nevents: { bell: { values: { depth: number } } }`,
    'base.yaml': BASE,
  });
  expect(more.plan?.names.event).toEqual(['gone', 'splash', 'bell']);
});

test('a fault in united lists is told where it was written, and a part that is not there by its place', () => {
  const own = `loggia: 1\nname: Pell\ninclude: base.yaml`;
  const { told } = load({ 'a.yaml': `${own}\nwithout: abilities.dive\nevents: [bell, wet, 7]`, 'base.yaml': BASE });
  expect(told.filter((line) => line.includes('error'))).toEqual([
    'a.yaml:5:21 error wrong-type: Expected a name: letters, digits and underscores, and no word of formulas, but found 7.',
  ]);
  const missing = load({ 'a.yaml': `${own}\nwithout: [abilities.dvie, 3]`, 'base.yaml': BASE }).told;
  expect(missing).toEqual([
    'a.yaml:4:11 error unknown-name: There is no included part "abilities.dvie". Did you mean "abilities.dive"?',
    'a.yaml:4:27 error wrong-type: Expected the keys of a part, as in abilities.hop, but found 3.',
  ]);
  expect(load({ 'a.yaml': `loggia: 1\nname: Pell\nwithout: abilities.dive\n${BODY}` }).told).toEqual([
    'a.yaml:3:1 error missing-key: "without" of a moveset needs "include": the files that it takes from.',
  ]);
});

test('what one file goes without, another that includes the same still has', () => {
  const { plan } = load({
    'a.yaml': `loggia: 1\nname: Pell\ninclude: [b.yaml, c.yaml]\n${BODY}`,
    'b.yaml': 'include: d.yaml\nwithout: [events.gone, pools.wind]',
    'c.yaml': 'include: d.yaml',
    'd.yaml': 'events: [gone]\npools: { wind: { max: 9 } }\nview: open',
  });
  expect([plan?.names.event, plan?.names.pool]).toEqual([['gone'], ['wind']]);
});
