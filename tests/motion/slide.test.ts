import fc from 'fast-check';
import { describe, expect, test, vi } from 'vitest';
import { BoxWorld, type Character, type Tile, TileWorld, type World } from '../../src/index.js';
import { asBoxes, makeCharacter, must, tick } from '../support.js';

const ROOM = ['##########', '#........#', '#...##...#', '#........#', '#.@......#', '##########'];

function put(world: World, at: readonly [number, number], more = ''): Character {
  return makeCharacter(`body: { gravity: 25, fall: 10000, shapes: { tall: [0.6, 1.8], low: [0.6, 0.9] } }\n${more}`, {
    world,
    at,
  });
}

test('no speed that a moveset can declare carries a body through a wall', () => {
  const world = new TileWorld(ROOM);
  fc.assert(
    fc.property(
      fc.double({ min: -10_000, max: 10_000, noNaN: true }),
      fc.double({ min: -10_000, max: 10_000, noNaN: true }),
      fc.integer({ min: 1, max: 4 }),
      (vx, vy, times) => {
        const c = put(world, [2.5, 1]);
        for (let i = 0; i < times; i++) {
          c.door.velocity(vx, vy);
          c.tick();
          const { x, y } = c.readout;
          must(x >= 1.3 - 1e-5 && x <= 8.7 + 1e-5 && y >= 1 - 1e-5 && y <= 3.2 + 1e-5, { x, y });
        }
      },
    ),
    { seed: 11, numRuns: 300 },
  );
});

test('it slides along floors, walls and ceilings without catching on seams', () => {
  const c = put(new TileWorld(ROOM), [2.5, 1]);
  c.door.press('move.right');
  tick(c, 120);
  expect(c.readout.x).toBeCloseTo(8.7, 4);
  expect(c.facts.fact('atWall')).toBe(1);
  c.door.velocity(5, 12);
  tick(c, 4);
  expect(c.readout.vx).toBe(0);
  expect(c.readout.vy).toBeGreaterThan(9);
});

test('feet stand exactly on the height they came down on', () => {
  const floor = new BoxWorld([{ from: [-9, -1], to: [9, 0.3] }]);
  const boxes = Array.from({ length: 40 }, (_, i) => put(floor, [0, 0.4 + i * 0.37]));
  const tiles = Array.from({ length: 40 }, (_, i) => put(new TileWorld(ROOM, { size: 1.1 }), [2.7, 1.2 + i * 0.03]));
  for (const c of [...boxes, ...tiles]) tick(c, 120);
  expect(boxes.map((c) => c.readout.y)).toEqual(boxes.map(() => 0.3));
  expect(tiles.map((c) => c.readout.y)).toEqual(tiles.map(() => 1.1));
});

test('a body whose side lies on a seam of its floor walks over it', () => {
  const floor = [0, 5].map((x) => ({ from: [x, 0] as const, to: [x + 5, 1] as const }));
  const c = put(new BoxWorld(floor), [5.299999999999996, 1]);
  c.door.press('move.left');
  tick(c, 30);
  expect(c.readout.x).toBeLessThan(3);
});

test('a one-way platform carries what comes from above and lets pass what comes from below', () => {
  const c = put(new TileWorld(['.....', '.....', '.---.', '.....', '.....', '#####']), [2.5, 1]);
  c.door.velocity(0, 14);
  tick(c, 10);
  expect(c.readout.y).toBeGreaterThan(2.5);
  tick(c, 60);
  expect([c.readout.y, c.readout.grounded]).toEqual([4, true]);
});

