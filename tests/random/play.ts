import {
  type AnswerProbe,
  BoxWorld,
  Character,
  type CharacterOptions,
  type Contacts,
  flatGround,
  type Plan,
  TileWorld,
  UsageError,
  type World,
} from '../../src/index.js';
import { SlotNames } from '../../src/text/slot-names.js';
import type { Random } from './random.js';

/** What is done to the door before one tick. */
export type Deed = (c: Character) => void;

/** What the devices hold after so many ticks of a script: keys in the order of their presses, and sticks. */
export interface Held {
  readonly keys: readonly string[];
  readonly sticks: ReadonlyMap<string, readonly [number, number]>;
}

export interface Script {
  readonly actions: readonly (readonly Deed[])[];
  readonly held: readonly Held[];
}

const TILES = new TileWorld(
  [
    '################################',
    '#..............................#',
    '#.......####...................#',
    '#......~...........--..........#',
    '#......~....##......./.......2.#',
    '#.@.3..~..####2........#/..../##',
    '################################',
  ],
  {
    legend: { '~': { tags: ['rough', 'loud'] }, '/': { slope: [0, 1] }, 2: { slope: [1, 0] }, 3: { slope: [0.5, 0] } },
    places: { slip: '@', mast: [20, 1] },
  },
);
const BOXES = new BoxWorld([
  { from: [-40, -2, -40], to: [40, 1, 40] },
  { from: [3, 1, -4], to: [5, 4, 4], tags: ['floor'] },
  { from: [-4, 3.1, -4], to: [2, 4, 4] },
  { from: [-6, 2.5, -6], to: [-4, 3, 6], oneWay: true },
]);
const GROUND = flatGround(1);

export const worldOf = (random: Random, plan: Plan): World =>
  random.pick(plan.view === 'open' ? [BOXES, GROUND] : [TILES, TILES, BOXES, GROUND]);

/** The same world without what makes asking it quick. */
export function withoutRooms(world: World): World {
  return {
    still: world.still,
    ray: (cast, hit) => world.ray(cast, hit),
    sweep: (cast, hit) => world.sweep(cast, hit),
    overlap: (cast) => world.overlap(cast),
    bounds: world.bounds,
    nearest: (cast, hit) => world.nearest?.(cast, hit) === true,
    find: (place) => world.find?.(place),
  };
}

/** Deeds of all kinds that a door takes, by tick. */
export function makeScript(random: Random, plan: Plan, ticks: number, { place = true, contacts = false } = {}): Script {
  const { button, event, ability, loadout, pool, stick, aim, mark, choice } = plan.names;
  const keys: string[] = [];
  const sticks = new Map<string, readonly [number, number]>();
  const held: Held[] = [{ keys: [], sticks: new Map() }];
  const one = (): Deed => {
    const kind = random.whole(0, 29);
    const toggle = (input: string): Deed => {
      const at = keys.indexOf(input);
      if (at < 0) {
        keys.push(input);
        return (c) => c.door.press(input);
      }
      keys.splice(at, 1);
      return (c) => c.door.release(input);
    };
    if (kind === 0 && stick.length > 0) {
      const name = random.pick(stick);
      const to = [random.pick([-1, 0, 0.6, 1]), random.pick([-1, 0, 0.4, 1])] as const;
      sticks.set(name, to);
      return (c) => c.door.stick(name, to[0], to[1]);
    }
    if (kind < 4) {
      const name = random.pick(event);
      if (plan.messages[plan.names.event.indexOf(name)].size === 0) return (c) => c.door.event(name);
      const of = {
        number: random.whole(-3, 9),
        time: random.whole(0, 9) / 10,
        point: [random.whole(-2, 9), 1] as const,
        direction: [1, 2] as const,
      };
      const values = Object.fromEntries(
        plan.messages[plan.names.event.indexOf(name)].values.flatMap(
          ({ name: value, type, words }): [string, number | string | readonly [number, number]][] => {
            if (type !== 'word') return random.chance(0.8) ? [[value, of[type]]] : [];
            return words.length > 0 ? [[value, random.pick(words)]] : [];
          },
        ),
      );
      return (c) => c.door.event(name, values);
    }
    const name = random.pick(ability);
    if (kind === 4) return (c) => c.door.request(name);
    if (kind === 5) return (c) => c.door.learn(name);
    if (kind === 6) return (c) => c.door.forget(name);
    if (kind === 7) return (c) => c.door.end(name);
    if (kind === 8) return (c) => c.door.reset(name);
    if (kind === 9) {
      const length = random.whole(1, 6);
      return (c) => c.door.freeze(length);
    }
    if (kind === 10 && loadout.length > 0) {
      const worn = random.pick(loadout);
      return (c) => c.door.loadout(worn);
    }
    if (kind === 11 && pool.length > 0) {
      const which = random.pick(pool);
      const value = random.whole(-2, 20);
      return (c) => c.door.pool(which, value);
    }
    if (kind === 12) {
      const [x, y] = [random.whole(-9, 9), random.whole(-9, 12)];
      return (c) => c.door.velocity(x, y);
    }
    if (kind === 13) {
      const [x, z] = [random.pick([-1, 0, 2]), random.pick([1, -3])];
      return (c) => c.door.camera(x, z);
    }
    if (kind === 15 && aim.length > 0) {
      const name = random.pick(aim);
      const [x, y] = [random.pick([0, 1, -1, 4]), random.pick([0, 0, 2, -1])];
      return random.chance(0.5) ? (c) => c.door.aim(name, x, y) : (c) => c.door.aimAt(name, x, y);
    }
    if (kind === 16 && mark.length > 0) {
      const name = random.pick(mark);
      const x = random.whole(1, 20);
      return random.chance(0.7) ? (c) => c.door.mark(name, x, 1.5) : (c) => c.door.unmark(name);
    }
    if (kind === 17 && choice.length > 0) {
      const option = random.pick(['slip', 'mast']);
      return (c) => c.door.choose(choice[0], option);
    }
    if (kind === 14 && place) {
      const [x, y] = [random.pick([2.5, 6, 13]), random.pick([1, 1, 3.3])];
      return (c) => c.door.place(x, y);
    }
    return toggle(random.pick(button));
  };
  const actions = Array.from({ length: ticks }, () => {
    const count = random.chance(0.35) ? random.whole(1, 4) : 0;
    const list = [...(contacts ? [makeContacts(random)] : []), ...Array.from({ length: count }, one)];
    held.push({ keys: [...keys], sticks: new Map(sticks) });
    return list;
  });
  return { actions, held };
}

