import { expect, test } from 'vitest';
import { Arena, ArenaTape, checkOpponent, compileOpponent } from '../../src/arena/index.js';
import { flatGround, wordDiagnostic, wordPath } from '../../src/index.js';
import { plan } from '../support.js';
import { FIGHTER, JAB, ticks } from './duel.js';

const fighter = () => plan(FIGHTER + JAB);
const patient = (seed: number) =>
  ({
    seed,
    acts: [
      { when: 'foe.distance < 1.3', press: 'gaff', after: '10f', every: '30f', chance: '60%' },
      { when: 'foe.distance >= 1.2', push: { move: 'toward' } },
    ],
  }) as const;

function against(seed: number) {
  const made = fighter();
  const plays = compileOpponent(made, patient(seed));
  const arena = new Arena({ world: flatGround() });
  arena.add('pell', made);
  arena.add('sentry', made, { at: [4, 0], plays });
  return { arena, made };
}

test('an opponent walks up, waits its reaction, and strikes as its dice say', () => {
  const { arena } = against(1);
  const told = ticks(arena, 300);
  expect(told.length).toBeGreaterThan(3);
  expect(told.length).toBeLessThan(8);
  expect(new Set(told.map((line) => line.split(' ').slice(1).join(' ')))).toEqual(new Set(['sentry pell struck 4']));
  expect(arena.find('sentry')?.character.readout.x).toBeCloseTo(1, 1);
  // It comes within reach at 2.7 by foot, and may not press before it has seen that for ten ticks.
  expect(Number(told[0].split(' ')[0])).toBeGreaterThan(32 + 10);
  expect(ticks(against(2).arena, 300)).not.toEqual(told);
});

test('its dice and what it holds are in the snapshot, and a tape plays without it', () => {
  const { arena, made } = against(1);
  const tape = new ArenaTape();
  arena.tape = tape;
  ticks(arena, 60);
  const snapshot = arena.snapshot();
  const told = ticks(arena, 200);
  const sum = arena.checksum();
  const saved = ArenaTape.from(JSON.parse(JSON.stringify(tape)));
  arena.restore(snapshot);
  expect(ticks(arena, 200)).toEqual(told);
  expect(arena.checksum()).toBe(sum);

  const copy = new Arena({ world: flatGround() });
  saved.rewindTo(copy, [made]);
  while (copy.tickCount < saved.end) {
    saved.feed(copy);
    copy.tick();
  }
  expect(copy.checksum()).toBe(sum);
});

test('what is wrong in an opponent is told with its place', () => {
  const { diagnostics } = checkOpponent(fighter(), {
    acts: [{ when: 'fo.distance < 1', press: 'gafff' }, { when: 'true' }, { when: 'true', request: 'jab', chance: 2 }],
  });
  expect(diagnostics.map((d) => `${wordPath(d.path)}: ${wordDiagnostic(d)}`).sort()).toEqual([
    'acts[0].press: There is no button "gafff". Did you mean "gaff"?',
    'acts[0].when: There is no fact or function "fo.distance" here. Did you mean "foe.distance"?',
    'acts[1]: An act needs one of "press", "hold", "request" or "push".',
    'acts[2].chance: 2 is out of range: from 0 to 1 is allowed.',
  ]);
});

test('an opponent acts so long after what it sees, to the tick, and sees only who can be struck', () => {
  const begins = (after: `${number}f`, sentry = FIGHTER + JAB) => {
    const made = fighter();
    const arena = new Arena({ world: flatGround() });
    arena.add('sentry', plan(sentry), { at: [1, 0] });
    const acts = [{ when: 'foe.distance < 2', press: 'gaff', after, every: '90f' }] as const;
    const { character } = arena.add('pell', made, { plays: compileOpponent(made, { acts }) });
    for (let i = 1; i < 60; i++) {
      arena.tick();
      if (character.readout.isRunning('jab')) return i;
    }
    return 0;
  };
  // What it sees is from before the tick in which it acts: the first.
  expect([begins('0f'), begins('1f'), begins('10f')]).toEqual([1, 2, 11]);
  expect(begins('0f', FIGHTER.replace(/hurt: .*\n/, ''))).toBe(0);
});
