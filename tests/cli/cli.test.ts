import { execFileSync, spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decode } from '@jridgewell/sourcemap-codec';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { expect, test } from 'vitest';
import { parse } from 'yaml';
import { Arena, ArenaTape } from '../../src/arena/index.js';
import { loadMoveset } from '../../src/format/index.js';
import { Character, Tape, TileWorld, unpackMoveset } from '../../src/index.js';
import { ROOT } from '../support.js';
import { loggia } from './in-process.js';

const SCENARIOS = join('demo', 'boatyard', 'scenarios');

function write(text: string): string {
  const file = join(mkdtempSync(join(tmpdir(), 'loggia-')), 'scenario.yaml');
  writeFileSync(file, text.replace('PELL', join(ROOT, 'demo/boatyard/pell.yaml')));
  return file;
}

test('check says ok of a good moveset, and counts the errors of a bad one with exit code 1', async () => {
  const good = await loggia('check', 'demo/boatyard/pell.yaml');
  expect(good).toMatchObject({ status: 0, err: '' });
  expect(good.out).toMatch(
    /^ok {2}demo\/boatyard\/pell.yaml: Pell, \d+ abilities, \d+ stances, \d+ inputs, \d+ pools$/m,
  );
  const bad = await loggia('check', 'package.json', 'nowhere.yaml', '--json');
  expect(bad.status).toBe(1);
  const { ok, files } = JSON.parse(bad.out);
  expect(ok).toBe(false);
  expect(files[0].diagnostics[0]).toMatchObject({
    severity: 'error',
    line: expect.any(Number),
    column: expect.any(Number),
  });
  expect(files[1].diagnostics[0].sentence).toBe('This file cannot be read: there is no such file.');
});

test('a run is asked, recorded and compared', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'loggia-'));
  const file = join(SCENARIOS, 'second-dash-refused.yaml');
  const record = join(folder, 'second.jsonl.gz');
  const ran = await loggia('run', file, '--ask', 'running(galeDash)', '--why', 'galeDash', '--record', record);
  expect(ran).toMatchObject({ status: 0, err: '' });
  expect(ran.out).toContain(
    'running(galeDash): 24 of 108 ticks\n  0.10 s 6f to 0.28 s 17f\n  1.30 s 78f to 1.48 s 89f\n',
  );
  expect(ran.out).toMatch(
    /0.40 s 24f {2}galeDash was refused\n {2}no charges left\n {4}.*pell-basics.yaml:\d+ {2}charges: /,
  );
  expect(ran.out).toMatch(/second.jsonl.gz: 108 ticks, \d+ kB\n$/);

  expect(await loggia('compare', record, file)).toMatchObject({
    status: 0,
    out: 'no difference from the start to 1.78 s 107f\n',
  });
  mkdirSync(join(ROOT, 'build'), { recursive: true });
  const heavier = join(ROOT, 'build', `heavier-${process.pid}.yaml`);
  const basics = readFileSync(join(ROOT, 'demo/boatyard/pell-basics.yaml'), 'utf8');
  writeFileSync(heavier, basics.replace('speed: 18', 'speed: 20'));
  const lighter = 'demo/boatyard/pell-basics.yaml';
  const apart = await loggia('compare', file, '--with', lighter, '--with', heavier);
  const told = await loggia('compare', file, '--with', lighter, '--with', heavier, '--json');
  rmSync(heavier);
  expect(apart.status).toBe(1);
  expect(apart.out).toMatch(
    /^first difference at 0.10 s 6f, compared from the start to .*\n {2}x is .* in pell-basics.yaml, .* in heavier-/,
  );
  expect(apart.out).toMatch(/the same before: 7 ticks, \d+ events\n {2}distance between them: .*; at most \d/);
  expect(JSON.parse(told.out)).toMatchObject({ same: false, first: { tick: 6 }, rates: [60, 60] });

  for (const [words, why] of [
    [['compare', file], 'takes two runs, or one scenario and two movesets'],
    [['compare', file, file, '--within', 'x'], '--within takes a number from 0 on, not x'],
    [['run', file, file, '--ask', 'vy > 0'], '--ask takes one scenario'],
  ] as const)
    expect(await loggia(...words)).toMatchObject({ status: 2, err: expect.stringContaining(why) });
  for (const [words, why] of [
    [['run', file, '--ask', 'vy >'], '--ask: "vy >" is no condition here'],
    [['run', file, '--why', 'galeDsh'], 'Did you mean "galeDash"?'],
    [['run', file, '--record', join(SCENARIOS, '..', 'pell.yaml')], 'it is one of the files that this is made of'],
    [['compare', 'nowhere.gz', 'package.json'], 'there is no such file'],
  ] as const)
    expect(await loggia(...words)).toMatchObject({ status: 1, err: expect.stringContaining(why) });
});

