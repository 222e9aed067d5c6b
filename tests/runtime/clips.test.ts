import { expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import { Character, flatGround } from '../../src/index.js';
import { makeCharacter, plan, sentences, tap, tick } from '../support.js';

const BOAT = `
loggia: 1
name: Pell
inputs: { move: { stick: { left: KeyA, right: KeyD } }, gaff: { button: KeyJ }, lantern: { button: KeyL } }
events: [dust, puff, creak, swish, glow, out]
clips: { run: 20f, jab: 10f }
stances:
  stride: { when: grounded and moving, clip: { base: run, coat: coatRun }, beats: [{ place: 0.25, emit: dust }, { place: 0.75, emit: dust }] }
  stand: { when: grounded, clip: stand, beats: [{ moment: begin, emit: puff }, { moment: end, emit: creak }, { every: 30f, emit: creak }] }
  fall: {}
abilities:
  jab: { start: { press: gaff }, steer: 0, walk: { brake: 0 }, clip: jab, beats: [{ place: 0.5, emit: swish }, { moment: end, emit: out }], phases: [{ for: 4f }, { for: 6f }] }
  light: { lane: lamp, start: { toggle: lantern }, loadout: lit }
lanes: [body, lamp]
loadouts:
  plain: { abilities: [jab] }
  lit: { abilities: [jab], clip: { glow: flame }, beats: [{ moment: begin, emit: glow }, { at: 3f, emit: glow }, { moment: end, emit: out }] }
`;

const emitted = (c: Character, ticks: number) => {
  const told: [number, string][] = [];
  for (let i = 0; i < ticks; i++) {
    c.tick();
    for (const event of c.readout.events) if (event.kind === 'emitted') told.push([c.readout.tick, event.event]);
  }
  return told;
};

test('stances and loadouts have beats: as they begin and end, at times, and at places of their clips while these are shown', () => {
  const c = new Character(plan(BOAT), { world: flatGround(), at: [0, 1] });
  expect(emitted(c, 70)).toEqual([
    [17, 'puff'], // lands
    [47, 'creak'],
  ]);
  c.door.press('move.right');
  expect(emitted(c, 50)).toEqual([
    [71, 'creak'],
    [76, 'dust'],
    [86, 'dust'],
    [96, 'dust'],
    [106, 'dust'],
    [116, 'dust'],
  ]);
  // While the jab is shown there are no footfalls; in its middle it swishes, once.
  c.door.press('gaff');
  expect(emitted(c, 14)).toEqual([
    [125, 'swish'],
    [130, 'out'],
  ]);
  c.door.release('move.right');
  tick(c, 20);
  c.door.press('lantern');
  expect(emitted(c, 6).map(([, event]) => event)).toEqual(['glow', 'glow']);
  c.door.release('lantern');
  c.tick();
  c.door.press('lantern');
  expect(emitted(c, 2).map(([, event]) => event)).toEqual(['out']);
});

test('each layer has a clip of its own, with its beginning and how far it is', () => {
  const c = new Character(plan(BOAT), { world: flatGround() });
  c.door.press('move.right');
  tick(c, 7);
  expect(c.plan.layers).toEqual(['base', 'coat', 'glow']);
  expect([c.readout.clip, c.readout.clipProgress]).toEqual(['run', 5 / 20]);
  expect(c.readout.layer('coat')).toEqual({ clip: 'coatRun', since: 1, time: 5 / 60, progress: null });
  expect(c.readout.layer('glow').clip).toBeNull();
  tap(c, 'gaff');
  // The jab lies over the run on its own layer only.
  expect([c.readout.clip, c.readout.layer('coat').clip, c.readout.layer('base').progress]).toEqual([
    'jab',
    'coatRun',
    0.1,
  ]);
  expect(() => c.readout.layer('cote')).toThrow('there is no layer "cote"');
});

test('a place needs a clip of known length', () => {
  const faulty = (stand: string) =>
    sentences(parseMoveset(`loggia: 1\nname: Pell\nclips: { run: 20f }\nstances: { stand: ${stand} }`)).join();
  expect(faulty('{ clip: rnu, beats: [{ place: 0.5 }] }')).toContain('The length of the clip "rnu" is not known');
  expect(faulty('{ beats: [{ place: 0.5 }] }')).toContain('none is shown here: add a "clip"');
  expect(faulty('{ clip: run, beats: [{ place: 0.5 }] }')).toContain('this beat has nothing to do');
  expect(faulty('{ clip: run, beats: [{ place: 0.5, gain: {} }] }')).toBe('');
});

test('a curve leads the body through its places, relative to facing', () => {
  const c = makeCharacter(
    `abilities: { vault: { start: { press: gaff }, gravity: 0, steer: 0, phases: [{ for: 12f, move: { keep: 0, curve: [{ at: 6f, to: [0.6, 1.2] }, { at: 12f, to: [2, 0] }] } }] } }`,
    { world: flatGround(), at: [3, 0], facing: -1 },
  );
  c.door.press('gaff');
  const path: number[][] = [];
  for (let i = 0; i < 14; i++) {
    tick(c);
    path.push([c.readout.x, c.readout.y].map((n) => Math.round(n * 1e6) / 1e6));
  }
  expect(path[2]).toEqual([2.7, 0.6]);
  expect(path[5]).toEqual([2.4, 1.2]);
  expect([path[11], path[13]]).toEqual([
    [1, 0],
    [1, 0],
  ]);
});
