import { expect, test } from 'vitest';
import * as arenas from '../src/arena/index.js';
import * as devices from '../src/devices/index.js';
import * as files from '../src/format/index.js';
import { packModule } from '../src/format/text.js';
import * as core from '../src/index.js';
import * as rapier from '../src/rapier/index.js';
import * as recordings from '../src/recording/index.js';
import * as scenarios from '../src/scenario/index.js';
import * as analysis from '../src/study/index.js';
import { movesets } from '../src/vite/index.js';
import { testScenarios } from '../src/vitest/index.js';
import { plan, SMALL } from './support.js';

const TEXT = `${SMALL}pools: { wind: { max: 9 } }
events: { bell: { values: { loud: number } } }
marks: { post: {} }
places: [slip]
hurt: {}
summons: [gull]
abilities: { hop: { start: { toggle: jump }, phases: [{ for: 3f }] }, blink: { start: { press: gaff }, phases: [{ for: 3f, warp: { to: post } }] } }
loadouts: { rig: { abilities: [hop] } }
`.replace('inputs:\n', 'inputs:\n  sight: { aim: { pad: right } }\n  berth: { choice: { slip: KeyX, mast: KeyY } }\n');
const made = plan(TEXT);
const world = core.flatGround();
const character = () => new core.Character(made, { world, places: () => ({ x: 1, y: 0 }) });
const moveset = { loggia: 1, name: 'Pell', stances: { stand: {} } } as const;
const recorded = () => {
  const c = character();
  const of = new recordings.Recording(c);
  c.tick();
  return of;
};
const element = () => Object.assign(new EventTarget(), { setPointerCapture: () => {} });

/** One of each kind that a call may get by mistake. */
const WRONG: readonly unknown[] = [
  undefined,
  null,
  true,
  0,
  -1,
  Number.NaN,
  1e300,
  'x',
  '',
  [],
  [null],
  {},
  { wrold: 1 },
  () => 0,
  Symbol('x'),
  new Map(),
  Buffer.from('loggia: 1'),
  new Float64Array(3),
];

/** Every function and class that is exported, with arguments that are right. */
const CALLS: Record<string, [call: (...args: never[]) => unknown, args: readonly unknown[]]> = {};
const add = (exports: object, given: Record<string, readonly unknown[]>) => {
  for (const [name, value] of Object.entries(exports)) {
    if (typeof value !== 'function' || value.prototype instanceof Error) continue;
    const args = given[name];
    if (!args) throw new Error(`${name} is exported, and this test does not know how it is called`);
    const isClass = /^class\b/.test(Function.prototype.toString.call(value));
    CALLS[name] = [isClass ? (...args) => new value(...args) : value, args];
  }
};
add(core, {
  advise: [{ plan: made, source: moveset, parsed: {}, read: null, sink: { add: () => {} } }],
  packMoveset: [made],
  checkMoveset: [moveset, core.advise],
  compileMoveset: [moveset, {}],
  unpackMoveset: [core.packMoveset(made)],
  defineMoveset: [moveset],
  describe: [made],
  mainReason: [[]],
  wordReason: [{ code: 'running' }, {}],
  wordRefusal: ['hop', [], {}],
  wordDiagnostic: [{ code: 'empty', severity: 'error', path: [], on: 'value', params: { hint: 'x' } }],
  wordPath: [['a', 1]],
  Character: [made, { world, places: () => undefined }],
  characterIn: [made, new Float64Array(made.arraySize()), 0, world, {}],
  tickAll: [made, new Float64Array(made.arraySize()), 1, world, {}],
  FixedSteps: [60, () => {}, { most: 4 }],
  loadProgress: [character(), {}],
  saveProgress: [character(), {}],
  swapMoveset: [character(), made, {}],
  Tape: [],
  BoxWorld: [[{ from: [0, 0], to: [1, 1] }], {}],
  TileWorld: [['##'], { size: 1 }],
  flatGround: [0],
  Cast: [],
  Hit: [],
  Room: [],
});
add(arenas, {
  Arena: [{ world }],
  ArenaTape: [],
  Member: [1, 'x', character(), null, [], 1, [0, 0, 0], 0],
  checkOpponent: [made, { acts: [{ when: 'true', press: 'jump' }] }],
  compileOpponent: [made, { acts: [{ when: 'true', press: 'jump' }] }],
  wordMeeting: [{ kind: 'clash', by: 'a', to: 'b' }],
});
add(scenarios, {
  wordEvent: [{ kind: 'stuck' }],
  Movesets: [],
  runScenarioData: [
    made,
    { scenario: 'x', world: { rows: ['@', '#'] }, run: '1f', expect: [{ stance: 'stand' }] },
    'story',
    {},
  ],
  runScenarioFile: ['nowhere.yaml', {}],
  replayFile: ['nowhere.json', 'nowhere.yaml', {}],
  scenarioSchema: [made.names],
  tellFailures: [{ file: '', scenario: '', diagnostics: [], lines: [] }],
  tellStory: [{ file: '', scenario: '', diagnostics: [], lines: [] }],
  toScenario: [recorded(), {}],
});
const recording = () => new recordings.Recording(character());
add(recordings, {
  Recording: [character(), { seconds: 9 }],
  compare: [recording(), recording(), {}],
});
const chart = analysis.chartOf(made);
add(analysis, {
  exploreMoveset: [made, { states: 1 }],
  timingOf: [made],
  legalOf: [made],
  chartOf: [made],
  changesOf: [made, made],
  chartChanges: [made, made],
  chartAround: [chart, 'hop'],
  sweepScenario: [
    made,
    { scenario: 'x', world: { rows: ['@', '#'] }, run: '2f', expect: [{ that: 'grounded or airborne' }] },
    { vary: 'pools.wind.max=9,10', measure: 'pool.wind' },
  ],
});
// Its default is to search for long.
CALLS.exploreMoveset[0] = (plan: never, options: { states?: number } | undefined) =>
  analysis.exploreMoveset(
    plan,
    options === undefined || Object(options) === options ? { states: 1, ...options } : options,
  );

