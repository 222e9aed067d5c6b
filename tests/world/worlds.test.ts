import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { BoxWorld, Cast, flatGround, Hit, Room, TileWorld, type World } from '../../src/index.js';
import { asBoxes } from '../support.js';

const ROWS = ['#########', '#...#...#', '#.....--#', '#..#....#', '#.~..#..#', '#########'];

function cast(values: Partial<Record<keyof Cast, number>>): Cast {
  return Object.assign(new Cast(), { x: 0, y: 0, z: 0, hx: 0, hy: 0, hz: 0, dx: 0, dy: 0, dz: 0 }, values);
}

/** Goes the way in small steps and stops where it first overlaps: slow, and plainly right. */
function march(world: World, c: Cast, steps: number): number {
  for (let i = 1; i <= steps; i++) {
    const part = i / steps;
    const there = cast({ x: c.x + c.dx * part, y: c.y + c.dy * part, hx: c.hx, hy: c.hy, hz: 1 });
    if (world.overlap(there)) return (i - 1) / steps;
  }
  return 1;
}

const tiles = new TileWorld(ROWS, { legend: { '~': { tags: ['rough'] } } });

describe('sweeps', () => {
  const query = fc.record({
    x: fc.double({ min: 1.4, max: 7.6, noNaN: true }),
    y: fc.double({ min: 1.4, max: 4.6, noNaN: true }),
    hx: fc.double({ min: 0.05, max: 0.35, noNaN: true }),
    hy: fc.double({ min: 0.05, max: 0.35, noNaN: true }),
    dx: fc.double({ min: -9, max: 9, noNaN: true }),
    dy: fc.double({ min: -9, max: 9, noNaN: true }),
  });

  test('of tiles and of boxes agree with each other, and with small steps', () => {
    const boxes = asBoxes(tiles);
    const steps = 4000;
    fc.assert(
      fc.property(query, (values) => {
        const c = cast({ ...values, hz: 1 });
        fc.pre(!tiles.overlap(c));
        const [a, b] = [new Hit(), new Hit()];
        const [byTiles, byBoxes] = [tiles.sweep(c, a), boxes.sweep(c, b)];
        expect(byTiles).toBe(byBoxes);
        if (byTiles) expect(a).toMatchObject({ part: b.part, nx: b.nx, ny: b.ny });
        // Platforms stop sweeps from above but overlap nothing, so only what stops elsewhere is compared.
        const stopped = byTiles ? a.part : 1;
        const marched = march(tiles, c, steps);
        expect(stopped).toBeLessThanOrEqual(marched + 2 / steps);
        if (!(byTiles && a.ny === 1)) expect(stopped).toBeGreaterThanOrEqual(marched - 2 / steps);
      }),
      { seed: 3, numRuns: 400 },
    );
  });

  test('touching is not overlapping, and what begins inside is not held', () => {
    const hit = new Hit();
    const onFloor = cast({ x: 2.5, y: 1.2, hx: 0.3, hy: 0.2, hz: 1, dx: 1 });
    expect(tiles.overlap(onFloor)).toBe(true); // the rough tile
    expect(tiles.sweep(cast({ x: 1.5, y: 1.2, hx: 0.3, hy: 0.2, hz: 1, dx: 0.1 }), hit)).toBe(false);
    expect(tiles.sweep(cast({ x: 2.5, y: 1.5, hx: 0.2, hy: 0.2, hz: 1, dx: 0.1 }), hit)).toBe(false);
  });
});

describe('rooms', () => {
  const boxes = new BoxWorld([
    { from: [0, -1, 0], to: [9, 1, 9] },
    { from: [0, 1, 0], to: [0.4, 3, 9] },
    { from: [3, 1, 2], to: [4, 4, 6] },
    { from: [6, 2, 5], to: [8, 3, 7], oneWay: true },
    { from: [1, 3.5, 7], to: [2, 4, 8] },
  ]);
  const unit = fc.integer({ min: 0, max: 1000 }).map((n) => n / 1000);

  const ground = flatGround(1);

  test.each(Object.entries<World>({ tiles, boxes, ground }))(
    'of %s are empty, hold the box, and have the floor and walls they tell of',
    (_, world) => {
      const box = fc.record({ x: unit, y: unit, z: unit, hx: unit, hy: unit });
      let floors = 0;
      let walls = 0;
      fc.assert(
        fc.property(box, fc.array(fc.tuple(unit, unit, unit), { minLength: 20, maxLength: 20 }), (b, points) => {
          const c = cast({ x: 1 + b.x * 7, y: 1 + b.y * 4, z: 1 + b.z * 7, hx: b.hx / 2, hy: b.hy / 2, hz: 0.2 });
          const room = new Room();
          if (!world.roomAround?.(c, room)) return;
          expect(room.x0 - 1e-6 <= c.x - c.hx && c.x + c.hx <= room.x1 + 1e-6).toBe(true);
          expect(room.y0 - 1e-6 <= c.y - c.hy && c.y + c.hy <= room.y1 + 1e-6).toBe(true);
          expect(room.z0 - 1e-6 <= c.z - c.hz && c.z + c.hz <= room.z1 + 1e-6).toBe(true);
          const within = (low: number, high: number, part: number) =>
            Math.max(low, -20) + (Math.min(high, 20) - Math.max(low, -20)) * part;
          const hit = new Hit();
          for (const [px, py, pz] of points) {
            const there = {
              x: within(room.x0, room.x1, px),
              y: within(room.y0, room.y1, py),
              z: within(room.z0, room.z1, pz),
            };
            expect(world.overlap(cast(there))).toBe(false);
            for (const [side, top, dx] of [
              [room.x0, room.wallX0, -0.01],
              [room.x1, room.wallX1, 0.01],
            ]) {
              if (!(there.y + 0.01 < top) || there.y < room.y0 + 0.01 || pz < 0.01 || pz > 0.99) continue;
              walls++;
              expect(world.sweep(cast({ ...there, x: side - dx, hx: 0.005, hy: 0.005, hz: 0.005, dx }), hit)).toBe(
                true,
              );
              expect(hit.nx).toBe(-Math.sign(dx));
            }
            const falls = cast({ ...there, hx: 0.005, hz: 0.005, dy: room.y0 - there.y - 0.01 });
            if (!room.floor || px < 0.01 || px > 0.99 || pz < 0.01 || pz > 0.99 || there.y < room.y0 + 0.01) continue;
            floors++;
            expect(world.sweep(falls, hit)).toBe(true);
            expect(there.y + falls.dy * hit.part).toBeCloseTo(room.y0, 5);
          }
        }),
        { seed: 8, numRuns: 300 },
      );
      expect(floors).toBeGreaterThan(200);
      expect(walls > 200).toBe(world !== ground);
    },
  );
});

