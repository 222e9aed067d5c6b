import { expect, test } from 'vitest';
import { type AnyBlock, BoxWorld, Cast, Character, Hit, TileWorld, type World } from '../../src/index.js';
import { Random } from '../random/random.js';
import { must, plan, SMALL } from '../support.js';

function cast(at: readonly number[], half: readonly number[], way: readonly number[]): Cast {
  const [x, y, z] = at;
  const [hx, hy, hz] = half;
  const [dx, dy, dz] = way;
  return Object.assign(new Cast(), { x, y, z, hx, hy, hz, dx, dy, dz });
}

const spot = (random: Random, span: number) => [0, 1, 2].map(() => (random.whole(-1000, 1000) / 1000) * span);
const triple = (list: number[]) => list as unknown as readonly [number, number, number];

function randomBlock(random: Random, span: number): AnyBlock {
  const at = spot(random, span);
  const size = [0, 1, 2].map(() => 0.2 + random.whole(0, 100) / 50);
  if (random.chance(0.4)) {
    const to = triple(at.map((n, i) => n + size[i] * random.pick([-1, 1])));
    return random.chance(0.5) ? { from: triple(at), to, radius: size[0] / 2 } : { from: triple(at), to };
  }
  const raw = [0, 1, 2, 3].map(() => random.whole(-100, 100) + 0.5);
  const length = Math.hypot(...raw);
  const turn = raw.map((n) => n / length) as unknown as readonly [number, number, number, number];
  return { at: triple(at), size: triple(size), turn };
}

/** The same answers without any order of what stands where. */
function oneByOne(blocks: readonly AnyBlock[]): Pick<World, 'overlap'> & { sweep(c: Cast): number } {
  const worlds = blocks.map((block) => new BoxWorld([block]));
  return {
    overlap: (c) => worlds.some((world) => world.overlap(c)),
    sweep: (c) => {
      const hit = new Hit();
      return worlds.reduce((least, world) => (world.sweep(c, hit) ? Math.min(least, hit.part) : least), 2);
    },
  };
}

test('boxes, turned boxes and capsules stop a box exactly where it meets them, and no later', () => {
  const hit = new Hit();
  let met = 0;
  for (let seed = 1; seed <= 2000; seed++) {
    const random = new Random(seed);
    const world = new BoxWorld([randomBlock(random, 1)]);
    const half = random.chance(0.2) ? [0, 0, 0] : [0, 1, 2].map(() => random.whole(5, 60) / 100);
    const from = spot(random, 4);
    const stray = spot(random, 1.5);
    const way = from.map((n, i) => -2 * n + stray[i]);
    const at = (part: number) => from.map((n, i) => n + way[i] * part);
    const inside = (part: number) => world.overlap(cast(at(part), half, [0, 0, 0]));
    if (inside(0)) continue;
    const found = half[0] === 0 ? world.ray(cast(from, half, way), hit) : world.sweep(cast(from, half, way), hit);
    const length = Math.hypot(...way);
    const end = found ? hit.part : 1;
    for (let i = 0; i < 40; i++) must(!inside(Math.max(0, (end * i) / 40 - 1e-5)), { seed, i });
    if (!found) continue;
    met++;
    expect([seed, Math.hypot(hit.nx, hit.ny, hit.nz)]).toEqual([seed, expect.closeTo(1, 9)]);
    // Going on in the direction that leads in most, it is inside at once.
    const into = [-hit.nx, -hit.ny, -hit.nz];
    const on = at(end).map((n, i) => n + into[i] * 1e-4 + (way[i] / length) * 1e-5);
    const grazing = Math.abs(way[0] * hit.nx + way[1] * hit.ny + way[2] * hit.nz) / length < 0.05;
    if (!grazing) expect([seed, world.overlap(cast(on, half, [0, 0, 0]))]).toEqual([seed, true]);
    expect(way[0] * hit.nx + way[1] * hit.ny + way[2] * hit.nz).toBeLessThan(0);
  }
  expect(met).toBeGreaterThan(800);
});

test('the nearest spot of a block is on it, and nothing of it is nearer', () => {
  const hit = new Hit();
  let found = 0;
  for (let seed = 1; seed <= 600; seed++) {
    const random = new Random(seed);
    const world = random.chance(0.2)
      ? new TileWorld(['...', './.', '...'], { legend: { '/': { slope: [0, 1] } } })
      : new BoxWorld([randomBlock(random, 1)]);
    const at = spot(random, 3);
    const inside = (point: readonly number[], half = 1e-4) => world.overlap(cast(point, [half, half, half], [0, 0, 0]));
    if (inside(at) || !world.nearest(cast(at, [4, 4, 4], [0, 0, 0]), hit)) continue;
    found++;
    const normal = [hit.nx, hit.ny, hit.nz];
    const apart = hit.part * 4;
    const on = (by: number) => at.map((n, i) => n - normal[i] * (apart + by));
    expect([seed, Math.hypot(...normal), inside(on(0), 1e-3), inside(on(-1e-3))]).toEqual([
      seed,
      expect.closeTo(1, 9),
      true,
      false,
    ]);
    for (let i = 0; i < 60; i++) {
      const way = spot(random, 1);
      const length = Math.hypot(...way) || 1;
      const nearer = at.map((n, k) => n + (way[k] / length) * (apart * 0.999 - 2e-4));
      must(apart <= 0.01 || !inside(nearer), { seed, i });
    }
  }
  expect(found).toBeGreaterThan(400);
});

