import { expect, test } from 'vitest';
import { makeCharacter, tap, tick } from '../support.js';

test('0.03 a tick for an hour ends where arithmetic says', () => {
  const c = makeCharacter('pools: { oil: { max: 100000, start: 0, regen: 1.8 } }');
  for (let i = 0; i < 216_000; i++) c.tick();
  expect(c.readout.pool('oil')).toBeCloseTo(0.03 * 215_999, 9);
});

test('regeneration rests after spending, and never passes the limit', () => {
  const c = makeCharacter(`
pools: { wind: { max: 10, regen: 60, rest: 10f } }
abilities: { jab: { start: { press: gaff }, cost: { wind: 4 }, phases: [{ for: 1f }] } }`);
  tap(c, 'gaff');
  tick(c, 9);
  expect(c.readout.pool('wind')).toBe(6);
  tick(c, 1);
  expect(c.readout.pool('wind')).toBe(7);
  tick(c, 9);
  expect(c.readout.pool('wind')).toBe(10);
});

test('a pool that loses instead of regaining runs dry, and says so once', () => {
  const c = makeCharacter('pools: { oil: { max: 10, start: 3, regen: -6, rest: 10f } }');
  expect(tick(c, 30)).toEqual([]);
  expect(tick(c, 60)).toEqual(['emptied oil']);
  expect(c.readout.pool('oil')).toBe(0);
});

test('what is kept up ends a tick after another lane has emptied its pool', () => {
  const c = makeCharacter(`
pools: { oil: { max: 10 } }
lanes: [body, legs]
abilities:
  glow: { start: { hold: gale }, upkeep: { oil: 1 } }
  spill: { lane: legs, start: { press: gaff }, phases: [{ until: held(jump) }, { for: 1s, gain: { oil: -10 } }] }`);
  c.door.press('gale');
  tap(c, 'gaff');
  tick(c, 5);
  c.door.press('jump');
  expect(tick(c, 1)).toEqual(['spill.2', 'emptied oil']);
  expect(tick(c, 1)).toEqual(['-glow ranOut', '!glow pool']);
});

test('upkeep drains exactly, ends what it keeps up when dry, and wants its threshold again', () => {
  const c = makeCharacter(`
pools: { wind: { max: 6, regen: 6, rest: 12f } }
abilities: { sprint: { start: { hold: gale }, upkeep: { wind: { rate: 6, restart: 3 } } } }`);
  c.door.press('gale');
  expect(tick(c, 60)).toEqual(['+sprint']);
  expect(tick(c, 1)).toEqual(['emptied wind', '-sprint ranOut', '!sprint restart']);
  expect(tick(c, 41)).toEqual([]);
  expect(tick(c, 1)).toEqual(['+sprint']);
});

test('a cooldown counts from the end or the start, and is seen', () => {
  const c = makeCharacter(`
abilities:
  late: { start: { press: gaff }, cooldown: 10f, phases: [{ for: 5f }] }
  early: { start: { press: gale }, cooldown: { for: 10f, from: start }, phases: [{ for: 5f }] }`);
  tap(c, 'gaff');
  tick(c, 4);
  expect(c.readout.cooldown('late')).toBeCloseTo(10 / 60);
  expect(tap(c, 'gaff')).toEqual(['!late cooldown']);
  tick(c, 8);
  expect(tap(c, 'gaff')).toContain('+late');
  tick(c, 10);
  tap(c, 'gale');
  tick(c, 7);
  expect(tap(c, 'gale')).toEqual(['!early cooldown']);
  expect(tap(c, 'gale')).toContain('+early');
});

test('what is held is started once its cooldown is over that an event began', () => {
  const c = makeCharacter(`
events: [tea]
abilities:
  sip: { start: { hold: gaff }, cooldown: { for: 10f, from: tea }, phases: [{ for: 1f }] }`);
  c.door.press('gaff');
  expect(tick(c, 20)).toEqual(['+sip', 'sip.1', '-sip time', '!sip cooldown']);
  c.door.event('tea');
  expect(tick(c, 10)).toEqual(['received tea']);
  expect(tick(c, 1)).toEqual(['+sip', 'sip.1']);
});

test('charges come back one by one in time, or all at once by a condition', () => {
  const c = makeCharacter(`
events: [tea]
abilities:
  throw: { start: { press: gaff }, charges: { max: 2, every: 30f }, phases: [{ for: 1f }] }
  blink: { start: { press: gale }, charges: { max: 3, refill: event(tea) }, phases: [{ for: 1f }] }`);
  for (const input of ['gaff', 'gaff', 'gale', 'gale', 'gale']) expect(tap(c, input)[0]).toMatch(/^\+/);
  expect([c.readout.charges('throw'), c.readout.charges('blink')]).toEqual([0, 0]);
  expect(tap(c, 'gaff')).toEqual(['!throw charges']);
  tick(c, 19);
  expect(c.readout.charges('throw')).toBe(1);
  tick(c, 30);
  expect(c.readout.charges('throw')).toBe(2);
  c.door.event('tea');
  tick(c);
  expect(c.readout.charges('blink')).toBe(3);
});