add(
  { ...files, packModule },
  {
    checkClips: [made, {}],
    parseClipTable: ['{}'],
    movesetSchema: [made.names],
    toJsonSchema: [{ kind: 'truth' }],
    loadMoveset: ['nowhere.yaml', {}],
    compileFile: ['nowhere.yaml', {}],
    parseMoveset: [TEXT, 'moveset', {}],
    compileText: [TEXT, 'moveset', {}],
    parseOpponent: [made, 'loggia: 1\nacts: []', 'opponent'],
    formatDiagnostic: [
      { file: 'x', line: 1, column: 1, severity: 'error', code: 'empty', sentence: 'x', excerpt: '', caret: [0, 1] },
    ],
    formatExcerpt: [
      { file: 'x', line: 1, column: 1, severity: 'error', code: 'empty', sentence: 'x', excerpt: '', caret: [0, 1] },
    ],
    packModule: [made, {}, {}],
  },
);
add(devices, {
  Bindings: [made],
  DeviceHub: [character(), new devices.Bindings(made)],
  Gamepads: [new devices.DeviceHub(character(), new devices.Bindings(made)), character(), made, () => []],
  listen: [character(), { window: Object.assign(new EventTarget(), { document: new EventTarget() }) }],
  makeButton: [new devices.DeviceHub(character(), new devices.Bindings(made)), element(), 'jump'],
});
add(rapier, { RapierWorld: [{ Ray: class {} }, {}] });
add({ movesets, testScenarios }, { movesets: [{}], testScenarios: ['nowhere', {}] });