test('rays meet the first surface, pass platforms, and tell its tags', () => {
  const hit = new Hit();
  expect(tiles.ray(cast({ x: 1.5, y: 1.5, dx: 5 }), hit)).toBe(true);
  expect([hit.part, hit.nx, hit.tags]).toEqual([0.1, -1, ['rough']]);
  expect(tiles.ray(cast({ x: 6.5, y: 4.5, dy: -3.5 }), hit)).toBe(true);
  expect(hit.part).toBe(1);
  expect(tiles.ray(cast({ x: 6.5, y: 4.5, dy: -3.4 }), hit)).toBe(false);
  expect(flatGround(2).ray(cast({ y: 5, dy: -6 }), hit)).toBe(true);
  expect([hit.part, hit.ny]).toEqual([0.5, 1]);
});

test('letters that stand for nothing are places', () => {
  const world = new TileWorld(['..@.', '####'], { size: 2 });
  expect(world.find('@')).toEqual({ x: 5, y: 2 });
  expect(world.find('P')).toBeUndefined();
  expect(world.tileAt(9, 9)).toBeUndefined();
  expect([world.width, world.height]).toEqual([4, 2]);
});

test('a question may ask for certain surfaces and pass over a body that an answer named', () => {
  const world = new BoxWorld([
    { from: [2, 0], to: [3, 2], tags: ['twig'] },
    { from: [5, 0], to: [6, 2], tags: ['rough', 'wet'] },
  ]);
  const hit = new Hit();
  const ray = (more: Partial<Cast>) =>
    world.ray(Object.assign(cast({ y: 1, dx: 10 }), more), hit) ? hit.part : 'none';
  expect([ray({}), hit.tags, [hit.vx, hit.vy, hit.vz]]).toEqual([0.2, ['twig'], [0, 0, 0]]);
  const { body } = hit;
  expect([ray({ ignore: body }), ray({ surfaces: ['wet'] }), ray({ surfaces: ['dry'] })]).toEqual([0.5, 0.5, 'none']);
  const box = cast({ x: 2.5, y: 1, hx: 0.1, hy: 0.1, hz: 0.1 });
  expect([world.overlap(box), world.overlap(Object.assign(box, { ignore: body }))]).toEqual([true, false]);
  // Boxes that stand side by side are met in whatever order they were listed.
  const stacked = [0, 1, 2].map((y) => ({ from: [4, y] as const, to: [5, y + 1] as const, tags: [`tag${y}`] }));
  const sweeps = [stacked, stacked.toReversed()].map((boxes) => {
    const found = new BoxWorld(boxes).sweep(cast({ x: 3, y: 1.2, hx: 0.3, hy: 0.5, hz: 1, dx: 2, dy: -1 }), hit);
    return [found, hit.part, hit.nx, hit.tags];
  });
  expect(sweeps[0]).toEqual(sweeps[1]);
});

test('a grid of numbers makes the same world as rows of text', () => {
  const rows = ['......', '..--..', '.R..##', '######'];
  const drawn = new TileWorld(rows, { legend: { R: { tags: ['rope'] } }, size: 2 });
  const cells = Uint16Array.from([...rows.join('')], (letter) => ({ '.': 0, '#': 7, '-': 2, R: 900 })[letter] ?? 0);
  const grid = TileWorld.fromGrid(6, 4, cells, {
    tiles: { 2: { oneWay: true, tags: ['oneWay'] }, 900: { tags: ['rope'] } },
    size: 2,
  });
  const all = (world: TileWorld) => Array.from({ length: 24 }, (_, i) => world.tileAt(i % 6, Math.floor(i / 6)));
  expect(all(grid)).toEqual(all(drawn));
  expect([grid.width, grid.height, grid.size]).toEqual([6, 4, 2]);
  expect(() => TileWorld.fromGrid(6, 4, [1, 2])).toThrow('6 times 4 tiles need 24 numbers, not 2');
  expect(() => TileWorld.fromGrid(1, 1, [0.5])).toThrow('must be whole numbers');
});
