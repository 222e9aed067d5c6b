import { readFileSync } from 'node:fs';
import { parseMoveset } from '../src/format/text.js';
import { type AnyBlock, BoxWorld, Cast, type Character, Hit, type Plan, TileWorld, type World } from '../src/index.js';
import {
  CLIMB,
  DOWN,
  GALE,
  HOME,
  HOOK_KEY,
  JUMP,
  LEFT,
  MastRowByHand,
  RIGHT,
  SPRINT,
  SWING_KEY,
  TIDE_KEY,
  UP,
} from './mast-row-by-hand.js';

export function loadDemo(file: string): Plan {
  const read = (path: string) => ({ text: readFileSync(`demo/boatyard/${path}`, 'utf8') });
  const { plan, diagnostics } = parseMoveset(read(file).text, file, { read });
  if (!plan) throw new Error(`${file} has faults: ${diagnostics[0]?.sentence}`);
  return plan;
}

/** A piece of Mast Row with all that Pell's moves there need: ledges, a mast, a ladder, planks, posts. */
export const ROW = new TileWorld(
  [
    '#                              #',
    '#                              #',
    '#             ####             #',
    '#      R                       #',
    '#      R            H###       #',
    '#      R   ---      H###       #',
    '#      R            H###       #',
    '#      R            H###   #####',
    '#   ####            H###   #####',
    '# @ ####   P  ----  H###       #',
    '################################',
  ],
  {
    legend: {
      R: { tags: ['rough'] },
      H: { solid: false, tags: ['rungs'] },
      P: { solid: false, tags: ['post'] },
    },
    places: { slip: '@', mastTop: [22, 7] },
    edges: { sides: 'wall' },
  },
);

export const HULLS = new BoxWorld([
  { from: [-40, -1, -40], to: [40, 0, 40] },
  { from: [-4, 0, -8], to: [4, 5, -3] },
  { from: [8, 0, -3], to: [8, 9, -3], radius: 2 },
  { at: [-8, 3, 2], size: [4, 6, 3], turn: [0, Math.sin(0.3), 0, Math.cos(0.3)] },
]);

/** Keys that go down and up in rhythms of their own, so that every move comes up. */
const RHYTHMS: readonly (readonly [input: string, period: number, from: number, length: number])[] = [
  ['move.right', 400, 0, 220],
  ['move.left', 400, 230, 150],
  ['move.up', 170, 120, 20],
  ['move.down', 190, 60, 12],
  ['jump', 70, 20, 16],
  ['gale', 160, 33, 4],
  ['sprint', 210, 40, 60],
  ['climb', 230, 60, 50],
  ['grab', 130, 30, 80],
  ['hook', 310, 200, 30],
  ['swing', 470, 300, 40],
  ['tide', 330, 90, 3],
  ['home', 900, 700, 3],
];
export const LENGTH = 3600;

/** Plays a minute of all moves again and again; `started` is told each ability that starts, if given. */
export function playAll(character: Character, started?: (ability: string) => void): () => void {
  const { plan } = character;
  const inputs = new Set(plan.names.button);
  const keys = RHYTHMS.filter(([input]) => inputs.has(input));
  const aim = plan.names.aim[0];
  return () => {
    for (let t = 0; t < LENGTH; t++) {
      for (let i = 0; i < keys.length; i++) {
        const [input, period, from, length] = keys[i];
        if (t % period === from) character.door.press(input);
        else if (t % period === from + length) character.door.release(input);
      }
      if (t % 300 === 0) character.door.aim(aim, t % 600 === 0 ? 1 : -1, 1, 0);
      character.tick();
      if (started && character.readout.eventCount > 0)
        for (const event of character.readout.events) if (event.kind === 'started') started(event.ability);
    }
    character.door.releaseAll();
  };
}

const KEYS: Readonly<Record<string, number>> = {
  'move.left': LEFT,
  'move.right': RIGHT,
  'move.up': UP,
  'move.down': DOWN,
  jump: JUMP,
  gale: GALE,
  sprint: SPRINT,
  climb: CLIMB,
  hook: HOOK_KEY,
  swing: SWING_KEY,
  tide: TIDE_KEY,
  home: HOME,
};

/** The same minute for the controller by hand. */
export function playByHand(hand = new MastRowByHand(ROW)): () => void {
  const keys = RHYTHMS.flatMap(([input, period, from, length]) =>
    input in KEYS ? [{ key: KEYS[input], period, from, length }] : [],
  );
  return () => {
    for (let t = 0; t < LENGTH; t++) {
      for (let i = 0; i < keys.length; i++) {
        const { key, period, from, length } = keys[i];
        if (t % period === from) hand.key(key, true);
        else if (t % period === from + length) hand.key(key, false);
      }
      if (t % 300 === 0) hand.aim(t % 600 === 0 ? 1 : -1, 1);
      hand.tick();
    }
    for (const { key } of keys) hand.key(key, false);
  };
}

/** So many boxes on a grid with gaps; every question has some nearby, and most far away. */
export function manyBoxes(count: number): BoxWorld {
  const side = Math.ceil(Math.sqrt(count));
  const blocks: AnyBlock[] = Array.from({ length: count }, (_, i) => {
    const [x, z] = [(i % side) * 3, Math.floor(i / side) * 3];
    return { from: [x, (i * 7) % 5, z], to: [x + 1, ((i * 7) % 5) + 1, z + 1] };
  });
  return new BoxWorld(blocks);
}

/** Asks so many questions, all over the middle of a world. */
export function ask(world: World, kind: 'ray' | 'sweep', count: number, middle: number): () => void {
  const cast = new Cast();
  const hit = new Hit();
  const half = kind === 'ray' ? 0 : 0.3;
  return () => {
    let met = 0;
    for (let i = 0; i < count; i++) {
      cast.x = middle + ((i * 13) % 40) / 10;
      cast.y = ((i * 7) % 50) / 10;
      cast.z = middle + ((i * 17) % 40) / 10;
      cast.hx = cast.hy = cast.hz = half;
      cast.dx = ((i * 31) % 11) - 5;
      cast.dy = ((i * 5) % 3) - 1;
      cast.dz = ((i * 23) % 11) - 5;
      if (kind === 'ray' ? world.ray(cast, hit) : world.sweep(cast, hit)) met++;
    }
    if (met > count) throw new Error('more answers than questions');
  };
}
