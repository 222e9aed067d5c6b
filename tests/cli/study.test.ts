import { execFileSync } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, expect, test } from 'vitest';
import { ROOT } from '../support.js';
import { loggia, loggiaProcess } from './in-process.js';

const folder = mkdtempSync(join(tmpdir(), 'loggia-study-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

const PELL = 'demo/boatyard/pell.yaml';
const DASH = 'demo/boatyard/scenarios/dash-neutral.yaml';
const SPEED = 'abilities.galeDash.phases.go.move.speed';

test('legal tells of a pair which word decides, where it stands, and what would have to change', async () => {
  const { status, out } = await loggia('legal', PELL, '--why', 'gaffJab', 'hop');
  expect(status).toBe(0);
  expect(out).toContain('while gaffJab runs in windup: hop may not start\n');
  expect(out).toMatch(/- open: gaffJab in windup holds the lane "body".* {2}demo\/boatyard\/pell.yaml:\d+\n/);
  expect(out).toContain('to let it: write "open: hop" in gaffJab in windup');
  expect(await loggia('legal', PELL, '--why', 'gafJab', 'hop')).toMatchObject({
    status: 2,
    err: expect.stringContaining('Did you mean "gaffJab"?'),
  });
});

test('a chart is written in the format of its ending, and a state chart is read back as a skeleton that is sound', async () => {
  const file = join(folder, 'pell.scxml');
  expect(await loggia('chart', PELL, '--out', file)).toMatchObject({ status: 0, out: `wrote ${file}\n` });
  expect(await loggia('new', join(folder, 'rigger'), '--from', file)).toMatchObject({ status: 0, err: '' });
  expect(await loggia('check', join(folder, 'rigger/moveset.yaml'))).toMatchObject({
    status: 0,
    out: expect.stringContaining('Rigger, 16 abilities'),
  });
  expect(readFileSync(join(folder, 'rigger/moveset.yaml'), 'utf8')).toContain('open: [hop, gaffSweep]');
  expect(await loggia('chart', PELL, '--out', join(folder, 'pell.bmp'))).toMatchObject({
    status: 2,
    err: expect.stringContaining('.svg, .png, .html, .dot, .mmd, .scxml, .json'),
  });
  writeFileSync(join(folder, 'bad.scxml'), '<scxml><state id="a"></scxml>');
  expect(await loggia('new', join(folder, 'other'), '--from', join(folder, 'bad.scxml'))).toMatchObject({
    status: 1,
    err: expect.stringContaining('it is not well formed'),
  });
  writeFileSync(
    join(folder, 'bad.scxml'),
    '<scxml><state id="a"/><state id="a"><transition target="b"/></state></scxml>',
  );
  expect(await loggia('new', join(folder, 'other'), '--from', join(folder, 'bad.scxml'))).toMatchObject({
    status: 1,
    err: expect.stringMatching(/the id "a" stands twice.*; a transition leads to "b", which is the id of nothing\.$/m),
  });
});

test('a sweep comes to the same in any number of workers, and in parts that are put together', async () => {
  const words = ['sweep', DASH, '--vary', `${SPEED}=10..30/240`, '--measure', 'distance', 'min vx'];
  const { status, out } = await loggia(...words, '--csv', '--workers', '1');
  expect(status).toBe(0);
  expect(out.split('\n').slice(0, 2)).toEqual([
    `${SPEED},distance,min vx,fault`,
    expect.stringMatching(/^10,2\.(?:5|4999)\d*,-10,$/),
  ]);
  expect(loggiaProcess(...words, '--csv', '--workers', '3').out).toBe(out);
  const parts = [1, 2, 3].map((part) => join(folder, `part-${part}.json`));
  for (const [i, part] of parts.entries())
    expect(await loggia(...words, '--shard', `${i + 1}/3`, '--out', part)).toMatchObject({ status: 0 });
  expect(await loggia('merge', ...parts, '--csv')).toMatchObject({ status: 0, out });
  expect(await loggia('merge', ...parts.slice(1), '--csv')).toMatchObject({
    status: 1,
    err: expect.stringContaining('80 of 240 runs are missing'),
  });
  const spoiled = (from: RegExp, to: string) => {
    writeFileSync(parts[0], readFileSync(parts[0], 'utf8').replace(from, to));
    return loggia('merge', ...parts);
  };
  expect(await spoiled(/"title": "/, '"title": "x')).toMatchObject({
    status: 1,
    err: expect.stringContaining('another sweep'),
  });
  expect(await spoiled(/"vary": \[/, '"vary": [null, ')).toMatchObject({
    status: 1,
    err: expect.stringContaining('is no part of a sweep'),
  });
});

test('an aim is written into the file that says the number, and nothing else of it changes', async () => {
  const yard = join(folder, 'yard');
  cpSync(join(ROOT, 'demo/boatyard'), yard, { recursive: true });
  writeFileSync(join(yard, 'package.json'), '{}');
  const before = readFileSync(join(yard, 'pell-basics.yaml'), 'utf8');
  const { status, out } = await loggia(
    'sweep',
    join(yard, 'scenarios/dash-neutral.yaml'),
    '--vary',
    `${SPEED}=10..30/5`,
    '--aim',
    'distance == 6',
    '--write',
  );
  expect([status, out]).toEqual([
    0,
    expect.stringMatching(/galeDash.phases.go.move.speed = 20.9\d* gives distance (6|5.99\d*|6.00\d*)\./),
  ]);
  const after = readFileSync(join(yard, 'pell-basics.yaml'), 'utf8').split('\n');
  const changed = before.split('\n').flatMap((line, i) => (line === after[i] ? [] : [[line, after[i]]]));
  expect(changed).toHaveLength(1);
  expect(changed[0][1]).toBe(changed[0][0].replace('speed: 18', `speed: ${/speed = (\S+)/.exec(out)?.[1]}`));
});

test('another version is a file or a revision of git, with what it included then', async () => {
  const repo = join(folder, 'repo');
  cpSync(join(ROOT, 'demo/boatyard'), join(repo, 'yard'), { recursive: true });
  const git = (...words: string[]) =>
    execFileSync('git', ['-C', repo, '-c', 'user.name=Pell', '-c', 'user.email=pell@example.org', ...words]);
  git('init', '-q');
  git('add', '-A');
  git('commit', '-qm', 'before');
  const basics = join(repo, 'yard/pell-basics.yaml');
  writeFileSync(basics, readFileSync(basics, 'utf8').replace('speed: 18', 'speed: 21'));
  const file = join(repo, 'yard/pell.yaml');
  writeFileSync(file, readFileSync(file, 'utf8').replace('{ name: recovery, for: 12f,', '{ name: recovery, for: 9f,'));
  const { status, out } = await loggia('timing', file, '--compare', 'HEAD:yard/pell.yaml');
  expect([status, out]).toEqual([0, expect.stringContaining('recovery         12 -> 9 (-3)')]);
  expect(out).toContain(`${SPEED}  18 -> 21 (+3)`);
  expect((await loggia('timing', file, '--compare', 'HEAD', '--markdown')).out).toContain(
    '| gaffJab | total | 23 -> 20 (-3) |',
  );
  expect((await loggia('timing', file, '--compare', '--help:x')).status).not.toBe(0);
  expect(await loggia('legal', file, '--compare', 'nowhere')).toMatchObject({
    status: 1,
    err: expect.stringContaining('no revision of git is called like that'),
  });
});

test('explore writes scenarios that pass', async () => {
  writeFileSync(join(folder, 'package.json'), '{}');
  const file = join(folder, 'stuck.yaml');
  writeFileSync(
    file,
    'loggia: 1\nname: Pell\ninputs: { brace: { button: KeyB } }\nstances: { stand: { when: grounded }, fall: {} }\nabilities: { crouch: { start: { press: brace }, from: stand, end: vy > 60 } }\n',
  );
  const found = await loggia('explore', file, '--states', '300', '--out', join(folder, 'found'));
  expect([found.status, found.out]).toEqual([1, expect.stringContaining('soft-lock')]);
  expect(readdirSync(join(folder, 'found'))).toEqual(['soft-lock-crouch.yaml']);
  expect((await loggia('run', join(folder, 'found/soft-lock-crouch.yaml'))).status).toBe(0);
  const { runs } = JSON.parse((await loggia('explore', file, '--states', '300', '--sarif')).out);
  expect(runs[0].results).toContainEqual(expect.objectContaining({ ruleId: 'soft-lock', level: 'warning' }));
});

test('completion knows every command and option', async () => {
  for (const shell of ['bash', 'zsh', 'fish']) {
    const { status, out } = await loggia('completion', shell);
    expect(status).toBe(0);
    for (const word of ['explore', 'measure', 'around']) expect(out).toContain(word);
  }
  expect((await loggia('completion', 'csh')).status).toBe(2);
});
