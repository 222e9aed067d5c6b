import { expect, test } from 'vitest';
import { BoxWorld, Character, flatGround, TileWorld, type World } from '../../src/index.js';
import { duel, FIGHTER, JAB, ticks } from '../arena/duel.js';
import { plan, SMALL } from '../support.js';

const walker = (world: World, { body = '{}', at = [0, 0] as [number, number] } = {}) =>
  new Character(plan(`${SMALL}body: ${body}\n`), { world, at });
const run = (c: Character, count: number) => {
  for (let i = 0; i < count; i++) c.tick();
};

test.each([
  [[6, 0], 3],
  [[5, 2], 2.31],
  [[4, 0], 1.003],
] as const)('who stands on a ferry to %j and back keeps its place for minutes', (to, at) => {
  const path = {
    points: [
      { at: 0, to: [0, 0] },
      { at, to },
    ],
    after: 'back',
  } as const;
  const world = new BoxWorld([{ from: [-1, -1], to: [1, 0], path }]);
  const c = walker(world);
  for (let i = 0; i < 60 * 200; i++) {
    world.advanceTo(i / 60);
    c.tick();
    if (!c.readout.grounded) throw new Error(`it has fallen after ${i} ticks`);
  }
  const [ferry] = world.blocksNow();
  expect(c.readout.x - ferry.x0).toBeCloseTo(1, 0);
  expect(c.readout.y).toBeCloseTo(ferry.y1);
});

test.each([
  ['that stops within a tick', (tick: number) => [Math.min(tick, 60.5) * 0.05, tick < 60 ? 3 : 0]],
  ['that begins to rise', (tick: number) => [Math.max(0, tick - 20) * 0.05, tick > 20 ? 3 : 0]],
  ['of which code never says how fast it is', (tick: number) => [Math.max(0, tick - 20) * 0.05, 0]],
])('a one-way lift %s keeps who stands on it', (_, at) => {
  const world = new BoxWorld([{ name: 'lift', from: [-1, -0.2], to: [1, 0], oneWay: true }]);
  const c = walker(world);
  for (let i = 0; i < 100; i++) {
    const [y, vy] = at(i);
    world.put('lift', [0, y], [0, vy]);
    c.tick();
    expect([c.readout.grounded, Math.round((c.readout.y - y) * 1e6)]).toEqual([true, 0]);
  }
});

test('a tile that is not whole is stood on at its top, and is no wall to who can step onto it', () => {
  const legend = { h: { slope: [0.5, 0.5] as const } };
  const world = new TileWorld(['..........', '..........', '@....hhh..', '##########'], { legend });
  for (const shape of ['[0.6, 0.9]', '[0.6, 1.8]']) {
    const body = `{ step: 0.5, shapes: { b: ${shape} } }`;
    const c = walker(world, { body, at: [1.5, 1] });
    c.door.press('move.right');
    run(c, 70);
    expect([c.readout.x > 6, c.readout.y]).toEqual([true, 1.5]);
    const falls = walker(world, { body, at: [6.5, 3] });
    run(falls, 70);
    expect([falls.readout.y, falls.readout.grounded]).toEqual([1.5, true]);
  }
});

test('who is wedged between a steep slope and a wall stands, and can jump out', () => {
  const world = new BoxWorld([
    { at: [3, 0], size: [1, 20], turn: [0, 0, -Math.sin(0.175), Math.cos(0.175)] },
    { from: [-2, -30], to: [0, 30] },
  ]);
  const c = walker(world, { at: [1, 6] });
  run(c, 200);
  expect([c.readout.grounded, c.readout.vy]).toEqual([true, 0]);
  const { y } = c.readout;
  c.door.velocity(0, 9);
  run(c, 3);
  expect(c.readout.y).toBeGreaterThan(y + 0.2);
});

test('a wall behind the seam of a world that wraps stops a body at the seam', () => {
  const world = new TileWorld(['#.......', '#.......', '#@......', '########'], { edges: { sides: 'wrap' } });
  const c = walker(world, { at: [5, 1] });
  c.door.press('move.right');
  run(c, 60);
  expect([Math.round(c.readout.x * 1e3) / 1e3, c.readout.vx, c.facts.fact('atWall')]).toEqual([8, 0, 1]);
  c.door.release('move.right');
  c.door.press('move.left');
  run(c, 20);
  expect(c.readout.x).toBeLessThan(7);
});

const ball = (rate: number, body = '', bounce = '100%') =>
  plan(`loggia: 1
name: Ball
rate: ${rate}
stances: { fly: {} }
loadouts: { own: { abilities: [], bounce: ${bounce} } }
body: { shapes: { ball: [0.4, 0.4] }, fall: 100${body} }
`);

test.each([10, 30, 60, 144])('a ball that keeps its pace rises as high as it fell, at %i ticks a second', (rate) => {
  const peaksOf = (share: string) => {
    const c = new Character(ball(rate, '', share), { world: flatGround(), at: [0, 5] });
    const peaks: number[] = [];
    let before = 0;
    for (let i = 0; i < rate * 8; i++) {
      c.tick();
      if (before > 0 && c.readout.vy <= 0) peaks.push(c.readout.y);
      before = c.readout.vy;
    }
    return peaks;
  };
  for (const peak of peaksOf('100%').slice(0, 3)) expect(Math.abs(peak - 5)).toBeLessThan(0.1);
  expect(Math.abs(peaksOf('50%')[0] - 1.25)).toBeLessThan(0.13);
});

