import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { describe, expect, test } from 'vitest';
import { loadMoveset } from '../../src/format/index.js';
import { compileMoveset, type Plan, wordDiagnostic, wordPath } from '../../src/index.js';
import { Movesets, runScenarioData, runScenarioFile, tellFailures, tellStory } from '../../src/scenario/index.js';
import { ROOT } from '../support.js';

const plan = (await loadMoveset(join(ROOT, 'demo/boatyard/pell.yaml'))).plan as Plan;
const WORLD = { rows: ['............', '.@..........', '############'] };
/** Pell hops at 5f, dashes at 7f and again, in vain, at 9f. */
const INPUTS = [
  { at: '5f', tap: 'jump' },
  { at: '7f', tap: 'gale' },
  { at: '9f', tap: 'gale' },
];

function run(...expect: object[]) {
  const scenario = { scenario: 'A dash', world: WORLD, run: '60f', inputs: INPUTS, expect };
  return runScenarioData(plan, scenario);
}

/** What a single expectation that fails says. */
function failure(expectation: object): string {
  const { result, diagnostics } = run(expectation);
  expect(diagnostics.map(wordDiagnostic)).toEqual([]);
  const [{ expected, was, instead }] = result?.failures ?? [];
  return `${expected} | ${was} | ${instead}`;
}

test.each([
  [{ at: '10f', stance: 'stand' }, 'stance stand | at 10f: stance fall | it did at 0f to 5f, 31f to 59f'],
  [{ started: 'galeDash', by: '6f' }, 'galeDash starts between 0f and 6f | never | it did at 7f'],
  [{ started: 'galeDash', times: 2 }, 'galeDash starts, 2 times | 1 time | it did at 7f'],
  [
    { refused: 'galeDash', because: 'pool' },
    'galeDash refused because pool | never | nearest, at 9f: galeDash refused: already running; no charges left',
  ],
  [{ started: 'gaffJab', by: '9f' }, 'gaffJab starts between 0f and 9f | never | '],
  [
    { always: true, stance: 'stand', by: '9f' },
    'stance stand, always between 0f and 9f | at 6f: stance rise | it did at 0f to 5f, 31f to 59f',
  ],
  [{ at: '10f', that: 'vx == 17.999' }, 'vx == 17.999 | at 10f: vx is 18 | '],
  [{ at: '8f', that: 'vy == 0.001' }, 'vy == 0.001 | at 8f: vy is 0 | '],
  [{ at: '20f', that: 'vy == -0.83' }, 'vy == -0.83 | at 20f: vy is -0.833 | '],
  [{ place: [3, 0], within: 0.05 }, 'at 3, 0 within 0.05 | at 59f: at 6.04, 1 | '],
  [{ facing: 'left' }, 'facing left | at 59f: facing right | '],
  [{ shape: 'low' }, 'shape low | at 59f: shape tall | '],
  [{ height: 0.9 }, 'height 0.9 | at 59f: height 1.8 | '],
  [{ clip: 'pellRise' }, 'clip pellRise | at 59f: clip pellStand | it did at 6f'],
])('%j', (expectation, told) => {
  expect(failure(expectation)).toBe(told);
});

test('a point that is none is nowhere, also where [0, 0] is expected', async () => {
  const mastRow = (await loadMoveset(join(ROOT, 'demo/boatyard/pell-mast-row.yaml'))).plan as Plan;
  const expected = [{ point: { moored: [0, 0] } }, { point: { line: [0, 0] } }, { point: { aim: [0, 0] } }];
  const { result } = runScenarioData(mastRow, { scenario: 'Pell stands', world: WORLD, run: '3f', expect: expected });
  expect(result?.failures.map(({ was }) => was)).toEqual(
    ['moored', 'line', 'aim'].map((n) => `at 2f: ${n} is nowhere`),
  );
});

test('a block may be flat and straight', () => {
  const world = {
    blocks: [
      { at: [0, -1], size: [20, 2] },
      { from: [3, 0], to: [4, 3] },
    ],
  };
  const pushed = [{ at: '0f', stick: { move: [1, 0] } }];
  const { result, diagnostics } = runScenarioData(plan, {
    scenario: 'Pell walks to a wall',
    world,
    run: '60f',
    start: { at: [0, 0] },
    inputs: pushed,
    expect: [{ place: [2.7, 0], within: 0.01 }],
  });
  expect([diagnostics.map(wordDiagnostic), result?.failures]).toEqual([[], []]);
});

