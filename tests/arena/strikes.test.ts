import { expect, test } from 'vitest';
import { Arena } from '../../src/arena/index.js';
import { flatGround } from '../../src/index.js';
import { plan } from '../support.js';
import { duel, FIGHTER, JAB, jab, ticks } from './duel.js';

test('a strike meets each target once per swing, stuns it, and is told to both', () => {
  const { arena, pell, sentry } = duel(FIGHTER + JAB);
  pell.door.press('gaff');
  // The press starts the windup in tick 0; three ticks later it is active.
  expect(ticks(arena, 5)).toEqual(['3 pell sentry struck 4']);
  expect(sentry.readout.pool('grit')).toBe(16);
  expect(sentry.facts.fact('struck.damage')).toBe(4);
  expect(sentry.facts.fact('struck.from.x')).toBe(0);
  expect(pell.facts.fact('hit.by')).toBe(2);
  expect(sentry.readout.ability()).toBe('flinch');
  // The message is heard in tick 4, and the stun lasts ten ticks from there.
  ticks(arena, 9);
  expect(sentry.readout.isRunning('flinch')).toBe(true);
  ticks(arena);
  expect(sentry.readout.isRunning('flinch')).toBe(false);
});

test('simultaneous strikes trade; with levels they clash, and the lower one is lost', () => {
  const trade = duel(FIGHTER + JAB);
  trade.pell.door.press('gaff');
  trade.sentry.door.press('gaff');
  expect(ticks(trade.arena, 5)).toEqual(['3 pell sentry struck 4', '3 sentry pell struck 4']);

  const strike = (clash: number) => jab('', `{ box: [1, 0.6], at: [0.8, 1.2], damage: 4, clash: ${clash} }`);
  const lost = duel(FIGHTER + strike(1), FIGHTER + strike(2));
  lost.pell.door.press('gaff');
  lost.sentry.door.press('gaff');
  expect(ticks(lost.arena, 6)).toEqual(['3 clash pell sentry', '3 sentry pell struck 4']);
  expect(lost.pell.facts.fact('missed(jab)')).toBe(1);
  const equal = duel(FIGHTER + strike(1));
  equal.pell.door.press('gaff');
  equal.sentry.door.press('gaff');
  expect(ticks(equal.arena, 6)).toEqual(['3 clash pell sentry', '3 clash sentry pell']);
});

test('of two whom it could meet it meets who is nearest, whichever way', () => {
  const fighter = plan(FIGHTER + jab('', '{ box: [3, 9], at: [1, 2], damage: 4, most: 1 }'));
  for (const [high, met] of [
    [4, 'sentry'],
    [0, 'gull'],
  ] as const) {
    const arena = new Arena({ world: flatGround() });
    const pell = arena.add('pell', fighter, { at: [0, 0] });
    arena.add('gull', fighter, { at: [0.7, high] });
    arena.add('sentry', fighter, { at: [1.2, 0] });
    pell.character.door.press('gaff');
    expect(ticks(arena, 5)).toEqual([`3 pell ${met} struck 4`]);
  }
});

test('volumes and pushes turn with facing', () => {
  const strike = '{ box: [1, 0.6], at: [0.8, 1.2], damage: 1, push: [3, 5] }';
  const { arena, pell, sentry } = duel(FIGHTER + jab('', strike), undefined, { apart: -1.2 });
  pell.door.press('gaff');
  expect(ticks(arena, 9)).toEqual([]);
  pell.door.release('gaff');
  pell.door.press('move.left');
  ticks(arena);
  pell.door.release('move.left');
  pell.door.press('gaff');
  expect(ticks(arena, 5)).toEqual(['3 pell sentry struck 1']);
  expect([sentry.readout.vx, sentry.readout.vy > 4, sentry.readout.grounded]).toEqual([-3, true, false]);
});

test('it may strike again after a time, no more than so many, and only whom it is for', () => {
  const again = duel(FIGHTER + jab('', '{ sphere: 1.5, damage: 1, again: 1f }'));
  again.pell.door.press('gaff');
  expect(ticks(again.arena, 9)).toEqual(['3 pell sentry struck 1', '4 pell sentry struck 1']);

  const many = (strike: string, options: object[] = []) => {
    const made = duel(FIGHTER + jab('', strike), undefined, options[0]);
    const { plan } = made.pell;
    made.arena.add('dummy', plan, { at: [-1, 0], ...options[1] });
    made.arena.add('mate', plan, { at: [0.5, 0], ...options[2] });
    made.pell.door.press('gaff');
    return ticks(made.arena, 9).map((line) => line.split(' ')[2]);
  };
  // Nearest first, whoever joined first.
  expect(many('{ sphere: 2 }')).toEqual(['mate', 'dummy', 'sentry']);
  expect(many('{ sphere: 2, most: 2 }')).toEqual(['mate', 'dummy']);
  expect(many('{ sphere: 2, tagged: wooden }', [{}, { tags: ['wooden', 'old'] }])).toEqual(['dummy']);
  expect(many('{ sphere: 2, hits: friends }')).toEqual([]);
});

