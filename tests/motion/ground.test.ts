import { describe, expect, test } from 'vitest';
import { BoxWorld, TileWorld } from '../../src/index.js';
import { makeCharacter, tick } from '../support.js';

const LEGEND = { '/': { slope: [0, 1] as const }, '\\': { slope: [1, 0] as const }, _: { slope: [0, 0.5] as const } };
const slopes = (rows: string[]) => new TileWorld(rows, { legend: LEGEND });

describe('slopes', () => {
  const hill = slopes(['..........', '...../\\....', '..../##\\...', '@../####\\..', '##########']);

  test('a body walks up and down at its level pace, and is on the ground all the way', () => {
    const c = makeCharacter('', { world: hill, at: [0.5, 1] });
    c.door.press('move.right');
    const told = tick(c, 108);
    expect(told.filter((event) => /land|left|leaves/.test(event))).toEqual([]);
    let highest = 0;
    const again = makeCharacter('', { world: hill, at: [0.5, 1] });
    again.door.press('move.right');
    for (let i = 0; i < 108; i++) {
      tick(again);
      highest = Math.max(highest, again.readout.y);
      if (i > 8) expect([i, again.readout.vx, again.readout.grounded]).toEqual([i, 5, true]);
    }
    expect(highest).toBeCloseTo(4, 6);
    expect([again.readout.x > 9, again.readout.y]).toEqual([true, 1]);
  });

  test('a body that stands on one stays there, and hops straight off it', () => {
    const c = makeCharacter('abilities: { hop: { start: { press: jump }, phases: [{ for: 1f, move: { up: 9 } }] } }', {
      world: hill,
      at: [4.5, 2.9],
    });
    tick(c, 30);
    const { x, y } = c.readout;
    tick(c, 60);
    expect([c.readout.x, c.readout.y]).toEqual([x, y]);
    expect(c.facts.fact('ground.normal.x')).toBeCloseTo(-Math.SQRT1_2, 9);
    c.door.press('jump');
    tick(c, 3);
    expect([c.readout.x, c.readout.y > y]).toEqual([x, true]);
  });

  test('what is steeper than the limit is a wall to who walks, and slides who falls on it', () => {
    const body = 'body: { shapes: { tall: [0.6, 1.8] }, slope: 0.6 }';
    const c = makeCharacter(body, { world: hill, at: [0.5, 1] });
    c.door.press('move.right');
    tick(c, 90);
    expect([c.readout.y, c.readout.x < 3]).toEqual([1, true]);
    const falling = makeCharacter(body, { world: hill, at: [4.5, 5] });
    tick(falling, 90);
    expect(falling.readout.grounded).toBe(true);
    expect([falling.readout.y, falling.readout.x < 3]).toEqual([1, true]);
  });

  test('a gentle slope of half a tile leads onto what is half as high', () => {
    const c = makeCharacter('', { world: slopes(['......', '@._...', '######']), at: [0.5, 1] });
    c.door.press('move.right');
    tick(c, 23);
    expect(c.readout.y).toBeGreaterThan(1.2);
    tick(c, 60);
    expect(c.readout.y).toBeLessThan(1.6);
  });
});

describe('steps', () => {
  const world = new BoxWorld([
    { from: [-9, -1], to: [9, 0] },
    { from: [2, 0], to: [9, 0.25] },
    { from: [4, 0.25], to: [9, 0.8] },
  ]);

  test('a body walks up those that are low enough, at its pace, and is stopped by others', () => {
    const c = makeCharacter('body: { step: 0.3 }', { world, at: [0, 0] });
    c.door.press('move.right');
    tick(c, 35);
    expect([c.readout.y, c.readout.vx, c.readout.grounded]).toEqual([0.25, 5, true]);
    tick(c, 40);
    expect([c.readout.y, c.readout.x]).toEqual([0.25, 3.7]);
  });

  test('without a step height every step is a wall', () => {
    const c = makeCharacter('', { world, at: [0, 0] });
    c.door.press('move.right');
    tick(c, 60);
    expect([c.readout.y, c.readout.x]).toEqual([0, 1.7]);
  });
});

