import { expect, test } from 'vitest';
import { duel, FIGHTER, JAB, jab, ticks } from './duel.js';

const brace = (guard: string) => `
  brace:
    start: { hold: gaff }
    phases: [{ name: up, guard: ${guard} }]
  reel: { start: [{ event: guardBroken }, { event: hitParried }], breaks: all, end: 'timeIn(reel) >= max(guardBroken.stun, hitParried.stun)' }
`;
/** Pell strikes; the sentry holds its guard up since `early` ticks before the press. */
function guarded(guard: string, { early = 10, strike = undefined as string | undefined, wind = 10, apart = 1.2 } = {}) {
  const attack = FIGHTER + jab(brace(guard).replace(/ {2}brace:[\s\S]*?\n {2}reel/, '  reel'), strike);
  const made = duel(attack, FIGHTER + brace(guard), { apart });
  made.sentry.door.pool('wind', wind);
  made.sentry.door.press('gaff');
  ticks(made.arena, early);
  made.pell.door.press('gaff');
  const told = ticks(made.arena, 5);
  return { ...made, told, grit: made.sentry.readout.pool('grit'), wind: made.sentry.readout.pool('wind') };
}

test('a guard takes its share from in front, costs by the blow, and only its arc', () => {
  const half = guarded('{ absorb: 75%, cost: { wind: blow.damage / 2 } }');
  expect([half.told, half.grit, half.wind]).toEqual([['3 pell sentry blocked 1'], 19, 8]);
  expect([half.pell.facts.fact('blocked(jab)'), half.pell.facts.fact('hit(jab)')]).toEqual([1, 0]);

  const behind = guarded('{}', { apart: -0.8, strike: '{ sphere: 2, damage: 4 }' });
  expect(behind.told).toEqual(['3 pell sentry struck 4']);
  const { told } = guarded('{ kinds: { spark: 0 } }', { strike: '{ sphere: 2, damage: 4, kind: spark }' });
  expect(told).toEqual(['3 pell sentry struck 4']);
});

test('a blow that costs more than there is breaks the guard and is taken whole', () => {
  const broken = guarded('{ cost: { wind: 6 }, broken: 30f }', { wind: 5 });
  expect([broken.told, broken.grit, broken.wind]).toEqual([['3 pell sentry guardBroken 4'], 16, 0]);
  expect(broken.sentry.readout.ability()).toBe('reel');
  ticks(broken.arena, 29);
  expect(broken.sentry.readout.isRunning('reel')).toBe(true);
  ticks(broken.arena);
  expect(broken.sentry.readout.isRunning('reel')).toBe(false);
  const empty = guarded('{ cost: { wind: 1 } }', { wind: 0 });
  expect(empty.told).toEqual(['3 pell sentry guardBroken 4']);
});

test.each([
  ['breaks', ['3 pell sentry guardBroken 4'], 16],
  ['leaks', ['3 pell sentry blocked 2'], 18],
  ['holds', ['3 pell sentry blocked 0'], 20],
])('a blow that is paid for by half %s', (unpaid, told, grit) => {
  const short = guarded(`{ cost: { wind: 8 }, unpaid: ${unpaid} }`, { wind: 4 });
  expect([short.told, short.grit, short.wind]).toEqual([told, grit, 0]);
  const empty = guarded(`{ cost: { wind: 8 }, unpaid: ${unpaid} }`, { wind: 0 });
  expect(empty.grit).toBe(unpaid === 'holds' ? 20 : 16);
  expect(guarded(`{ cost: { wind: 4 }, unpaid: ${unpaid} }`, { wind: 4 }).told).toEqual(['3 pell sentry blocked 0']);
});

test('a parry window that is a formula is read as the guard goes up', () => {
  const spam = (pause: number) => {
    const made = duel(FIGHTER + JAB, FIGHTER + brace('{ parry: "pick(since(brace) < 10f, 1f, 6f)" }'));
    const { door } = made.sentry;
    door.press('gaff');
    ticks(made.arena, 2);
    door.release('gaff');
    ticks(made.arena, pause);
    door.press('gaff');
    made.pell.door.press('gaff');
    return ticks(made.arena, 5)[0].split(' ')[3];
  };
  expect([spam(3), spam(20)]).toEqual(['blocked', 'parried']);
});

test.each([
  [0, 'parried'],
  [2, 'parried'],
  [3, 'blocked'],
])(
  'a parry window of 6 ticks, raised %i ticks before the press of a blow that comes three later: %s',
  (early, outcome) => {
    // A blow lands in the third tick after its press; the guard is up since its own press.
    const { told, pell, sentry, grit } = guarded('{ parry: 6f, parried: 20f }', { early });
    expect([told[0].split(' ')[3], grit]).toEqual([outcome, 20]);
    expect(pell.readout.ability()).toBe(outcome === 'parried' ? 'reel' : 'jab');
    expect(sentry.facts.fact('event(parried)')).toBe(outcome === 'parried' ? 1 : 0);
  },
);

