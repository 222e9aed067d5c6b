import { expect, test } from 'vitest';
import { type Timing, timingOf } from '../../src/study/index.js';
import { duel, FIGHTER, jab } from '../arena/duel.js';
import { plan } from '../support.js';

/** Three attacks whose strikes meet again in each tick, so that their first and last are seen; `hold` is the stun of a guard. */
const ATTACKS = (again = 'again: 1f, ') =>
  `
kinds: [blunt, spark]
${jab(
  `
  sweep:
    start: { press: wide }
    cost: { wind: 2 }
    cooldown: 1s
    phases:
      - { name: windup, for: 7f }
      - { name: active, for: 4f, strike: { sphere: 2, ${again}damage: 2 + 3, stun: 33f, stop: 3f } }
      - { name: recovery, for: 9f, open: [jab] }
  flurry:
    start: { press: many }
    phases:
      - { for: 4f }
      - { for: 2f, strike: { sphere: 2, ${again}damage: 1, stun: 6f } }
      - { for: 3f }
      - { for: 2f, strike: { sphere: 2, ${again}damage: 3, stun: 20f } }
      - { for: 11f }
  brace: { lane: hands, start: { hold: shell }, phases: [{ guard: { stun: 9f } }] }
  hold: { start: { event: blocked }, breaks: hold, end: timeIn(hold) >= blocked.stun }
`,
  `{ sphere: 2, ${again}damage: 4, stun: 10f }`,
)}`.replace(/\nkinds.*\n/, '\n');
const TEXT = (again?: string) =>
  (FIGHTER.replace('stances:', 'lanes: [body, hands]\nstances:') + ATTACKS(again)).replace(
    'inputs:\n',
    'inputs:\n  wide: { button: KeyU }\n  many: { button: KeyI }\n  shell: { button: KeyO }\n',
  );

/** Plays one use of an ability against somebody who stands there, or guards: what came when, counted from its start. */
function play(ability: string, again: string | undefined, guards: boolean) {
  const { arena, pell, sentry } = duel(plan(TEXT(again)));
  if (guards) sentry.door.press('shell');
  arena.tick();
  pell.door.request(ability);
  const blows: number[] = [];
  let started = 0;
  let ended = 0;
  let free = 0;
  let damage = 0;
  for (let i = 0; i < 120; i++) {
    arena.tick();
    // Each by its own clock, which stands still in hitstop.
    const now = pell.readout.tick;
    for (const event of pell.readout.events) {
      if (event.kind === 'started' && event.ability === ability) started = now;
      if (event.kind === 'ended' && event.ability === ability) ended = i;
    }
    for (const event of sentry.readout.events)
      if (event.kind === 'ended' && (event.ability === 'flinch' || event.ability === 'hold')) free = i;
    for (const event of arena.events) {
      blows.push(now - started);
      if (event.kind === 'blow') damage += event.damage;
    }
  }
  return { first: blows[0], last: blows.at(-1) as number, ended, free, damage, advantage: free - ended };
}

test.each(['jab', 'sweep', 'flurry'])('the timing of %s is what playing it shows', (ability) => {
  const row = timingOf(plan(TEXT())).find((one) => one.ability === ability) as Timing;
  const often = play(ability, undefined, false);
  expect({ startup: row.startup, active: row.active }).toEqual({
    startup: often.first,
    active: often.last - often.first + 1,
  });
  const once = play(ability, '', false);
  expect(row.damage).toBe(once.damage);
  expect(row.onHit).toBe(once.advantage);
  expect(row.onBlock).toBe(play(ability, '', true).advantage);
  expect((row.startup ?? 0) + (row.active ?? 0) + (row.recovery ?? 0)).toBe(row.total);
});

test('what it costs, how much it does in a second, what it opens to and what still reaches', () => {
  const [jab, sweep, flurry] = timingOf(plan(TEXT()));
  expect(sweep).toMatchObject({ costs: { wind: 2 }, costPerDamage: 0.4, cooldown: 60 });
  // Its cooldown counts from its end: one in 80 ticks.
  expect(sweep.damagePerSecond).toBeCloseTo(5 / (80 / 60));
  expect(jab.damagePerSecond).toBeCloseTo(4 / (9 / 60));
  expect(sweep.cancels).toEqual([{ into: 'jab', from: 11 }]);
  expect([jab.combos, sweep.combos, flurry.combos]).toEqual([
    ['jab', 'flurry'],
    ['jab', 'flurry'], // its own cooldown is too long for it
    ['jab', 'sweep', 'flurry'],
  ]);
});

test('what is said to reach who is still stunned does, by cancel or once it is over, and nothing else', () => {
  const rows = timingOf(plan(TEXT(''))).filter(({ damage }) => damage !== null);
  for (const first of rows)
    for (const next of rows) {
      const { arena, pell, sentry } = duel(plan(TEXT('')));
      arena.tick();
      pell.door.request(first.ability);
      let struck = 0;
      let row = 0;
      for (let i = 0; i < 90 && struck < 9; i++) {
        arena.tick();
        struck += arena.events.length;
        // As soon as its last strike has met somebody: where it may cancel, or is over.
        const last = first.ability === 'flurry' ? 2 : 1;
        if (struck === last) pell.door.request(next.ability);
        if (struck > last) {
          row = sentry.facts.fact('hitsTaken') - last;
          break;
        }
      }
      expect([first.ability, next.ability, row > 0]).toEqual([
        first.ability,
        next.ability,
        first.combos.includes(next.ability),
      ]);
    }
});
