import { expect, test } from 'vitest';
import { Arena, ArenaTape } from '../../src/arena/index.js';
import type { Character, Plan, World } from '../../src/index.js';
import { HOST, P_MAX, P_MIN, T } from '../../src/record/slots.js';
import { generatedWhole } from '../emit/generated.js';
import { forRandom, MOVESETS } from '../random/for-random.js';
import { GULL } from '../random/gull.js';
import { makeMoveset } from '../random/moveset.js';
import { difference, makeScript, type Script, worldOf } from '../random/play.js';
import type { Random } from '../random/random.js';

const TICKS = 90;
/** Each of them is played four times by three members. */
const DUELS = Math.ceil(MOVESETS / 5);

interface Duel {
  readonly plans: readonly Plan[];
  readonly world: World;
  readonly scripts: readonly Script[];
  readonly joins: readonly { at: readonly [number, number]; team?: string; tags: string[] }[];
  /** In this tick the third one leaves, and joins again so much later. */
  readonly leaves: number;
  readonly back: number;
}

function makeDuel(random: Random, functions: boolean): Duel {
  const view = random.pick(['side', 'side', 'open'] as const);
  const plans = Array.from({ length: random.whole(1, 2) }, () =>
    makeMoveset(random, { fights: true, view, functions }),
  );
  const one = (i: number) => plans[i % plans.length];
  return {
    plans,
    world: worldOf(random, plans[0]),
    scripts: [0, 1, 2].map((i) => makeScript(random, one(i), TICKS, { place: false })),
    joins: [0, 1, 2].map((i) => ({
      at: [2.5 + i * 0.5, 1] as const,
      team: random.pick([undefined, 'yard', 'guard']),
      tags: random.some(['floor', 'idle', 'swing']),
    })),
    leaves: random.whole(5, 40),
    back: random.whole(1, 30),
  };
}

const NAMES = ['pell', 'skerry', 'sentry'];
const places = (name: string) => (name === 'slip' ? { x: 4, y: 1 } : { x: 6, y: 1 });

function join(arena: Arena, { plans, joins }: Duel, i: number): void {
  arena.add(NAMES[i], plans[i % plans.length], { ...joins[i], places });
}

/** Plays from one tick on; what happened, tick for tick. */
function play(arena: Arena, duel: Duel, from: number, look?: (tick: number) => void): string[] {
  const told: string[] = [];
  for (let tick = from; tick < TICKS; tick++) {
    if (tick === duel.leaves && arena.find('sentry')) arena.remove('sentry');
    if (tick === duel.leaves + duel.back && !arena.find('sentry')) join(arena, duel, 2);
    NAMES.forEach((name, i) => {
      const c = arena.find(name)?.character;
      if (c) for (const deed of duel.scripts[i].actions[tick]) deed(c);
    });
    arena.tick();
    const events = arena.members.map(({ character }) => character.readout.events);
    told.push(`${arena.checksum()} ${JSON.stringify([arena.events, events])}`);
    look?.(tick);
  }
  return told;
}

/** Played again from a tape that went through JSON, in another arena: the checksum of each tick. */
function replay(duel: Duel, tape: ArenaTape): number[] {
  const arena = new Arena({ world: duel.world, summons: { gull: GULL } });
  const saved = ArenaTape.from(JSON.parse(JSON.stringify(tape)));
  saved.rewindTo(arena, [...duel.plans, GULL]);
  const again: number[] = [];
  while (arena.tickCount < saved.end) {
    saved.feed(arena);
    arena.tick();
    again.push(arena.checksum());
  }
  return again;
}

const sums = (told: readonly string[]) => told.map((line) => Number(line.split(' ')[0]));

test(
  'random duels: pools keep their limits, clocks go right; modules, restoring anywhere and replaying change nothing',
  () => {
    let blows = 0;
    forRandom(DUELS, (random, seed) => {
      // Functions cannot be written as a module.
      const functions = seed % 2 === 1;
      const duel = makeDuel(random, functions);
      const arena = new Arena({ world: duel.world, summons: { gull: GULL } });
      for (let i = 0; i < 3; i++) join(arena, duel, i);
      const tape = new ArenaTape();
      arena.tape = tape;
      const at = random.whole(0, TICKS - 2);
      let snapshot = arena.snapshot();
      let held: [Character, Float64Array][] = [];
      const told = play(arena, duel, 0, (tick) => {
        if (tick === at) {
          snapshot = arena.snapshot();
          held = arena.members.map(({ c }) => [c, c.r.slice(c.plan.devicesAt, c.plan.outAt)]);
        }
        blows += arena.events.length;
        for (const { character } of arena.members) {
          const { plan, r } = character;
          expect(r.subarray(0, plan.recordSize).some(Number.isNaN)).toBe(false);
          expect(r[T]).toBeLessThanOrEqual(r[HOST]);
          for (const pool of plan.pools) {
            const value = character.readout.pool(pool.name);
            expect(value >= r[pool.at + P_MIN] - 1e-9 && value <= r[pool.at + P_MAX] + 1e-9).toBe(true);
          }
        }
      });

      if (!functions) {
        const modules = { ...duel, plans: duel.plans.map(generatedWhole) };
        const other = new Arena({ world: duel.world, summons: { gull: generatedWhole(GULL) } });
        for (let i = 0; i < 3; i++) join(other, modules, i);
        expect(difference(told, play(other, modules, 0))).toBeUndefined();
        // A tape of the interpreter, and a snapshot of it.
        if (!modules.plans.some((plan) => plan.names.place.length > 0))
          expect(replay(modules, tape)).toEqual(sums(told));
        other.restore(snapshot);
        expect(other.checksum()).toBe(sums(told)[at]);
      }

      // Where places come from the host, the tape does not know them.
      if (!duel.plans.some((plan) => plan.names.place.length > 0)) expect(replay(duel, tape)).toEqual(sums(told));

      // Taken back to any tick, with the devices as they were then.
      arena.tape = null;
      for (const [c, devices] of held) c.r.set(devices, c.plan.devicesAt);
      arena.restore(snapshot);
      const after = play(arena, duel, at + 1);
      expect(difference(after, told.slice(at + 1))).toBeUndefined();
    });
    expect(blows).toBeGreaterThan(DUELS);
  },
  300_000 + DUELS * 500,
);
