import { describe, expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import {
  Character,
  flatGround,
  loadProgress,
  packMoveset,
  saveProgress,
  Tape,
  TileWorld,
  unpackMoveset,
} from '../../src/index.js';
import { plan, sentences, tick } from '../support.js';

const BOAT = `
loggia: 1
name: Pell
inputs:
  move: { stick: { left: KeyA, right: KeyD, up: KeyW, down: KeyS } }
  aim: { aim: { pad: right } }
  berth: { choice: { slip: Digit1, mast: Digit2, nowhere: [] } }
  hook: { button: KeyQ }
  go: { button: KeyT }
  step: { button: KeyE }
  fly: { button: KeyF }
places: [slip, mast]
surfaces: [rough]
marks: { moored: { saved: true }, spot: {} }
probes:
  line: { along: [aim, facing], reach: 6, from: middle }
  behind: { ray: [1, 0], from: spot }
stances: { stand: { when: grounded }, fall: {} }
abilities:
  hook: { start: { hold: hook }, marks: [hooked], mark: { hooked: line }, phases: [{ move: { along: [toward(hooked), up], speed: 2, live: true } }] }
  go: { start: { press: go }, warp: { to: berth, offset: [0.5, 0.1], raise: 1, momentum: drop }, phases: [{ for: 3f }] }
  step: { start: { press: step }, warp: { along: [aim, facing], by: 3, momentum: turn }, phases: [{ for: 3f }] }
  fly: { start: { press: fly }, phases: [{ for: 5f }, { for: 3f, warp: { to: moored, raise: 0 }, mark: { spot: feet } }] }
  forget: { start: { event: forget }, phases: [{ for: 1f, mark: { moored: none } }] }
events: [forget]
`;
const yard = new TileWorld(['..........', '.....R....', '.S...R..M.', '##########'], {
  legend: { R: { tags: ['rough'] } },
  places: { slip: 'S', mast: 'M' },
});
const pell = plan(BOAT);
const make = (at: [number, number] = [2.5, 1]) => new Character(pell, { world: yard, at });

describe('marks', () => {
  test('an ability remembers what its probe struck, and forgets it however it ends', () => {
    const c = make();
    tick(c);
    expect([c.readout.mark('hooked'), c.facts.distanceTo('hooked')]).toEqual([null, 1e6]);
    for (const end of ['release', 'code'] as const) {
      c.door.press('hook');
      tick(c, 2);
      expect(c.readout.mark('hooked')).toEqual({ x: 5, y: 1.9, z: 0 });
      expect([c.facts.known('hooked'), c.facts.fact('hooked.x')]).toEqual([true, 5]);
      expect(c.facts.on('rough', 'line')).toBe(true);
      if (end === 'release') c.door.release('hook');
      else c.door.end('hook');
      tick(c);
      expect([c.readout.mark('hooked'), c.facts.fact('hooked.x')]).toEqual([null, 0]);
      c.door.release('hook');
      tick(c);
    }
  });

  test('those of the moveset stay, are set and unset by code and by effects, and are saved if they say so', () => {
    const c = make();
    c.door.mark('moored', 7.5, 1);
    c.door.mark('spot', 1, 2, 3);
    tick(c);
    const saved = JSON.parse(JSON.stringify(saveProgress(c)));
    expect(saved.marks).toEqual({ moored: [7.5, 1, 0] });
    const other = make();
    expect(loadProgress(other, saved).problems).toEqual([]);
    tick(other);
    expect([other.readout.mark('moored'), other.readout.mark('spot')]).toEqual([{ x: 7.5, y: 1, z: 0 }, null]);
    const { problems, aside } = loadProgress(other, {
      ...saved,
      marks: { moord: [1, 2, 3], spot: [0, 0, 0], moored: [1] },
    });
    expect(problems).toEqual([
      'There is no saved mark "moord" in Pell. Did it become "moored"?',
      'There is no saved mark "spot" in Pell.',
      'The place of "moored" must be a list of three numbers up to 1000000, not a list.',
    ]);
    expect(Object.keys(aside.marks as object)).toEqual(['moord', 'spot']);
    c.door.event('forget');
    tick(c, 2);
    expect(c.readout.mark('moored')).toBeNull();
    c.door.unmark('spot');
    tick(c);
    expect(c.facts.known('spot')).toBe(false);
    expect(() => c.door.mark('moord' as never, 0, 0)).toThrow('Did you mean "moored"?');
    expect(() => c.door.mark('moored', Number.NaN, 0)).toThrow('mark: NaN is not a number');
  });

  test('a probe that begins at a mark misses as long as there is none', () => {
    const c = make();
    tick(c);
    expect(c.facts.hit('behind')).toBe(false);
    c.door.mark('spot', 4.5, 1.5);
    tick(c);
    expect([c.facts.hit('behind'), c.facts.distance('behind')]).toEqual([true, 0.5]);
  });
});

describe('aims and choices', () => {
  test('an aim is a direction, a point or nothing', () => {
    const c = make();
    const aim = () => [c.facts.known('aim'), c.facts.fact('aim.x'), c.facts.fact('aim.y')];
    c.door.aim('aim', 3, 4);
    tick(c);
    expect(aim()).toEqual([true, 0.6, 0.8]);
    c.door.aimAt('aim', 9, 5);
    tick(c);
    expect(aim()).toEqual([true, 9, 5]);
    c.door.aim('aim', 0, 0);
    tick(c);
    expect(aim()).toEqual([false, 0, 0]);
    expect(() => c.door.aim('aim', Number.POSITIVE_INFINITY, 0)).toThrow('aim: x, y and z must be numbers');
  });

  test('a choice that stands for a point warns of options that were meant to be places', () => {
    const warned = (options: string, places: string) =>
      sentences(
        parseMoveset(
          `loggia: 1\nname: Pell\nplaces: [${places}]\ninputs: { call: { button: KeyR }, berth: { choice: { ${options} } } }
stances: { stand: {} }
abilities: { go: { start: { press: call }, warp: { to: berth }, phases: [{ for: 1f }] } }`,
        ),
      ).filter((line) => line.includes('no place'));
    expect(warned('slip: Digit1, mast: Digit2', 'slip, mast')).toEqual([]);
    expect(warned('slip: Digit1, nowhere: Digit2', 'slip, mast')).toEqual([]);
    expect(warned('slip: Digit1, masst: Digit2', 'slip, mast')).toHaveLength(1);
    expect(warned('north: Digit1, south: Digit2', 'slip, mast')).toHaveLength(2);
  });

  test('a choice begins with its first option, and is set by its keys and by code', () => {
    const c = make();
    tick(c);
    expect([c.readout.choice('berth'), c.facts.chosen('berth.slip')]).toEqual(['slip', true]);
    c.door.press('berth.mast');
    tick(c);
    expect(c.readout.choice('berth')).toBe('mast');
    c.door.choose('berth', 'nowhere');
    tick(c);
    expect(c.facts.chosen('berth.nowhere')).toBe(true);
    expect(() => c.door.choose('berth', 'msat')).toThrow('Did you mean "berth.mast"?');
    const bad = c.snapshot();
    bad[pell.choicesAt] = 9;
    expect(() => c.restore(bad)).toThrow('stands for nothing');
  });
});

describe('warps', () => {
  test('lead to the place that is chosen, with an offset along facing; what is no place is refused', () => {
    const c = make();
    tick(c);
    c.door.velocity(4, 0);
    c.door.choose('berth', 'mast');
    c.door.press('go');
    const told = tick(c);
    expect(told.join()).toContain('warped');
    expect([c.readout.x, c.readout.vx]).toEqual([9, 0]);
    c.door.choose('berth', 'nowhere');
    c.door.release('go');
    tick(c, 6);
    c.door.press('go');
    tick(c);
    expect(c.explain('go').text).toBe('go may not start: there is no berth to go to.');
    expect(c.preview('go')).toEqual({ possible: false, reason: { code: 'target', wants: 'berth' } });
    expect(c.preview('hook')).toBeNull();
  });

  test('turn the velocity to where they lead', () => {
    const c = make([3.5, 1]);
    tick(c);
    c.door.velocity(3, 0);
    c.door.aim('aim', -1, 0);
    c.door.press('step');
    tick(c);
    expect(c.readout.x).toBeLessThan(0.6);
    expect(c.readout.vx).toBeLessThan(-1.9);
  });

  test('one that has lost its place by the time it comes ends its ability', () => {
    const c = make();
    c.door.mark('moored', 7.5, 1);
    c.door.press('fly');
    tick(c);
    c.door.mark('moored', 5.5, 1.2);
    const told = [...Array(8)].flatMap(() => {
      c.tick();
      return c.readout.events.filter((event) => event.kind === 'ended');
    });
    expect(told).toEqual([{ kind: 'ended', ability: 'fly', why: 'interrupted', by: null }]);
    // The mark of the same phase was set as it began; the warp led nowhere.
    expect(c.readout.x).toBe(2.5);
  });

  test('an engine is told where the body is put, and answers where there is room', () => {
    const c = new Character(pell, {
      probes: (cast, hit) => (cast.kind === 'overlap' ? yard.overlap(cast) : yard.sweep(cast, hit)),
      places: (name) => yard.find(name),
    });
    c.door.contacts({ x: 2.5, y: 1, vx: 0, vy: 0, grounded: true, groundSurfaces: ['rough'] });
    tick(c);
    expect(c.facts.on('rough')).toBe(true);
    c.door.press('step');
    tick(c);
    const { drive } = c.readout;
    expect([drive.warped, drive.x, drive.y]).toEqual([true, 4.7, 1]);
    tick(c);
    expect(drive.warped).toBe(false);
    expect(() => new Character(pell, {})).toThrow('nothing would answer it');
    expect(() => new Character(pell, { probes: () => false })).toThrow(
      'Pell has the place slip, and nothing knows where',
    );
  });
});

test('marks, aims, choices and warps are in snapshots, tapes and packs', () => {
  const packed = unpackMoveset(JSON.parse(JSON.stringify(packMoveset(pell))));
  const c = make();
  const tape = new Tape();
  c.tape = tape;
  const play = (one: Character, i: number) => {
    if (i === 1) one.door.aimAt('aim', 9, 3);
    if (i === 2) one.door.press('hook');
    if (i === 5) one.door.mark('spot', 1, 1);
    if (i === 9) one.door.choose('berth', 'mast');
    if (i === 12) one.door.press('go');
    if (i === 20) one.door.press('step');
    one.tick();
  };
  for (let i = 0; i < 10; i++) play(c, i);
  const middle = c.snapshot();
  for (let i = 10; i < 40; i++) play(c, i);
  const again = new Character(packed, { world: yard, at: [2.5, 1] });
  for (let i = 0; i < 40; i++) play(again, i);
  expect(again.checksum()).toBe(c.checksum());
  const fed = make();
  const read = Tape.from(JSON.parse(JSON.stringify(tape)));
  read.rewindTo(fed);
  for (let i = 0; i < 40; i++) {
    read.feed(fed);
    fed.tick();
  }
  expect(fed.checksum()).toBe(c.checksum());
  const back = make();
  back.restore(middle);
  expect([back.readout.choice('berth'), back.readout.mark('spot')]).toEqual(['mast', { x: 1, y: 1, z: 0 }]);
});

test('names are checked, with the nearest right one', () => {
  const faults = (change: (text: string) => string) => sentences(parseMoveset(change(BOAT))).join('\n');
  expect(faults((text) => text.replace('toward(hooked)', 'toward(hookd)'))).toContain('Did you mean "toward(hooked)"?');
  expect(faults((text) => text.replace('{ to: berth', '{ to: bert'))).toContain('Did you mean "berth"?');
  expect(faults((text) => text.replace('marks: [hooked]', 'marks: [moored]'))).toContain(
    '"moored" is the name of both a mark and a second mark',
  );
  expect(faults((text) => text.replace('  line: {', '  spot: {'))).toContain('"spot" is the name of both');
  expect(faults((text) => text.replace('by: 3,', 'by: 3, raise: 1,'))).toContain('it belongs to "to", not to "along"');
  expect(faults((text) => text.replace('by: 3', 'by: -3'))).toContain('-3 is out of range');
  const world = { ray: () => false, sweep: () => false, overlap: () => false };
  const near = plan(
    BOAT.replace('reach: 6', 'reach: 6')
      .replace('behind: { ray: [1, 0], from: spot }', 'behind: { nearest: 1 }')
      .replace('{ when: grounded }', '{ when: behind.hit }'),
  );
  expect(() => new Character(near, { world, places: () => undefined })).toThrow('give it a method "nearest"');
  expect(() => new Character(near, { world: flatGround() })).not.toThrow();
});
