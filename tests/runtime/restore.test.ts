import { describe, expect, test } from 'vitest';
import { Character, flatGround, Tape, UsageError } from '../../src/index.js';
import { forRandom, MOVESETS } from '../random/for-random.js';
import { makeMoveset } from '../random/moveset.js';
import { create, makeScript, play, worldOf } from '../random/play.js';
import { makeCharacter, pellPlan, plan, SMALL, tick } from '../support.js';

const MOVES = `
events: [bell]
abilities:
  jab: { start: { press: gaff }, phases: [{ for: 3f }] }
  brace: { start: { hold: gale } }
  wave: { start: { event: bell }, phases: [{ for: 1f }] }`;

describe('after restore, the run goes on as the record says, with the devices as they are now', () => {
  test('a button that went down since is pressed again', () => {
    const c = makeCharacter(MOVES);
    tick(c);
    const snapshot = c.snapshot();
    c.door.press('gaff');
    expect(tick(c)).toContain('+jab');
    c.restore(snapshot);
    c.door.press('gaff'); // it is down already, as far as the device goes
    expect(tick(c)).toContain('+jab');
  });

  test('a key that is held now goes on moving the body', () => {
    const c = makeCharacter(MOVES);
    tick(c);
    const snapshot = c.snapshot();
    c.door.press('move.right');
    tick(c, 5);
    c.restore(snapshot);
    tick(c, 30);
    expect(c.readout.vx).toBe(5);
    expect(c.facts.held('move.right')).toBe(true);
  });

  test('what was released since ends what it held', () => {
    const c = makeCharacter(MOVES);
    c.door.press('gale');
    tick(c, 2);
    const snapshot = c.snapshot();
    c.door.release('gale');
    tick(c);
    c.restore(snapshot);
    expect(c.readout.isRunning('brace')).toBe(true);
    expect(tick(c)).toEqual(['-brace released']);
  });

  test('a stick that gives the same value as before the restore still counts', () => {
    const c = makeCharacter(MOVES);
    tick(c);
    const snapshot = c.snapshot();
    c.door.stick('move', 1, 0);
    tick(c);
    c.restore(snapshot);
    c.door.stick('move', 1, 0);
    tick(c);
    expect(c.facts.fact('move.x')).toBe(1);
  });

  test('what waited in the door is dropped, and the events of another tick are not read', () => {
    const c = makeCharacter(MOVES);
    tick(c);
    const snapshot = c.snapshot();
    c.door.event('bell');
    tick(c);
    expect(c.readout.eventCount).toBeGreaterThan(0);
    c.door.event('bell');
    c.restore(snapshot);
    expect(c.readout.events).toEqual([]);
    expect(tick(c)).toEqual([]);
  });
});

test('a snapshot of another moveset or with holes in it is refused, and nothing has changed', () => {
  const c = makeCharacter(MOVES);
  tick(c, 3);
  const before = c.checksum();
  const holed = c.snapshot();
  holed[7] = Number.NaN;
  // As many numbers, but another order of the same names.
  const other = new Character(plan(SMALL + MOVES.replaceAll('jab', 'tap')), { world: flatGround() });
  expect(other.snapshot()).toHaveLength(holed.length);
  for (const [wrong, message] of [
    [new Float64Array(3), 'this snapshot has 3 numbers'],
    [undefined, 'this is no snapshot: it must be a Float64Array'],
    [
      JSON.parse(JSON.stringify(c.snapshot())),
      'For JSON, keep Array.from(snapshot, String), and read it by Float64Array.from(list, Number).',
    ],
    [holed, 'number 7 of this snapshot is not a number'],
    [other.snapshot(), 'this is no snapshot of Pell'],
  ] as const) {
    expect(() => c.restore(wrong as Float64Array)).toThrow(UsageError);
    expect(() => c.restore(wrong as Float64Array)).toThrow(message);
    expect(c.checksum()).toBe(before);
  }
  const list = JSON.stringify(Array.from(c.snapshot(), String));
  c.restore(Float64Array.from(JSON.parse(list), Number));
  expect(c.checksum()).toBe(before);
  expect(() => new Character(Promise.resolve(c.plan) as never)).toThrow(
    'Character: this is a promise of a moveset: write "await" before it.',
  );
});

test('the checksum sees every number of the record that matters, and takes 0 and -0 for one', () => {
  const c = new Character(pellPlan(), { world: flatGround() });
  const sums = new Set([c.checksum()]);
  for (let i = 0; i < c.record.length; i++) {
    const kept = c.record[i];
    c.record[i] = kept === 12.5 ? 13 : 12.5;
    sums.add(c.checksum());
    c.record[i] = kept === 0 ? -0 : kept;
    if (kept === 0) expect(sums.has(c.checksum())).toBe(true);
    c.record[i] = kept;
  }
  // What was told of refusals is left out: it changes nothing that happens.
  expect(sums.size).toBe(c.record.length - c.plan.triggers.length + 1);
});

