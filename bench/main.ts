import { execFileSync } from 'node:child_process';
import { readFileSync } from 'node:fs';
import { packModule, parseMoveset } from '../src/format/text.js';
import { Character, checkMoveset, flatGround, type Plan, TileWorld } from '../src/index.js';
import { generated } from '../tests/emit/generated.js';
import { duelByHand, duelByLoggia, loadDuel, melee } from './arena.js';
import { ByHand } from './by-hand.js';
import { driveByHand, driveCharacter, LOOP, writeChanges } from './drive.js';
import { fightByHand, fightByLoggia, loadPlan, measureCrowd } from './fight.js';
import { allocated, compare, median, repeat, show } from './measure.js';
import { measureRecording } from './recording.js';
import { MINUTE, STREAMS, type StreamName } from './streams.js';
import { ask, HULLS, LENGTH, loadDemo, manyBoxes, playAll, playByHand, ROW } from './worlds.js';

// The first controller: legs only, brisk play.
const legs = loadPlan('demo/boatyard/pell-basics.yaml');
const changes = writeChanges();

function legsByLoggia(keys: ReturnType<typeof writeChanges>, ticks: number): () => void {
  const character = new Character(legs, { world: flatGround() });
  let at = 0;
  return () => {
    for (let i = 0; i < ticks; i++) {
      at = at + 1 === LOOP ? 0 : at + 1;
      driveCharacter(character, keys[at]);
      character.tick();
    }
  };
}

function legsByHand(keys: ReturnType<typeof writeChanges>, ticks: number): () => void {
  const hand = new ByHand();
  let at = 0;
  return () => {
    for (let i = 0; i < ticks; i++) {
      at = at + 1 === LOOP ? 0 : at + 1;
      driveByHand(hand, keys[at]);
      hand.tick();
    }
  };
}

console.log('The first controller by hand (legs; bench/by-hand.ts)');
for (const [label, keys] of [
  ['brisk play', changes],
  ['walking to and fro', changes.map((row) => row.filter(({ key }) => key === 'left' || key === 'right'))],
  ['standing', changes.map(() => [])],
] as const) {
  const ticks = LOOP * 40;
  const [ours, theirs] = compare([legsByLoggia(keys as never, ticks), legsByHand(keys as never, ticks)], ticks);
  show(`  ${label}`, (ours / theirs).toFixed(2));
}

// The second: a fighter.
const fight = loadPlan('bench/yard-fight.yaml');

console.log('The second controller by hand (a fighter; bench/yard-fight.ts)');
const LIMITS = { real: 3, calm: 2.5, mashing: 5, walking: 2, standing: 2 };
for (const name of Object.keys(STREAMS) as StreamName[]) {
  const [ours, theirs] = compare([fightByLoggia(fight, name), fightByHand(name)], MINUTE);
  show(`  ${name}`, (ours / theirs).toFixed(2), `at most ${LIMITS[name].toFixed(1)}`);
  show('    nanoseconds: Loggia, by hand', `${ours.toFixed(0)}, ${theirs.toFixed(0)}`);
}

console.log('The same as a ratio to the interpreter, in one process');
const fightModule = generated(fight);
for (const name of Object.keys(STREAMS) as StreamName[]) {
  const [module, interpreter] = compare([fightByLoggia(fightModule, name), fightByLoggia(fight, name)], MINUTE);
  show(`  a module: ${name}`, (module / interpreter).toFixed(2));
}
for (const count of [1000, 3000]) measureCrowd(fight, count);

console.log('Modules, each of these in a process of its own, as in a game');
for (const part of ['fighter', 'crowd', 'mast-row', 'duel'])
  execFileSync(process.execPath, ['--expose-gc', 'build/bench/modules.js', part], { stdio: 'inherit' });

console.log('Recording, with the legs of Pell');
measureRecording();

console.log('No cliffs: the fighter with one more line, in real play, as a ratio to the fighter');
const cliffs: Record<string, (text: string) => string> = {
  'a stance that reads a probe': (text) =>
    text
      .replace('lanes:', 'probes: { ahead: { ray: [1, 0], at: [0, 0.5] } }\nlanes:')
      .replace('stances:', 'stances:\n  lean: { when: ahead.hit and grounded and vx > 90 }'),
  'a stance that reads a height': (text) => text.replace('stances:', 'stances:\n  far: { when: y > 900 }'),
  'a regeneration by formula': (text) => text.replace('regen: 6', 'regen: "pick(grounded, 6, 6)"'),
  'a rule': (text) => `${text}  cold: { lane: legs, start: { rule: y < -90 }, phases: [{ for: 1f }] }\n`,
  'a walking speed from a pool': (text) =>
    text
      .replace('speed: 5,', 'speed: 5,')
      .replace(
        'stand: { when: grounded, tags: floor }',
        'stand: { when: grounded, tags: floor, walk: { speed: 3 + pool.wind / 12 } }',
      ),
};
for (const [label, change] of Object.entries(cliffs)) {
  const other = loadPlan('bench/yard-fight.yaml', change);
  const [with_, without] = compare([fightByLoggia(other, 'real'), fightByLoggia(fight, 'real')], MINUTE);
  show(`  ${label}`, (with_ / without).toFixed(2), 'at most 1.5');
}
const locked = (count: number) => (text: string) =>
  text +
  Array.from(
    { length: count },
    (_, i) =>
      `  more${i}: { locked: true, start: { press: gaff }, from: floor, cost: { wind: 1 }, phases: [{ for: 9f }] }\n`,
  ).join('');
