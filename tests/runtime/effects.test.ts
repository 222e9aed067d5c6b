import { describe, expect, test } from 'vitest';
import { Character, compileMoveset, flatGround } from '../../src/index.js';
import { makeCharacter, tap, tick } from '../support.js';

const LAYERS = `
lanes: [body, legs, hands]
body: { shapes: { tall: [0.6, 1.8], low: [0.6, 0.9] }, gravity: 20, walk: { speed: 5, accel: 10000, brake: 10000 } }
events: [slow, fast, float, gust]
abilities:
  slow: { lane: legs, start: { event: slow }, walk: { speed: 50% }, phases: [{ for: 10f }] }
  fast: { lane: hands, start: { event: fast }, walk: { speed: 200% }, gravity: 50%, tags: hasty, phases: [{ for: 20f }] }
  float:
    start: { event: float }
    phases: [{ name: up, for: 5f, gravity: 0, body: low }, { name: down, for: 5f, gravity: 4 }]
  gust: { start: { event: gust }, breaks: float, phases: [{ for: 1f }] }
`;

test('factors multiply, replacements go by lane order, and what ends takes only its own with it', () => {
  const c = makeCharacter(LAYERS);
  c.door.press('move.right');
  tick(c);
  expect(c.readout.vx).toBe(5);
  c.door.event('slow');
  c.door.event('fast');
  c.door.event('float');
  tick(c);
  expect([c.readout.vx, c.facts.fact('gravity'), c.facts.fact('tagged(hasty)')]).toEqual([5, 0, 1]);
  tick(c, 5);
  expect(c.facts.fact('gravity')).toBe(2);
  tick(c, 5);
  expect([c.readout.vx, c.facts.fact('gravity')]).toEqual([10, 10]);
  tick(c, 10);
  expect([c.readout.vx, c.facts.fact('gravity'), c.facts.fact('tagged(hasty)')]).toEqual([5, 20, 0]);
});

describe('every way out closes the scope', () => {
  test.each([
    ['time', (c: ReturnType<typeof makeCharacter>) => tick(c, 10)],
    ['broken', (c: ReturnType<typeof makeCharacter>) => c.door.event('gust')],
    ['code', (c: ReturnType<typeof makeCharacter>) => c.door.end('float')],
  ])('%s', (why, leave) => {
    const c = makeCharacter(LAYERS);
    c.door.event('float');
    tick(c);
    expect([c.facts.fact('gravity'), c.readout.shape]).toEqual([0, 'low']);
    const told = leave(c) ?? [];
    expect([...told, ...tick(c)]).toContain(`-float ${why}`);
    expect([c.facts.fact('gravity'), c.readout.shape]).toEqual([20, 'tall']);
  });
});

test('moves: set holds the named part, add adds once, replace holds all, keep says what remains', () => {
  const c = makeCharacter(`
body: { gravity: 0, walk: { brake: 0 } }
events: [set, add, replace]
abilities:
  set: { start: { event: set }, steer: 0, phases: [{ for: 2f, move: { up: 6 } }] }
  add: { start: { event: add }, steer: 0, phases: [{ for: 2f, move: { forward: 3, mode: add } }] }
  replace: { start: { event: replace }, steer: 0, phases: [{ for: 2f, move: { along: [move, facing], speed: 8, mode: replace, keep: 0.5 } }] }
`);
  const velocity = () => [c.readout.vx, c.readout.vy];
  c.door.velocity(1, 2);
  c.door.event('set');
  tick(c);
  expect(velocity()).toEqual([1, 6]);
  tick(c, 2);
  c.door.velocity(1, 2);
  c.door.event('add');
  tick(c);
  expect(velocity()).toEqual([4, 2]);
  tick(c, 2);
  c.door.event('replace');
  tick(c);
  expect(velocity()).toEqual([8, 0]);
  tick(c);
  c.door.velocity(8, 0);
  tick(c);
  expect(velocity()[0]).toBeLessThan(4.1);
});

test('a phase is closed once, also when all phases behind it are skipped', () => {
  const c = makeCharacter(`
body: { gravity: 0, walk: { brake: 0 } }
abilities: { dash: { start: { press: gale }, phases: [{ for: 2f, move: { forward: 8, keep: 0.5 } }, { for: 9f, when: x > 99 }] } }`);
  expect([...tap(c, 'gale'), ...tick(c)]).toEqual(['+dash', 'dash.1', '-dash time']);
  expect(c.readout.vx).toBe(4);
});

test('numbers of effects may be formulas that follow facts', () => {
  const c = makeCharacter(`
body: { gravity: 20 }
abilities: { glide: { start: { hold: gale }, gravity: "pick(vx > 2, 3, 30)" } }`);
  c.door.press('gale');
  tick(c);
  expect(c.facts.fact('gravity')).toBe(30);
  c.door.velocity(3, 0);
  tick(c);
  expect(c.facts.fact('gravity')).toBe(3);
});

test('gain and emit are done once, as their phase begins', () => {
  const c = makeCharacter(`
pools: { wind: { max: 10, start: 1 } }
events: [whoosh]
abilities: { tea: { start: { press: gaff }, phases: [{ for: 3f }, { name: drink, for: 5f, gain: { wind: 30 }, emit: whoosh }] } }`);
  expect([...tap(c, 'gaff'), ...tick(c, 10)]).toEqual(['+tea', 'tea.1', 'tea.drink', 'emitted whoosh', '-tea time']);
  expect(c.readout.pool('wind')).toBe(10);
});

test('a function for keep that gives no number keeps all', () => {
  const plan = compileMoveset({
    loggia: 1,
    name: 'Pell',
    stances: { stand: {} },
    body: { walk: { brake: 0 } },
    abilities: {
      dash: {
        start: { code: 'only' },
        steer: 0,
        phases: [{ for: '2f', move: { forward: 10, keep: () => undefined as unknown as number } }],
      },
    },
  });
  const c = new Character(plan, { world: flatGround() });
  c.door.request('dash');
  tick(c, 3);
  expect(c.readout.vx).toBe(10);
});

test.each([
  ['30%', 3],
  ['0.3', 3],
  ['pool.wind / 10', 5],
])('move.keep takes a share as steer does: %s', (keep, left) => {
  const c = makeCharacter(`
pools: { wind: { max: 9, start: 5 } }
body: { walk: { brake: 0 } }
abilities: { dash: { start: { press: gale }, steer: 0, phases: [{ for: 2f, move: { forward: 10, keep: ${keep} } }] } }`);
  c.door.press('gale');
  tick(c, 3);
  expect(c.readout.vx).toBeCloseTo(left, 9);
});
