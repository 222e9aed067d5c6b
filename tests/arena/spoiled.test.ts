import { expect, test } from 'vitest';
import { Arena, ArenaTape } from '../../src/arena/index.js';
import { flatGround, UsageError } from '../../src/index.js';
import { forRandom, MOVESETS } from '../random/for-random.js';
import type { Random } from '../random/random.js';
import { spoil } from '../random/spoil.js';
import { plan } from '../support.js';
import { FIGHTER, JAB } from './duel.js';

const gull = plan(`loggia: 1
name: Gull
body: { gravity: 0, shapes: { small: [0.4, 0.4] } }
stances: { rest: {} }
abilities:
  peck: { start: { rule: foe.distance < 9 }, phases: [{ for: 3f, strike: { sphere: 1, damage: 1 } }] }
  flyOff: { start: { after: peck }, phases: [{ for: 9f }, { for: 1f, leave: true }] }
`);
const FIGHTS = plan(`${FIGHTER}${JAB}
  call: { start: { press: brace }, phases: [{ for: 9f, summon: { who: gull, at: [1, 1] } }] }
summons: [gull]
`);

/** An arena in which two fight and call, at some tick of it; what came in is on a tape. */
function fight(random: Random): { arena: Arena; tape: ArenaTape } {
  const arena = new Arena({ world: flatGround(), summons: { gull } });
  const tape = new ArenaTape();
  arena.tape = tape;
  for (const [i, name] of ['pell', 'sentry'].entries())
    arena.add(name, FIGHTS, { at: [i, 0], team: name, tags: ['guard'], facing: i === 0 ? 1 : -1 });
  run(arena, random, random.whole(1, 40));
  return { arena, tape };
}

/** Plays on; all that is left stands somewhere. */
function run(arena: Arena, random: Random, ticks: number): void {
  for (let i = 0; i < ticks; i++) {
    for (const { door } of arena.members.map(({ character }) => character))
      for (const input of ['gaff', 'brace'] as const)
        if ('press' in door && random.chance(0.2) && arena.members[0].character.door === door)
          door.press(input as never);
    arena.tick();
    for (const { character } of arena.members)
      if (![character.readout.x, character.readout.vx].every(Number.isFinite))
        expect(character.readout.x).toBe('finite');
  }
}

const ODD = [
  Number.NaN,
  Number.POSITIVE_INFINITY,
  Number.NEGATIVE_INFINITY,
  -1,
  0,
  0.5,
  1,
  2,
  3,
  1e9,
  -1e9,
  2 ** 53,
  1e300,
];

/** A snapshot with a few numbers changed, exchanged, left out or added. */
function spoilt(random: Random, snapshot: Float64Array): Float64Array {
  const numbers = [...snapshot];
  for (let i = random.whole(1, 3); i > 0; i--) {
    const at = random.chance(0.4) ? random.whole(0, 30) : random.whole(0, numbers.length - 1);
    const other = random.whole(0, numbers.length - 1);
    switch (random.whole(0, 5)) {
      case 0:
        numbers.splice(at, random.whole(1, 9));
        break;
      case 1:
        numbers.splice(at, 0, ...numbers.slice(other, other + random.whole(1, 9)));
        break;
      case 2:
        [numbers[at], numbers[other]] = [numbers[other], numbers[at]];
        break;
      default:
        numbers[at] = random.pick(ODD);
    }
  }
  return Float64Array.from(numbers, (n) => n ?? 0);
}

test('whatever is done to the snapshot of an arena, it is refused and changes nothing, or is played', () => {
  let played = 0;
  forRandom(MOVESETS / 4, (random) => {
    const { arena } = fight(random);
    const bad = spoilt(random, arena.snapshot());
    run(arena, random, random.whole(0, 20));
    const before = arena.checksum();
    try {
      arena.restore(bad, random.chance(0.5) ? { devices: 'then' } : {});
      played++;
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      expect(arena.checksum()).toBe(before);
    }
    run(arena, random, 8);
  });
  if (MOVESETS >= 300) expect(played).toBeGreaterThan(MOVESETS / 100);
});

test('whatever is done to the tape of an arena, it is refused or plays to its end', () => {
  let played = 0;
  forRandom(MOVESETS / 4, (random) => {
    const saved = JSON.parse(JSON.stringify(fight(random).tape));
    for (let i = random.whole(1, 2); i > 0; i--) spoil(random, saved);
    const arena = new Arena({ world: flatGround(), summons: { gull } });
    try {
      const tape = ArenaTape.from(saved);
      tape.rewindTo(arena, [FIGHTS, gull]);
      for (let i = 0; i < 60 && arena.tickCount < tape.end; i++) {
        tape.feed(arena);
        arena.tick();
      }
      played++;
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      if (/undefined|\[object/.test(error.message)) throw error;
    }
  });
  if (MOVESETS >= 300) expect(played).toBeGreaterThan(MOVESETS / 100);
});