for (const count of [100, 1000]) {
  const other = loadPlan('bench/yard-fight.yaml', locked(count));
  const [with_, without] = compare([fightByLoggia(other, 'real'), fightByLoggia(fight, 'real')], MINUTE, 11);
  show(`  ${count} locked abilities on the same button`, (with_ / without).toFixed(2), 'at most 1.5');
}

console.log('Against a wall, as a ratio to walking freely');
{
  const rows = ['#'.repeat(60), ...Array.from({ length: 6 }, () => `#${'.'.repeat(58)}#`), '#'.repeat(60)];
  const pushes = (key: string, x: number) => {
    const character = new Character(fight, { world: new TileWorld(rows), at: [x, 1] });
    character.door.press(key);
    for (let i = 0; i < 60; i++) character.tick();
    return () => {
      for (let i = 0; i < 3600; i++) {
        if (i % 120 === 0) character.door.place(x, 1);
        character.tick();
      }
    };
  };
  const [against, freely] = compare([pushes('move.right', 58.69), pushes('move.right', 20)], 3600);
  show('  pushing', (against / freely).toFixed(2), 'at most 2');
}

console.log('Pell in the tile world and on the hulls, all moves');
{
  const mastRow = loadDemo('pell-mast-row.yaml');
  const hull = loadDemo('pell-hull.yaml');
  const onRow = () => new Character(mastRow, { world: ROW, at: [2.5, 1] });
  const onHulls = () => new Character(hull, { world: HULLS, at: [0, 0, -1] });
  const [row, hand, open] = compare([playAll(onRow()), playByHand(), playAll(onHulls())], LENGTH, 9);
  show('  Mast Row, as a ratio to the same moves by hand', (row / hand).toFixed(2), 'at most 3.0');
  show('    nanoseconds: Loggia, by hand; the hulls', `${row.toFixed(0)}, ${hand.toFixed(0)}; ${open.toFixed(0)}`);
  const one = playAll(onRow());
  const other = playAll(onHulls());
  show('  bytes allocated over 36,000 ticks on Mast Row', String(allocated(() => repeat(one, 10))), '0');
  show('  the same on the hulls', String(allocated(() => repeat(other, 10))), '0');
  const reading = loadPlan('bench/yard-fight.yaml', (text) =>
    text
      .replace('lanes:', 'probes: { ahead: { ray: [1, 0], at: [0, 0.5] } }\nlanes:')
      .replace('stances:', 'stances:\n  lean: { when: ahead.hit and grounded and vx > 90 }'),
  );
  const [with_, without] = compare([fightByLoggia(reading, 'real', ROW), fightByLoggia(fight, 'real', ROW)], MINUTE);
  show('  a stance that reads a probe there, as a ratio', (with_ / without).toFixed(2), 'at most 2');
}

console.log('The arena');
{
  const plan = loadDuel();
  const { run: ours, arena, blows } = duelByLoggia(plan);
  const { run: theirs, duel } = duelByHand();
  const [a, b] = compare([ours, theirs], MINUTE, 11);
  show('  a duel of two, as a ratio to the same by hand', (a / b).toFixed(2), 'at most 3.0');
  show('    nanoseconds a tick: Loggia, by hand', `${a.toFixed(0)}, ${b.toFixed(0)}`);
  show('    blows a minute: Loggia, by hand', `${rateOf(blows, ours)}, ${rateOf(() => duel.blows, theirs)}`);
  show('  bytes allocated over 108,000 warm ticks of it', String(allocated(() => repeat(ours, 30))), '0');
  const copy = arena.snapshot();
  const [nanoseconds] = compare([() => repeat(() => arena.restore(arena.snapshot(copy)), 20_000)], 20_000, 7);
  show('  snapshot and restore of two, nanoseconds', nanoseconds.toFixed(0), 'under 2000');
  const { run } = melee(plan, 200);
  const [tick] = compare([run], 10, 9);
  show('  a tick of 200 who fight, milliseconds', (tick / 1e6).toFixed(2), 'under 8');
}

/** How often something is counted in a minute of play. */
function rateOf(count: () => number, run: () => void): number {
  const before = count();
  run();
  return count() - before;
}

console.log('Worlds: nanoseconds a question');
for (const kind of ['ray', 'sweep'] as const) {
  const count = 4000;
  const [few, many, tiles] = compare(
    [ask(manyBoxes(100), kind, count, 13), ask(manyBoxes(10_000), kind, count, 150), ask(ROW, kind, count, 10)],
    count,
    9,
  );
  show(`  ${kind}: 100 boxes, 10,000 boxes, tiles`, [few, many, tiles].map((n) => n.toFixed(0)).join(', '));
  show('    10,000 as a ratio to 100', (many / few).toFixed(2), 'at most 3');
  show('    a second, among 10,000', `${(1000 / many).toFixed(2)} million`);
}

