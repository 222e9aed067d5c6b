import { describe, expect, test } from 'vitest';
import { Character, flatGround } from '../../src/index.js';
import { generatedWhole } from '../emit/generated.js';
import { plan, SMALL, tap, tick } from '../support.js';

const MOVES = `
abilities:
  cast: { start: { code: only }, phases: [{ for: 9f }] }
  chord: { start: { press: gale, with: jump }, buffer: 20f, phases: [{ for: 2f }] }
  dash: { start: { press: gale }, buffer: 20f, phases: [{ for: 2f }] }
  lift: { start: { press: gaff, toward: up }, buffer: 20f, phases: [{ for: 2f }] }
  poke: { start: { press: gaff }, follows: { cast: 2f }, buffer: 20f, phases: [{ for: 2f }] }
  jab: { start: { press: gaff }, buffer: 20f, phases: [{ for: 2f }] }
  late: { start: { release: gaff, held: 90f }, phases: [{ for: 2f }] }
  hop: { start: { release: jump }, buffer: 20f, phases: [{ for: 2f }] }
  guard: { start: { hold: move.down }, phases: [{ for: 2f }] }
  aim: { lane: hands, start: { press: move.up }, phases: [{ for: 2f }] }
`;

describe.each([
  ['interpreted', plan],
  ['a module', (text: string) => generatedWhole(plan(text))],
])('presses that wait: %s', (_, of) => {
  const started = (lanes: string, play: (c: Character) => void) => {
    const c = new Character(of(`${SMALL}lanes: ${lanes}${MOVES}`), { world: flatGround() });
    tick(c, 2);
    c.door.request('cast');
    tick(c);
    play(c);
    return tick(c, 30).filter((line) => line.startsWith('+'));
  };
  const last = '{ body: { waits: last }, hands: {} }';

  test('of a lane that waits for the last, a later press takes the place of an earlier one', () => {
    const play = (c: Character) => {
      tap(c, 'gaff');
      tap(c, 'gale');
    };
    expect(started('[body, hands]', play)).toEqual(['+dash', '+poke']);
    expect(started(last, play)).toEqual(['+dash']);
    expect(started(last, (c) => [play(c), tap(c, 'gaff')])).toEqual(['+poke']);
  });

  test('of a lane that goes in turn, the earliest press goes first of those that may start', () => {
    const turn = '{ body: { waits: turn }, hands: {} }';
    const play = (c: Character) => {
      tap(c, 'gale');
      tap(c, 'gaff');
    };
    // Declared before it, the dash would go first anyway; so the other way round.
    const back = (c: Character) => {
      tap(c, 'gaff');
      tap(c, 'gale');
    };
    expect([started('[body, hands]', play), started('[body, hands]', back)]).toEqual([
      ['+dash', '+poke'],
      ['+dash', '+poke'],
    ]);
    expect([started(turn, play), started(turn, back)]).toEqual([
      ['+dash', '+poke'],
      ['+poke', '+dash'],
    ]);
    // Presses of one tick go by their order, and what may not start holds nothing up.
    const both = (c: Character) => {
      c.door.press('gaff');
      c.door.press('gale');
    };
    expect(started(turn, both)).toEqual(['+dash', '+poke']);
    expect(started(turn, (c) => [tap(c, 'gaff'), c.door.forget('jab'), c.door.forget('poke'), tap(c, 'gale')])).toEqual(
      ['+dash'],
    );
  });

  test('the price of what could not go first is not paid by what goes', () => {
    const text = `${SMALL}
pools: { wind: { max: 24 } }
abilities:
  heave: { start: { press: gaff }, buffer: 30f, cost: { wind: 20 + pool.wind }, phases: [{ for: 1f }] }
  dash: { start: { press: gale }, buffer: 30f, cost: { wind: pool.wind / 8 }, phases: [{ for: 1f }] }
lanes: { body: { waits: turn } }`;
    const c = new Character(of(text), { world: flatGround() });
    tap(c, 'gaff');
    tap(c, 'gale');
    tick(c, 2);
    expect(c.readout.pool('wind')).toBe(21);
  });

  test('what belongs to another lane, an event or code, and a button that triggers nothing there, take no place', () => {
    const play = (c: Character) => {
      tap(c, 'gaff');
      tap(c, 'move.up');
      c.door.press('jump');
    };
    expect(started(last, play)).toEqual(['+poke']);
    expect(started(last, (c) => [play(c), c.door.release('jump')])).toEqual(['+hop']);
  });

  test('a hold takes the place of what was pressed before, and presses of one tick are judged by their order', () => {
    expect(started(last, (c) => [tap(c, 'gaff'), tap(c, 'move.down')])).toEqual([]);
    // Of one button, what its next press no longer means waits no longer; its release takes nothing away.
    const up = (c: Character) => [c.door.press('move.up'), tap(c, 'gaff'), c.door.release('move.up'), tick(c)];
    expect(started(last, up)).toEqual(['+lift']);
    expect(started(last, (c) => [up(c), tap(c, 'gaff')])).toEqual(['+poke']);
    const together = (c: Character) => {
      c.door.press('gale');
      c.door.press('gaff');
      tick(c);
    };
    expect(started(last, together)).toEqual(['+dash', '+poke']);
    const chord = (c: Character) => {
      c.door.press('gale');
      c.door.press('jump');
      tick(c);
    };
    expect(started(last, chord)).toContain('+chord');
  });
});
