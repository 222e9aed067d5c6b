import { readFileSync } from 'node:fs';
import { Arena } from '../src/arena/index.js';
import { parseMoveset } from '../src/format/text.js';
import { type Plan, TileWorld } from '../src/index.js';
import { driveCharacter } from './drive.js';
import { Duel } from './duel-by-hand.js';
import { MINUTE, STREAMS } from './streams.js';
import type { FightKey } from './yard-fight.js';

/** Inner width of the yard in which two fight. */
const WIDE = 6;

export function loadDuel(): Plan {
  const { plan } = parseMoveset(readFileSync('bench/duel.yaml', 'utf8'));
  if (!plan) throw new Error('bench/duel.yaml has faults');
  return plan;
}

const KEYS: readonly FightKey[] = ['left', 'right', 'gaff', 'brace'];
const pit = (wide: number) =>
  new TileWorld([...Array.from({ length: 5 }, () => `#${'.'.repeat(wide)}#`), '#'.repeat(wide + 2)]);

/** The changes of one player in each tick: of two, each has a stream of its own. */
function changesOf(player: number) {
  const stream = STREAMS.real;
  return Array.from({ length: MINUTE }, (_, t) =>
    stream[(t + player * 1171) % MINUTE].filter(({ key }) => KEYS.includes(key)),
  );
}
const PLAYERS = [changesOf(0), changesOf(1)];

/** Two of a moveset between two walls, a minute of it in each call; gives their arena as well. */
export function duelByLoggia(plan: Plan): { run: () => void; arena: Arena; blows: () => number } {
  const arena = new Arena({ world: pit(WIDE) });
  const fighters = [arena.add('one', plan, { at: [2, 1] }), arena.add('two', plan, { at: [WIDE, 1], facing: -1 })];
  let blows = 0;
  const run = () => {
    for (let t = 0; t < MINUTE; t++) {
      for (let p = 0; p < 2; p++) {
        driveCharacter(fighters[p].character, PLAYERS[p][t]);
      }
      arena.tick();
      blows += arena.eventCount;
    }
  };
  return { run, arena, blows: () => blows };
}

/** The same by hand. */
export function duelByHand(): { run: () => void; duel: Duel } {
  const duel = new Duel(1.3, WIDE + 0.7);
  const fighters = [duel.one, duel.two];
  const run = () => {
    for (let t = 0; t < MINUTE; t++) {
      for (let p = 0; p < 2; p++) {
        const row = PLAYERS[p][t];
        for (let i = 0; i < row.length; i++) fighters[p].key(row[i].key as 'left', row[i].down);
      }
      duel.tick();
    }
  };
  return { run, duel };
}

/** So many of a moveset in one pit, ten ticks in each call. */
export function melee(plan: Plan, count: number): { run: () => void; arena: Arena } {
  const arena = new Arena({ world: pit(count) });
  const fighters = Array.from({ length: count }, (_, i) => arena.add(`fighter ${i}`, plan, { at: [1.5 + i, 1] }));
  let at = 0;
  const run = () => {
    for (let n = 0; n < 10; n++) {
      at = (at + 1) % MINUTE;
      for (let k = 0; k < count; k++) {
        const row = PLAYERS[0][(at + k * 37) % MINUTE];
        const { door } = fighters[k].character;
        for (let i = 0; i < row.length; i++) {
          if (row[i].down) door.press(row[i].input);
          else door.release(row[i].input);
        }
      }
      arena.tick();
    }
  };
  return { run, arena };
}
