import { join } from 'node:path';
import * as rapier2d from '@dimforge/rapier2d-compat';
import * as rapier3d from '@dimforge/rapier3d-compat';
import { beforeAll, describe, expect, test } from 'vitest';
import { loadMoveset } from '../../src/format/index.js';
import { type Box, BoxWorld, Character, type Plan, TileWorld, type World } from '../../src/index.js';
import { type RapierCollider, RapierWorld } from '../../src/rapier/index.js';
import { plan, ROOT, tick } from '../support.js';

const ROWS = [
  '................................',
  '................................',
  '................................',
  '................................',
  '...............##...............',
  '.........---...##...............',
  '......#........##.....#...##....',
  '......#..@.....##.....#...##...#',
  '######################.#########',
  '################################',
];
const tiles = new TileWorld(ROWS);

function boxesOf(): Box[] {
  const boxes: Box[] = [];
  for (let x = 0; x < tiles.width; x++)
    for (let y = 0; y < tiles.height; y++) {
      const tile = tiles.tileAt(x, y);
      if (!tile) continue;
      const { oneWay, tags } = tile;
      boxes.push({ from: [x, oneWay ? y + 0.75 : y, -20], to: [x + 1, y + 1, 20], oneWay, tags });
    }
  return boxes;
}

/** The same boxes as colliders of a physics engine. */
function physics(dimensions: 2 | 3): World {
  const tags = new Map<number, readonly string[]>();
  const tagsOf = ({ handle }: RapierCollider) => tags.get(handle) ?? [];
  const middle = ({ from, to }: Box) => [0, 1].map((i) => (from[i as 0] + to[i as 0]) / 2);
  const half = ({ from, to }: Box) => [0, 1].map((i) => (to[i as 0] - from[i as 0]) / 2);
  if (dimensions === 2) {
    const world = new rapier2d.World({ x: 0, y: -25 });
    for (const box of boxesOf()) {
      const [[x, y], [hx, hy]] = [middle(box), half(box)];
      tags.set(world.createCollider(rapier2d.ColliderDesc.cuboid(hx, hy).setTranslation(x, y)).handle, box.tags ?? []);
    }
    world.step();
    return new RapierWorld(rapier2d, world, { tagsOf, bounds: tiles.bounds });
  }
  const world = new rapier3d.World({ x: 0, y: -25, z: 0 });
  for (const box of boxesOf()) {
    const [[x, y], [hx, hy]] = [middle(box), half(box)];
    tags.set(
      world.createCollider(rapier3d.ColliderDesc.cuboid(hx, hy, 20).setTranslation(x, y, 0)).handle,
      box.tags ?? [],
    );
  }
  world.step();
  return new RapierWorld(rapier3d, world, { tagsOf, bounds: tiles.bounds });
}

const WORLDS: [string, () => World][] = [
  ['tiles', () => tiles],
  ['boxes', () => new BoxWorld(boxesOf(), { bounds: { from: [0, 0], to: [32, 99] } })],
  ['Rapier in 2D', () => physics(2)],
  ['Rapier in 3D', () => physics(3)],
];

let pell: Plan;
beforeAll(async () => {
  await rapier2d.init();
  await rapier3d.init();
  pell = (await loadMoveset(join(ROOT, 'demo/boatyard/pell-mast-row.yaml'))).plan as Plan;
});

/** Single precision and the skin of a physics engine. */
const near = (n: number) => expect.closeTo(n, 2);