test('many blocks give the answers that they give one by one', () => {
  const hit = new Hit();
  for (let seed = 1; seed <= 60; seed++) {
    const random = new Random(seed);
    const blocks = Array.from({ length: random.whole(1, 120) }, () => randomBlock(random, 12));
    const world = new BoxWorld(blocks);
    const plain = oneByOne(blocks);
    for (let i = 0; i < 20; i++) {
      const c = cast(spot(random, 14), random.chance(0.3) ? [0, 0, 0] : [0.3, 0.9, 0.3], spot(random, 20));
      const least = plain.sweep(c);
      const found = world.sweep(c, hit);
      expect([seed, i, found ? hit.part : 2]).toEqual([seed, i, expect.closeTo(least, 12)]);
      expect([seed, i, world.overlap(cast([c.x, c.y, c.z], [0.3, 0.9, 0.3], [0, 0, 0]))]).toEqual([
        seed,
        i,
        plain.overlap(cast([c.x, c.y, c.z], [0.3, 0.9, 0.3], [0, 0, 0])),
      ]);
    }
  }
});

test('areas and what a body passes through count only where they should', () => {
  const world = new BoxWorld(
    [
      { from: [2, 0], to: [3, 2], tags: ['net'], area: true },
      { from: [4, 0], to: [5, 2], tags: ['plank'] },
      { from: [6, 0], to: [7, 2] },
    ],
    { places: { slip: [1, 2] } },
  );
  const hit = new Hit();
  const ask = (more: Partial<Cast>) => {
    const found = world.sweep(Object.assign(cast([0, 1, 0], [0.3, 0.5, 0.3], [9, 0, 0]), more), hit);
    return found ? Math.round(hit.part * 90) / 10 : null;
  };
  expect([ask({}), ask({ passes: ['plank'] }), ask({ surfaces: ['net'] }), ask({ surfaces: ['plank'] })]).toEqual([
    3.7, 5.7, 1.7, 3.7,
  ]);
  expect([world.find('slip'), world.find('mast')]).toEqual([{ x: 1, y: 2, z: 0 }, undefined]);
});

test('slopes of tiles stop rays and boxes on their ground, and are walls from behind', () => {
  const world = new TileWorld(['....', './..', '####'], { legend: { '/': { slope: [0, 1] } } });
  const hit = new Hit();
  expect(world.ray(cast([1.25, 5, 0], [0, 0, 0], [0, -9, 0]), hit)).toBe(true);
  expect([5 - 9 * hit.part, hit.nx, hit.ny]).toEqual([
    expect.closeTo(1.25, 9),
    expect.closeTo(-Math.SQRT1_2, 9),
    expect.closeTo(Math.SQRT1_2, 9),
  ]);
  expect(world.sweep(cast([3.5, 1.5, 0], [0.2, 0.4, 0.2], [-3, 0, 0]), hit)).toBe(true);
  expect([3.5 - 3 * hit.part, hit.nx]).toEqual([expect.closeTo(2.2, 9), 1]);
});

test('what is written with two coordinates is as deep as anything, and a capsule is at depth 0', () => {
  const hit = new Hit();
  const down = (x: number, z: number) => cast([x, 6, z], [0, 0, 0], [0, -12, 0]);
  const eighth: [number, number, number, number] = [0, 0, Math.sin(Math.PI / 8), Math.cos(Math.PI / 8)];
  const diamond = new BoxWorld([{ at: [0, 0], size: [2, 2], turn: eighth }]);
  for (const z of [0, 500]) {
    expect(diamond.sweep(down(0.5, z), hit)).toBe(true);
    expect([6 - 12 * hit.part, hit.nx, hit.ny, hit.nz]).toEqual(
      [Math.SQRT2 - 0.5, Math.SQRT1_2, Math.SQRT1_2, 0].map((n) => expect.closeTo(n, 4)),
    );
  }
  const ball = new BoxWorld([{ from: [0, 0], to: [0, 0], radius: 1 }]);
  expect([ball.sweep(down(0, 0), hit), ball.sweep(down(0, 1.1), hit)]).toEqual([true, false]);
});

