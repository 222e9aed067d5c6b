import { expect, test } from 'vitest';
import { Arena } from '../../src/arena/index.js';
import { Character, flatGround, TileWorld } from '../../src/index.js';
import { plan } from '../support.js';
import { duel, FIGHTER, JAB, ticks } from './duel.js';

const thing = (more: string) => `loggia: 1\nname: Thing\nstances: { rest: {} }\n${more}`;

test('an assist comes at its tick beside the caller, dives once, leaves, and counts for its side', () => {
  const skerry = plan(
    thing(`
kinds: [blunt]
body: { gravity: 0, shapes: { gull: [0.4, 0.3] } }
abilities:
  dive: { start: { code: only }, phases: [{ for: 6f, move: { forward: 12 }, strike: { sphere: 0.6, damage: 3, stun: 5f } }] }
  flyOff: { start: { after: dive }, phases: [{ for: 5f, move: { up: 9 } }, { for: 1f, leave: true }] }
  scared: { start: { event: callerStruck }, breaks: all, phases: [{ for: 1f, leave: true }] }
events: [callerStruck]
`),
  );
  const pell = plan(
    `${FIGHTER}${JAB}  callSkerry:
    start: { press: jump }
    when: summoned(skerry) == 0
    cooldown: 1s
    phases: [{ name: whistle, for: 4f }, { for: 2f, summon: { who: skerry, at: [0.5, 1], does: dive } }]
summons: [skerry]
`.replace('inputs:\n', 'inputs:\n  jump: { button: Space }\n'),
  );
  const arena = new Arena({ world: flatGround(), summons: { skerry } });
  const one = arena.add('pell', pell, { team: 'yard' });
  arena.add('mate', pell, { team: 'yard', at: [1, 0] });
  arena.add('sentry', pell, { at: [1.6, 0], facing: -1 });
  one.character.door.press('jump');
  expect(ticks(arena, 4)).toEqual([]);
  expect(arena.members).toHaveLength(3);
  arena.tick();
  expect(arena.members.map(({ name }) => name)).toEqual(['pell', 'mate', 'sentry', 'skerry 4']);
  expect(arena.find('skerry 4')?.character.readout).toMatchObject({ x: 0.5, y: 1, facing: 1 });
  expect(one.character.facts.fact('summoned(skerry)')).toBe(1);
  const between = arena.snapshot();
  const gone: unknown[] = [];
  const told = Array.from({ length: 14 }, () => {
    const lines = ticks(arena);
    for (const { name, character } of arena.departed)
      gone.push(
        name,
        character.readout.events.map(({ kind }) => kind),
      );
    return lines;
  }).flat();
  // Who leaves is no member any more, but what happened to it in its last tick can be read.
  expect(gone).toEqual(['skerry 4', expect.arrayContaining(['gone'])]);
  expect(arena.departed).toEqual([]);
  expect(told).toHaveLength(1);
  expect(told[0]).toMatch(/skerry 4 sentry struck 3/);
  expect(arena.members).toHaveLength(3);
  expect(one.character.facts.fact('summoned(skerry)')).toBe(0);
  const after = arena.checksum();
  arena.restore(between);
  expect(arena.members).toHaveLength(4);
  expect(Array.from({ length: 14 }, () => ticks(arena)).flat()).toEqual(told);
  expect(arena.checksum()).toBe(after);
  const alone = new Arena({ world: flatGround() });
  alone.add('pell', pell).character.door.press('jump');
  expect(() => ticks(alone, 9)).toThrow('Pell calls "skerry", and this arena does not know its moveset');
});

