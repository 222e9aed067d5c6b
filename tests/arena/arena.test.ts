import { expect, test } from 'vitest';
import { Arena, ArenaTape, compileOpponent } from '../../src/arena/index.js';
import { Character, flatGround, type UsageError } from '../../src/index.js';
import { plan } from '../support.js';
import { duel, FIGHTER, JAB, jab, ticks } from './duel.js';

test('a host may say who is in a volume; whom a strike is for, and how often, stays the arena', () => {
  const made = plan(FIGHTER + JAB);
  const asked: string[] = [];
  const arena = new Arena({
    world: flatGround(),
    finds: (strike, volume, found) => {
      asked.push(`${strike.by.id} at ${volume.x.toFixed(1)}`);
      for (const member of arena.members) found(member);
    },
  });
  arena.add('pell', made);
  arena.add('far', made, { at: [50, 0] });
  arena.find('pell')?.character.door.press('gaff');
  expect(ticks(arena, 9)).toEqual(['3 pell far struck 4']);
  expect(asked).toEqual(['1 at 0.8', '1 at 0.8']);
});

test('one alone in an arena does what it does by itself, number for number', () => {
  const made = plan(FIGHTER + JAB);
  const alone = new Character(made, { world: flatGround() });
  const arena = new Arena({ world: flatGround() });
  const { character } = arena.add('pell', made);
  for (const c of [alone, character]) c.door.press('gaff');
  for (let i = 0; i < 30; i++) {
    alone.tick();
    arena.tick();
    expect(character.checksum()).toBe(alone.checksum());
  }
});

test('volumes are shown where they are, for drawing', () => {
  const text = FIGHTER.replace(
    'hurt: { pool: grit }',
    'hurt: { pool: grit, volumes: { tall: [{ sphere: 0.3, at: [0.1, 1.5] }] } }',
  );
  const { arena, pell } = duel(text + jab('', '{ box: [1, 0.6], at: [0.8, 1.2] }'), undefined, { apart: 9 });
  pell.door.face(-1);
  pell.door.press('gaff');
  ticks(arena, 3);
  expect(pell.readout.volumes).toEqual([
    { part: 'hurt', shape: 'capsule', from: { x: -0.1, y: 1.5, z: 0 }, to: { x: -0.1, y: 1.5, z: 0 }, radius: 0.3 },
  ]);
  ticks(arena);
  expect(pell.readout.volumes[0]).toMatchObject({ part: 'hit', shape: 'box', middle: { x: -0.8, y: 1.2 }, width: 1 });
});

test('what cannot be is refused with a sentence, and changes nothing', () => {
  const made = plan(FIGHTER + JAB);
  const arena = new Arena({ world: flatGround() });
  arena.add('pell', made);
  const before = arena.checksum();
  expect(() => arena.add('pell', made)).toThrow('add: there is a member "pell" already');
  expect(() => arena.add('slow', plan(`${FIGHTER}${JAB}rate: 30\n`))).toThrow(
    'Pell has 30 ticks per second, and this arena has 60',
  );
  expect(() => arena.remove('pel')).toThrow('remove: there is no member "pel". Did you mean "pell"?');
  expect(() => arena.restore(new Float64Array(9))).toThrow('restore: this is no snapshot of an arena');
  const snapshot = arena.snapshot();
  const strange = snapshot.slice();
  strange[5] = 7;
  expect(() => arena.restore(strange)).toThrow('it has a member that this arena never had');
  strange.set(snapshot);
  strange[40] = Number.NaN;
  expect(() => arena.restore(strange)).toThrow('is not a number');
  expect(arena.checksum()).toBe(before);
  const codeOf = (call: () => unknown) => {
    try {
      return call();
    } catch (error) {
      return (error as UsageError).code;
    }
  };
  const opponent = compileOpponent(plan(FIGHTER), {
    loggia: 1,
    opponent: 'Mirl',
    acts: [{ when: 'true', press: 'gaff' }],
  });
  expect([
    codeOf(() => arena.add('pell', made)),
    codeOf(() => arena.add('slow', plan(`${FIGHTER}${JAB}rate: 30\n`))),
    codeOf(() => arena.add('mirl', made, { plays: opponent })),
    codeOf(() => arena.remove('pel')),
    codeOf(() => arena.restore(strange)),
    codeOf(() => new ArenaTape().toJSON()),
    codeOf(() => arena.add('mirl', made, { at: 3 as never })),
  ]).toEqual(['name-taken', 'other-rate', 'other-moveset', 'unknown-name', 'wrong-record', 'missing', 'wrong-type']);
});

test('who leaves and joins comes and goes with a snapshot', () => {
  const { arena, pell } = duel(FIGHTER + JAB);
  const both = arena.snapshot();
  arena.remove('sentry');
  ticks(arena, 5);
  const one = arena.snapshot();
  arena.add('late', pell.plan, { at: [2, 0] });
  ticks(arena, 3);
  arena.restore(one);
  expect(arena.members.map(({ name, alive }) => [name, alive])).toEqual([['pell', true]]);
  arena.restore(both);
  expect(arena.members.map(({ name, alive }) => [name, alive])).toEqual([
    ['pell', true],
    ['sentry', true],
  ]);
});

test('engines may move the bodies: strikes and pushes are the same', () => {
  const made = plan(FIGHTER + jab('', '{ box: [1, 0.6], at: [0.8, 1.2], damage: 4, push: [3, 2] }'));
  const arena = new Arena();
  const pell = arena.add('pell', made).character;
  const sentry = arena.add('sentry', made, { facing: -1 }).character;
  pell.door.press('gaff');
  for (let i = 0; i < 5; i++) {
    pell.door.contacts({ x: 0, y: 0, vx: 0, vy: 0, grounded: true });
    sentry.door.contacts({ x: 1.2, y: 0, vx: 0, vy: 0, grounded: true });
    arena.tick();
    if (i === 3) expect(arena.events).toMatchObject([{ to: 'sentry', outcome: 'struck', damage: 4 }]);
  }
  expect(sentry.readout.drive).toMatchObject({ vx: 3, vy: 2 });
});

test('in the open, volumes and pushes turn all the way round', () => {
  const text = (
    FIGHTER + jab('', '{ capsule: 0.2, at: [0.3, 1], to: [1.4, 1, 0], damage: 1, push: [3, 0, 1] }')
  ).replace('name: Pell', 'name: Pell\nview: open');
  const made = plan(text);
  const arena = new Arena({ world: flatGround() });
  const pell = arena.add('pell', made).character;
  const other = arena.add('other', made, { at: [0, 0, -1.2] }).character;
  arena.add('ahead', made, { at: [1.2, 0] });
  pell.door.face(0, -1);
  pell.door.press('gaff');
  expect(ticks(arena, 5)).toEqual(['3 pell other struck 1']);
  // Forward is -z now, and to the side is x.
  expect([other.readout.vx, other.readout.vz]).toEqual([expect.closeTo(1), expect.closeTo(-3)]);
});