test.each([0, 30, -30, 45, -20])('a ball loses no pace at a wall that leans by %i degrees', (degrees) => {
  const half = (degrees * Math.PI) / 360;
  const world = new BoxWorld([{ at: [4, 5], size: [1, 40], turn: [0, 0, Math.sin(half), Math.cos(half)] }]);
  const c = new Character(ball(60, ', gravity: 0'), { world, at: [0, 5] });
  c.door.velocity(10, 0);
  run(c, 60);
  expect(Math.hypot(c.readout.vx, c.readout.vy)).toBeCloseTo(10);
  // Mirrored at the wall, whose normal is turned by as much.
  expect(c.readout.vx).toBeCloseTo(-10 * Math.cos((degrees * Math.PI) / 90));
  expect(c.readout.vy).toBeCloseTo(-10 * Math.sin((degrees * Math.PI) / 90));
});

test.each([1, -1])('nobody goes through who gives no way, however fast, from either side (%i)', (side) => {
  const dash = '  dash: { start: { press: brace }, steer: 0, phases: [{ for: 9f, move: { forward: 140 } }] }\n';
  const text = (meets: string) => `${FIGHTER}${JAB}${dash}body: { meets: ${meets} }\n`;
  const { arena, pell, sentry } = duel(text('push'), text('block'), { apart: 2 * side });
  pell.door.face(side, 0);
  pell.door.press('brace');
  ticks(arena, 9);
  expect(pell.readout.x * side).toBeCloseTo(1.4);
  expect(sentry.readout.x * side).toBe(2);
});

test('who jumps off what sinks does not take its fall along, off what rises its rise', () => {
  for (const [carried, told] of [
    [-3, 0],
    [3, 3],
  ]) {
    const world = new BoxWorld([{ name: 'lift', from: [-1, -1], to: [1, 0] }]);
    const c = walker(world);
    for (let i = 0; i < 10; i++) {
      world.put('lift', [0, (carried * i) / 60], [0, carried]);
      c.tick();
    }
    expect(c.readout.grounded).toBe(true);
    c.door.velocity(0, 9);
    world.put('lift', [0, carried / 6], [0, carried]);
    c.tick();
    expect([c.readout.grounded, c.readout.vy]).toEqual([false, 9 - 25 / 60 + told]);
  }
});

test('what is slower than a pace into the ground does not bounce', () => {
  for (const [pace, bounces] of [
    [0.9, false],
    [1.5, true],
  ] as const) {
    const c = new Character(ball(60, ', gravity: 0'), { world: flatGround(), at: [0, 0.05] });
    c.door.velocity(0, -pace);
    let up = false;
    for (let i = 0; i < 30; i++) {
      c.tick();
      up ||= c.readout.vy > 0;
    }
    expect(up).toBe(bounces);
  }
});

test('a warp onto a floor at no distance finds the floor that the body stands on', () => {
  const world = new BoxWorld([{ from: [-9, -1], to: [4, 0] }]);
  // A way that ends over the void is shortened to where there is a floor.
  for (const [by, least, most] of [
    [2, 2, 2],
    [6, 3.5, 4.6],
  ]) {
    const hop = `{ start: { press: gaff }, phases: [{ for: 1f, warp: { along: facing, by: ${by}, floor: 0 } }] }`;
    const c = new Character(plan(`${SMALL}abilities: { hop: ${hop} }\n`), { world });
    run(c, 3);
    c.door.press('gaff');
    run(c, 1);
    expect(c.readout.x).toBeGreaterThanOrEqual(least);
    expect(c.readout.x).toBeLessThanOrEqual(most);
  }
});

test.each([
  [1, 0.9],
  [1, 1.2],
  [-1, 1.2],
  [1, 1.05],
])('who moves along what is nearest stands still in an inner corner (facing %i, gap %f)', (side, gap) => {
  const go = `{ start: { press: gaff }, gravity: 0, steer: 0, move: { along: facing, on: around, gap: ${gap}, speed: 8, mode: replace, keep: 0 }, end: not around.hit }`;
  const made = plan(`${SMALL}probes: { around: { nearest: 2, from: middle } }\nabilities: { go: ${go} }\n`);
  const world = new BoxWorld([
    { from: [-20, -1], to: [20, 0] },
    { from: [4, 0], to: [5, 20] },
    { from: [-5, 0], to: [-4, 20] },
  ]);
  for (const at of [
    [0, 0.3],
    [3.6 * side, 0.1],
    [3.2 * side, 0],
  ] as const) {
    const c = new Character(made, { world, at, facing: side as 1 | -1 });
    c.door.press('gaff');
    run(c, 90);
    const { x, y } = c.readout;
    for (let i = 0; i < 60; i++) {
      c.tick();
      expect([c.readout.x - x, c.readout.y - y, c.readout.isRunning('go')]).toEqual([0, 0, true]);
    }
    expect(Math.abs(x)).toBeCloseTo(4 - Math.max(gap, 0.3), 1);
  }
});