test('pack --module writes a module with its types and a source map to the lines of the moveset, always the same', async () => {
  mkdirSync(join(ROOT, 'build'), { recursive: true });
  const folder = mkdtempSync(join(ROOT, 'build/module-'));
  const out = join(folder, 'pell.js');
  const made = await loggia('pack', 'demo/boatyard/pell.yaml', '--module', '--out', out);
  expect(made).toMatchObject({ status: 0, err: '' });
  expect(made.out).toMatch(/^packed {2}Pell into .*pell.js: \d+ bytes, with pell.js.map and pell.d.ts beside it$/m);
  const text = readFileSync(out, 'utf8');
  await loggia('pack', 'demo/boatyard/pell.yaml', '--module', '--out', out);
  expect(readFileSync(out, 'utf8')).toBe(text);
  expect(text).not.toMatch(/eval\(|new Function/);

  // Where the dash asks whether there is wind enough, the map leads to its cost.
  const map = JSON.parse(readFileSync(`${out}.map`, 'utf8'));
  const lines = text.split('\n');
  const from = lines.findIndex((text) => text.includes('// galeDash: press: gale'));
  const at = lines.findIndex((line, i) => i > from && line.includes('REASON_COST_1'));
  const [[, source, line]] = decode(map.mappings)[at] as [number, number, number, number][];
  expect(map.sources[source]).toBe('../../demo/boatyard/pell-basics.yaml');
  const basics = readFileSync(join(ROOT, 'demo/boatyard/pell-basics.yaml'), 'utf8').split('\n');
  expect(basics[line]).toContain('cost: { wind: 9 }');

  const play = [
    "import { Character, flatGround } from 'loggia';",
    "import pell from './pell.js';",
    'const c = new Character(pell, { world: flatGround() });',
    "c.door.press('gale');",
    'c.tick();',
    "console.log(c.readout.events.map(({ kind }) => kind).join(), c.explain('galeDash').text);",
  ];
  writeFileSync(join(folder, 'play.mjs'), play.join('\n'));
  const { stdout, stderr } = spawnSync('node', ['play.mjs'], { cwd: folder, encoding: 'utf8' });
  expect(stderr).toBe('');
  expect(stdout).toMatch(/refused.* galeDash/);
  rmSync(folder, { recursive: true });

  expect(await loggia('pack', 'demo/boatyard/pell.yaml', '--module')).toMatchObject({
    status: 2,
    err: expect.stringContaining('say where with --out, like --out pell.js'),
  });
});

test('pack writes a sound moveset whole, and of a faulty one nothing', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'loggia-'));
  const out = join(folder, 'pell.packed.json');
  const good = await loggia('pack', 'demo/boatyard/pell.yaml', '--out', out);
  expect(good).toMatchObject({ status: 0, err: '' });
  expect(good.out).toMatch(/^packed {2}Pell into .*pell.packed.json: \d+ bytes$/m);
  expect(unpackMoveset(JSON.parse(readFileSync(out, 'utf8'))).name).toBe('Pell');
  expect((await loggia('pack', 'demo/boatyard/pell.yaml')).out).toBe(readFileSync(out, 'utf8'));
  const bad = await loggia('pack', 'docs/screenshots/faulty.yaml', '--out', out);
  expect(bad).toMatchObject({ status: 1, out: '' });
  expect(bad.err).toContain('Did you mean');
  expect(await loggia('pack', 'demo/boatyard/pell.yaml', '--out', join(folder, 'no', 'where.json'))).toMatchObject({
    status: 2,
    err: expect.stringContaining('cannot be written'),
  });
  expect(readdirSync(folder)).toEqual(['pell.packed.json']);
});

