import { expect, test } from 'vitest';
import { generatedWhole } from '../emit/generated.js';
import { brief, makeCharacter, plan, tick } from '../support.js';
import { duel, FIGHTER, JAB, jab } from './duel.js';

/** A fighter whose stun keeps its facing, and what others add to it. */
const stunned = (more: string) => FIGHTER.replace('    walk: { speed: 0, brake: 0 }\n', `    face: fixed\n${more}`);

for (const [kind, of] of [
  ['interpreted', plan],
  ['a module', (text: string) => generatedWhole(plan(text))],
] as const) {
  test(`of two abilities that one message starts and that break each other, the first takes it: ${kind}`, () => {
    const text = `${FIGHTER.replace('  flinch:', '  die: { start: { event: struck }, when: pool.grit == 0, breaks: all, bars: all, emit: died, end: pool.grit > 0 }\n  flinch:').replace('events: [', 'events: [died, ')}${jab('', '{ box: [1, 0.6], at: [0.8, 1.2], damage: 20, stun: 10f }')}`;
    const { arena, pell, sentry } = duel(of(text));
    pell.door.press('gaff');
    const told: string[] = [];
    for (let i = 0; i < 8; i++) {
      arena.tick();
      told.push(...sentry.readout.events.map(brief));
    }
    expect(told).toEqual(['emptied grit', 'received struck', '+die', 'emitted died']);
    // Between ticks nothing has just started: a stun could break it now.
    expect(sentry.explain('flinch').text).toBe('flinch may start.');
  });

  test(`a cast that is struck in the last tick of its windup is not cast, whatever its next phase does: ${kind}`, () => {
    const caster = `${FIGHTER}  cast:
    start: { press: brace }
    cost: { wind: 4 }
    refund: 50%
    phases: [{ name: windup, for: 4f }, { name: active, for: 4f, gain: { grit: 9 }, emit: clashed, summon: { who: gull } }]
summons: [gull]
`;
    const { arena, pell, sentry } = duel(of(FIGHTER + JAB), of(caster));
    pell.door.press('gaff');
    sentry.door.press('brace');
    const told: string[] = [];
    for (let i = 0; i < 5; i++) {
      arena.tick();
      told.push(...sentry.readout.events.map(brief));
    }
    expect(told).toEqual(['+cast', 'cast.windup', 'received struck', '-cast broken', '+flinch']);
    expect([sentry.readout.pool('wind'), sentry.readout.pool('grit')]).toEqual([8, 16]);
  });

  test(`what keep leaves of a move is not taken from the push of the blow that breaks it: ${kind}`, () => {
    const dash =
      '  dash: { start: { press: brace }, phases: [{ for: 9f, move: { forward: -12, up: 3, mode: replace, keep: 0 } }] }\n';
    const pushed = (push: string) => {
      const strike = jab('', `{ box: [9, 4], at: [0.8, 1.2], damage: 1, stun: 10f, push: ${push} }`);
      const { arena, pell, sentry } = duel(
        of(FIGHTER + strike),
        of(stunned('    steer: 0\n    walk: { brake: 0 }\n    gravity: 0\n') + dash),
      );
      pell.door.press('gaff');
      arena.tick();
      arena.tick();
      sentry.door.press('brace');
      for (let i = 0; i < 3; i++) arena.tick();
      return [sentry.readout.ability(), sentry.readout.vx, sentry.readout.vy];
    };
    expect(pushed('[3, 5]')).toEqual(['flinch', 3, 5]);
    expect(pushed('[3, 0]')).toEqual(['flinch', 3, 0]);
  });

  test(`a blow does not turn who is struck to where the stick is held: ${kind}`, () => {
    const swing = '  swing: { start: { press: brace }, phases: [{ for: 30f, face: fixed }] }\n';
    const { arena, pell, sentry } = duel(of(FIGHTER + JAB), of(stunned('') + swing));
    sentry.door.press('brace');
    pell.door.press('gaff');
    arena.tick();
    sentry.door.press('move.right');
    for (let i = 0; i < 5; i++) arena.tick();
    expect([sentry.readout.ability(), sentry.readout.facing]).toEqual(['flinch', -1]);
  });
}

test('an interruption in the tick in which a phase is over goes before what comes next', () => {
  const c = makeCharacter(`abilities:
  trim:
    start: { press: gaff }
    phases: [{ name: windup, for: 3f, interrupt: event(hurt) }, { for: 3f }]
events: [hurt]
`);
  c.door.press('gaff');
  tick(c, 3);
  c.door.event('hurt');
  expect(tick(c)).toEqual(['received hurt', '-trim interrupted']);
});

test('a refusal tells the numbers that it was judged by', () => {
  const c = makeCharacter(`pools: { breath: { max: 20, start: 5 } }
abilities:
  dive: { start: { press: gaff }, cost: { breath: 7 }, phases: [{ for: 3f }] }
  rest: { lane: mouth, start: { press: gale }, gain: { breath: 9 }, phases: [{ for: 1f }] }
lanes: [body, mouth]
`);
  c.door.press('gaff');
  c.door.press('gale');
  c.tick();
  const refused = c.readout.events.find(({ kind }) => kind === 'refused');
  expect(refused).toMatchObject({ reasons: [{ code: 'pool', have: 5, need: 7 }] });
  expect(c.readout.pool('breath')).toBe(14);
});
