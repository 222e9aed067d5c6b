import type { FightKey } from './yard-fight.js';

export interface FightChange {
  readonly key: FightKey;
  readonly input: string;
  readonly down: boolean;
}

/** Ticks of one loop: a minute of play. */
export const MINUTE = 3600;

const INPUTS: Record<FightKey, string> = {
  left: 'move.left',
  right: 'move.right',
  jump: 'jump',
  gale: 'gale',
  sprint: 'sprint',
  gaff: 'gaff',
  brace: 'brace',
  flare: 'flare',
};
const KEYS = Object.keys(INPUTS) as FightKey[];

/** How long a key is held and how long it is up, in ticks, from and to. */
interface Habit {
  readonly held: readonly [number, number];
  readonly up: readonly [number, number];
}

/** Holds of 0.1 to 1.4 seconds, as people play. */
const REAL: Habit = { held: [6, 84], up: [20, 160] };
/** A combo wants short presses, in time. */
const COMBO: Habit = { held: [4, 12], up: [6, 60] };
const CALM: Habit = { held: [20, 120], up: [200, 700] };
const MASHING: Habit = { held: [2, 5], up: [2, 8] };

/** For each tick of a loop, the keys that go down or up; the same for the same seed. */
function writeStream(habit: Habit, seed: number, keys: readonly FightKey[]): FightChange[][] {
  let state = seed;
  const random = () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 4294967296;
  };
  const between = ([from, to]: readonly [number, number]) => from + Math.floor(random() * (to - from + 1));
  const stream = Array.from({ length: MINUTE }, (): FightChange[] => []);
  for (const key of keys) {
    const { held, up } = key === 'gaff' && habit === REAL ? COMBO : habit;
    let at = between(up);
    for (;;) {
      const end = at + between(held);
      // All are up as the loop begins again.
      if (end >= MINUTE - 1) break;
      stream[at].push({ key, input: INPUTS[key], down: true });
      stream[end].push({ key, input: INPUTS[key], down: false });
      at = end + between(up);
    }
  }
  return stream;
}

export const STREAMS = {
  real: writeStream(REAL, 1, KEYS),
  calm: writeStream(CALM, 2, KEYS),
  mashing: writeStream(MASHING, 3, KEYS),
  walking: writeStream({ held: [30, 90], up: [30, 90] }, 4, ['left', 'right']),
  standing: writeStream(REAL, 5, []),
};
export type StreamName = keyof typeof STREAMS;
