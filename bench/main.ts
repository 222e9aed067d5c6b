import { existsSync, readFileSync } from 'node:fs';
import { parseMoveset } from '../src/format/text.js';
import { Character, flatGround, type Plan } from '../src/index.js';
import { ByHand } from './by-hand.js';
import { driveByHand, driveCharacter, LOOP, writeChanges } from './drive.js';

/**
 * Speed and memory, as ratios within one run. Each measure is the median of many rounds that take turns,
 * so that a busy machine bothers both sides alike.
 */
const ROUNDS = 31;
const TICKS = LOOP * 20;
const changes = writeChanges();

function loadPlan(): Plan {
  const { plan } = parseMoveset(readFileSync('demo/boatyard/pell-basics.yaml', 'utf8'));
  if (!plan) throw new Error('the demo moveset has faults');
  return plan;
}

const plan = loadPlan();
const character = new Character(plan, { world: flatGround() });
const hand = new ByHand();
let at = 0;

function runCharacter(ticks: number): void {
  for (let i = 0; i < ticks; i++) {
    at = at + 1 === LOOP ? 0 : at + 1;
    driveCharacter(character, changes[at]);
    character.tick();
  }
}

function runByHand(ticks: number): void {
  let at = 0;
  for (let i = 0; i < ticks; i++) {
    at = at + 1 === LOOP ? 0 : at + 1;
    driveByHand(hand, changes[at]);
    hand.tick();
  }
}

/** Nanoseconds per call, of `count` calls inside `run`. */
function time(run: () => void, count: number): number {
  const start = process.hrtime.bigint();
  run();
  return Number(process.hrtime.bigint() - start) / count;
}

function median(values: number[]): number {
  return values.toSorted((a, b) => a - b)[values.length >> 1];
}

function compare(): { ours: number; theirs: number } {
  const ours: number[] = [];
  const theirs: number[] = [];
  for (let i = 0; i < ROUNDS; i++) {
    ours.push(time(() => runCharacter(TICKS), TICKS));
    theirs.push(time(() => runByHand(TICKS), TICKS));
  }
  return { ours: median(ours), theirs: median(theirs) };
}

/** Bytes that the heap grew by over so many warm ticks, when nothing is collected meanwhile. */
function allocated(ticks: number): number {
  runCharacter(LOOP * 200);
  (globalThis as { gc?: () => void }).gc?.();
  const before = process.memoryUsage().heapUsed;
  runCharacter(ticks);
  return process.memoryUsage().heapUsed - before;
}

function snapshots(): number {
  const copy = character.snapshot();
  const count = 100_000;
  const rounds = Array.from({ length: ROUNDS }, () =>
    time(() => {
      for (let i = 0; i < count; i++) {
        character.snapshot(copy);
        character.restore(copy);
      }
    }, count),
  );
  return median(rounds);
}

/** Share of one core that a thousand characters take at 60 ticks a second, each at its own place in the loop. */
function thousand(): number {
  const block = new Float64Array(1000 * plan.arraySize());
  const world = flatGround();
  const crowd = Array.from(
    { length: 1000 },
    (_, i) => new Character(plan, { world, at: [i, 0], into: block.subarray(i * plan.arraySize()) }),
  );
  const second = () => {
    for (let t = 0; t < 60; t++)
      for (let i = 0; i < crowd.length; i++) {
        driveCharacter(crowd[i], changes[(at + t + i * 7) % LOOP]);
        crowd[i].tick();
      }
    at = (at + 60) % LOOP;
  };
  const rounds = Array.from({ length: 15 }, () => time(second, 1));
  return median(rounds) / 1e9;
}

const show = (label: string, value: string, limit: string) =>
  console.log(`${label.padEnd(44)} ${value.padStart(12)}   ${limit}`);

runCharacter(LOOP * 100);
runByHand(LOOP * 100);
const { ours, theirs } = compare();
show('a tick, as a ratio to the controller by hand', (ours / theirs).toFixed(2), 'at most 2.0');
show('  nanoseconds: Loggia, by hand', `${ours.toFixed(0)}, ${theirs.toFixed(0)}`, '');
show('bytes allocated over 100,000 warm ticks', String(allocated(100_000)), '0');
show('snapshot and restore, nanoseconds', snapshots().toFixed(0), 'under 1000');
show('1,000 characters at 60 ticks, share of a core', `${(thousand() * 100).toFixed(2)} %`, 'at most 5 %');
if (existsSync('build/core/core.js.gz.size'))
  show('core with mover, minified and gzipped', readFileSync('build/core/core.js.gz.size', 'utf8'), 'at most 25 kB');