test('check holds clips against a table of their lengths', async () => {
  const good = await loggia('check', 'demo/boatyard/pell.yaml', '--clips', 'demo/boatyard/clips.json');
  expect(good).toMatchObject({ status: 0, err: '' });
  expect(good.out).not.toContain('warning');
  const missing = await loggia('check', 'demo/boatyard/pell.yaml', '--clips', 'package.json');
  expect(missing).toMatchObject({ status: 2, out: '' });
  expect(missing.err).toContain('must map names to seconds above 0');
});

test('warnings are told and counted, and are no failure', async () => {
  const file = join(mkdtempSync(join(tmpdir(), 'loggia-')), 'idle.yaml');
  writeFileSync(file, 'loggia: 1\nname: Pell\ninputs: { cue: { button: [] } }\nstances: { stand: {} }\n');
  const { out, status } = await loggia('check', file);
  expect(status).toBe(0);
  expect(out).toContain(`${file}:3:11 warning unbound-input: Nothing is bound to the input "cue"`);
  expect(out).toMatch(/^ok .*idle.yaml: Pell, 0 abilities, 1 stance, 1 input, 0 pools, 2 warnings$/m);
});

test('every scenario of the demo goes as expected', async () => {
  const files = readdirSync(join(ROOT, SCENARIOS)).map((file) => join(SCENARIOS, file));
  const { out, status } = await loggia('run', ...files);
  expect(out).toContain(`${files.length} of ${files.length} scenarios as expected`);
  expect(status).toBe(0);
});

test('run tells the story of a scenario', async () => {
  const { out } = await loggia('run', join(SCENARIOS, 'second-dash-refused.yaml'));
  expect(out).toContain('0.10 s    6f  galeDash starts');
  expect(out).toContain('galeDash refused: no charges left');
  expect(out).toContain('lands');
});

test('a failing expectation says what was expected, what was, when, and the ticks around', async () => {
  const file = write(`loggia: 1
scenario: Pell flies
moveset: PELL
world: { rows: ["....", ".@..", "####"] }
run: 20f
inputs: [{ at: 5f, tap: jump }]
expect:
  - { at: 10f, stance: stand, that: pool.wind > 22 }
  - { started: galeDash }
`);
  const { out, status } = await loggia('run', '--root', '/', file);
  expect(status).toBe(1);
  expect(out).toContain(`${file}:8 expected stance stand`);
  expect(out).toContain('but at 10f: stance rise');
  expect(out).toMatch(/^ {4}> {2}10f {2}rise .* wind 21 .*$/m);
  expect(out).toMatch(/^ {5} {3}7f {2}rise/m);
  expect(out).toContain('expected galeDash starts\n    but never');
});

test('faults of a scenario are placed like those of a moveset', async () => {
  const file = write(`loggia: 1
scenario: Faulty
moveset: PELL
world: { rows: ["....", ".@..", "####"] }
run: 20f
inputs: [{ at: 5f, tap: jmup }, { at: 1f }]
expect:
  - { at: 10f, that: pool.wnid > 22 }
  - { at: 30f, stance: stnd }
`);
  const { out, status } = await loggia('run', '--root', '/', file);
  expect(status).toBe(1);
  expect(out).toContain(`${file}:6:25 error unknown-name: There is no button "jmup". Did you mean "jump"?`);
  expect(out).toContain(`${file}:6:33 error one-of-keys`);
  expect(out).toContain(`${file}:9:24 error unknown-name: There is no stance "stnd". Did you mean "stand"?`);
});

