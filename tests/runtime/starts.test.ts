import { expect, test } from 'vitest';
import { makeCharacter, tap, tick } from '../support.js';

test('a press asks once, however long it is held', () => {
  const c = makeCharacter('abilities: { jab: { start: { press: gaff }, phases: [{ for: 2f }] } }');
  c.door.press('gaff');
  expect(tick(c, 30).filter((e) => e === '+jab')).toHaveLength(1);
  expect(tap(c, 'jump')).toEqual([]);
});

test('a press and release between two ticks still count', () => {
  const c = makeCharacter('abilities: { jab: { start: { press: gaff }, phases: [{ for: 2f }] } }');
  c.door.press('gaff');
  c.door.release('gaff');
  expect(tick(c)).toContain('+jab');
});

test('a hold runs as long as it is held; once broken, it stays out until it is pressed again', () => {
  const c = makeCharacter(`
lanes: [body, legs]
events: [gust, shove]
abilities:
  brace: { start: { hold: gale } }
  gust: { start: { event: gust }, breaks: brace, phases: [{ for: 3f }] }
  shove: { lane: legs, start: { event: shove }, breaks: brace, phases: [{ for: 3f }] }`);
  for (const [event, lane] of [
    ['gust', 'gust'],
    ['shove', 'shove'],
  ]) {
    c.door.press('gale');
    expect(tick(c)).toEqual(['+brace']);
    c.door.event(event);
    expect(tick(c, 5)).toEqual([`received ${event}`, '-brace broken', `+${lane}`, `${lane}.1`, `-${lane} time`]);
    c.door.release('gale');
    expect(tick(c)).toEqual([]);
  }
  c.door.press('gale');
  expect(tick(c)).toEqual(['+brace']);
  c.door.end('brace');
  expect(tick(c, 3)).toEqual(['-brace code']);
});

test('a toggle latches at its first press, outlives interruptions, and unlatches at the second or as declared', () => {
  const c = makeCharacter(`
abilities:
  lamp: { start: { toggle: gale, unlatch: x > 5 }, end: held(jump) }`);
  expect(tap(c, 'gale')).toEqual(['latched lamp', '+lamp']);
  expect(tap(c, 'jump')).toContain('-lamp condition');
  expect(tick(c)).toEqual([]);
  expect(c.readout.isRunning('lamp')).toBe(true);
  expect(tap(c, 'gale')).toEqual(['unlatched lamp', '-lamp released']);
  tap(c, 'gale');
  c.door.place(6, 0);
  expect(tick(c)).toEqual(['unlatched lamp', '-lamp released']);
});

test('a rule asks by itself and ends when it no longer holds', () => {
  const c = makeCharacter('abilities: { shiver: { start: { rule: x > 2 } } }');
  c.door.place(3, 0);
  expect(tick(c)).toEqual(['+shiver']);
  c.door.place(1, 0);
  expect(tick(c)).toEqual(['-shiver released']);
});

test('two opposite sides: the last one counts, and what remains counts when one is released', () => {
  const c = makeCharacter('body: { walk: { speed: 4, accel: 1000, brake: 1000 } }');
  c.door.press('move.right');
  tick(c);
  c.door.press('move.left');
  tick(c);
  expect([c.readout.vx, c.readout.facing]).toEqual([-4, -1]);
  c.door.release('move.left');
  tick(c);
  expect([c.readout.vx, c.readout.facing]).toEqual([4, 1]);
});

test('two opposite sides may cancel out instead', () => {
  const c = makeCharacter('', undefined, {
    walk: '{ stick: { left: KeyA, right: KeyD }, opposite: neutral }',
  });
  c.door.press('walk.left');
  c.door.press('walk.right');
  tick(c);
  expect(c.facts.fact('walk.x')).toBe(0);
  c.door.release('walk.left');
  tick(c);
  expect(c.facts.fact('walk.x')).toBe(1);
});

test('an analog stick has a round dead zone, is rescaled, and is no faster on diagonals', () => {
  const c = makeCharacter('');
  const at = (x: number, y: number) => {
    c.door.stick('move', x, y);
    c.tick();
    return [c.facts.fact('move.x'), c.facts.fact('move.y')].map((n) => Math.round(n * 100) / 100);
  };
  expect(at(0.15, 0.12)).toEqual([0, 0]);
  expect(at(0.6, 0)).toEqual([0.5, 0]);
  expect(at(1, 1)).toEqual([0.71, 0.71]);
  expect(c.facts.held('move.right')).toBe(true);
  c.door.press('move.right'); // a key besides, and let go again: the stick still holds it
  c.tick();
  c.door.release('move.right');
  expect(at(1, 0.01)[0]).toBe(1);
  expect(c.facts.held('move.right')).toBe(true);
  at(0, 0);
  expect(c.facts.held('move.right')).toBe(false);
});