test('a block that turns on its way is met as one that stands turned so, about either axis', () => {
  const hit = new Hit();
  const still = new Hit();
  for (let seed = 0; seed < 40; seed++) {
    const random = new Random(seed);
    const about = random.pick(['z', 'y'] as const);
    const size = [random.whole(1, 6), random.whole(1, 3), random.whole(1, 4)] as const;
    const turn = random.whole(-400, 400);
    const half = (turn * Math.PI) / 360;
    const [s, w] = [Math.sin(half), Math.cos(half)];
    const moving = new BoxWorld([
      {
        at: [1, 2, 0],
        size,
        path: {
          points: [
            { at: 0, to: [0, 0] },
            { at: 9, to: [2, 1, 1], turn },
          ],
          about,
        },
      },
    ]);
    moving.advanceTo(9);
    const turned = new BoxWorld([{ at: [3, 3, 1], size, turn: about === 'z' ? [0, 0, s, w] : [0, s, 0, w] }]);
    for (let i = 0; i < 30; i++) {
      const c = cast(spot(random, 14), random.chance(0.3) ? [0, 0, 0] : [0.3, 0.9, 0.3], spot(random, 20));
      const found = moving.sweep(c, hit);
      expect([seed, i, found, found ? hit.part : 2]).toEqual([
        seed,
        i,
        turned.sweep(c, still),
        expect.closeTo(found ? still.part : 2, 9),
      ]);
    }
    // A point of it comes back to where it is on it.
    const point = Float64Array.of(1, 2, 3);
    moving.attach(0, point);
    moving.locate(0, point);
    expect([...point]).toEqual([1, 2, 3].map((n) => expect.closeTo(n, 12)));
  }
  const path = { points: [{ at: 0, to: [0, 0], turn: 9 }] } as const;
  expect(() => new BoxWorld([{ from: [0, 0], to: [1, 1], path }])).toThrow(
    'A world: a block whose path turns it must be a box by { at, size } without a turn of its own',
  );
});

test('who stands on what turns goes round with it, exactly as far from its middle; what swings pushes', () => {
  const turntable = (about: 'z' | 'y', turn: number) =>
    new BoxWorld([
      { from: [-30, -5, -30], to: [30, -4, 30] },
      {
        at: [0, 0, 0],
        size: [6, 1, 6],
        path: {
          points: [
            { at: 0, to: [0, 0] },
            { at: 4, to: [0, 0], turn },
          ],
          about,
        },
      },
    ]);
  const run = (world: BoxWorld, at: [number, number, number], ticks: number) => {
    const c = new Character(plan(SMALL.replace('name: Pell', 'name: Pell\nview: open')), { world, at });
    for (let i = 0; i < ticks; i++) {
      world.advanceTo(i / 60);
      c.tick();
    }
    return c.readout;
  };
  const there = run(turntable('y', 360), [2, 0.5, 1], 121);
  expect([there.x, there.y, there.z, there.grounded]).toEqual([
    expect.closeTo(-2, 9),
    0.5,
    expect.closeTo(-1, 9),
    true,
  ]);
  const round = run(turntable('y', 360), [2, 0.5, 1], 260);
  expect([round.x, round.z]).toEqual([expect.closeTo(2, 9), expect.closeTo(1, 9)]);
  // So does a point of it: a quarter round, from z to x, or from x to y.
  const quarter = (about: 'z' | 'y') => {
    const world = turntable(about, 360);
    const point = Float64Array.of(2, 0.5, 1);
    world.advanceTo(0);
    world.attach(0, point);
    world.advanceTo(1);
    world.locate(0, point);
    return [...point].map((n) => Number(n.toFixed(9)));
  };
  expect([quarter('y'), quarter('z')]).toEqual([
    [1, 0.5, -2],
    [-0.5, 2, 1],
  ]);
  // Turned on edge, it lets go of who stood on it, and sweeps them along below.
  const below = run(turntable('z', 360), [0.5, 0.5, 0], 260);
  expect([below.y, below.x > 2]).toEqual([-4, true]);
});

test('a one-way box that is turned stops only what comes down on a side that looks up', () => {
  const [s, w] = [Math.sin(0.3), Math.cos(0.3)];
  const meets = (turn: readonly [number, number, number, number], from: number[], way: number[]) => {
    const world = new BoxWorld([{ at: [0, 0, 0], size: [2, 2, 2], turn, oneWay: true }]);
    return world.sweep(cast(from, [0.1, 0.1, 0.1], way), new Hit());
  };
  const ways = [
    [
      [0, 4, 0],
      [0, -4, 0],
    ],
    [
      [0, -4, 0],
      [0, 4, 0],
    ],
    [
      [4, 0, 0],
      [-4, 0, 0],
    ],
    [
      [-4, 0, 0.2],
      [4, 0, 0],
    ],
    [
      [0, 0, 4],
      [0, 0, -4],
    ],
  ];
  // About the upright axis, all its sides stand upright.
  expect(ways.map(([from, way]) => meets([0, s, 0, w], from, way))).toEqual([true, false, false, false, false]);
  // Leaning to the left, its right side looks up, too.
  expect(ways.map(([from, way]) => meets([0, 0, s, w], from, way))).toEqual([true, false, true, false, false]);
});