test('a beam stops at the first thing, and shows where', () => {
  const text = FIGHTER + jab('', '{ along: facing, reach: 9, at: [0, 1.2], damage: 2 }');
  const { arena, pell } = duel(text, undefined, { apart: 3 });
  arena.add('behind', pell.plan, { at: [5, 0] });
  pell.door.press('gaff');
  expect(ticks(arena, 9)).toEqual(['3 pell sentry struck 2']);
  pell.door.release('gaff');
  arena.find('sentry')?.character.door.place(4, 3);
  ticks(arena, 20);
  arena.remove('sentry');
  pell.door.press('gaff');
  ticks(arena, 4);
  expect(arena.events).toMatchObject([{ to: 'behind', at: { x: expect.closeTo(4.7, 5) } }]);
});

test('hitstop stops the clocks of both, and the stun counts from its end', () => {
  const { arena, pell, sentry } = duel(
    FIGHTER + jab('', '{ sphere: 2, damage: 1, stun: 10f, stop: 6f, push: [3, 0] }'),
  );
  arena.add('other', pell.plan, { at: [30, 0] });
  pell.door.press('gaff');
  ticks(arena, 4);
  const before = [pell.readout.tick, sentry.readout.tick];
  ticks(arena, 6);
  expect([pell.readout.tick, sentry.readout.tick]).toEqual(before);
  expect(sentry.readout.vx).toBe(0);
  expect(arena.find('other')?.character.readout.tick).toBe(9);
  ticks(arena);
  expect([sentry.readout.isRunning('flinch'), sentry.readout.vx]).toEqual([true, 3]);
  ticks(arena, 9);
  expect(sentry.readout.isRunning('flinch')).toBe(true);
  ticks(arena);
  expect(sentry.readout.isRunning('flinch')).toBe(false);
});

test('more blows in one tick than there is room for: each hurts, and what is not heard is told', () => {
  const { arena, pell, sentry } = duel(FIGHTER + jab('', '{ sphere: 3, damage: 1, most: 20 }'), undefined, {
    team: 'guard',
  });
  for (let i = 0; i < 13; i++) arena.add(`mate ${i}`, pell.plan, { at: [0.1 * i, 0] });
  for (const { name, character } of arena.members) if (name !== 'sentry') character.door.press('gaff');
  ticks(arena, 4);
  const hits = arena.events.filter((event) => event.kind === 'blow' && event.to === 'sentry');
  expect(hits).toHaveLength(14);
  expect(sentry.readout.pool('grit')).toBe(6);
  expect(sentry.readout.events.filter((event) => event.kind === 'lost')).toHaveLength(2);
});

test('the factor of the hurt volume that is met counts', () => {
  const weak = 'hurt: { pool: grit, volumes: { tall: [{ box: [0.8, 1.8], at: [0, 0.9], factor: 1.5 }] } }';
  const { arena, pell } = duel(FIGHTER + JAB, FIGHTER.replace(/hurt: .*/, weak) + JAB);
  pell.door.press('gaff');
  expect(ticks(arena, 5)).toEqual(['3 pell sentry struck 6']);
});

