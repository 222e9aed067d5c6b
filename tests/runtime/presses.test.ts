import { expect, test } from 'vitest';
import { makeCharacter, tap, tick } from '../support.js';

const started = (told: string[]) => told.filter((t) => t.startsWith('+')).map((t) => t.slice(1));

test('release, release after a time, and tap are told apart by how long it was held', () => {
  const c = makeCharacter(`
lanes: [a, b, c]
abilities:
  any: { lane: a, start: { release: gaff }, phases: [{ for: 1f }], when: x > 9 }
  long: { lane: b, start: { release: gaff, held: 20f }, phases: [{ for: 1f }] }
  short: { lane: c, start: { tap: gaff, within: 10f }, phases: [{ for: 1f }] }`);
  const held = (ticks: number) => {
    c.door.press('gaff');
    tick(c, ticks);
    c.door.release('gaff');
    return started(tick(c, 3));
  };
  expect(held(10)).toEqual(['short']);
  expect(held(11)).toEqual([]);
  expect(held(19)).toEqual([]);
  expect(held(20)).toEqual(['long']);
});

test('the more specific press wins: sequence, double, with another, toward, plain', () => {
  const c = makeCharacter(`
abilities:
  plain: { start: { press: gaff }, phases: [{ for: 1f }] }
  up: { start: { press: gaff, toward: up }, phases: [{ for: 1f }] }
  back: { start: { press: gaff, toward: back }, face: fixed, phases: [{ for: 1f }] }
  upWithGale: { start: { press: gaff, toward: up, with: gale }, phases: [{ for: 1f }] }
  twice: { start: { double: gaff, within: 6f }, phases: [{ for: 1f }] }
  secret: { start: { sequence: [down, forward, gaff], within: 20f }, phases: [{ for: 1f }] }
  rest: { start: { press: jump, toward: neutral }, phases: [{ for: 1f }] }`);
  const press = (...before: (() => void)[]) => {
    for (const act of before) act();
    const told = started(tap(c, 'gaff'));
    tick(c, 10);
    c.door.releaseAll();
    tick(c, 2);
    return told;
  };
  expect(press()).toEqual(['plain']);
  expect(press(() => c.door.press('move.up'))).toEqual(['up']);
  expect(
    press(
      () => c.door.press('move.up'),
      () => c.door.press('gale'),
    ),
  ).toEqual(['upWithGale']);
  expect(press(() => c.door.press('move.left'))).toEqual(['back']);
  expect(press(() => c.door.press('move.left'))).toEqual(['plain']); // turned round by now: left is forward
  expect(press(() => tap(c, 'gaff'))).toEqual(['twice']);
  expect(
    press(
      () => tap(c, 'move.down'),
      () => tap(c, 'move.left'),
    ),
  ).toEqual(['secret']);
  expect(
    press(
      () => tap(c, 'move.down'),
      () => tick(c, 20),
      () => tap(c, 'move.left'),
    ),
  ).toEqual(['plain']);
  expect(started(tap(c, 'jump'))).toEqual(['rest']);
});

test('grace and buffer of an input serve the abilities that it starts', () => {
  const c = makeCharacter(
    'abilities: { hop: { start: { press: leap }, from: floor, phases: [{ for: 1f }] } }',
    {},
    {
      leap: '{ button: Space, grace: 5f, buffer: 4f }',
    },
  );
  const stand = (grounded: boolean, ticks: number) => {
    c.door.contacts({ x: 0, y: 0, vx: 0, vy: 0, grounded });
    tick(c, ticks);
  };
  stand(true, 2);
  stand(false, 4);
  expect(started(tap(c, 'leap'))).toEqual(['hop']); // five ticks after it last stood
  stand(true, 2);
  stand(false, 6);
  expect(tap(c, 'leap')).toEqual(['!hop from']);
  tick(c, 1);
  c.door.contacts({ x: 0, y: 0, vx: 0, vy: 0, grounded: true });
  expect(started(tick(c))).toEqual(['hop']); // kept for four ticks
});

test('limits and rates of pools may be formulas', () => {
  const c = makeCharacter(`
pools:
  grit: { max: 20, start: 10 }
  wind: { max: 10 + pool.grit, start: 0, regen: "pick(grounded, 60, 6)" }`);
  tick(c, 11);
  expect(c.readout.pool('wind')).toBe(10);
  tick(c, 30);
  expect([c.readout.pool('wind'), c.readout.poolLimits('wind').max]).toEqual([20, 20]);
  c.door.pool('grit', 4);
  tick(c, 2);
  expect(c.readout.pool('wind')).toBe(14);
});

test('a cost in several pools is paid whole or not at all, and one of nothing is no cost', () => {
  const c = makeCharacter(`
pools: { wind: { max: 9 }, oil: { max: 9, start: 1 } }
abilities:
  flare: { start: { press: gaff }, cost: { wind: 5, oil: 2 }, phases: [{ for: 1f }] }
  free: { start: { press: gale }, cost: { oil: 0 }, phases: [{ for: 1f }] }
  late: { start: { press: jump }, cost: { wind: 6 }, pay: hit, refund: 100%, phases: [{ for: 3f }, { name: hit, for: 3f }] }`);
  expect(tap(c, 'gaff')).toEqual(['!flare pool']);
  expect([c.readout.pool('wind'), c.readout.pool('oil')]).toEqual([9, 1]);
  expect(started(tap(c, 'gale'))).toEqual(['free']);
  tap(c, 'jump');
  c.door.pool('wind', 5);
  expect(tick(c, 2)).toEqual(['-late couldNotPay']);
  expect(c.readout.pool('wind')).toBe(5);
});

test('beats come at their ticks, also in the one in which the phase is over', () => {
  const c = makeCharacter(`
events: [one, many]
abilities: { toll: { start: { press: gaff }, phases: [{ for: 9f, beats: [{ at: 4f, emit: one }, { every: 3f, emit: many }] }] } }`);
  c.door.press('gaff');
  const at = Array.from({ length: 12 }, (_, i) => [i, tick(c).filter((t) => t.startsWith('emitted'))] as const);
  expect(at.filter(([, told]) => told.length > 0)).toEqual([
    [3, ['emitted many']],
    [4, ['emitted one']],
    [6, ['emitted many']],
    [9, ['emitted many']],
  ]);
});

test('a press and its release in one tick are two moments: each starts an ability of its own', () => {
  const c = makeCharacter(`
lanes: [body, legs]
abilities:
  jab: { start: { press: gaff }, phases: [{ for: 9f }] }
  step: { lane: legs, start: { release: gaff }, phases: [{ for: 9f }] }`);
  c.door.press('gaff');
  c.door.release('gaff');
  expect(started(tick(c))).toEqual(['jab', 'step']);
});
