import { expect, test } from 'vitest';
import { Character, flatGround } from '../../src/index.js';
import { generatedWhole } from '../emit/generated.js';
import { plan, SMALL, tap, tick } from '../support.js';

/** Characters of a small moveset: one whose plan is interpreted, one of the generated module. */
function both(more: string): Character[] {
  const made = plan(SMALL + more);
  return [made, generatedWhole(made)].map((one) => new Character(one, { world: flatGround() }));
}

test('a press that starts something leaves what an older press of its button still waits for', () => {
  for (const c of both(`
pools: { wind: { max: 9, start: 0 } }
abilities:
  lunge: { start: { double: gaff, within: 6f }, buffer: 1s, when: pool.wind > 5, phases: [{ for: 3f }] }
  jab: { start: { press: gaff }, when: pool.wind > 2, phases: [{ for: 3f }] }`)) {
    tap(c, 'gaff');
    expect(tap(c, 'gaff')).toEqual(['!lunge when', '!jab when']);
    tick(c, 20);
    c.door.pool('wind', 4);
    expect(tap(c, 'gaff')).toContain('+jab');
    tick(c, 5);
    c.door.pool('wind', 9);
    expect(tick(c)).toContain('+lunge');
  }
});

test('a reset ends waiting for the event that a cooldown counts from', () => {
  for (const c of both(`
events: [home]
abilities: { hook: { start: { press: gaff }, cooldown: { for: 9f, from: home }, phases: [{ for: 1f }] } }`)) {
    tap(c, 'gaff');
    tick(c, 20);
    expect(tap(c, 'gaff')).toEqual(['!hook cooldown']);
    c.door.reset('hook');
    tick(c);
    c.door.event('home');
    tick(c);
    expect(tap(c, 'gaff')).toContain('+hook');
  }
});

test('who waits in a shared cooldown keeps the whole group waiting', () => {
  for (const c of both(`
events: [home]
abilities:
  hook: { start: { press: gaff }, cooldown: { for: 9f, from: home, group: tools }, phases: [{ for: 1f }] }
  saw: { start: { press: gale }, cooldown: { for: 2f, group: tools }, phases: [{ for: 1f }] }`)) {
    tap(c, 'gaff');
    tick(c, 20);
    expect(tap(c, 'gale')).toEqual(['!saw cooldown']);
    c.door.event('home');
    tick(c, 9);
    expect(tap(c, 'gale')).toContain('+saw');
  }
});

test('what is followed gives nothing back, what is broken does', () => {
  for (const c of both(`
pools: { wind: { max: 9 } }
abilities:
  jab: { start: { press: gaff }, cost: { wind: 4 }, refund: 50%, phases: [{ for: 9f, open: hop }] }
  hop: { start: { press: jump }, phases: [{ for: 3f }] }
  duck: { start: { press: gale }, breaks: jab, phases: [{ for: 3f }] }`)) {
    tap(c, 'gaff');
    expect(tap(c, 'jump')[0]).toBe('-jab followed');
    expect(c.readout.pool('wind')).toBe(5);
    tick(c, 9);
    tap(c, 'gaff');
    expect(tap(c, 'gale')[0]).toBe('-jab broken');
    expect(c.readout.pool('wind')).toBe(3);
  }
});

test('a start ends the grace of its own lane only', () => {
  const more = (lane: string) => `
lanes: [body, arm]
abilities:
  hop: { start: { press: jump }, from: floor, grace: 20f, phases: [{ for: 3f }] }
  wave: { lane: ${lane}, start: { press: gale }, phases: [{ for: 2f }] }`;
  for (const [lane, starts] of [
    ['arm', true],
    ['body', false],
  ] as const)
    for (const c of both(more(lane))) {
      tick(c, 3);
      c.door.velocity(0, 12);
      tick(c, 3);
      expect(c.readout.grounded).toBe(false);
      tap(c, 'gale');
      tick(c, 3);
      expect(tap(c, 'jump').includes('+hop')).toBe(starts);
    }
});

test('of two freezes the longer counts', () => {
  for (const c of both('')) {
    c.door.freeze(9);
    c.door.freeze(3);
    tick(c, 8);
    expect(c.readout.stopped).toBe(true);
    c.door.freeze(2);
    tick(c, 1);
    tick(c, 4);
    expect(c.readout.stopped).toBe(false);
  }
});

test('a full charge goes on by itself where it says so, and waits where not', () => {
  const more = (full: string) => `
abilities: { draw: { start: { press: gaff }, phases: [{ charge: { over: 5f${full} } }, { for: 3f }] } }`;
  for (const [full, goes] of [
    [', full: go', true],
    ['', false],
  ] as const)
    for (const c of both(more(full))) {
      c.door.press('gaff');
      tick(c, 5);
      expect(tick(c, 3).includes('draw.2')).toBe(goes);
    }
});

test('what is left over of a division by nothing is nothing', () => {
  for (const c of both(`
pools: { wind: { max: 9, start: 7 }, air: { max: 9, start: 0 } }
abilities: { sum: { start: { press: gaff }, when: pool.wind % pool.air < 1, phases: [{ for: 1f }] } }`)) {
    expect(tap(c, 'gaff')).toContain('+sum');
  }
});

test('what a refused request was told for is told again once it changes, and not before', () => {
  for (const c of both(`
pools: { wind: { max: 9, start: 0 } }
abilities: { glide: { start: { hold: gaff }, when: pool.wind > 5, from: air, phases: [{ for: 3f }] } }`)) {
    c.door.press('gaff');
    expect(tick(c, 9)).toEqual(['!glide from,when']);
    c.door.pool('wind', 9);
    expect(tick(c, 9)).toEqual(['!glide from']);
    c.door.release('gaff');
    tick(c, 2);
    c.door.press('gaff');
    expect(tick(c, 9)).toEqual(['!glide from']);
  }
});

test('whether a host hears of refusals changes no checksum', () => {
  const made = plan(`${SMALL}abilities: { glide: { start: { hold: gaff }, from: air, phases: [{ for: 3f }] } }`);
  const sums = [true, false].map((refusals) => {
    const c = new Character(made, { world: flatGround(), refusals });
    c.door.press('gaff');
    expect(tick(c, 4)).toEqual(refusals ? ['!glide from'] : []);
    return c.checksum();
  });
  expect(sums[0]).toBe(sums[1]);
});