/** Methods of what these make, with arguments that are right. */
const METHODS: [owner: () => object, calls: Record<string, readonly unknown[]>][] = [
  [
    character,
    {
      explain: ['hop'],
      may: ['hop'],
      preview: ['blink'],
      snapshot: [new Float64Array(made.snapshotSize)],
      restore: [character().snapshot(), {}],
    },
  ],
  [
    () => character().door,
    {
      press: ['jump'],
      release: ['jump'],
      stick: ['move', 1, 0],
      event: ['bell', { loud: 1 }],
      request: ['hop'],
      end: ['hop'],
      learn: ['hop'],
      forget: ['hop'],
      loadout: ['rig'],
      reset: ['hop'],
      latch: ['hop', true],
      freeze: [1],
      pool: ['wind', 1],
      place: [0, 1, 0],
      velocity: [0, 1, 0],
      camera: [1, 0],
      face: [1, 0],
      mark: ['post', 1, 1],
      unmark: ['post'],
      aim: ['sight', 1, 0, 0],
      aimAt: ['sight', 1, 0, 0],
      choose: ['berth', 'slip'],
      contacts: [{ x: 0, y: 0, vx: 0, vy: 0, grounded: true }],
    },
  ],
  [
    () => character().readout,
    { pool: ['wind'], cooldown: ['hop'], charge: ['hop'], isRunning: ['hop'], ability: ['body'], mark: ['post'] },
  ],
  [() => character().facts, { fact: ['vx'], held: ['jump'] }],
  [
    () => new arenas.Arena({ world, summons: { gull: made } }),
    {
      add: ['pell', made, { at: [0, 0] }],
      remove: ['pell'],
      find: ['pell'],
      snapshot: [],
      restore: [new arenas.Arena().snapshot(), {}],
    },
  ],
  [recorded, { at: [0], find: ['grounded'], why: [0, 'hop'], play: [{ from: 0 }], toFile: [], stop: [] }],
  [() => recordings.Recording, { fromFile: [new Uint8Array(3), {}] }],
  [() => new core.FixedSteps(60, () => {}), { advance: [0.1], place: [character()], step: [], cut: [] }],
  [() => new core.Tape(), { rewindTo: [character()], feed: [character()] }],
  [() => core.Tape, { from: [{}] }],
  [() => new arenas.ArenaTape(), { rewindTo: [new arenas.Arena(), [made]], feed: [new arenas.Arena()] }],
  [() => arenas.ArenaTape, { from: [{}] }],
  [
    () => new core.TileWorld(['##'], { blocks: [{ name: 'lift', from: [0, 0], to: [1, 1] }] }),
    { find: ['slip'], advanceTo: [0], put: ['lift', [0, 0], [0, 0]], tileAt: [0, 0] },
  ],
  [() => core.TileWorld, { fromGrid: [1, 1, [0], {}] }],
  [
    () => new devices.Bindings(made),
    { sourcesOf: ['jump'], inputsOf: ['Space'], rebind: ['jump', ['KeyF']], load: [{}] },
  ],
];
for (const [owner, calls] of METHODS)
  for (const [name, args] of Object.entries(calls)) {
    const call = (...given: never[]) => {
      const of = owner() as Record<string, (...args: never[]) => unknown>;
      return of[name](...given);
    };
    CALLS[`${owner().constructor.name}.${name}`] = [call, args];
  }

/** What a wrong call may come to: an error of ours with a sentence. */
function faultOf(error: unknown): string | undefined {
  const ours = ['UsageError', 'MovesetError', 'OpponentError', 'PackingError'];
  if (!(error instanceof Error)) return `threw ${String(error)}`;
  if (ours.includes(error.name))
    return /^.{10,}[.?]$/s.test(error.message) || /:\n/.test(error.message)
      ? undefined
      : `no sentence: ${error.message}`;
  return `${error.name}: ${error.message}`;
}

test.each(Object.entries(CALLS))('%s tells what is wrong with what it is given', async (_, [call, args]) => {
  const faults = new Set<string>();
  for (let i = 0; i < Math.max(args.length, 1); i++)
    for (const wrong of WRONG) {
      const given = args.map((arg, k) => (k === i ? wrong : arg));
      try {
        await call(...(given as never[]));
      } catch (error) {
        const fault = faultOf(error);
        if (fault) faults.add(`argument ${i}: ${fault}`);
      }
    }
  expect([...faults]).toEqual([]);
});

test('what cannot be meant is refused', () => {
  const refused: [() => unknown, string][] = [
    [() => new core.Character(made, core.flatGround() as never), 'is a world; give it as { world }'],
    [() => new core.Character(made, { wrold: world } as never), 'there is no option "wrold". There are world, at'],
    [() => core.packMoveset(files.parseMoveset(TEXT) as never), 'the first argument must be a compiled moveset'],
    [() => core.flatGround('x' as never), 'flatGround: y must be a number'],
    [() => new core.TileWorld(['#'], { size: 0 }), 'TileWorld: size must be a number from'],
    [() => new core.TileWorld(['#'], { size: Number.NaN }), 'TileWorld: size must be a number from'],
    [() => new arenas.Arena().add(undefined as never, made), 'add: the name of a member must be a text'],
    [() => character().door.latch('hop', 'false' as never), 'latch: on must be true or false'],
    [
      () => new core.Character(plan(SMALL)).door.contacts({ x: 0, y: 0, vx: 0, vy: 0 } as never),
      'contacts: grounded must be true or false',
    ],
  ];
  for (const [call, why] of refused) expect(call).toThrow(why);
});

test('what is given to a scenario as its plan, and is none, is told at once', async () => {
  await expect(scenarios.runScenarioFile('nowhere.yaml', { plan: {} as never })).rejects.toThrow(
    /^runScenarioFile: of its moveset/,
  );
});