describe('what moves', () => {
  const floor = { from: [-20, -1], to: [20, 0] } as const;
  const raft = (points: [number, number, number][], after: 'back' | 'again' | 'stay' = 'back') =>
    new BoxWorld([
      floor,
      { from: [-1, 1], to: [1, 1.5], path: { points: points.map(([at, x, y]) => ({ at, to: [x, y] })), after } },
    ]);

  test.each<[string, [number, number, number][]]>([
    [
      'to and fro',
      [
        [0, 0, 0],
        [2, 4, 0],
      ],
    ],
    [
      'up and down',
      [
        [0, 0, 0],
        [1.5, 0, 3],
      ],
    ],
    [
      'across',
      [
        [0, 0, 0],
        [1, 3, 2],
        [2, -1, 4],
      ],
    ],
  ])('carries who stands on it %s, without letting go', (_, points) => {
    const world = raft(points);
    const c = makeCharacter('', { world, at: [0.2, 1.5] });
    for (let i = 0; i < 400; i++) {
      world.advanceTo(i / 60);
      tick(c);
      const [box] = world.blocksNow();
      expect([i, c.readout.grounded]).toEqual([i, true]);
      expect(c.readout.y - box.y1).toBeCloseTo(0, 1);
      expect(Math.abs(c.readout.x - box.x0 - 1.2)).toBeLessThan(0.15);
    }
  });

  test('its velocity goes with who jumps off, and is taken from who lands', () => {
    const world = raft(
      [
        [0, 0, 0],
        [9, 36, 0],
      ],
      'stay',
    );
    const c = makeCharacter(
      'abilities: { hop: { start: { press: jump }, phases: [{ for: 1f, move: { up: 5 } }] } }\nbody: { walk: { accel: 0, brake: 0 } }',
      {
        world,
        at: [0, 1.5],
      },
    );
    let i = 0;
    const step = () => {
      world.advanceTo(i++ / 60);
      tick(c);
    };
    for (let k = 0; k < 30; k++) step();
    expect(c.readout.vx).toBe(0);
    c.door.press('jump');
    step();
    step();
    expect(c.readout.vx).toBeCloseTo(4, 6);
    for (let k = 0; k < 40; k++) step();
    expect([c.readout.grounded, c.readout.vx]).toEqual([true, expect.closeTo(0, 6)]);
    expect(Math.abs(c.readout.x - world.blocksNow()[0].x0 - 1)).toBeLessThan(0.2);
  });

  test('a door pushes a body aside, and says so where there is no room', () => {
    const world = new BoxWorld([floor, { from: [3, 0], to: [4, 4] }, { name: 'door', from: [-3, 0], to: [-2, 4] }]);
    const c = makeCharacter('', { world, at: [0, 0] });
    const told: string[] = [];
    for (let i = 0; i < 75; i++) {
      world.put('door', [i / 15, 0]);
      told.push(...tick(c));
    }
    expect(c.readout.x).toBeGreaterThan(2.5);
    expect(told.join()).toContain('stuck');
    expect(() => world.put('dor', [0, 0])).toThrow('put: there is no block "dor". There are ');
  });

  test('a world that is set to the same time twice is the same', () => {
    const world = raft([
      [0, 0.1, 0.7],
      [1.3, 4, 3],
    ]);
    world.advanceTo(0.7);
    const before = world.blocksNow();
    for (let i = 0; i < 1000; i++) world.advanceTo(i / 7);
    world.advanceTo(0.7);
    expect(world.blocksNow()).toEqual(before);
  });
});