test('turned boxes overlap only where they truly do, not where what is around them does', () => {
  const box = 'hurt: { pool: grit, volumes: { tall: [{ box: [1, 1.8, 1], at: [0, 0.9] }] } }';
  const fighter = `view: open\n${FIGHTER.replace(/hurt: .*/, box)}${jab('', '{ box: [1, 1, 1], at: [1, 1], damage: 1 }')}`;
  const made = plan(fighter.replace('loggia: 1\n', '').replace('view', 'loggia: 1\nview'));
  // The middle of the strike is 1 ahead of who strikes; the other one is so far from it along x and z.
  const meets = (away: [x: number, z: number], striker: [number, number], target: [number, number]) => {
    const arena = new Arena({ world: flatGround() });
    const length = Math.hypot(...striker);
    const pell = arena.add('pell', made, { at: [-striker[0] / length, 0, -striker[1] / length] }).character;
    const other = arena.add('other', made, { at: [away[0], 0, away[1]] }).character;
    pell.door.face(...striker);
    other.door.face(...target);
    pell.door.press('gaff');
    return ticks(arena, 5).length === 1;
  };
  const [straight, turned]: [number, number][] = [
    [1, 0],
    [1, 1],
  ];
  for (const [a, b] of [
    [straight, turned],
    [turned, straight],
  ]) {
    for (const sign of [-1, 1]) {
      expect(meets([1.05, 1.05 * sign], a, b)).toBe(false);
      expect(meets([0.85, 0.85 * sign], a, b)).toBe(true);
    }
    expect(meets([1.15, 0], a, b)).toBe(true);
    expect(meets([1.25, 0], a, b)).toBe(false);
  }
  // Both turned alike: straight to each other.
  expect(meets([0.72, 0.72], turned, turned)).toBe(false);
  expect(meets([0.69, 0.69], turned, turned)).toBe(true);
  expect(meets([0, 1.05], [0, -1], straight)).toBe(false);
  expect(meets([0, -0.95], [0, -1], straight)).toBe(true);
});

test('a level push leaves the fall as it was', () => {
  const { arena, sentry, pell } = duel(FIGHTER + jab('', '{ sphere: 3, damage: 1, stop: 2f, push: [3, 0] }'));
  sentry.door.place(1, 1);
  pell.door.press('gaff');
  ticks(arena, 4);
  const falls = sentry.readout.vy;
  expect(falls).toBeLessThan(-1);
  ticks(arena, 3);
  expect(sentry.readout.vx).toBe(3);
  expect(sentry.readout.vy).toBeLessThan(falls);
});

test('a world that answers the ray of a strike with nonsense is told so', () => {
  const ground = flatGround();
  const lying = {
    still: true,
    sweep: ground.sweep.bind(ground),
    overlap: ground.overlap.bind(ground),
    ray: (_: unknown, hit: { part: number }) => {
      hit.part = 7;
      return true;
    },
  };
  const { arena, pell } = duel(FIGHTER + jab('', '{ along: facing, reach: 9, at: [0, 1.2] }'), undefined, {
    world: lying,
  });
  pell.door.press('gaff');
  expect(() => ticks(arena, 5)).toThrow('World.ray: an answer needs a part from 0 to 1');
});

test('who cannot be struck now is met by no strike, and is no foe', () => {
  const down = FIGHTER.replace('hurt: { pool: grit }', 'hurt: { pool: grit, when: pool.grit > 3 }');
  const { arena, pell, sentry } = duel(FIGHTER + jab('', '{ sphere: 2, damage: 9 }'), down);
  const strike = () => {
    pell.door.press('gaff');
    const told = ticks(arena, 12);
    pell.door.release('gaff');
    return told.length;
  };
  expect([strike(), strike()]).toEqual([1, 1]);
  expect([sentry.readout.pool('grit'), pell.facts.fact('foe.there')]).toEqual([2, 0]);
  expect(strike()).toBe(0);
  sentry.door.pool('grit', 9);
  expect(strike()).toBe(1);
  expect(pell.facts.fact('foe.there')).toBe(0);
});

test('a fast blade does not pass through anybody between two ticks, nor does who runs through one that stands still', () => {
  const dash = jab('', '{ sphere: 0.2, at: [0, 1], damage: 4 }').replace('steer: 0', 'move: { forward: 150 }');
  const run = (apart: number, moves: 'pell' | 'sentry') => {
    const still = jab('', '{ sphere: 0.2, at: [0, 1], damage: 4 }');
    const { arena, pell, sentry } = duel(FIGHTER + (moves === 'pell' ? dash : still), FIGHTER, { apart });
    pell.door.press('gaff');
    if (moves === 'sentry') {
      ticks(arena, 4);
      sentry.door.velocity(-600, 0);
    }
    return ticks(arena, 9).map((line) => line.slice(2));
  };
  // 2.5 in each tick, from the end of its windup at 7.5 on: it is before them in one, and behind them in the next.
  for (const apart of [7.8, 8.7, 8.8, 9.9, 10, 10.1, 11.2, 12.4])
    expect(run(apart, 'pell')).toEqual(['pell sentry struck 4']);
  expect(run(4, 'sentry')).toEqual(['pell sentry struck 4']);
  expect([run(5, 'pell'), run(16, 'pell')]).toEqual([[], []]);
});