test('what is as expected passes: clips, facing, shape, height, places, always, times', () => {
  const { result, diagnostics } = run(
    { at: '10f', clip: 'pellDash', facing: 'right', shape: 'tall', height: 1.8 },
    { place: [6.04, 1], within: 0.01 },
    { always: true, that: 'x >= 1.5' },
    { always: true, from: '7f', by: '18f', running: 'galeDash' },
    { started: 'galeDash', times: 1 },
    { started: 'gaffJab', times: 0 },
  );
  expect([result?.failures, diagnostics, result?.passed]).toEqual([[], [], true]);
});

describe('what can test nothing is an error', () => {
  const faults = (scenario: object) => {
    const whole = { scenario: 'A dash', world: WORLD, run: '60f', expect: [{ stance: 'stand' }], ...scenario };
    return runScenarioData(plan, whole).diagnostics.map((d) => `${wordPath(d.path)} ${d.code}`);
  };
  test.each([
    [{ expect: [{ times: 0, from: '50s', started: 'galeDash' }] }, 'expect[0].from out-of-range'],
    [{ expect: [{ from: '20f', by: '10f', stance: 'stand' }] }, 'expect[0].from pointless-key'],
    [{ expect: [{ at: '3f', by: '5f', stance: 'stand' }] }, 'expect[0].by pointless-key'],
    [{ expect: [{ always: true, times: 3, stance: 'stand' }] }, 'expect[0].times pointless-key'],
    [{ expect: [{ because: 'pool', stance: 'stand' }] }, 'expect[0].because pointless-key'],
    [{ expect: [{ why: 'time', stance: 'stand' }] }, 'expect[0].why pointless-key'],
    [{ expect: [{ within: 1, stance: 'stand' }] }, 'expect[0].within pointless-key'],
    [{ expect: [{ phase: 'windpu' }] }, 'expect[0].phase unknown-name'],
    [{ expect: [{ clip: 'pelRise' }] }, 'expect[0].clip unknown-name'],
    [{ expect: [{ that: 'tagged(flor)' }] }, 'expect[0].that formula-name'],
    [{ expect: [{ at: '3f' }] }, 'expect[0] missing-key'],
    [{ world: undefined }, 'the top missing-key'],
    [{ inputs: [{ at: '60f', tap: 'jump' }] }, 'inputs[0].at out-of-range'],
    [{ inputs: [{ at: '1f', tap: 'jump', every: '3f' }] }, 'inputs[0].every pointless-key'],
    [
      {
        inputs: [
          { at: '1f', press: 'jump' },
          { at: '5f', press: 'jump' },
        ],
      },
      'inputs[1].press pressed-twice',
    ],
    [
      {
        inputs: [
          { at: '1f', hold: 'jump', for: '9f' },
          { at: '5f', tap: 'jump' },
        ],
      },
      'inputs[1].tap pressed-twice',
    ],
    [{ world: { rows: ['.@W.', '####'] } }, 'world.rows[0] unknown-letter'],
    [{ world: { rows: ['....', '####'] } }, 'world.rows start-missing'],
    [
      { world: { ...WORLD, legend: { rope: { letter: 'R', tags: ['rpoe'] } } } },
      'world.legend.rope.tags[0] unknown-surface',
    ],
    [{ moveset: 'x', world: { rows: ['.@..', '....'] }, run: '4s' }, 'world.rows fell-out'],
    [
      {
        inputs: [
          { at: '1f', mash: 'jump', times: 1000 },
          { at: '2f', release: 'jump' },
        ],
      },
      undefined,
    ],
  ])('%j', (scenario, fault) => {
    expect(faults(scenario)).toEqual(fault === undefined ? [] : [fault]);
  });
});

test('a moveset or a file that is missing is named at its own line of the scenario', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'loggia-scenario-'));
  const told = async (text: string) => {
    writeFileSync(join(folder, 'a.yaml'), text);
    const { diagnostics } = await runScenarioFile(join(folder, 'a.yaml'));
    return diagnostics.map((d) => `${d.line}:${d.column} ${d.code}`);
  };
  expect(await told('loggia: 1\nscenario: x\nmoveset: nowhere.yaml\n')).toEqual(['3:10 file-unreadable']);
  expect(await told('loggia: 1\nscenario: x\nmoveset: ../../etc/passwd\n')).toEqual(['3:10 include-outside']);
  expect(await told('loggia: 1\nname: x\nstances: { stand: {} }\n')).toEqual(['1:1 is-moveset']);
});

