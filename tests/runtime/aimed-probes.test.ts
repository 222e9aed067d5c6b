import { describe, expect, test } from 'vitest';
import { parseMoveset } from '../../src/format/text.js';
import { Character, type CharacterOptions, compileMoveset, type Facts, TileWorld } from '../../src/index.js';
import { makeCharacter, SMALL, sentences, tick } from '../support.js';

const HALL = new TileWorld(['########', '#......#', '#......#', '#.@..-.#', '########']);
const at = [2.5, 1] as const;

function look(probe: string, more = '', options: CharacterOptions = { world: HALL, at }): Character {
  return makeCharacter(
    `${more}\nprobes: { line: ${probe} }\nabilities: { hold: { start: { hold: gaff }, when: line.hit } }`,
    options,
  );
}

describe('a probe that aims', () => {
  test('looks where the stick is pushed, else along facing, and no further than its reach', () => {
    const c = look('{ along: [move, facing], reach: 3, at: [0, 1] }');
    tick(c);
    expect([c.facts.hit('line'), c.facts.distance('line')]).toEqual([false, 3]);
    c.door.press('move.left');
    tick(c);
    const left = c.readout.x;
    expect([c.facts.hit('line'), c.facts.distance('line'), c.facts.fact('line.normal.x')]).toEqual([true, left - 1, 1]);
    c.door.press('move.up');
    c.door.release('move.left');
    tick(c);
    expect([c.facts.hit('line'), c.facts.fact('line.y'), c.facts.fact('line.normal.y')]).toEqual([true, 4, -1]);
  });
  test('misses where there is no direction: its answers are a miss', () => {
    const c = look('{ along: move, reach: 5, at: [0, 1] }');
    tick(c);
    expect(['hit', 'distance', 'x', 'y', 'normal.x'].map((key) => c.facts.fact(`line.${key}`))).toEqual([
      0, 5, 2.5, 2, 0,
    ]);
  });
  test('measures by a formula', () => {
    const c = look('{ along: facing, reach: pool.wind, at: [0, 1] }', 'pools: { wind: { max: 9, start: 1 } }');
    tick(c);
    expect(c.facts.hit('line')).toBe(false);
    c.door.pool('wind', 6);
    tick(c);
    expect([c.facts.hit('line'), c.facts.distance('line')]).toEqual([true, 4.5]);
  });
  test('casts a box, or the body in its shape', () => {
    const ray = look('{ ray: [6, 0], at: [0, 1] }');
    const box = look('{ ray: [6, 0], at: [0, 1], box: [1, 0.5] }');
    const body = look('{ along: facing, reach: 6, box: body }');
    const found = [ray, box, body].map((c) => {
      tick(c);
      return c.facts.distance('line');
    });
    expect(found.map((n) => Math.round(n * 100) / 100)).toEqual([4.5, 4, 4.2]);
  });
  test('asks an engine with the same question', () => {
    const asked: string[] = [];
    const c = look('{ along: facing, reach: 2, box: [0.4, 0.2], at: [0, 1] }', '', {
      probes: (cast) => {
        asked.push(`${cast.kind} ${cast.hx} ${cast.hy} from ${cast.x},${cast.y} by ${cast.dx},${cast.dy}`);
        return false;
      },
    });
    c.door.contacts({ x: 3, y: 1, vx: 0, vy: 0, grounded: true });
    c.door.press('gaff');
    tick(c);
    expect(asked).toEqual(['sweep 0.2 0.1 from 3,2 by 2,0']);
  });
});

test.each([
  ['{ wall: { along: into(floor) }, floor: { ray: [0, -1] } }', []],
  [
    '{ wall: { along: into(floor) }, floor: { along: out(wall) } }',
    ['wall by floor by wall', 'floor by wall by floor'],
  ],
  ['{ wall: { along: facing, reach: wall.distance } }', ['wall by wall']],
  ['{ wall: { along: facing, ray: [1, 0] } }', ['A probe can have only one of "ray", "along"']],
  ['{ wall: { ray: [1, 0], reach: 3 } }', ['"reach" does nothing here: it belongs to "along", not to "ray".']],
  ['{ wall: { at: [1, 0] } }', ['A probe needs one of "ray", "along", "overlap", "nearest", "first" or "average".']],
])('probes %s', (probes, told) => {
  const found = sentences(parseMoveset(`${SMALL}probes: ${probes}`)).filter((line) => !line.includes('unread-input'));
  expect(found).toHaveLength(told.length);
  for (const [i, part] of told.entries()) expect(found[i]).toContain(part);
});

test('a function that reads its own probe for its reach finds a miss', () => {
  const moveset = compileMoveset({
    loggia: 1,
    name: 'Pell',
    probes: { line: { along: 'facing', at: [0, 1], reach: (facts: Facts) => (facts.hit('line') ? 1 : 6) } },
    stances: { near: { when: 'line.hit' }, far: {} },
  });
  const c = new Character(moveset, { world: HALL, at });
  tick(c, 3);
  expect([c.readout.stance, c.facts.distance('line')]).toEqual(['near', 4.5]);
});
