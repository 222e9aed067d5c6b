import { expect, test } from 'vitest';
import { Arena } from '../../src/arena/index.js';
import { type Character, type Plan, TileWorld } from '../../src/index.js';
import { Recording, type SeenMember } from '../../src/recording/index.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { GULL } from '../random/gull.js';
import { makeMoveset } from '../random/moveset.js';
import { answer, create, makeScript, withoutRooms, worldOf } from '../random/play.js';
import type { Random } from '../random/random.js';

/** Everything that can be read of somebody, live or later. */
function read(c: Character | SeenMember, plan: Plan): string {
  const { readout, facts, record } = c;
  return JSON.stringify([
    [...record],
    readout.events,
    plan.names.ability.map((ability) => [c.explain(ability), readout.charge(ability), readout.cooldown(ability)]),
    plan.factNames().map((name) => String(facts.fact(name))),
    [readout.volumes, readout.answers, readout.follows()],
    plan.names.pool.map((pool) => readout.pool(pool)),
  ]);
}

/** The numbers and events of somebody, which tell in each tick whether a run goes another way. */
const glance = ({ readout, record }: Character | SeenMember) => JSON.stringify([[...record], readout.events]);

const findSlip = () => ({ x: 4, y: 1 });

/** A character in a world of ours, in a host's own world, or moved by an engine. */
function makeOne(random: Random, plan: Plan, kind: number): Character {
  const world = worldOf(random, plan);
  if (kind === 0) return create(plan, world);
  if (kind === 1) return create(plan, withoutRooms(world));
  return create(plan, undefined, { probes: answer, places: findSlip });
}

test('any tick is read as it was live, and made again from any tick it is the same run', () => {
  forRandom(MOVESETS / 12, (random, seed) => {
    const plan = makeMoveset(random);
    const c = makeOne(random, plan, seed % 3);
    const script = makeScript(random, plan, 3 * TICKS, { contacts: seed % 3 === 2 });
    const recording = new Recording(c);
    const live: string[] = [];
    const glances: string[] = [];
    for (const deeds of script.actions) {
      for (const deed of deeds) deed(c);
      c.tick();
      live.push(read(c, plan));
      glances.push(glance(c));
    }
    for (let i = 0; i < 20; i++) {
      const tick = random.whole(0, recording.last);
      expect(read(recording.at(tick).of(), plan), `tick ${tick}`).toBe(live[tick]);
    }
    for (let i = 0; i < 3; i++) {
      const from = random.whole(-1, recording.last);
      const again = recording.play({ from });
      expect(again.stopped).toBeNull();
      for (let tick = from + 1; tick <= again.last; tick++) {
        const then = again.at(tick).of();
        expect(glance(then), `tick ${tick}, made again from ${from}`).toBe(glances[tick]);
        if (tick % 8 === 0) expect(read(then, plan), `tick ${tick}, made again from ${from}`).toBe(live[tick]);
      }
    }
  });
});

/** A room in which a raft goes to and fro. */
const RAFT = new TileWorld(
  [
    '####################',
    '#..................#',
    '#..................#',
    '#@.................#',
    '####################',
  ],
  {
    blocks: [
      {
        from: [5, 1.5],
        to: [7, 2],
        path: {
          after: 'back',
          points: [
            { at: 0, to: [0, 0] },
            { at: 1, to: [4, 0.5] },
          ],
        },
      },
    ],
  },
);

test('in an arena so: with a world that moves, those who are called, who leave and who join', () => {
  forRandom(MOVESETS / 16, (random, seed) => {
    const plan = makeMoveset(random, { fights: true, view: 'side' });
    const world = seed % 2 === 0 ? RAFT : worldOf(random, plan);
    const arena = new Arena({ world: seed % 5 === 4 ? withoutRooms(world) : world, summons: { gull: GULL } });
    const join = (name: string, x: number) => arena.add(name, plan, { at: [x, 1], places: findSlip });
    join('pell', 2.5);
    join('skerry', 3);
    const scripts = [0, 1].map(() => makeScript(random, plan, 2 * TICKS));
    const leaves = random.whole(10, 60);
    const recording = new Recording(arena);
    const live: string[] = [];
    const readAll = (members: readonly (SeenMember | { name: string; character: Character })[], events: unknown) =>
      JSON.stringify([
        members.map((one) => [one.name, read('character' in one ? one.character : one, planOf(one))]),
        events,
      ]);
    const planOf = (one: SeenMember | { character: Character }) => ('character' in one ? one.character.plan : one.plan);
    for (let tick = 0; tick < 2 * TICKS; tick++) {
      if (tick === leaves && arena.find('skerry')) arena.remove('skerry');
      if (tick === leaves + 20) join('sentry', 4);
      for (const [i, name] of ['pell', 'skerry'].entries()) {
        const c = arena.find(name)?.character;
        if (c) for (const deed of scripts[i].actions[tick]) deed(c);
      }
      if (world === RAFT) RAFT.advanceTo(tick / 60);
      arena.tick();
      live.push(readAll(arena.members, arena.events));
    }
    const check = (other: Recording, tick: number) => {
      const then = other.at(tick);
      expect(readAll(then.members, then.events), `tick ${tick}`).toBe(live[tick]);
    };
    for (let i = 0; i < 20; i++) check(recording, random.whole(0, recording.last));
    const again = recording.play({ from: random.whole(0, recording.last) });
    expect(again.stopped).toBeNull();
    for (let tick = again.first + 1; tick <= again.last; tick += 3) check(again, tick);
  });
});