test('only a run that is to be shown keeps its ticks: those in which something happens, and those around failures', () => {
  const scenario = { scenario: 'x', world: WORLD, run: '600f', inputs: INPUTS };
  const passed = { ...scenario, expect: [{ stance: 'stand' }] };
  expect(runScenarioData(plan, passed, 'nothing').result?.trace).toEqual([]);
  expect(runScenarioData(plan, passed, 'everything').result?.trace).toHaveLength(600);
  const failed = runScenarioData(plan, { ...scenario, expect: [{ at: '300f', stance: 'fall' }] }, 'nothing').result;
  const ticks = failed?.trace.map(({ tick }) => tick) ?? [];
  expect(ticks.filter((tick) => tick > 100)).toEqual([297, 298, 299, 300, 301, 302, 303]);
  expect(ticks).toContain(7);
  const everything = runScenarioData(plan, passed, 'everything').result;
  expect(failed?.checksum).toBe(everything?.checksum);
});

test('a scenario can run with a plan, and tell its story and its failures', async () => {
  const file = join(mkdtempSync(join(tmpdir(), 'loggia-scenario-')), 'a.yaml');
  const scenario = { loggia: 1, scenario: 'x', world: WORLD, run: '60f', inputs: INPUTS, expect: [{ facing: 'left' }] };
  writeFileSync(file, JSON.stringify(scenario));
  const report = await runScenarioFile(file, { plan });
  expect(tellStory(report)).toContain('  0.12 s    7f  hop ends');
  expect(tellFailures(report).slice(0, 2)).toEqual([
    `  ${file}:1 expected facing left`,
    '    but at 59f: facing right',
  ]);
});

test('a surface of the world that the moveset does not declare is warned of', () => {
  const probing = compileMoveset({
    loggia: 1,
    name: 'Pell',
    surfaces: ['rope'],
    probes: { ahead: { ray: [1, 0], on: 'rope' } },
    stances: { cling: { when: 'ahead.hit' }, stand: {} },
  });
  const told = (tags: string) =>
    runScenarioData(probing, {
      scenario: 'x',
      world: { rows: ['@R', '##'], legend: { rope: { letter: 'R', tags } } },
      run: '2f',
      expect: [{ always: true, that: 'y == 1' }],
    }).diagnostics.map((d) => d.code);
  expect(told('rope')).toEqual([]);
  expect(told('rpoe')).toEqual(['unknown-surface']);
});

test('a moveset of several scenarios is loaded once', async () => {
  const movesets = new Movesets();
  const file = join(ROOT, 'demo/boatyard/pell.yaml');
  const [one, other] = await Promise.all([
    movesets.load(file, ROOT),
    movesets.load(`${ROOT}/demo/../demo/boatyard/pell.yaml`, ROOT),
  ]);
  expect(other.plan).toBe(one.plan);
});

const BOAT = {
  pell: `loggia: 1
name: Pell
inputs: { call: { button: KeyC } }
summons: [gull]
stances: { stand: {} }
abilities: { callGull: { start: { press: call }, summon: { who: gull, at: [1, 0], does: dive }, phases: [{ for: 2f }] } }`,
  gull: `loggia: 1
name: Gull
inputs: { peck: { button: KeyC } }
stances: { fly: {} }
abilities:
  dive: { start: { code: only }, phases: [{ for: 9f }] }
  peck: { start: { press: peck }, phases: [{ for: 9f, leave: true }] }`,
  plate: `loggia: 1
name: Plate
events: [trodden]
stances: { rest: {} }
abilities: { lie: { start: { rule: true }, touch: { box: [4, 4], tells: trodden, again: 1f } } }`,
  walker: `loggia: 1
name: Walker
events: [trodden]
hurt: {}
stances: { stand: {} }`,
};

function inBoat(scenario: string) {
  const folder = mkdtempSync(join(tmpdir(), 'loggia-boat-'));
  for (const [name, text] of Object.entries(BOAT)) writeFileSync(join(folder, `${name}.yaml`), text);
  writeFileSync(join(folder, 'scenario.yaml'), `loggia: 1\nscenario: x\n${scenario}`);
  return runScenarioFile(join(folder, 'scenario.yaml'), { keep: 'story' });
}

test('who was called is a member by the name of its summon, the last one of several', async () => {
  const report = await inBoat(`moveset: pell.yaml
summons: { gull: gull.yaml }
world: { rows: ["........", ".@......", "########"] }
run: 40f
inputs: [{ at: 1f, tap: call }, { at: 10f, tap: call }, { of: gull, at: 20f, tap: peck }]
expect:
  - { of: gull, started: dive, at: 2f }
  - { of: gull, started: dive, at: 11f }
  - { of: gull, started: peck, at: 20f }
  - { members: [Pell, gull, gull], at: 15f }
  - { members: [Pell, gull] }
  - { of: gull 3, running: peck, at: 20f }`);
  expect(report.diagnostics).toEqual([]);
  expect(report.result?.failures).toEqual([]);
  const { diagnostics } = await inBoat(
    'moveset: pell.yaml\nsummons: { gull: gull.yaml }\nworld: { rows: ["@", "#"] }\nrun: 9f\nexpect: [{ of: gul, idle: body }]',
  );
  expect(diagnostics[0].sentence).toBe('There is no member "gul". Did you mean "gull"?');
});

