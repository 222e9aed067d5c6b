import { describe, expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import { Character, flatGround, TileWorld } from '../../src/index.js';
import { makeCharacter, plan, SMALL, sentences, tick } from '../support.js';

const CHUTE = new TileWorld(['#.....#', '#.....#', '#@....#', '#######']);
const KICK = `
probes: { wall: { ray: [0.6, 0], at: [0, 1] } }
abilities:
  kick:
    start: { press: jump }
    phases: [{ for: 4f, face: out(wall), steer: 0, gravity: 0, move: { along: [out(wall), up], speed: 6 } }]`;

describe('into and out of what a probe finds', () => {
  test('a kick off a wall turns the body round and goes away from it', () => {
    const c = makeCharacter(KICK, { world: CHUTE, at: [1.31, 2], facing: -1 });
    c.door.press('jump');
    c.door.press('move.left');
    tick(c, 2);
    expect([c.readout.facing, c.readout.vx]).toEqual([1, 6]);
    tick(c, 3);
    // The lock ends with the phase, and the stick turns the body again.
    expect(c.readout.facing).toBe(-1);
  });
  test('where the probe finds nothing the next direction counts, and facing stays', () => {
    const c = makeCharacter(KICK, { world: flatGround(), facing: -1 });
    c.door.press('jump');
    tick(c);
    expect([c.readout.facing, c.readout.vx, c.readout.vy]).toEqual([-1, 0, 6]);
  });
  test('into is the other way', () => {
    const c = makeCharacter(KICK.replaceAll('out(wall)', 'into(wall)'), { world: CHUTE, at: [1.5, 2], facing: -1 });
    c.door.press('jump');
    tick(c);
    expect([c.readout.facing, c.readout.vx]).toEqual([-1, -6]);
  });
  test('a moveset whose directions read a probe needs someone to answer', () => {
    expect(() => new Character(plan(SMALL + KICK), {})).toThrow('reads the probe wall');
  });
  test.each([
    ['along: out(wlal)', 'There is no stick or aim or word "out(wlal)". Did you mean "out(wall)"?'],
    ['along: onto(wall)', 'Did you mean "into(wall)"?'],
    ['along: camrea', 'Did you mean "camera"?'],
  ])('%s', (wrong, told) => {
    const text = SMALL + KICK.replace('along: [out(wall), up]', wrong);
    expect(sentences(parseMoveset(text)).join()).toContain(told);
  });
});

test('in the open a dash goes along the camera when no stick is pushed', () => {
  const c = new Character(
    plan(`
loggia: 1
name: Pell
view: open
inputs: { move: { stick: { left: KeyA, right: KeyD, up: KeyW, down: KeyS } }, gale: { button: KeyF } }
stances: { stand: {} }
abilities:
  dash: { start: { press: gale }, phases: [{ for: 9f, face: camera, steer: 0, move: { along: [move, camera], speed: 10 } }] }`),
    { world: flatGround() },
  );
  c.door.camera(3, -4);
  c.door.press('gale');
  tick(c);
  expect([c.readout.vx, c.readout.vz]).toEqual([6, -8]);
  expect([c.readout.facing, c.readout.facingZ]).toEqual([0.6, -0.8]);
});

test('along a floor a stick means what it means on the ground', () => {
  const c = new Character(
    plan(`
loggia: 1
name: Pell
view: open
inputs: { move: { stick: { left: KeyA, right: KeyD, up: KeyW, down: KeyS } }, gale: { button: KeyF } }
probes: { below: { ray: [0, -2], from: middle } }
stances: { stand: {} }
abilities:
  creep: { start: { hold: gale }, gravity: 0, steer: 0, move: { along: move, on: below, speed: 3, live: true } }`),
    { world: flatGround() },
  );
  c.door.camera(0, 1);
  c.door.press('gale');
  c.door.stick('move', 0, 1);
  tick(c, 2);
  expect([c.facts.fact('below.hit'), c.readout.vx, c.readout.vy, c.readout.vz]).toEqual([1, 0, 0, 3]);
});

describe('a live move', () => {
  const DRIFT = (live: boolean) => `
abilities: { drift: { start: { hold: gale }, steer: 0, gravity: 0, move: { along: [move, facing], speed: 3, live: ${live} } } }`;
  const drift = (live: boolean) => {
    const c = makeCharacter(DRIFT(live), { world: flatGround(), at: [0, 5] });
    c.door.press('gale');
    tick(c);
    c.door.press('move.left');
    tick(c);
    return c.readout.vx;
  };
  test('takes its direction in each tick; one that is not, only as it begins', () => {
    expect([drift(true), drift(false)]).toEqual([-3, 3]);
  });
  test('multiplies by a percentage only once', () => {
    const c = makeCharacter(
      'abilities: { cut: { start: { press: gale }, phases: [{ for: 5f, gravity: 0, move: { up: 50%, live: true } }] } }',
      { world: flatGround(), at: [0, 50] },
    );
    c.door.velocity(0, 8);
    c.door.press('gale');
    tick(c, 4);
    expect(c.readout.vy).toBe(4);
  });
});

test('code can turn a body', () => {
  const c = makeCharacter('', { world: flatGround() });
  c.door.face(-2);
  tick(c);
  expect(c.readout.facing).toBe(-1);
  for (const [x, z] of [
    [0, 0],
    [0, 1],
    [Number.NaN, 0],
    [Number.POSITIVE_INFINITY, 1],
  ])
    expect(() => c.door.face(x, z)).toThrow('face: x and z must be numbers');
});

test('along what only overlaps, a stick means what it means anywhere', () => {
  const c = makeCharacter(
    `view: open
probes: { near: { overlap: [2, 2] } }
abilities: { slide: { start: { hold: gale }, phases: [{ for: 9f, move: { along: [move, facing], on: near, speed: 6 } }] } }`,
    { world: flatGround() },
  );
  c.door.press('move.right');
  c.door.press('gale');
  tick(c, 5);
  expect([c.readout.vx, c.readout.vz]).toEqual([6, 0]);
  expect(c.readout.x).toBeGreaterThan(0.4);
});
