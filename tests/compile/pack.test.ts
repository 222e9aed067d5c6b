import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { Bindings } from '../../src/devices/index.js';
import { parseMoveset } from '../../src/format/text.js';
import { Character, compileMoveset, flatGround, packMoveset, unpackMoveset } from '../../src/index.js';
import { plan, ROOT, tick } from '../support.js';

const through = (packed: unknown) => unpackMoveset(JSON.parse(JSON.stringify(packed)));

test('a packed moveset plays, explains and binds as the moveset itself does', () => {
  const folder = join(ROOT, 'demo/boatyard');
  const read = (path: string) => ({ text: readFileSync(join(folder, path), 'utf8') });
  const original = parseMoveset(read('pell.yaml').text, 'pell.yaml', { read }).plan;
  if (!original) throw new Error('the demo has faults');
  const unpacked = through(packMoveset(original));
  const [one, other] = [original, unpacked].map((p) => new Character(p, { world: flatGround() }));
  const told: string[][] = [[], []];
  original.names.button.forEach((button, i) => {
    [one, other].forEach((c, k) => {
      c.door.press(button);
      told[k].push(...tick(c, 3 + (i % 5)));
      if (i % 3 > 0) c.door.release(button);
      told[k].push(...tick(c, 11));
      told[k].push(...original.names.ability.map((ability) => c.explain(ability).text));
    });
    expect(other.checksum()).toBe(one.checksum());
  });
  expect(told[1]).toEqual(told[0]);
  expect(told[0].filter((line) => line.startsWith('+')).length).toBeGreaterThan(3);
  const bound = (p: typeof original) => original.names.button.map((button) => new Bindings(p).sourcesOf(button));
  expect(bound(unpacked)).toEqual(bound(original));
  expect(packMoveset(unpacked)).toEqual(packMoveset(original));
});

test('a function is refused with its place, and what was not packed is not unpacked', () => {
  const moveset: unknown = { loggia: 1, name: 'Pell', stances: { stand: { when: () => true }, fall: {} } };
  expect(() => packMoveset(compileMoveset(moveset))).toThrow('write stances.stand.when as text');
});

test('what this version has not packed, or what was changed since, is refused with what is wrong', () => {
  const good = packMoveset(plan('loggia: 1\nname: Pell\nstances: { stand: {} }'));
  const told = (packed: unknown) => {
    try {
      unpackMoveset(packed);
      return 'unpacked';
    } catch (error) {
      return `${(error as Error).name}: ${(error as Error).message}`;
    }
  };
  expect(told(JSON.parse(JSON.stringify(good)))).toBe('unpacked');
  const deep = JSON.parse(`${'['.repeat(2100)}${']'.repeat(2100)}`);
  const wrong: [unknown, string][] = [
    [undefined, 'a packed moveset is a map, not nothing; pack the moveset again'],
    ['pell', 'a packed moveset is a map, not "pell"; pack'],
    [{ loggia: 1, name: 'Pell', stances: {} }, 'this is a moveset that is not packed; use compileMoveset'],
    [{ ...good, packing: 1 }, 'it was packed as 1, but this Loggia reads 7; pack'],
    [{ ...good, parsed: [] }, '"names" and "parsed" must be maps; pack'],
    [{ ...good, parsed: { ...good.parsed, name: deep } }, 'it nests deeper than 2000 levels; pack'],
    [{ ...good, parsed: { ...good.parsed, name: 'Pall' } }, 'it was changed or cut off after it was packed; pack'],
  ];
  for (const [packed, why] of wrong) expect(told(packed)).toContain(`PackingError: unpackMoveset: ${why}`);
});

test('what a pack looks like is known to its number: change PACKING when this changes', () => {
  const { names, sum, ...rest } = packMoveset(
    plan('loggia: 1\nname: Pell\nstances: { stand: { when: vy <= 0, gravity: 50% }, fall: {} }'),
  );
  expect(rest).toEqual({
    loggia: 1,
    packing: 7,
    parsed: {
      loggia: 1,
      name: 'Pell',
      stances: {
        stand: {
          when: {
            source: 'vy <= 0',
            node: {
              kind: 'binary',
              op: '<=',
              from: 0,
              to: 7,
              left: { kind: 'name', name: 'vy', from: 0, to: 2 },
              right: { kind: 'number', value: 0, from: 6, to: 7 },
            },
          },
          gravity: { source: 0.5, percent: true },
        },
        fall: {},
      },
    },
  });
  expect(names).toMatchObject({ stance: ['stand', 'fall'], lane: ['body'], shape: ['tall'], ability: [] });
});
