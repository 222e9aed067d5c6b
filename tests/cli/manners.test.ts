import { spawn, spawnSync } from 'node:child_process';
import {
  chmodSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { ROOT } from '../support.js';
import { BIN, loggiaIn } from './in-process.js';

const GOOD = 'loggia: 1\nname: Pell\nstances: { stand: {} }\n';
const BAD = `${GOOD}pools: { wind: { mix: 3 } }\n`;

/** A new folder with these files, and the command line in it. */
function inFolder(files: Record<string, string>) {
  const folder = mkdtempSync(join(tmpdir(), 'cli-'));
  for (const [name, text] of Object.entries(files)) {
    mkdirSync(join(folder, name, '..'), { recursive: true });
    writeFileSync(join(folder, name), text);
  }
  const shell = (line: string, env: NodeJS.ProcessEnv = {}) => {
    const script = line.replaceAll(/\bloggia\b/g, `node ${BIN}`);
    const { status, stdout, stderr } = spawnSync('bash', ['-c', script], {
      cwd: folder,
      encoding: 'utf8',
      env: { ...process.env, ...env },
      timeout: 20_000,
    });
    return { status, out: stdout, err: stderr };
  };
  /** What needs no shell and no process. */
  const run = (line: string) => loggiaIn(folder, line.split(' '));
  return { folder, shell, run };
}

describe('exit codes', () => {
  const { shell } = inFolder({ 'good.yaml': GOOD, 'bad.yaml': BAD });
  test('a full disk is a fault of its own', () => {
    for (const file of ['good', 'bad'])
      expect(shell(`loggia check ${file}.yaml > /dev/full`)).toEqual({
        status: 2,
        out: '',
        err: 'loggia: the output could not be written: ENOSPC.\n',
      });
  });
  test("a closed pipe is none: the work's own code counts", () => {
    const piped = (file: string) => shell(`set -o pipefail; loggia check ${file} | true`);
    expect(piped('bad.yaml')).toMatchObject({ status: 1, err: '' });
    expect(piped('good.yaml')).toMatchObject({ status: 0, err: '' });
  });
});

test('pack never writes over what it is made of, and keeps links and modes', async () => {
  const part = 'pools: { wind: { max: 3 } }\n';
  const { folder, shell, run } = inFolder({
    'pell.yaml': `${GOOD}include: part.yaml\n`,
    'part.yaml': part,
    'old.json': '{}',
  });
  symlinkSync('pell.yaml', join(folder, 'link.yaml'));
  for (const out of [
    'pell.yaml',
    'part.yaml',
    'link.yaml',
    '../'.concat(folder.split('/').at(-1) as string, '/part.yaml'),
  ])
    expect(shell(`loggia pack pell.yaml --out ${out}`)).toMatchObject({
      status: 2,
      err: expect.stringContaining('it is one of the files that this is made of'),
    });
  expect(readFileSync(join(folder, 'part.yaml'), 'utf8')).toBe(part);
  chmodSync(join(folder, 'old.json'), 0o640);
  symlinkSync('old.json', join(folder, 'new.json'));
  writeFileSync(join(folder, 'old.json.unfinished'), 'mine');
  expect((await run('pack pell.yaml --out new.json')).status).toBe(0);
  expect(statSync(join(folder, 'old.json')).mode & 0o777).toBe(0o640);
  expect(JSON.parse(readFileSync(join(folder, 'old.json'), 'utf8')).packing).toBeGreaterThan(0);
  expect(readFileSync(join(folder, 'old.json.unfinished'), 'utf8')).toBe('mine');
  expect(readdirSync(folder).filter((file) => file.endsWith('.tmp'))).toEqual([]);
});

test.each([
  ['/dev/zero', 'it is a device, not a file'],
  ['<(yes)', 'is larger than'],
  ['<(sleep 30 2>/dev/null)', 'it is a pipe, and nothing was written to it'],
  ['.', 'it is a folder'],
  ['nowhere.yaml/x', 'there is no such file'],
  ['moveset.ts', 'is a program'],
])('what is no file is told of at once: %s', (file, why) => {
  const { shell } = inFolder({});
  const { status, out } = shell(`loggia check ${file}`);
  expect([status, out]).toEqual([1, expect.stringContaining(why)]);
});

test('a pipe is read like a file', () => {
  const { shell } = inFolder({ 'good.yaml': GOOD });
  expect(shell('loggia check <(sleep 0.2; cat good.yaml)')).toMatchObject({ status: 0 });
});

test('includes stay in the nearest folder with a package.json, or in that of the file, or in --root', async () => {
  const { run } = inFolder({
    'a/package.json': '{}',
    'a/moves/pell.yaml': `${GOOD}include: ../shared/pools.yaml\n`,
    'a/shared/pools.yaml': 'pools: { wind: { max: 3 } }\n',
    'b/pell.yaml': `${GOOD}include: ../a/shared/pools.yaml\n`,
    'c/..part.yaml': 'pools: { wind: { max: 3 } }\n',
    'c/pell.yaml': `${GOOD}include: ..part.yaml\n`,
  });
  expect((await run('check a/moves/pell.yaml')).status).toBe(0);
  expect((await run('check c/pell.yaml')).status).toBe(0);
  expect(await run('check b/pell.yaml')).toMatchObject({
    status: 1,
    out: expect.stringContaining('include-outside'),
  });
  expect((await run('check b/pell.yaml --root .')).status).toBe(0);
  expect((await run('check a/moves/pell.yaml --root a/moves')).status).toBe(1);
});

test('no name, key, value or path can forge a line or move the cursor', async () => {
  const forged = '\\u001b[2K\\nok  pell.yaml: Pell';
  const { folder, shell } = inFolder({
    'name.yaml': `loggia: 1\nname: "x${forged}"\nstances: { stand: {} }\n`,
    'key.yaml': `${GOOD}"pools${forged}": 3\n`,
    'value.yaml': `${GOOD}view: "side${forged}"\n`,
    'line.yaml': `${GOOD}view: [\u001b[2K\n`,
  });
  writeFileSync(join(folder, 'a\nok  forged.yaml'), BAD);
  const odd = 'a\nok  forged.yaml';
  const calls = [
    ...['name.yaml', 'key.yaml', 'value.yaml', 'line.yaml', odd].map((file) => ['check', file]),
    ...['run', 'pack', 'types', 'facts'].flatMap((command) => [
      [command, 'name.yaml'],
      [command, odd],
    ]),
  ];
  for (const words of calls) {
    const { out, err } = await loggiaIn(folder, words);
    expect(out + err).not.toContain('\u001b');
    expect((out + err).split('\n').filter((line) => /^ok {2}(pell|forged)/.test(line))).toEqual([]);
  }
  expect(shell(`loggia $'ch\\u001beck'`).err).toBe(
    'loggia: there is no command "ch\\u001beck". Did you mean "check"?\n',
  );
});

test('colour follows the stream that is written to, and what people ask for', () => {
  const { shell } = inFolder({ 'bad.yaml': BAD });
  expect(shell('loggia check bad.yaml').out).not.toContain('\u001b[');
  expect(shell('loggia check bad.yaml', { FORCE_COLOR: '1' }).out).toContain('\u001b[31merror\u001b[39m');
  expect(shell('loggia check bad.yaml', { FORCE_COLOR: '0' }).out).not.toContain('\u001b[');
});

test('an error shows its line with a mark under what is meant', async () => {
  const { run } = inFolder({ 'bad.yaml': BAD });
  expect((await run('check bad.yaml')).out).toBe(
    [
      'bad.yaml:4:10 error missing-key: A pool needs "max": its upper limit.',
      '    pools: { wind: { mix: 3 } }',
      '             ^^^^',
      'bad.yaml:4:18 error unknown-key: A pool has no key "mix". Did you mean "min"?',
      '    pools: { wind: { mix: 3 } }',
      '                     ^^^',
      '2 errors  bad.yaml',
      '',
    ].join('\n'),
  );
});

test('check prints SARIF, and help and near options are at hand', async () => {
  const { run } = inFolder({ 'bad.yaml': BAD });
  const { status, out } = await run('check bad.yaml --format sarif');
  const { version, runs } = JSON.parse(out);
  expect([status, version, runs[0].tool.driver.name]).toEqual([1, '2.1.0', 'loggia']);
  expect(runs[0].results[1]).toMatchObject({
    ruleId: 'unknown-key',
    level: 'error',
    locations: [
      { physicalLocation: { artifactLocation: { uri: 'bad.yaml' }, region: { startLine: 4, startColumn: 18 } } },
    ],
  });
  expect(await run('check bad.yaml --format xml')).toMatchObject({
    status: 2,
    err: expect.stringContaining('sarif'),
  });
  expect(await run('help run')).toMatchObject({ status: 0, out: expect.stringContaining('--jobs') });
  expect(await run('help rnu')).toMatchObject({
    status: 2,
    err: 'loggia: there is no command "rnu". Did you mean "run"?\n',
  });
  expect((await run('check --formt json bad.yaml')).err).toContain('Did you mean --format');
});

test('facts, types and the schema know the names of a moveset', async () => {
  const text = `${GOOD}pools: { wind: { max: 3 } }\ninputs: { jump: { button: Space } }\n`;
  const { shell, run } = inFolder({ 'pell.yaml': text, 'faulty.yaml': `${text}body: { walk: { speed: fast } }\n` });
  expect((await run('facts pell.yaml')).out).toMatch(
    /pool\.\{pool\} +number +The amount in the pool\.\n +pool\.wind\n/,
  );
  const { facts } = JSON.parse((await run('facts pell.yaml --json')).out);
  expect(facts.find((row: { fact: string }) => row.fact === 'held(jump)')).toEqual({
    fact: 'held(jump)',
    gives: 'condition',
    doc: 'The input is held.',
  });
  // Whoever has a wrong formula wants to know the right facts.
  expect((await run('facts faulty.yaml')).out).toBe((await run('facts pell.yaml')).out);
  expect((await run('types pell.yaml')).out).toContain(
    'export interface PellNames {\n  pool: "wind";\n  button: "jump";',
  );
  expect((await run('types pell.yaml --out pell.d.yaml.ts')).out).toBe(
    'written  the names of Pell into pell.d.yaml.ts\n',
  );
  expect(`${shell('loggia types pell.yaml').out}`).toBe(shell('cat pell.d.yaml.ts').out);
  expect(await run('types pell.yaml --out pell.yaml')).toMatchObject({ status: 2 });
  // An editor's file has errors most of the time.
  const schema = (await run('schema moveset --for faulty.yaml')).out;
  const { properties } = JSON.parse(schema);
  expect(properties.abilities.additionalProperties.properties.cost.propertyNames).toEqual({ enum: ['wind'] });
});

test('all cores run what one runs', () => {
  const { shell } = inFolder({});
  const files = `${ROOT}/demo/boatyard/scenarios/d*.yaml`;
  expect(shell(`loggia run --jobs ${files}`).out).toBe(shell(`loggia run ${files}`).out);
});

test('three files of a module are written, or none', async () => {
  const { folder, run } = inFolder({ 'pell.yaml': GOOD, 'out/keep.txt': '' });
  mkdirSync(join(folder, 'out/pell.js'));
  expect(await run('pack pell.yaml --module --out out/pell.js')).toMatchObject({
    status: 2,
    err: 'loggia pack: out/pell.js cannot be written: it is a folder.\n',
  });
  expect(readdirSync(join(folder, 'out')).sort()).toEqual(['keep.txt', 'pell.js']);
  expect((await run('pack pell.yaml --module --out out/mate.js')).status).toBe(0);
  expect(readdirSync(join(folder, 'out')).sort()).toEqual([
    'keep.txt',
    'mate.d.ts',
    'mate.js',
    'mate.js.map',
    'pell.js',
  ]);
  expect((await run('pack pell.yaml --module --out out/mate.js')).status).toBe(0);
  expect(readdirSync(join(folder, 'out'))).toHaveLength(5);
});

test('a link that leads to nothing yet is written through', async () => {
  const { folder, run } = inFolder({ 'pell.yaml': GOOD, 'real/keep.txt': '' });
  symlinkSync('real/pell.json', join(folder, 'link.json'));
  expect((await run('pack pell.yaml --out link.json')).status).toBe(0);
  expect(readdirSync(join(folder, 'real')).sort()).toEqual(['keep.txt', 'pell.json']);
});

test('formats are told apart, and odd paths are addresses', async () => {
  const { shell, run } = inFolder({ 'a b#c?.yaml': BAD });
  expect(await run('check --json --format sarif x.yaml')).toMatchObject({
    status: 2,
    err: 'loggia check: --json and --format sarif are two formats; give one of them.\n',
  });
  const { out } = shell('loggia check --format sarif "a b#c?.yaml"');
  expect(JSON.parse(out).runs[0].results[0].locations[0].physicalLocation.artifactLocation.uri).toBe(
    'a%20b%23c%3F.yaml',
  );
  // What a path holds moves no cursor.
  const { err } = shell("loggia pack good.yaml --out $'x\\e[31m/y.json'; loggia pack $'\\e[31m.yaml'");
  expect(err).not.toContain('\u001b');
});

test('each save is checked while it watches, and an include that appears', async () => {
  const { folder } = inFolder({ 'pell.yaml': `${GOOD}include: part.yaml\n` });
  const watching = spawn('node', [BIN, 'check', '--watch', 'pell.yaml'], { cwd: folder });
  let out = '';
  watching.stdout.on('data', (text) => {
    out += text;
  });
  const seen = async (what: RegExp, times: number) => {
    for (let i = 0; i < 1200 && (out.match(what)?.length ?? 0) < times; i++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    expect(out.match(what)?.length).toBe(times);
  };
  try {
    await seen(/watching/g, 1);
    expect(out).toContain('part.yaml');
    writeFileSync(join(folder, 'part.yaml'), 'pools: { wind: { max: 3 } }\n');
    await seen(/^ok/gm, 1);
    await seen(/watching/g, 2);
    // Two saves in quick succession: what is there at last is told.
    writeFileSync(join(folder, 'part.yaml'), 'pools: { wind: { max: 4 } }\n');
    await new Promise((resolve) => setTimeout(resolve, 120));
    writeFileSync(join(folder, 'part.yaml'), 'pools: { wind: { mix: 4 } }\n');
    await seen(/unknown-key/g, 1);
  } finally {
    watching.kill();
  }
});
