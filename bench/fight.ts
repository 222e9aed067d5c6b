import { readFileSync } from 'node:fs';
import { parseMoveset } from '../src/format/text.js';
import { Character, flatGround, type Plan, tickAll, type World } from '../src/index.js';
import { driveCharacter } from './drive.js';
import { compare, show } from './measure.js';
import { MINUTE, STREAMS, type StreamName } from './streams.js';
import { YardFight } from './yard-fight.js';

export function loadPlan(file: string, change: (text: string) => string = (text) => text): Plan {
  const { plan, diagnostics } = parseMoveset(change(readFileSync(file, 'utf8')));
  if (!plan) throw new Error(`${file} has faults: ${diagnostics[0]?.sentence}`);
  return plan;
}

export function fightByLoggia(plan: Plan, name: StreamName, world: World = flatGround(), refusals = true): () => void {
  const character = new Character(plan, { world, refusals });
  const stream = STREAMS[name];
  return () => {
    for (let t = 0; t < MINUTE; t++) {
      driveCharacter(character, stream[t]);
      character.tick();
    }
  };
}

export function fightByHand(name: StreamName): () => void {
  const hand = new YardFight();
  const stream = STREAMS[name];
  return () => {
    for (let t = 0; t < MINUTE; t++) {
      const row = stream[t];
      for (let i = 0; i < row.length; i++) hand.key(row[i].key, row[i].down);
      hand.tick();
    }
  };
}

/** Many of a kind, each at its own place in the stream: how long their ticks take, and as a ratio to as many by hand. */
export function measureCrowd(plan: Plan, count: number, limit = '', share = ''): void {
  const stream = STREAMS.real;
  const records = new Float64Array(count * plan.arraySize());
  const world = flatGround();
  const crowd = (tickEach: (rowOf: (i: number) => (typeof stream)[number]) => void) => {
    let at = 0;
    const rowOf = (i: number) => stream[(at + i * 7) % MINUTE];
    return () => {
      for (let t = 0; t < 30; t++) {
        tickEach(rowOf);
        at = (at + 1) % MINUTE;
      }
    };
  };
  const ours = crowd((rowOf) =>
    tickAll(plan, records, count, world, {
      at: (i) => [i % 100, 0],
      refusals: false,
      before: (character, one) => driveCharacter(character, rowOf(one)),
    }),
  );
  const hands = Array.from({ length: count }, () => new YardFight());
  const theirs = crowd((rowOf) => {
    for (let k = 0; k < count; k++) {
      const row = rowOf(k);
      for (let i = 0; i < row.length; i++) hands[k].key(row[i].key, row[i].down);
      hands[k].tick();
    }
  });
  const [a, b] = compare([ours, theirs], 30 * count, 9);
  show(`  real, ${count} characters`, (a / b).toFixed(2), limit);
  show('    share of a core at 60 ticks a second', `${((a * count * 60) / 1e7).toFixed(2)} %`, share);
}
