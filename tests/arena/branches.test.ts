import { expect, test } from 'vitest';
import { Arena, ArenaTape } from '../../src/arena/index.js';
import { BoxWorld, type Character, flatGround, type Plan, UsageError, type World } from '../../src/index.js';
import { plan } from '../support.js';
import { FIGHTER, JAB, ticks } from './duel.js';

const thing = (name: string, more = '') =>
  plan(`loggia: 1\nname: ${name}\nbody: { gravity: 0, shapes: { small: [0.4, 0.4] } }\nstances: { rest: {} }\n${more}`);
const gull = thing('Gull', 'pools: { air: { max: 9 } }\n');
const shot = thing('Shot');
const CALLER =
  plan(`${FIGHTER}${JAB}  callGull: { start: { press: brace }, phases: [{ for: 1f, summon: { who: gull, at: [1, 1] } }] }
  callMate: { start: { code: only }, phases: [{ for: 1f, summon: { who: mate, at: [1, 1] } }] }
  shoot: { start: { code: only }, phases: [{ for: 1f, summon: { who: shot, at: [1, 1] } }] }
summons: [gull, mate, shot]
`);
const summons = { gull, mate: gull, shot };

function two(world: World = flatGround()) {
  const arena = new Arena({ world, summons });
  const pell = arena.add('pell', CALLER, { team: 'yard' }).character as unknown as Character;
  const sentry = arena.add('sentry', CALLER, { at: [5, 0], facing: -1 }).character as unknown as Character;
  return { arena, pell, sentry };
}

test('a restore after another run brings back who was called, by whom, and of which kind', () => {
  const { arena, pell, sentry } = two();
  const before = arena.snapshot();
  pell.door.request('callGull');
  arena.tick();
  const called = arena.snapshot();
  arena.restore(before);
  sentry.door.request('callGull');
  arena.tick();
  arena.restore(called);
  expect([pell, sentry].map((c) => c.facts.fact('summoned(gull)'))).toEqual([1, 0]);
  expect(arena.find('gull 3')).toMatchObject({ side: 'yard', caller: 1 });
  // Another kind, with a record of another size, had the same id in the run between.
  arena.restore(before);
  pell.door.request('shoot');
  arena.tick();
  expect(arena.find('shot 3')).toBeDefined();
  arena.restore(called);
  expect(arena.members.map(({ name }) => name)).toEqual(['pell', 'sentry', 'gull 3']);
  pell.door.request('callMate');
  arena.tick();
  // Two names of one moveset are two kinds.
  expect(['gull', 'mate'].map((kind) => pell.facts.fact(`summoned(${kind})`))).toEqual([1, 1]);
});

test('names of who is called are kept for them', () => {
  const { arena } = two();
  expect(() => arena.add('gull 4', gull)).toThrow('add: "gull 4" could be the name of a gull that is called');
  arena.add('buoy 4', gull);
});

test('what throws in an arena changes nothing', () => {
  const { arena, sentry } = two();
  ticks(arena, 3);
  const before = [arena.checksum(), arena.snapshotSize, arena.members.length];
  const untouched = () => expect([arena.checksum(), arena.snapshotSize, arena.members.length]).toEqual(before);
  expect(() => arena.add('bad', CALLER, { at: [Number.NaN, 0] })).toThrow(UsageError);
  untouched();
  const sound = arena.snapshot();
  const spoil = (change: (s: Float64Array) => void, why: string) => {
    const spoilt = sound.slice();
    change(spoilt);
    expect(() => arena.restore(spoilt)).toThrow(why);
    untouched();
  };
  const second = 4 + (sound[1] > 0 ? 7 + CALLER.snapshotSize : 0);
  sentry.door.place(9, 0);
  spoil(
    (s) => s.fill(Number.NaN, second + 7 + 10, second + 7 + 11),
    'of the member sentry, number 10 of this snapshot is not a number',
  );
  spoil((s) => s.fill(1e9, 2, 3), 'it says that it has 1000000000 members');
  spoil((s) => s.fill(Number.NaN, second, second + 1), 'a member has the id NaN');
  spoil((s) => s.fill(1, second, second + 1), 'not in the order of their ids');
  spoil((s) => s.fill(7, second + 1, second + 2), 'it has a member that this arena never had');
  spoil((s) => s.fill(0.5, second + 4, second + 5), 'the member sentry is on a side that is none');
  spoil((s) => s.fill(1, second + 6, second + 7), 'this is no snapshot of an arena with these movesets');
  expect(() => arena.restore(sound, { devices: 'soon' as 'now' })).toThrow(
    '"devices" must be "now" or "then", not "soon".',
  );
});

test('who leaves goes, also in the tick in which somebody unknown is called', () => {
  const leaver = plan(`loggia: 1
name: Leaver
stances: { rest: {} }
abilities: { go: { start: { code: only }, phases: [{ for: 1f, leave: true }] } }
`);
  const arena = new Arena({ world: flatGround() });
  const pell = arena.add('pell', CALLER).character;
  const other = arena.add('other', leaver, { at: [3, 0] }).character;
  pell.door.request('callGull');
  other.door.request('go');
  expect(() => arena.tick()).toThrow('Pell calls "gull", and this arena does not know its moveset');
  expect(arena.members.map(({ name }) => name)).toEqual(['pell']);
});

test('an arena is told from another by sides and callers, too', () => {
  const make = (team?: string) => {
    const arena = new Arena({ world: flatGround() });
    arena.add('pell', CALLER, { team });
    return arena.checksum();
  };
  expect(make('yard')).not.toBe(make());
});