test('touches that come again and again are told once; whoever falls out of the world is told of', async () => {
  const report = await inBoat(`moveset: plate.yaml
others: { walker: { moveset: walker.yaml, at: [1.5, 1] }, stray: { moveset: walker.yaml, at: [7.5, 1] } }
world: { rows: [".......", "@......", "####..."] }
run: 200f
expect: [{ of: walker, stance: stand }]`);
  const story = tellStory(report).join('\n');
  expect(story.match(/touch/g)?.length).toBe(1);
  expect(story).toMatch(/touches .*walker.* \(and \d+ times more up to 199f\)/);
  expect(report.diagnostics.map(({ sentence }) => sentence)).toEqual([
    expect.stringMatching(/^"stray" fell out of the world: at \d+f/),
  ]);
});

test('a next scene begins with what was saved: at the end of another scenario, or in a file', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'loggia-'));
  const write = (name: string, text: string) => {
    writeFileSync(join(folder, name), text);
    return join(folder, name);
  };
  const scene = (progress: string, more: string, moveset = 'pell.yaml') =>
    `loggia: 1\nscenario: A scene\nmoveset: ${moveset}\nworld: { rows: ['...', '.@.', '###'] }\nrun: 9f\nstart: {${progress}}\n${more}`;
  write(
    'pell.yaml',
    `loggia: 1
name: Pell
pools: { wind: { max: 24 } }
inputs: { gaff: { button: KeyJ } }
stances: { stand: {} }
marks: { moored: { saved: true } }
abilities: { heave: { locked: true, start: { press: gaff }, phases: [{ for: 1f, mark: { moored: feet } }] } }`,
  );
  write('package.json', '{}');
  write(
    'one.yaml',
    scene(
      '',
      'inputs: [{ at: 1f, learn: heave }, { at: 1f, pool: { wind: 7 } }, { at: 3f, tap: gaff }]\nexpect: [{ at: 3f, started: heave }]',
    ),
  );
  const two = write(
    'two.yaml',
    scene(
      'progress: one.yaml',
      'inputs: [{ at: 0f, tap: gaff }]\nexpect: [{ at: 0f, started: heave, that: pool.wind == 7 and known(moored) }]',
    ),
  );
  const tell = async (file: string) => {
    const { result, diagnostics } = await runScenarioFile(file);
    return [result?.passed, ...diagnostics.map(({ line, code, sentence }) => `${line} ${code} ${sentence}`)];
  };
  expect(await tell(two)).toEqual([true]);
  expect((await runScenarioFile(two)).files.map((file) => file.slice(folder.length + 1)).sort()).toEqual([
    ...['one.yaml', 'pell.yaml', 'two.yaml'],
  ]);
  const { result } = await runScenarioFile(join(folder, 'one.yaml'));
  write('saved.json', JSON.stringify({ ...result?.progress, learnt: ['heave', 'haeve'] }));
  expect(
    await tell(
      write('three.yaml', scene('progress: saved.json, pools: { wind: 3 }', 'expect: [{ that: pool.wind == 3 }]')),
    ),
  ).toEqual([
    true,
    '6 lost-progress Not all of this progress can be used: There is no ability "haeve" in Pell. Did it become "heave"?',
  ]);
  const why = async (name: string, progress: string, more = 'expect: [{ that: pool.wind == 3 }]') =>
    (await tell(write(name, scene(`progress: ${progress}`, more)))).slice(1);
  expect(await why('four.yaml', 'four.yaml')).toEqual([
    '6 no-progress There is no progress to begin with from "four.yaml": it begins with what is saved at the end of this one.',
  ]);
  write('bad.yaml', scene('', 'expect: [{ that: pool.wind == 3 }]'));
  expect(await why('five.yaml', 'bad.yaml')).toEqual([
    '6 no-progress There is no progress to begin with from "bad.yaml": it does not go as expected.',
  ]);
  expect((await why('six.yaml', 'none.yaml')).join()).toContain('file-unreadable');
  expect((await why('seven.yaml', '../../outside.yaml')).join()).toContain('include-outside');
});