test('a shot flies, bounces, and is gone after what it meets', () => {
  const shot = plan(
    thing(`
body: { gravity: 0, shapes: { ball: [0.2, 0.2] } }
abilities:
  fly:
    start: { rule: true, once: true }
    bounce: 100%
    phases: [{ for: 40f, strike: { sphere: 0.2, at: [0, 0.1], damage: 2, most: 1 } }]
    end: hit(fly)
  burst: { start: { after: fly }, phases: [{ for: 1f, leave: true }] }
`),
  );
  const gunner = plan(`${FIGHTER}
  shoot: { start: { press: gaff }, phases: [{ for: 1f, summon: { who: shot, at: [0.5, 1], velocity: [-20, 0] } }] }
summons: [shot]
`);
  const world = new TileWorld(['#..........#', '#...@......#', '############']);
  const arena = new Arena({ world, summons: { shot } });
  arena.add('pell', gunner, { at: [4, 1] });
  arena.add('sentry', gunner, { at: [9, 1] });
  arena.find('pell')?.character.door.press('gaff');
  const told = ticks(arena, 60);
  // It flies back into the left wall, and comes again: through who called it.
  expect(told.map((line) => line.split(' ').slice(1).join(' '))).toEqual(['shot 3 sentry struck 2']);
  expect(arena.members).toHaveLength(2);
});

test('a pickup is taken once, a post sets a mark, a trigger teaches, and a hatch opens to a kind of blow or to who has the key', () => {
  const pell = plan(`${FIGHTER.replace('events: [', 'events: [tea, taught, ')}${JAB}
  sip: { lane: pocket, start: { event: tea }, gain: { wind: 3 }, phases: [{ for: 1f }] }
  heave: { lane: pocket, locked: true, start: { code: only }, phases: [{ for: 1f }] }
  study: { lane: pocket, start: { event: taught }, learn: heave, phases: [{ for: 1f }] }
lanes: [body, pocket]
tags: keyHolder
`);
  const arena = new Arena({ world: flatGround() });
  const { character } = arena.add('pell', pell, { at: [-2, 0] });
  character.door.pool('wind', 0);
  const touching = (tells: string, then = '') =>
    plan(
      thing(`
events: [touched]
abilities:
  wait: { start: { rule: true, once: true }, touch: { sphere: 0.5, tells: ${tells} }, end: event(touched) }
  taken: { start: { after: wait }, phases: [{ for: 1f, leave: true }] }
${then}`),
    );
  arena.add('tea', touching('tea'), { at: [0, 0] });
  arena.add('book', touching('taught'), { at: [1, 0] });
  character.door.press('move.right');
  expect(character.readout.isKnown('heave')).toBe(false);
  ticks(arena, 60);
  expect(arena.members.map(({ name }) => name)).toEqual(['pell']);
  expect([character.readout.pool('wind'), character.readout.isKnown('heave')]).toEqual([3, true]);

  const hatch = plan(
    thing(`
events: [touched]
kinds: [blunt]
pools: { planks: { max: 2 } }
hurt: { pool: planks, factors: { blunt: 1 }, damage: 'pick(blow.kind(blunt), 1, 0)' }
body: { meets: block }
lanes: [body, eyes]
abilities:
  look: { lane: eyes, start: { rule: true, once: true }, touch: { sphere: 3, tells: struck, tagged: keyHolder } , end: event(touched) }
  open: { start: [{ rule: pool.planks == 0, once: true }, { after: look }], phases: [{ for: 30f, meets: pass }] }
`),
  );
  const blows = duel(FIGHTER + JAB, hatch, { apart: 1 });
  for (let i = 0; i < 2; i++) {
    blows.pell.door.press('gaff');
    ticks(blows.arena, 12);
    blows.pell.door.release('gaff');
  }
  expect(blows.sentry.readout.ability()).toBe('open');
  const keys = duel(pell, hatch, { apart: 1 });
  ticks(keys.arena, 3);
  expect(keys.sentry.readout.ability()).toBe('open');
});

test('what bounces rises by the share of its pace that it keeps, and comes to rest', () => {
  const ball = plan(
    thing('body: { gravity: 20, shapes: { ball: [0.2, 0.2] } }\nstances: { rest: { bounce: 50% } }\n').replace(
      'stances: { rest: {} }\n',
      '',
    ),
  );
  const c = new Character(ball, { world: flatGround(), at: [0, 2] });
  const peaks: number[] = [];
  for (let i = 0; i < 240; i++) {
    const before = c.readout.vy;
    c.tick();
    if (before > 0 && c.readout.vy <= 0) peaks.push(c.readout.y);
  }
  // Half the pace is a quarter of the height.
  expect(peaks[0]).toBeCloseTo(0.5, 1);
  expect([c.readout.y, c.readout.vy, c.readout.grounded]).toEqual([0, 0, true]);
});