test('a tape knows who joins later, and is not lost when it is played where it was recorded', () => {
  const { arena, pell } = two();
  const tape = new ArenaTape();
  arena.tape = tape;
  pell.door.press('gaff');
  ticks(arena, 5);
  arena.add('buoy', gull, { at: [9, 3], tags: 'wooden', team: 'sea' });
  pell.door.release('gaff');
  pell.door.request('shoot');
  ticks(arena, 5);
  const sum = arena.checksum();
  const saved = JSON.parse(JSON.stringify(tape));
  const play = (from: ArenaTape, into: Arena, plans: Plan[]) => {
    from.rewindTo(into, plans);
    while (into.tickCount < from.end) {
      from.feed(into);
      into.tick();
    }
    return into.checksum();
  };
  expect(play(ArenaTape.from(saved), new Arena({ world: flatGround(), summons }), [CALLER as Plan, gull])).toBe(sum);
  expect(play(tape, arena, [CALLER as Plan, gull])).toBe(sum);
  expect(play(tape, arena, [CALLER as Plan, gull])).toBe(sum);
});

test.each([
  [
    {
      entries: [
        { tick: 1, changes: [{ name: 'x', moveset: 9, at: [0, 0], facing: 1, team: null, tags: [] }], rows: [] },
      ],
    },
    'joins with the moveset 9, and there are 1',
  ],
  [{ entries: [{ tick: 1, changes: [{}], rows: [] }] }, 'at tick 1, who joins must have a name'],
  [{ entries: [null] }, 'its entries must have rising ticks'],
  [{ names: [3] }, 'names, teams, kinds and tags must be texts'],
  [{ tags: [null] }, 'names, teams, kinds and tags must be texts'],
  [{ movesets: [{}] }, 'its movesets must have names and layouts'],
  [{ start: ['soon'] }, 'its start must be numbers'],
  [{ kinds: undefined }, 'this is no tape of format 1'],
])('a tape that says %j is refused', (change, why) => {
  const arena = new Arena({ world: flatGround() });
  arena.add('pell', CALLER);
  const tape = new ArenaTape();
  arena.tape = tape;
  ticks(arena, 2);
  expect(() => ArenaTape.from({ ...tape.toJSON(), ...change })).toThrow(why);
});

test('values on a tape that follow no event are refused', () => {
  const arena = new Arena({ world: flatGround() });
  const { id } = arena.add('pell', CALLER);
  const tape = new ArenaTape();
  arena.tape = tape;
  ticks(arena, 2);
  const saved = { ...tape.toJSON(), entries: [{ tick: 1, changes: [], rows: [[id, 27, 3, 9, 9, 9]] }] };
  const made = ArenaTape.from(saved);
  const other = new Arena({ world: flatGround() });
  made.rewindTo(other, [CALLER as Plan]);
  expect(() => made.feed(other)).toThrow('values 3 follow no event that carries them');
});

test('with its devices then, a restored arena goes the same way by the same calls', () => {
  const again = two();
  const run = (from: number, to: number, { arena, pell: { door } } = again) =>
    Array.from({ length: to - from }, (_, i) => {
      if (from + i === 3) door.press('move.right');
      if (from + i === 9) door.stick('move', 0.5, 0);
      if (from + i === 12) door.release('move.right');
      if (from + i === 15) door.stick('move', 0, 0);
      arena.tick();
      return arena.checksum();
    });
  const first = run(0, 30, two());
  run(0, 7);
  const snapshot = again.arena.snapshot();
  run(7, 30);
  again.arena.restore(snapshot, { devices: 'then' });
  expect(run(7, 30)).toEqual(first.slice(7));
});

test('long play leaves an arena as it was: what snapshots stand for does not grow with who is called', () => {
  const fleeting = thing('Shot', 'abilities: { go: { start: { rule: true }, phases: [{ for: 1f, leave: true }] } }\n');
  const arena = new Arena({ world: flatGround(), summons: { ...summons, shot: fleeting } });
  const pell = arena.add('pell', CALLER).character;
  for (let i = 0; i < 300; i++) {
    pell.door.request('shoot');
    arena.tick();
  }
  expect(arena.lists).toMatchObject({ names: ['pell'], kinds: ['shot'] });
  expect(arena.members.length).toBeLessThan(4);
});

test('who is called comes where there is room: before a wall, not in it and not behind it', () => {
  const walls = (from: number, to: number) =>
    new BoxWorld([
      { from: [-9, -1], to: [9, 0] },
      { from: [from, 0], to: [to, 9] },
    ]);
  const at = (world: BoxWorld) => {
    const { arena, pell } = two(world);
    pell.door.request('callGull');
    arena.tick();
    return arena.find('gull 3')?.character.readout.x;
  };
  expect(at(walls(3, 4))).toBe(1);
  expect(at(walls(0.6, 2))).toBeCloseTo(0.4);
  expect(at(walls(0.5, 0.7))).toBeCloseTo(0.3);

  const golem = plan('loggia: 1\nname: Golem\nbody: { shapes: { wide: [4, 4] } }\nstances: { rest: {} }\n');
  const narrow = new Arena({ world: walls(0.5, 0.7), summons: { ...summons, gull: golem } });
  const pell = narrow.add('pell', CALLER).character;
  expect(pell.explain('callGull').text).toBe('callGull may not start: no room there.');
  pell.door.request('callGull');
  narrow.tick();
  expect(narrow.members).toHaveLength(1);
});