/** What an engine might tell, likely or not. */
function makeContacts(random: Random): Deed {
  const number = () => random.whole(-8, 8) / 2;
  const told: Contacts = {
    x: number(),
    y: number(),
    z: random.chance(0.3) ? number() : undefined,
    vx: number(),
    vy: number(),
    grounded: random.chance(0.5),
    wallX: random.pick([undefined, 0, 1, -1]),
    ceiling: random.chance(0.2),
    headroom: random.pick([undefined, true, false]),
    groundNormal: random.chance(0.2) ? [0.6, 0.8, 0] : undefined,
    groundVelocity: random.chance(0.2) ? [1, 0, number()] : undefined,
  };
  return (c) => c.door.contacts(told);
}

/** Answers probes as an engine would: the same to the same question. */
export const answer: AnswerProbe = (cast, hit) => {
  if (Math.floor(cast.x * 3 + cast.y) % 3 === 0) return false;
  Object.assign(hit, { part: cast.dx > 0 ? 0.25 : 0.75, nx: cast.dx > 0 ? -1 : 0, ny: cast.dx > 0 ? 0 : 1, nz: 0 });
  return true;
};

/** One of the two places; the other is known to the tile world only. */
const findSlip = (name: string) => (name === 'slip' ? { x: 4, y: 1 } : undefined);

export const create = (plan: Plan, world: World | undefined, more: CharacterOptions = {}) =>
  new Character(plan, { world, at: [2.5, 1], places: findSlip, ...more });

/** Plays a script from one tick to another; what happened, tick for tick. */
export function play(c: Character, script: Script, from = 0, to = script.actions.length, after?: Deed): string[] {
  const told: string[] = [];
  for (let i = from; i < to; i++) {
    for (const action of script.actions[i]) action(c);
    c.tick();
    told.push(tell(c));
    after?.(c);
  }
  return told;
}

/**
 * What differs first between two characters that a script is played with, by name; undefined if nothing does. What the script asks
 * of names that they do not have is left out.
 */
export function wordDifference(one: Character, other: Character, script: Script): string | undefined {
  for (let i = 0; i < script.actions.length; i++) {
    for (const c of [one, other]) {
      for (const action of script.actions[i]) {
        try {
          action(c);
        } catch (error) {
          if (!(error instanceof UsageError)) throw error;
        }
      }
      c.tick();
    }
    if (tell(one) === tell(other)) continue;
    return [`tick ${i}`, ...differingPlaces(one, other), tell(one), tell(other)].join('\n  ');
  }
  return undefined;
}

/** Where two runs differ first, or undefined. */
export function difference(one: readonly string[], other: readonly string[]): string | undefined {
  const at = one.findIndex((line, i) => line !== other[i]);
  return at < 0 ? undefined : `tick ${at}: ${one[at]}\n  against ${other[at]}`;
}

/** Places of the record in which two characters differ. */
export function differingPlaces(one: Character, other: Character): string[] {
  const slots = new SlotNames(one.plan);
  const [a, b] = [one.record, other.record];
  return [...a.keys()].filter((i) => a[i] !== b[i]).map((i) => `${slots.of(i)}: ${a[i]} against ${b[i]}`);
}

/** Every number of the record, and every event with all it says. */
export function tell(c: Character): string {
  return `${c.checksum()} ${c.readout.eventCount > 0 ? JSON.stringify(c.readout.events) : ''}`;
}

/** Has the devices hold what they held after so many ticks of a script. */
export function holdAsAt(c: Character, held: Held): void {
  c.door.releaseAll();
  for (const [name, [x, y]] of held.sticks) c.door.stick(name, x, y);
  for (const key of held.keys) c.door.press(key);
}