test('called wrongly, it says so in a line and exits with 2', async () => {
  expect(await loggia('chek')).toMatchObject({
    status: 2,
    err: 'loggia: there is no command "chek". Did you mean "check"?\n',
  });
  expect(await loggia('check')).toMatchObject({ status: 2, out: '' });
  expect((await loggia('run', '--stroy', 'x')).status).toBe(2);
  expect((await loggia('schema', 'movset')).status).toBe(2);
  for (const command of ['check', 'run', 'replay', 'timing', 'facts', 'types', 'pack', 'schema']) {
    const { out, status } = await loggia(command, '--help');
    expect(status).toBe(0);
    expect(out).toContain('Example:\n  loggia ');
  }
});

test('it tells its version', async () => {
  const { version } = JSON.parse(readFileSync(join(ROOT, 'package.json'), 'utf8'));
  expect(await loggia('--version')).toEqual({ status: 0, out: `${version}\n`, err: '' });
});

test('the schema of scenarios takes the demo', async () => {
  const validate = new Ajv2020({ strict: false }).compile(JSON.parse((await loggia('schema', 'scenario')).out));
  for (const file of readdirSync(join(ROOT, SCENARIOS)))
    expect([file, validate(parse(readFileSync(join(ROOT, SCENARIOS, file), 'utf8'))), validate.errors]).toEqual([
      file,
      true,
      null,
    ]);
});

test('the example in which a physics engine moves the body runs', async () => {
  const out = execFileSync('node', ['examples/rapier-host/main.mjs'], { cwd: ROOT, encoding: 'utf8' });
  for (const ability of ['hop', 'cling', 'climbUp']) expect(out).toContain(`started ${ability}`);
  expect(out.trim().split('\n').at(-1)).toMatch(/^at 7\.\d, 3\.0: stand$/);
});

test('the example with a host of its own runs', async () => {
  const out = execFileSync('node', ['examples/host-loop/main.mjs'], { cwd: ROOT, encoding: 'utf8' });
  expect(out).toContain('42f  started galeDash');
  expect(out).toContain('ended galeDash (condition)');
  expect(out.trim().split('\n').at(-1)).toBe('at 6.00, 0.00: stand');
});