console.log('Memory, and the rest');
const fighting = fightByLoggia(fight, 'real');
const mashing = fightByLoggia(fight, 'mashing');
show('  bytes allocated over 108,000 warm ticks, real', String(allocated(() => repeat(fighting, 30))), '0');
show('  the same, mashing, refusals told included', String(allocated(() => repeat(mashing, 30))), '0');

{
  const character = new Character(fight, { world: flatGround() });
  const copy = character.snapshot();
  const count = 100_000;
  const rounds: [string, () => void, string][] = [
    ['snapshot and restore', () => character.restore(character.snapshot(copy)), 'under 1000'],
    ['checksum', () => void character.checksum(), ''],
    ['may', () => void character.may('dash'), ''],
    ['explain', () => void character.explain('dash'), ''],
  ];
  for (const [label, run, limit] of rounds) {
    const [nanoseconds] = compare([() => repeat(run, count)], count, 7);
    show(`  ${label}, nanoseconds`, nanoseconds.toFixed(0), limit);
  }
}

/** Heap and array bytes of one character of the demo's whole moveset, with an array of its own. */
{
  const pell = loadPell();
  const world = flatGround();
  const weigh = (count: number) => {
    (globalThis as { gc?: () => void }).gc?.();
    const before = process.memoryUsage();
    const all = Array.from({ length: count }, () => new Character(pell, { world }));
    for (const character of all) {
      character.door.press('jump');
      character.tick();
      character.tick();
    }
    (globalThis as { gc?: () => void }).gc?.();
    const after = process.memoryUsage();
    const bytes = after.heapUsed - before.heapUsed + after.arrayBuffers - before.arrayBuffers;
    return all.length > 0 ? bytes / all.length : 0;
  };
  weigh(2000);
  const bytes = median(Array.from({ length: 7 }, () => weigh(5000)));
  show('  bytes of a Pell, of which record', `${bytes.toFixed(0)}, ${pell.recordSize * 8}`, 'at most 5000');
}

function loadPell(): Plan {
  const read = (path: string) => ({ text: readFileSync(`demo/boatyard/${path}`, 'utf8') });
  const { plan } = parseMoveset(read('pell.yaml').text, 'pell.yaml', { read });
  if (!plan) throw new Error('the demo has faults');
  return plan;
}

/** How much longer it takes to check and compile a hundred times as many abilities. */
{
  const abilities = (count: number) => ({
    loggia: 1,
    name: 'Pell',
    pools: { wind: { max: 9 } },
    inputs: { gaff: { button: 'KeyJ' } },
    stances: { stand: { when: 'grounded' }, fall: {} },
    abilities: Object.fromEntries(
      Array.from({ length: count }, (_, i) => [
        `a${i}`,
        {
          start: { press: 'gaff' },
          tags: i % 2 ? 'odd' : 'even',
          cost: { wind: 1 },
          cooldown: { for: '1s', group: `g${i % 50}` },
          open: [`a${(i + 1) % count}`, 'odd'],
          follows: [`a${(i + 2) % count}`],
          phases: [{ for: '9f', bars: 'even' }],
        },
      ]),
    ),
  });
  const big = checkMoveset(abilities(1000)).plan as Plan;
  const [packing] = compare([() => void packModule(big)], 1, 5);
  show('  generating a module of 1,000 abilities, ms', (packing / 1e6).toFixed(0), 'under 2000');
  const check = (count: number) => {
    const source = abilities(count);
    return () => {
      if (!checkMoveset(source).plan) throw new Error('the moveset of the benchmark has faults');
    };
  };
  const [many] = compare([check(1000)], 1, 5);
  const [few] = compare([() => repeat(check(10), 50)], 50, 5);
  show('  compiling 1,000 abilities, as a ratio to 10', (many / few).toFixed(0), 'at most 150');
}

/** Milliseconds of the first second of play, each time in a process of its own. */
function firstTicks(which: string): number {
  const times = Array.from({ length: 11 }, () =>
    Number(execFileSync(process.execPath, ['build/bench/first-ticks.js', which], { encoding: 'utf8' })),
  );
  return median(times);
}
const [asModule, byHand] = [firstTicks('module'), firstTicks('hand')];
show('  the first 60 ticks of a fresh process, as a ratio', (asModule / byHand).toFixed(2), 'at most 2');
show('    milliseconds: a module, by hand', `${asModule.toFixed(1)}, ${byHand.toFixed(1)}`);

const { core, whole, game } = JSON.parse(readFileSync('build/sizes.json', 'utf8'));
show('  core with mover, minified and gzipped', `${(core / 1000).toFixed(1)} kB`);
show('  the same with all that checks movesets', `${(whole / 1000).toFixed(1)} kB`);
show('  a game with one character that is a module', `${(game / 1000).toFixed(1)} kB`, 'at most 16');