test('rooms change nothing but the speed: every number is as if the world were asked each time', () => {
  const rows = ['##########', '#........#', '#....--..#', '#.#......#', '#....##..#', '#.-....#.#', '#..#.....#'];
  const floors = ['##########', '##..######', '####--####'];
  // Boxes have no slopes.
  const sloped = ['##########', '#........#', '#....--..#', '#.#..34..#', '#.3.5##2.#', '#./....#.#', '#2.#..4../'];
  const legend: Record<string, Tile> = {
    '/': { slope: [0, 1] },
    2: { slope: [1, 0] },
    3: { slope: [0, 0.5] },
    4: { slope: [1, 0.5] },
    5: { slope: [0, 1], oneWay: true },
  };
  const keys = ['move.left', 'move.right', 'jump', 'gaff', 'gale'];
  const moves = `abilities:
  hop: { start: { press: jump }, phases: [{ for: 1f, move: { up: 11 } }] }
  float: { start: { hold: gaff }, gravity: 0 }
  shrink: { lane: legs, start: { hold: gale }, body: low }
lanes: [body, legs]`;
  const script = fc.array(fc.tuple(fc.nat(keys.length - 1), fc.nat(25)), { minLength: 10, maxLength: 40 });
  let glided = 0;
  fc.assert(
    fc.property(script, fc.constantFrom(...floors), fc.boolean(), (presses, floor, boxes) => {
      const world = new TileWorld([...(boxes ? rows : sloped), floor], { legend });
      const tiles = boxes ? asBoxes(world) : world;
      const unknown: World = {
        still: true,
        ray: (cast, hit) => tiles.ray(cast, hit),
        overlap: (cast) => tiles.overlap(cast),
        sweep: (cast, hit) => tiles.sweep(cast, hit),
      };
      const asks = vi.spyOn(tiles, 'sweep');
      const known = put(tiles, [4.5, 5], moves);
      const other = put(unknown, [4.5, 5], moves);
      const down = new Set<string>();
      for (const [key, ticks] of presses) {
        const input = keys[key];
        const call = down.delete(input) ? 'release' : 'press';
        if (call === 'press') down.add(input);
        known.door[call](input);
        other.door[call](input);
        for (let i = 0; i <= ticks; i++) {
          asks.mockClear();
          known.tick();
          if (asks.mock.calls.length === 0) glided++;
          other.tick();
          must(known.checksum() === other.checksum(), { presses });
        }
      }
    }),
    { seed: 3, numRuns: 100 },
  );
  expect(glided).toBeGreaterThan(8_000);
});

test('in a known room, too, a body steps onto a wall as high as its head', () => {
  const world = new TileWorld(['........', '........', '........', '....####', '....####', '########']);
  const c = makeCharacter('body: { gravity: 25, step: 2, shapes: { tall: [0.6, 1.8] } }', { world, at: [1.5, 1] });
  c.door.press('move.right');
  tick(c, 60);
  expect([c.readout.y, c.readout.x > 4]).toEqual([3, true]);
});

test('a body at rest falls when a world that may change takes its floor away', () => {
  let floor = true;
  const trapdoor: World = {
    ray: () => false,
    overlap: () => false,
    sweep: (cast, hit) => {
      if (!floor || cast.dy >= 0) return false;
      Object.assign(hit, { part: 0, nx: 0, ny: 1, nz: 0, tags: [] });
      return true;
    },
  };
  const c = put(trapdoor, [0, 0]);
  tick(c, 30);
  expect([c.readout.y, c.readout.grounded]).toEqual([0, true]);
  floor = false;
  tick(c, 5);
  expect(c.readout.grounded).toBe(false);
  expect(c.readout.y).toBeLessThan(0);
});

test('it stands in three dimensions, and the open view steers by the camera', () => {
  const world = new BoxWorld([
    { from: [-9, -1, -9], to: [9, 0, 9] },
    { from: [-1, 0, -4], to: [1, 3, -3] },
  ]);
  const c = makeCharacter('view: open', { world, at: [0, 0, 0] });
  c.door.press('move.up');
  tick(c, 120);
  expect(c.readout.z).toBeCloseTo(-2.7, 4);
  c.door.camera(2, 0);
  tick(c, 30);
  expect([c.readout.vx, c.readout.vz]).toEqual([5, 0]);
  expect([c.readout.facing, c.readout.facingZ]).toEqual([1, 0]);
});

describe('probes', () => {
  test('ask the world along facing, and heed tags', () => {
    const world = new TileWorld(['........', '.....~#.', '########'], { legend: { '~': { tags: ['rough'] } } });
    const c = makeCharacter(
      'surfaces: [smooth]\nprobes: { wall: { ray: [4, 0], at: [0, 0.5] }, smooth: { ray: [4, 0], at: [0, 0.5], on: [smooth] } }',
      { world, at: [2, 1] },
    );
    tick(c);
    expect(c.facts.hit('wall')).toBe(true);
    expect(c.facts.distance('wall')).toBeCloseTo(3);
    expect(c.facts.fact('wall.normal.x')).toBe(-1);
    expect(c.facts.hit('smooth')).toBe(false);
    c.door.press('move.left');
    tick(c);
    expect(c.facts.hit('wall')).toBe(false);
  });
});