test('timing prints what each ability is worth, for people and for programs', async () => {
  const file = 'demo/boatyard/pell-breakwater.yaml';
  const { out, status } = await loggia('timing', file);
  expect(status).toBe(0);
  expect(out).toMatch(/^gaffJab +5f +4f +10f +19f 0\.32s +4 +12\.6 +- +15f +\+2 +-3 +\.+#+=+$/m);
  expect(out).toContain('gaffSweep: open to hop from 11f, gaffLift from 11f, gaffHeave from 11f; in a combo: gaffLift');
  const { abilities } = JSON.parse((await loggia('timing', '--json', file)).out);
  expect(abilities.find((row: { ability: string }) => row.ability === 'lampFlare')).toMatchObject({
    startup: 60,
    charged: true,
    damage: 12,
    costs: { oil: 8 },
  });
  const [head, ...rows] = (await loggia('timing', '--csv', file)).out.trim().split('\n');
  expect(head.startsWith('ability,lane,startup,active,recovery,total')).toBe(true);
  expect(rows).toContainEqual(expect.stringMatching(/^gaffJab,body,5,4,10,19,0,4,12\.6/));
});

test('a scenario of several tells who is not there, and what is misspelt for whom', async () => {
  const file = join(mkdtempSync(join(tmpdir(), 'loggia-')), 'duel.yaml');
  const moveset = join(ROOT, 'demo/boatyard/pell-breakwater.yaml');
  writeFileSync(
    file,
    `loggia: 1
scenario: A duel
moveset: ${moveset}
world: { rows: ["......", "..@...", "######"] }
others:
  hatch: { moveset: ${moveset.replace('pell-breakwater', 'breakwater/hatch')}, at: [4, 1], pools: { plnks: 1 } }
run: 20f
inputs:
  - { of: hutch, at: 0f, tap: gaff }
  - { of: hatch, at: 0f, tap: gaff }
expect:
  - { of: hatch, started: opne }
  - { takes: strcuk }
`,
  );
  const { out, status } = await loggia('run', '--root', '/', file);
  expect(status).toBe(1);
  for (const told of [
    'There is no pool "plnks". Did you mean "planks"?',
    'There is no member "hutch". Did you mean "hatch"?',
    'There is no button "gaff"',
    'There is no ability "opne". Did you mean "open"?',
    'There is no word "strcuk". Did you mean "struck"?',
  ])
    expect(out).toContain(told);
});

test('replay tells what happens on a tape, of a character and of an arena, and why one cannot be played', async () => {
  const file = write(
    `loggia: 1
scenario: A yard
moveset: PELL
world: { rows: ['........', '.@......', '########'] }
run: 1f
others: { rival: { moveset: PELL, at: [4, 1] } }
expect: [{ that: grounded }]`.replaceAll('PELL', join(ROOT, 'demo/boatyard/pell.yaml')),
  );
  const { plan } = await loadMoveset(join(ROOT, 'demo/boatyard/pell.yaml'));
  if (!plan) throw new Error('the demo has faults');
  const world = new TileWorld(['........', '.@......', '########']);
  const pell = new Character(plan, { world, at: [1.5, 1] });
  const tape = new Tape();
  pell.tape = tape;
  for (let i = 0; i < 40; i++) {
    if (i === 3) pell.door.press('jump');
    if (i === 9) pell.door.press('gale');
    pell.tick();
  }
  const arena = new Arena({ world });
  const recorded = new ArenaTape();
  arena.add('Pell', plan, { at: [1.5, 1] }).character.door.press('jump');
  arena.tape = recorded;
  arena.tick();
  arena.add('rival', plan, { at: [4, 1] }).character.door.press('gale');
  for (let i = 0; i < 9; i++) arena.tick();

  const folder = mkdtempSync(join(tmpdir(), 'loggia-'));
  const save = (name: string, text: string) => {
    writeFileSync(join(folder, name), text);
    return join(folder, name);
  };
  const play = (saved: string, ...more: string[]) => loggia('replay', saved, '--in', file, '--root', '/', ...more);
  const one = save('one.json', JSON.stringify(tape));
  const told = await play(one);
  expect([told.status, told.err]).toEqual([0, '']);
  expect(told.out).toMatch(/^ {2}0\.05 s {4}3f {2}hop starts/m);
  expect(told.out).toMatch(/^ {2}0\.15 s {4}9f {2}.*galeDash starts/ms);
  const { checksum, trace } = JSON.parse((await play(one, '--json')).out);
  expect([checksum, trace.length]).toEqual([pell.checksum(), 40]);
  const both = await play(save('both.json', JSON.stringify(recorded)), '--json');
  expect(JSON.parse(both.out).checksum).toBe(arena.checksum());

  expect(await loggia('replay', one)).toMatchObject({ status: 2, err: expect.stringContaining('--in') });
  for (const [saved, why] of [
    [save('none.json', '{'), 'is no JSON'],
    [save('odd.json', '{"loggia": 1}'), 'cannot be played: Tape: this is no tape of format 1.'],
    [
      save('other.json', JSON.stringify({ ...tape.toJSON(), layout: 1 })),
      'it was recorded with Pell, not with Pell as it is',
    ],
    [join(folder, 'nowhere.json'), 'there is no such file'],
  ]) {
    const { status, out, err } = await play(saved);
    expect([status, out, err]).toEqual([1, '', expect.stringContaining(why)]);
  }
});
