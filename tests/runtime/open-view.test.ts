import { describe, expect, test } from 'vitest';
import { advise } from '../../src/analysis/advice.js';
import { BoxWorld, checkMoveset, flatGround, wordDiagnostic } from '../../src/index.js';
import { makeCharacter, tap, tick } from '../support.js';

const OPEN = 'view: open\nbody: { walk: { speed: 4, accel: 24, brake: 1000 }, shapes: { tall: [0.6, 1.8] } }\n';
const near = (c: ReturnType<typeof makeCharacter>) =>
  [c.readout.vx, c.readout.vz, c.readout.facing, c.readout.facingZ].map((n) => Math.round(n * 1000) / 1000 + 0);

describe('the open view', () => {
  // The camera looks along -z at first: right is +x, up is -z.
  test.each([
    ['move.right', [0, -1], [4, 0, 1, 0]],
    ['move.left', [0, -1], [-4, 0, -1, 0]],
    ['move.up', [0, -1], [0, -4, 0, -1]],
    ['move.down', [0, -1], [0, 4, 0, 1]],
    ['move.right', [1, 0], [0, 4, 0, 1]],
    ['move.up', [1, 0], [4, 0, 1, 0]],
    ['move.up', [-3, 0], [-4, 0, -1, 0]],
    ['move.right', [0, 5], [-4, 0, -1, 0]],
  ] as const)('%s with a camera that looks along %j walks and faces %j', (key, camera, wanted) => {
    const c = makeCharacter(OPEN);
    c.door.camera(camera[0], camera[1]);
    c.door.press(key);
    tick(c, 30);
    expect(near(c)).toEqual(wanted);
  });

  test('acceleration is along the way to what the stick wants, by its share each tick', () => {
    const c = makeCharacter(OPEN);
    c.door.press('move.right');
    tick(c, 5);
    expect(near(c).slice(0, 2)).toEqual([2, 0]);
    c.door.press('move.up');
    tick(c);
    // From (2, 0) towards (2.83, -2.83): 0.4 along that way.
    const way = [4 * Math.SQRT1_2 - 2, -4 * Math.SQRT1_2];
    const length = Math.hypot(...way);
    expect(c.readout.vx).toBeCloseTo(2 + (0.4 * way[0]) / length, 9);
    expect(c.readout.vz).toBeCloseTo((0.4 * way[1]) / length, 9);
  });

  test('moves aim by the stick and by facing, and probes look along facing', () => {
    const world = new BoxWorld([
      { from: [-20, -1, -20], to: [20, 0, 20] },
      { from: [-5, 0, 4], to: [5, 3, 5] },
    ]);
    const c = makeCharacter(
      `${OPEN}probes: { ahead: { ray: [6, 0], at: [0, 1, 0.5] } }
abilities:
  dash: { start: { press: gale }, steer: 0, phases: [{ for: 3f, move: { along: [move, facing], speed: 6 } }] }
  lunge: { start: { press: gaff }, steer: 0, phases: [{ for: 3f, move: { forward: 5 } }] }`,
      { world },
    );
    c.door.camera(0, 1); // up is +z, right is -x
    c.door.press('move.up');
    tick(c);
    expect([c.facts.hit('ahead'), c.facts.distance('ahead')]).toEqual([true, 4 - c.readout.z]);
    // Half a metre to the side of facing, which looks along +z.
    expect(c.facts.fact('ahead.x')).toBeCloseTo(-0.5, 9);
    c.door.release('move.up');
    tap(c, 'gaff');
    expect(near(c).slice(0, 2)).toEqual([0, 5]);
    tick(c, 9);
    c.door.press('move.right');
    c.door.press('gale');
    tick(c);
    expect(near(c)).toEqual([-6, 0, -1, 0]);
    expect(c.facts.hit('ahead')).toBe(false);
  });

  test('forward and back are told by the camera and facing; up and down are no directions there', () => {
    const c = makeCharacter(`${OPEN}abilities:
  ahead: { start: { press: gaff, toward: forward }, phases: [{ for: 1f }] }
  behind: { start: { press: gaff, toward: back }, face: fixed, phases: [{ for: 1f }] }`);
    c.door.camera(0, 1);
    c.door.press('move.left'); // +x, where it faces
    expect(tap(c, 'gaff')).toContain('+ahead');
    c.door.release('move.left');
    c.door.press('move.right');
    c.door.press('gaff');
    expect(tick(c)).toContain('+behind');
    const { diagnostics } = checkMoveset(
      {
        loggia: 1,
        name: 'Pell',
        view: 'open',
        inputs: { gaff: { button: 'KeyJ' } },
        stances: { fall: {} },
        abilities: { up: { start: { press: 'gaff', toward: 'up' }, phases: [{ for: '1f' }] } },
      },
      advise,
    );
    expect(diagnostics.map(wordDiagnostic)).toContain(
      'This start can never happen: no stick gives "up" in the open view; use "forward" or "back".',
    );
  });

  test('walls turn the body aside in z as well', () => {
    const world = new BoxWorld([
      { from: [-20, -1, -20], to: [20, 0, 20] },
      { from: [-20, 0, 2], to: [20, 5, 3] },
      { from: [3, 0, -20], to: [4, 5, 20] },
    ]);
    const c = makeCharacter(OPEN, { world, at: [0, 0, 1.6] });
    c.door.camera(0, 1);
    for (const key of ['move.up', 'move.left']) c.door.press(key); // +z and +x
    tick(c, 20);
    expect(c.readout.z).toBeCloseTo(1.7, 5);
    expect([c.readout.vz, c.readout.vx > 2]).toEqual([0, true]);
    expect([c.record[16], c.record[17]]).toEqual([0, -1]);
    // Into the corner: both are met within one tick.
    tick(c, 120);
    expect([c.readout.x, c.readout.z].map((n) => Math.round(n * 1e4) / 1e4)).toEqual([2.7, 1.7]);
    expect([c.readout.vx, c.readout.vz]).toEqual([0, 0]);
  });
});

test('floor, wall and ceiling may all be met within one tick', () => {
  const world = new BoxWorld([
    { from: [-9, -1, -9], to: [9, 0, 9] },
    { from: [2, 0, -9], to: [3, 9, 9] },
    { from: [-9, 0, 2], to: [9, 9, 3] },
  ]);
  const c = makeCharacter('view: open\nbody: { gravity: 0, fall: 10000, walk: { brake: 0 } }', {
    world,
    at: [0, 1, 0],
  });
  c.door.velocity(200, -200, 300);
  tick(c);
  const place = [c.readout.x, c.readout.y, c.readout.z].map((n) => Math.round(n * 1e4) / 1e4);
  expect([place, c.readout.grounded]).toEqual([[1.7, 0, 1.7], true]);
});

describe('several lanes', () => {
  test('hold the same part of the velocity: the later lane counts, and each its own part', () => {
    const c = makeCharacter(
      `
lanes: [body, legs]
body: { gravity: 0 }
abilities:
  one: { start: { press: gaff }, steer: 0, phases: [{ for: 9f, move: { forward: 3, up: 1 } }] }
  two: { lane: legs, start: { press: gale }, phases: [{ for: 5f, move: { forward: 7 } }] }`,
      { world: flatGround(), at: [0, 9] },
    );
    c.door.press('gaff');
    c.door.press('gale');
    tick(c);
    expect([c.readout.vx, c.readout.vy]).toEqual([7, 1]);
    tick(c, 5);
    expect([c.readout.vx, c.readout.vy]).toEqual([3, 1]);
  });
});