describe('the edges of a world', () => {
  const rows = ['....', '....', '.@..', '##..'];

  test('a wall stops, the other side comes in, the bottom lets fall with an event', () => {
    const walled = makeCharacter('', {
      world: new TileWorld(rows, { edges: { sides: 'wall', bottom: 'wall', top: 'wall' } }),
      at: [1.5, 1],
    });
    walled.door.press('move.right');
    tick(walled, 90);
    expect([walled.readout.x, walled.readout.y]).toEqual([3.7, 0]);
    const wrapped = makeCharacter('', {
      world: new TileWorld(['....', '####'], { edges: { sides: 'wrap' } }),
      at: [1.5, 1],
    });
    wrapped.door.press('move.right');
    tick(wrapped, 60);
    expect([wrapped.readout.x < 4, wrapped.readout.x >= 0, wrapped.readout.y, wrapped.readout.grounded]).toEqual([
      true,
      true,
      1,
      true,
    ]);
    const falling = makeCharacter('', { world: new TileWorld(rows, { edges: { bottom: 'fall' } }), at: [3, 1] });
    expect(tick(falling, 90).filter((event) => event.includes('fell') || event.includes('falls out'))).toHaveLength(1);
  });
});

test('bodies of hundreds of units move like bodies of metres', () => {
  const run = (scale: number) => {
    const world = new TileWorld(['......../#', '....##....', '@..../\\...', '##########'], {
      legend: LEGEND,
      size: scale,
    });
    const c = makeCharacter(
      `body: { shapes: { tall: [${0.6 * scale}, ${1.8 * scale}] }, gravity: ${25 * scale}, fall: ${18 * scale}, walk: { speed: ${5 * scale}, accel: ${60 * scale}, brake: ${60 * scale} } }
abilities: { hop: { start: { press: jump }, phases: [{ for: 1f, move: { up: ${9 * scale} } }] } }`,
      { world, at: [0.5 * scale, scale] },
    );
    const path: (number | boolean)[][] = [];
    c.door.press('move.right');
    for (let i = 0; i < 150; i++) {
      if (i === 40 || i === 90) c.door.press('jump');
      if (i === 60) c.door.release('jump');
      tick(c);
      path.push([c.readout.x / scale, c.readout.y / scale, c.readout.grounded]);
    }
    return path;
  };
  const metres = run(1);
  for (const scale of [64, 256])
    run(scale).forEach(([x, y, grounded], i) => {
      expect([i, x, y, grounded]).toEqual([
        i,
        expect.closeTo(metres[i][0] as number, 6),
        expect.closeTo(metres[i][1] as number, 6),
        metres[i][2],
      ]);
    });
});

test('one-way slopes are ground to who comes down on them or from their foot, and nothing from below and from behind', () => {
  const legend = { '/': { slope: [0, 1], oneWay: true } } as const;
  const rows = [
    '................',
    '................',
    '................',
    '...../---.......',
    '..../...........',
    '################',
  ];
  const half = Math.sin(Math.PI / 8);
  const beam = {
    at: [5, 1.93],
    size: [2.9, 0.2],
    turn: [0, 0, half, Math.sqrt(1 - half * half)],
    oneWay: true,
  } as const;
  const worlds = [
    new TileWorld(rows, { legend }),
    new BoxWorld([{ from: [-9, 0], to: [30, 1] }, beam, { from: [6, 2.75], to: [9, 3], oneWay: true }]),
  ];
  for (const world of worlds) {
    const go = (x: number, y: number, stick: number, ticks: number, hops = false) => {
      const c = makeCharacter(
        'abilities: { hop: { start: { press: jump }, phases: [{ for: 1f, move: { up: 12 } }] } }',
        { world, at: [x, y] },
      );
      c.door.stick('move', stick, 0);
      if (hops) c.door.press('jump');
      tick(c, ticks);
      return [c.readout.x, c.readout.y, c.readout.grounded];
    };
    const near = (n: number) => expect.closeTo(n, 0);
    // Up from its foot, and on along the plank; from behind, and out of its inside, there is nothing.
    expect(go(1, 1, 1, 66)).toEqual([near(6.4), near(3), true]);
    expect(go(9, 1, -1, 80)).toEqual([near(2.4), 1, true]);
    expect(go(5.2, 1, 1, 30)).toEqual([near(7.6), 1, true]);
    // Through it from below, and down onto it.
    expect(go(5, 1, 0, 80, true)).toEqual([5, near(2.3), true]);
    expect(go(5, 6, 0, 80)).toEqual([5, near(2.3), true]);
    // Down along it.
    expect(go(7.5, 3, -1, 30)).toEqual([near(5.1), near(2.4), true]);
  }
});
