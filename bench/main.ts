import { readFileSync } from 'node:fs';
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
const WARM = LOOP * 400;
const changes = writeChanges();
const nothing = changes.map(() => []);
const toAndFro = changes.map((row) => row.filter(({ key }) => key === 'left' || key === 'right'));

function loadPlan(): Plan {
  const { plan } = parseMoveset(readFileSync('demo/boatyard/pell-basics.yaml', 'utf8'));
  if (!plan) throw new Error('the demo moveset has faults');
  return plan;
}

const plan = loadPlan();
const character = new Character(plan, { world: flatGround() });

/** A player who goes round a loop of keys with one of the two controllers. */
class Player {
  private at = 0;
  private readonly hand = new ByHand();

  constructor(
    private readonly keys: ReturnType<typeof writeChanges>,
    readonly character = new Character(plan, { world: flatGround() }),
  ) {}

  runCharacter(ticks: number): void {
    const { keys, character } = this;
    for (let i = 0; i < ticks; i++) {
      this.at = this.at + 1 === LOOP ? 0 : this.at + 1;
      driveCharacter(character, keys[this.at]);
      character.tick();
    }
  }

  runByHand(ticks: number): void {
    const { keys, hand } = this;
    for (let i = 0; i < ticks; i++) {
      this.at = this.at + 1 === LOOP ? 0 : this.at + 1;
      driveByHand(hand, keys[this.at]);
      hand.tick();
    }
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

function compare(keys: ReturnType<typeof writeChanges>): { ours: number; theirs: number } {
  const [one, other] = [new Player(keys), new Player(keys)];
  const ours: number[] = [];
  const theirs: number[] = [];
  one.runCharacter(WARM);
  other.runByHand(WARM);
  for (let i = 0; i < ROUNDS; i++) {
    ours.push(time(() => one.runCharacter(TICKS), TICKS));
    theirs.push(time(() => other.runByHand(TICKS), TICKS));
  }
  return { ours: median(ours), theirs: median(theirs) };
}

/** Bytes that the heap grew by over so many warm ticks, less what looking at the heap itself takes. */
function allocated(ticks: number): number {
  const player = new Player(changes, character);
  // What is seldom done is compiled late, and until then boxes its numbers.
  player.runCharacter(WARM * 20);
  const grown = (count: number) => {
    (globalThis as { gc?: () => void }).gc?.();
    const before = process.memoryUsage().heapUsed;
    player.runCharacter(count);
    return process.memoryUsage().heapUsed - before;
  };
  grown(0);
  const looking = Math.min(...Array.from({ length: 5 }, () => grown(0)));
  return Math.max(0, Math.min(...Array.from({ length: 5 }, () => grown(ticks))) - looking);
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
  let at = 0;
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

for (const [label, keys, limit] of [
  ['brisk play', changes, 'at most 2.0'],
  ['walking to and fro', toAndFro, ''],
  ['standing', nothing, ''],
] as const) {
  const { ours, theirs } = compare(keys as ReturnType<typeof writeChanges>);
  show(`a tick to one by hand, ${label}`, (ours / theirs).toFixed(2), limit);
  show('  nanoseconds: Loggia, by hand', `${ours.toFixed(0)}, ${theirs.toFixed(0)}`, '');
}
show('bytes allocated over 100,000 warm ticks', String(allocated(100_000)), '0');
show('snapshot and restore, nanoseconds', snapshots().toFixed(0), 'under 1000');
show('1,000 characters at 60 ticks, share of a core', `${(thousand() * 100).toFixed(2)} %`, 'at most 5 %');
const { core, whole } = JSON.parse(readFileSync('build/sizes.json', 'utf8'));
show('core with mover, minified and gzipped', `${(core / 1000).toFixed(1)} kB`, 'at most 25 kB');
show('the same with all that checks movesets', `${(whole / 1000).toFixed(1)} kB`, '');
