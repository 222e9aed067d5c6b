import { describe, expect, test } from 'vitest';
import { Character, type Hit } from '../../src/index.js';
import { makeCharacter, plan, SMALL, tick } from '../support.js';

const ground = { x: 0, y: 0, vx: 0, vy: 0, grounded: true };

describe('an engine that moves the body', () => {
  test('where it begins is nothing that happens', () => {
    const c = makeCharacter('', {});
    c.door.contacts(ground);
    expect(tick(c)).toEqual([]);
    expect([c.readout.stance, c.facts.landed, c.facts.fact('ground.time')]).toEqual(['stand', false, 0]);
    c.door.contacts({ ...ground, y: 1, grounded: false });
    expect(tick(c)).toEqual(['airborne', 'stance fall']);
  });

  test('is told what moves hold, gravity, the fastest fall, and to stand still in a freeze', () => {
    const c = makeCharacter(
      'abilities: { dash: { start: { press: gale }, gravity: 50%, fall: 3, phases: [{ for: 3f, move: { forward: 9 } }, { for: 3f, move: { up: 2 } }] } }',
      {},
    );
    c.door.contacts({ ...ground, vy: -3, grounded: false });
    tick(c);
    expect(c.readout.drive).toMatchObject({ vy: -3, gravity: 25, fall: 20, holdsLevel: false, holdsUpright: false });
    c.door.press('gale');
    tick(c);
    expect(c.readout.drive).toMatchObject({ vx: 9, gravity: 12.5, fall: 3, holdsLevel: true, holdsUpright: false });
    tick(c, 3);
    expect(c.readout.drive).toMatchObject({ vy: 2, holdsLevel: false, holdsUpright: true, stopped: false });
    c.door.freeze(2);
    tick(c);
    expect(c.readout.drive.stopped).toBe(true);
    // It stood still: what it tells of that is no news.
    c.door.contacts({ ...ground, x: 7, vx: 0 });
    tick(c, 2);
    expect([c.readout.drive.stopped, c.readout.x, c.readout.drive.vy]).toEqual([false, 0, 2]);
  });

  test('is told where code put the body, and may not put it back in that tick', () => {
    const c = makeCharacter('', {});
    c.door.place(5, 6);
    c.door.contacts(ground);
    tick(c);
    expect(c.readout.drive).toMatchObject({ warped: true, x: 5, y: 6, z: 0 });
    tick(c);
    expect(c.readout.drive.warped).toBe(false);
  });

  test('says where there is room, and the shape follows', () => {
    const c = makeCharacter(
      'body: { shapes: { tall: [0.6, 1.8], low: [0.6, 0.9] } }\nabilities: { duck: { start: { hold: gale }, body: low } }',
      {},
    );
    c.door.contacts(ground);
    c.door.press('gale');
    tick(c);
    expect(c.readout.drive).toMatchObject({ shape: 'low', width: 0.6, height: 0.9 });
    c.door.contacts({ ...ground, headroom: false });
    c.door.release('gale');
    tick(c);
    expect([c.readout.drive.shape, c.facts.headroom]).toEqual(['low', false]);
    c.door.contacts(ground);
    tick(c);
    expect(c.readout.drive.shape).toBe('tall');
  });

  test('says where there is room, and a loadout waits for it', () => {
    const c = makeCharacter(
      'body: { shapes: { tall: [0.6, 1.8], low: [0.6, 0.9] } }\nabilities: { roll: { start: { hold: gale }, loadout: ball }, jab: { start: { code: only }, phases: [{ for: 1f }] } }\nloadouts: { rigger: { abilities: [jab] }, ball: { abilities: [jab], body: low } }',
      {},
    );
    const withRoom = (headroom: boolean) => {
      c.door.contacts({ ...ground, headroom });
      tick(c);
      return [c.readout.loadout, c.readout.drive.shape];
    };
    c.door.press('gale');
    expect(withRoom(true)).toEqual(['ball', 'low']);
    c.door.release('gale');
    expect(withRoom(false)).toEqual(['ball', 'low']);
    expect(withRoom(true)).toEqual(['rigger', 'tall']);
  });

  test('tells walls, ceilings, and what the ground is like', () => {
    const c = makeCharacter('', {});
    c.door.contacts({
      ...ground,
      wallX: -1,
      ceiling: true,
      groundNormal: [0.6, 0.8, 0],
      groundVelocity: [0, 2, 1],
    });
    tick(c);
    const facts = ['atWall', 'atCeiling', 'ground.normal.x', 'ground.normal.y', 'ground.vy', 'ground.vz'];
    expect(facts.map((fact) => c.facts.fact(fact))).toEqual([1, 1, 0.6, 0.8, 2, 1]);
    c.door.contacts(ground);
    tick(c);
    expect(facts.map((fact) => c.facts.fact(fact))).toEqual([0, 0, 0, 1, 0, 0]);
  });

  test('answers probes through one function, in the form of a world; a moveset that needs it is refused without', () => {
    const more =
      'surfaces: [rough]\nprobes: { wall: { ray: [4, 0], at: [0, 1], on: rough } }\nabilities: { cling: { start: { rule: wall.hit } } }';
    expect(() => makeCharacter(more, {})).toThrow(
      'Character: Pell reads the probe wall, and nothing would answer it: give a "world", or a function "probes" that asks your engine.',
    );
    const asked: unknown[] = [];
    const c = new Character(plan(SMALL + more), {
      probes: (cast, hit: Hit) => {
        asked.push([cast.kind, cast.surfaces, cast.x, cast.y, cast.dx]);
        Object.assign(hit, { part: 0.5, nx: -1, ny: 0, nz: 0 });
        return cast.dx > 0;
      },
    });
    expect(tick(c)).toContain('+cling');
    expect(asked[0]).toEqual(['ray', ['rough'], 0, 1, 4]);
    expect(c.facts.distance('wall')).toBe(2);
    // A probe that nothing reads asks nothing.
    expect(() => makeCharacter('probes: { wall: { ray: [4, 0] } }', {})).not.toThrow();
  });
});