describe('tapes', () => {
  test('follow a restore: the run that was abandoned is not on it', () => {
    const c = makeCharacter(MOVES);
    c.tape = new Tape();
    tick(c, 3);
    const snapshot = c.snapshot();
    c.door.press('gaff');
    tick(c, 4);
    c.door.release('gaff');
    c.restore(snapshot);
    c.door.press('gale');
    tick(c, 3);
    const saved = Tape.from(JSON.parse(JSON.stringify(c.tape)));
    const again = makeCharacter(MOVES);
    saved.rewindTo(again);
    for (let i = 0; i < 6; i++) {
      saved.feed(again);
      again.tick();
    }
    expect(again.checksum()).toBe(c.checksum());
    expect(again.readout.isRunning('brace')).toBe(true);
  });

  test('begin again with what is no part of their run', () => {
    const other = makeCharacter(MOVES);
    other.door.press('move.right');
    tick(other, 20);
    const c = makeCharacter(MOVES);
    c.tape = new Tape();
    tick(c, 30);
    c.restore(other.snapshot());
    tick(c, 2);
    const again = makeCharacter(MOVES);
    c.tape.rewindTo(again);
    expect(again.readout.x).toBe(other.readout.x);
    for (let i = 0; i < 2; i++) {
      c.tape.feed(again);
      again.tick();
    }
    expect(again.checksum()).toBe(c.checksum());
  });

  test('hold place, facing, moveset and format, so that they replay in a character that began otherwise', () => {
    const c = makeCharacter(MOVES, { world: flatGround(), at: [7, 2], facing: -1 });
    c.tape = new Tape();
    c.door.freeze(3);
    c.door.event('bell');
    tick(c, 6);
    const json = JSON.parse(JSON.stringify(c.tape));
    expect(json).toMatchObject({ loggia: 1, tape: 1, moveset: 'Pell', end: 5 });
    const again = makeCharacter(MOVES);
    const saved = Tape.from(json);
    saved.rewindTo(again);
    for (let i = 0; i < 6; i++) {
      saved.feed(again);
      again.tick();
    }
    expect([again.readout.x, again.readout.facing, again.checksum()]).toEqual([7, -1, c.checksum()]);
  });

  test('that somebody changed are refused with a sentence, and change nothing', () => {
    const c = makeCharacter(MOVES);
    c.tape = new Tape();
    c.door.press('gaff');
    tick(c, 2);
    const json = JSON.stringify(c.tape);
    const changed = (from: string | RegExp, to: string) => () => {
      expect(json).toMatch(from);
      const again = makeCharacter(MOVES);
      const before = again.checksum();
      try {
        Tape.from(JSON.parse(json.replace(from, to))).rewindTo(again);
      } finally {
        expect(again.checksum()).toBe(before);
      }
    };
    const row = /"rows":\[\[.*?\]\]/;
    expect(changed(row, '"rows":[[0,99,0,0,0]]')).toThrow('at tick 0, 99 is not the index of a button here');
    expect(changed(row, '"rows":[[77,0,0,0,0]]')).toThrow('there is no kind of row 77');
    expect(changed(row, '"rows":[[7,0,null,0,0]]')).toThrow('needs three numbers');
    expect(changed(row, '"rows":[5]')).toThrow('a row must be a list');
    expect(changed(row, '"rows":5')).toThrow('rising ticks, and rows');
    expect(changed('"tape":1', '"tape":2')).toThrow('no tape of format 1');
    expect(changed(/"layout":\d+/, '"layout":1')).toThrow('it was recorded with Pell');
    expect(() => Tape.from(null)).toThrow(UsageError);
  });
});

test.each([
  ['where the body is', (c: Character) => c.plan.layout.ranges[0].at + 4],
  ['what is in a pool', (c: Character) => c.plan.pools[0].at],
  ['where a mark is', (c: Character) => c.plan.marksAt + 1],
  ['where an aim points', (c: Character) => c.plan.aimsAt + 1],
])('a snapshot in which %s has no end, or is nowhere, is refused and named', (_, placeOf) => {
  const c = new Character(
    plan(
      `${SMALL}pools: { wind: { max: 9 } }\nmarks: { moored: {} }\n`.replace(
        'inputs:',
        'inputs:\n  sight: { aim: { pad: right } }',
      ),
    ),
    { world: flatGround() },
  );
  for (const value of [Number.POSITIVE_INFINITY, -1e13]) {
    const spoilt = c.snapshot();
    spoilt[placeOf(c)] = value;
    expect(() => c.restore(spoilt)).toThrow(
      `number ${placeOf(c)} of this snapshot is ${value}, which stands for nothing`,
    );
  }
});

test('whatever somebody wrote into a snapshot or a tape is refused with a sentence, or runs', () => {
  const counts = { refused: 0, ran: 0 };
  forRandom(MOVESETS, (random, seed) => {
    const moveset = makeMoveset(random);
    const c = create(moveset, worldOf(random, moveset));
    c.tape = new Tape();
    play(c, makeScript(random, moveset, 20));
    const json = JSON.parse(JSON.stringify(c.tape));
    const odd = () => random.pick([-1, 0, 0.5, 3, 99, -1e9, 1e300, 'Infinity', '-Infinity', null, 'x']);
    const at = random.whole(0, json.start.length - 1);
    if (random.chance(0.7)) json.start[at] = odd();
    else {
      const { rows } = random.pick(json.entries as { rows: unknown[][] }[]) ?? { rows: [] };
      if (rows.length > 0) random.pick(rows)[random.whole(0, 4)] = odd();
    }
    try {
      const tape = Tape.from(json);
      tape.rewindTo(c);
      for (let i = 0; i < 30; i++) {
        tape.feed(c);
        c.tick();
        void c.readout.events;
      }
      counts.ran++;
    } catch (error) {
      if (!(error instanceof UsageError)) throw new Error(`seed ${seed}, place ${at}: ${(error as Error).stack}`);
      expect(error.message).toMatch(/^(restore|Tape): .*\.$/);
      counts.refused++;
    }
  });
  expect(Math.min(counts.refused, counts.ran)).toBeGreaterThan(MOVESETS / 5);
});
