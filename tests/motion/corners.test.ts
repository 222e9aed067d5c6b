import { describe, expect, test } from 'vitest';
import { BoxWorld, type Cast, Character, type Hit, TileWorld, type World } from '../../src/index.js';
import { asBoxes, makeCharacter, must, plan, SMALL, tick } from '../support.js';

const WALL = ['######', '#....#', '#....#', '#....#', '#....#', '#....#', '#....#', '######'];
const tiles = new TileWorld(WALL);
const worlds: [string, World][] = [
  ['tiles', tiles],
  ['boxes', asBoxes(tiles)],
  ['boxes in another order', new BoxWorld(boxesOf(tiles).reverse())],
];

function boxesOf(world: TileWorld) {
  const boxes = [];
  for (let x = 0; x < world.width; x++)
    for (let y = 0; y < world.height; y++)
      if (world.tileAt(x, y)) boxes.push({ from: [x, y] as const, to: [x + 1, y + 1] as const });
  return boxes;
}

describe.each(worlds)('against a wall of %s', (_, world) => {
  test('nothing stands on the side of it, whatever gravity, jump and height', () => {
    for (const gravity of [20, 25, 30, 40])
      for (const up of [9, 12, 15]) {
        const hop = plan(`${SMALL}body: { shapes: { tall: [0.6, 1.8] }, gravity: ${gravity} }
abilities: { hop: { start: { press: jump }, phases: [{ for: 1f, move: { up: ${up} } }] } }`);
        for (let height = 0; height < 20; height++) {
          const c = new Character(hop, { world, at: [4, 1 + height * 0.21] });
          c.door.press('move.right');
          c.door.press('jump');
          for (let i = 0; i < 120; i++) {
            c.tick();
            const { grounded, y } = c.readout;
            must(!grounded || y === 1, { gravity, up, height, i, y });
          }
          must(c.readout.grounded, { gravity, up, height });
        }
      }
  });

  test('it can hop while it pushes against a seam', () => {
    const c = makeCharacter(
      'body: { shapes: { tall: [0.6, 2] } }\nabilities: { hop: { start: { press: jump }, phases: [{ for: 1f, move: { up: 9 } }] } }',
      { world, at: [4.7, 1] },
    );
    c.door.press('move.right');
    tick(c, 5);
    c.door.press('jump');
    tick(c, 6);
    expect(c.readout.y).toBeGreaterThan(1.5);
    expect(c.facts.fact('atCeiling')).toBe(0);
  });

  test('a ray along the seam of it meets it, and one along the floor does not', () => {
    const c = makeCharacter('probes: { wall: { ray: [9, 0], at: [0, 1] }, floor: { ray: [2, 0], at: [0, 0] } }', {
      world,
      at: [2.5, 1],
    });
    tick(c);
    expect([c.facts.hit('wall'), c.facts.distance('wall')]).toEqual([true, 2.5]);
    expect(c.facts.fact('wall.normal.x')).toBe(-1);
    expect(c.facts.hit('floor')).toBe(false);
  });
});

test('what a probe does not ask for hides nothing behind it', () => {
  const world = new TileWorld(['.......', '..t..~.', '#######'], {
    legend: { t: { tags: ['twig'] }, '~': { tags: ['rough'] } },
  });
  const c = makeCharacter(
    'surfaces: [rough]\nprobes: { rough: { ray: [9, 0], at: [0, 0.5], on: rough }, any: { ray: [9, 0], at: [0, 0.5] }, above: { ray: [0, 3], at: [0, 0.5] } }',
    { world, at: [0.5, 1] },
  );
  tick(c);
  expect([c.facts.distance('any'), c.facts.distance('rough')]).toEqual([1.5, 4.5]);
  // Of a miss every answer is defined, whatever it hit before.
  c.door.press('move.left');
  tick(c);
  const answers = ['rough.hit', 'rough.distance', 'rough.x', 'rough.y', 'rough.normal.x'].map((f) => c.facts.fact(f));
  expect(answers).toEqual([0, 9, c.readout.x - 9, 1.5, 0]);
});

describe('a world that moves', () => {
  /** Level ground at a height that may change, and a slab above it. */
  function moving(): World & { floor: number; ceiling: number; speed: number } {
    return {
      floor: 0,
      ceiling: 99,
      speed: 0,
      ray: () => false,
      overlap(cast: Cast) {
        return cast.y - cast.hy < this.floor - 1e-6 || cast.y + cast.hy > this.ceiling + 1e-6;
      },
      sweep(cast: Cast, hit: Hit) {
        const gap = cast.y - cast.hy - this.floor;
        if (cast.dy >= 0 || gap < -1e-6 || gap > -cast.dy) return false;
        Object.assign(hit, { part: Math.max(0, gap) / -cast.dy, nx: 0, ny: 1, nz: 0, vy: this.speed });
        return true;
      },
    };
  }

  test('a floor that rises carries the body up instead of swallowing it', () => {
    const world = moving();
    const c = makeCharacter('', { world });
    tick(c, 3);
    world.speed = 3;
    for (let i = 0; i < 60; i++) {
      world.floor += 3 / 60;
      c.tick();
      expect(c.readout.y).toBeGreaterThanOrEqual(world.floor - 1e-6);
      expect(c.readout.grounded).toBe(true);
    }
    expect(c.facts.fact('ground.vy')).toBe(3);
  });

  test('a body that has no room to be pushed out to is told of once, and when it is free it goes on', () => {
    const world = moving();
    const c = makeCharacter('', { world });
    tick(c, 3);
    world.ceiling = 1;
    world.floor = 0.5;
    expect(tick(c, 3).filter((line) => line === 'stuck')).toEqual(['stuck']);
    world.ceiling = 99;
    tick(c, 2);
    expect(c.readout.y).toBeGreaterThanOrEqual(0.5 - 1e-6);
    world.ceiling = 1;
    expect(tick(c)).toContain('stuck');
  });
});

test('what is created or placed inside something solid is pushed out of it', () => {
  const c = makeCharacter('', { world: tiles, at: [2.5, 0.4] });
  expect(c.readout.y).toBeCloseTo(1, 5);
  c.door.place(4.9, 3);
  tick(c);
  expect(c.readout.x).toBeCloseTo(4.7, 5);
  c.door.place(1.1, 3);
  tick(c);
  expect(c.readout.x).toBeCloseTo(1.3, 5);
});

test('what overlaps an edge by less than a touch does not stand on it', () => {
  const world = new BoxWorld([
    { from: [1, 0], to: [2, 1] },
    { from: [-9, -5], to: [9, -4] },
  ]);
  const c = makeCharacter('body: { shapes: { tall: [0.6, 1.8] }, walk: { brake: 0 } }', { world, at: [0.7, 3] });
  c.door.velocity(1e-6, 0);
  expect(tick(c, 180).filter((told) => told === 'landed')).toHaveLength(1);
  expect(c.readout.y).toBe(-4);
});

test('a corner that is met head-on is a wall, and nothing slips through it', () => {
  const world = new BoxWorld([{ from: [1, 0], to: [2, 1] }]);
  const c = makeCharacter('body: { gravity: 0, fall: 1000, shapes: { tall: [0.5, 1] }, walk: { brake: 0 } }', {
    world,
    at: [0.25, 1.5],
  });
  c.door.velocity(30, -30);
  tick(c);
  expect([c.readout.grounded, c.facts.fact('atWall'), c.readout.x, c.readout.y]).toEqual([false, 1, 0.75, 1]);
  tick(c);
  expect([c.readout.vx, c.readout.vy, c.readout.y]).toEqual([0, -30, 0.5]);
});