test('factors by kind, a formula, armour and immunity', () => {
  const hurt = (more: string, strike = '{ sphere: 2, damage: 4, kind: spark, push: [9, 0], stun: 9f }') => {
    const target = (FIGHTER + JAB).replace('hurt: { pool: grit }', more);
    const made = duel(FIGHTER + jab('', strike), target);
    made.pell.door.press('gaff');
    const told = ticks(made.arena, 5).map((line) => line.split(' ').slice(3).join(' '));
    return [...told, made.sentry.readout.vx, made.sentry.readout.ability()];
  };
  expect(hurt('hurt: { pool: grit, factors: { spark: 150% }, limits: { push: 5 } }')).toEqual([
    'struck 6',
    5,
    'flinch',
  ]);
  expect(hurt('hurt: { pool: grit, damage: "max(1, blow.damage - 3)" }')).toEqual(['struck 1', 9, 'flinch']);
  expect(hurt('hurt: { pool: grit, damage: "pick(blow.kind(spark), 0, 9)" }')).toEqual(['struck 0', 9, 'flinch']);
  const stand = (effect: string) => `hurt: { pool: grit }\nloadouts: { own: { abilities: [], ${effect} } }`;
  expect(hurt(stand('armour: true'))).toEqual(['armoured 4', 0, null]);
  expect(hurt(stand('armour: [blunt]'))).toEqual(['struck 4', 9, 'flinch']);
  expect(hurt(stand('immune: [spark]'))).toEqual([0, null]);
  expect(hurt(stand('immune: [blunt]'))).toEqual(['struck 4', 9, 'flinch']);
  expect(hurt('')).toEqual([0, null]);
});

test('blows in a row are counted as long as their stun lasts, and formulas may limit them', () => {
  const limit = (FIGHTER + JAB).replace(
    'hurt: { pool: grit }',
    'hurt: { pool: grit, damage: "pick(hitsTaken >= 2, 1, blow.damage)" }',
  );
  const { arena, pell, sentry } = duel(FIGHTER + jab('', '{ sphere: 2, damage: 4, stun: 12f, again: 1f }'), limit);
  pell.door.press('gaff');
  expect(ticks(arena, 9).map((line) => line.split(' ')[4])).toEqual(['4', '4']);
  pell.door.release('gaff');
  pell.door.press('gaff');
  expect(sentry.facts.fact('hitsTaken')).toBe(2);
  expect(ticks(arena, 9).map((line) => line.split(' ')[4])).toEqual(['1', '1']);
  ticks(arena, 20);
  expect(sentry.facts.fact('hitsTaken')).toBe(0);
});

test('bodies pass, push and block each other as they say', () => {
  const walk = (meets: string, other: string, walker = ({ pell }: ReturnType<typeof duel>) => pell) => {
    const body = (word: string) => `body: { meets: ${word} }\n`;
    const made = duel(body(meets) + FIGHTER + JAB, body(other) + FIGHTER + JAB, { apart: 1 });
    walker(made).door.press(walker(made) === made.pell ? 'move.right' : 'move.left');
    ticks(made.arena, 30);
    return [made.pell.readout.x, made.sentry.readout.x, walker(made).readout.vx].map((x) => Math.round(x * 100) / 100);
  };
  const [free] = walk('pass', 'block');
  expect(free).toBeGreaterThan(2);
  const [pusher, pushed] = walk('push', 'push');
  expect(pushed - pusher).toBeCloseTo(0.6);
  expect(pushed).toBeGreaterThan(1.2);
  // Who gives no way also takes the pace of who walks into it, whichever of them comes first.
  expect(walk('push', 'block')).toEqual([0.4, 1, 0]);
  expect(walk('block', 'push', ({ sentry }) => sentry)).toEqual([0, 0.6, 0]);
});

test('who stands still after a blow gives no way', () => {
  const push = `body: { meets: push }\n${FIGHTER}${jab('', '{ sphere: 1, at: [0.8, 1], damage: 1, stop: 60f }')}`;
  const { arena, pell, sentry } = duel(push);
  const mate = arena.add('mate', pell.plan, { at: [3, 0], facing: -1, team: 'yard' }).character;
  pell.door.press('gaff');
  ticks(arena, 5);
  mate.door.press('move.left');
  ticks(arena, 40);
  expect([sentry.readout.x, mate.readout.x]).toEqual([1.2, expect.closeTo(1.8)]);
});