describe.each(WORLDS)('in a world of %s', (_, make) => {
  const begin = (x: number, y: number, facing: 1 | -1 = 1) =>
    new Character(pell, { world: make(), at: [x, y], facing, places: () => ({ x: 28.5, y: 2 }) });

  test('a body falls, lands, hops and lands again', () => {
    const c = begin(12.5, 5);
    expect(tick(c, 60)).toContain('landed');
    expect([c.readout.y, c.readout.grounded]).toEqual([near(2), true]);
    c.door.press('jump');
    expect(tick(c, 90)).toEqual(expect.arrayContaining(['airborne', 'landed']));
    expect(c.readout.y).toEqual(near(2));
  });

  test('it walks along a floor of many pieces, and up to a wall', () => {
    const c = begin(9.5, 2);
    c.door.press('move.right');
    for (let i = 0; i < 60; i++) {
      tick(c);
      if (i > 8 && c.readout.x < 14.5) expect([i, c.readout.vx, c.readout.grounded]).toEqual([i, 5, true]);
    }
    tick(c, 60);
    expect([c.readout.x, c.readout.vx, c.facts.fact('atWall')]).toEqual([near(14.7), 0, 1]);
    expect(c.facts.fact('wall.normal.x')).toBe(-1);
    expect(c.facts.distance('wall')).toEqual(near(0.3));
  });

  test('it passes planks from below, stands on them, and drops through them', () => {
    const c = begin(10.5, 2);
    c.door.press('jump');
    tick(c, 20);
    c.door.release('jump');
    tick(c, 2);
    c.door.press('jump');
    tick(c, 80);
    expect([c.readout.y, c.facts.on('oneWay')]).toEqual([near(5), true]);
    c.door.release('jump');
    c.door.press('move.down');
    tick(c, 2);
    c.door.press('jump');
    tick(c, 60);
    expect(c.readout.y).toEqual(near(2));
  });

  test('it hangs on a ledge that it falls past, and climbs onto it', () => {
    const c = begin(14.4, 4.2);
    c.door.press('move.right');
    tick(c, 10);
    expect(c.readout.ability()).toBe('cling');
    expect([c.readout.x, c.readout.y]).toEqual([near(14.7), near(4.2)]);
    const { y } = c.readout;
    tick(c, 30);
    expect([c.readout.y, c.readout.ability()]).toEqual([y, 'cling']);
    c.door.release('move.right');
    c.door.press('move.up');
    tick(c, 20);
    expect([c.readout.y, c.readout.grounded, c.readout.x > 14.9]).toEqual([near(6), true, true]);
  });

  test('it blinks through what is thin, up to what is thick, and not out of the world', () => {
    const thin = begin(20.3, 2);
    tick(thin);
    expect(thin.preview('tideStep')).toMatchObject({ possible: true, x: near(21.7) });
    const free = begin(2.5, 2);
    free.door.aim('aim', -1, 0);
    tick(free);
    expect(free.preview('tideStep')).toMatchObject({ x: near(0.3), y: near(2) });
    const seen = free.preview('tideStep') as { x: number; y: number };
    free.door.press('tide');
    tick(free);
    const [warped] = free.readout.events.filter((event) => event.kind === 'warped');
    expect(warped).toEqual({ kind: 'warped', x: seen.x, y: seen.y, z: 0 });
    const wall = begin(25.6, 2);
    tick(wall, 5);
    wall.door.press('tide');
    tick(wall);
    expect(wall.readout.x).toEqual(near(25.7));
  });

  test('it is put where it fits, or refused', () => {
    const c = begin(2.5, 2);
    tick(c);
    c.door.mark('moored', 8.5, 1.5);
    tick(c);
    c.door.press('home');
    tick(c, 40);
    expect([c.readout.x, c.readout.y]).toEqual([near(8.5), near(2)]);
  });
});

test.each([2, 3] as const)(
  'a mark on a body of Rapier in %iD goes and turns with it, and is unset when it is removed',
  (dimensions) => {
    const turned = plan(`loggia: 1
name: Pell
inputs: { gaff: { button: KeyJ } }
stances: { fall: {} }
body: { gravity: 0 }
marks: { hooked: {} }
probes: { rope: { ray: [9, 0], at: [0, 1] } }
abilities: { hook: { start: { press: gaff }, mark: { hooked: on(rope) }, phases: [{ for: 1s }] } }
`);
    const a = Math.PI / 6;
    const make = () => {
      if (dimensions === 2) {
        const world = new rapier2d.World({ x: 0, y: 0 });
        const body = world.createRigidBody(rapier2d.RigidBodyDesc.kinematicPositionBased().setTranslation(4, 1));
        world.createCollider(rapier2d.ColliderDesc.cuboid(1, 1), body);
        const put = () => [body.setTranslation({ x: 5, y: 2 }, true), body.setRotation(a, true)];
        return { world, put, remove: () => world.removeRigidBody(body), of: new RapierWorld(rapier2d, world) };
      }
      const world = new rapier3d.World({ x: 0, y: 0, z: 0 });
      const body = world.createRigidBody(rapier3d.RigidBodyDesc.kinematicPositionBased().setTranslation(4, 1, 0));
      world.createCollider(rapier3d.ColliderDesc.cuboid(1, 1, 1), body);
      const turn = { x: 0, y: 0, z: Math.sin(a / 2), w: Math.cos(a / 2) };
      const put = () => [body.setTranslation({ x: 5, y: 2, z: 0 }, true), body.setRotation(turn, true)];
      return { world, put, remove: () => world.removeRigidBody(body), of: new RapierWorld(rapier3d, world) };
    };
    const { world, put, remove, of } = make();
    world.step();
    const c = new Character(turned, { world: of });
    c.door.press('gaff');
    c.tick();
    expect(c.readout.mark('hooked')).toEqual({ x: near(3), y: near(1), z: 0 });
    put();
    world.step();
    c.tick();
    // A unit to the left of its middle, turned by 30 degrees.
    expect(c.readout.mark('hooked')).toEqual({ x: near(5 - Math.cos(a)), y: near(2 - Math.sin(a)), z: near(0) });
    remove();
    world.step();
    c.tick();
    expect(c.readout.mark('hooked')).toBeNull();
  },
);
