import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { documentFacts, FACT_DOCS, FUNCTION_DOCS } from '../../src/analysis/fact-docs.js';
import { FUNCTIONS } from '../../src/compile/operators.js';
import { makeCharacter, plan, ROOT, tap, tick } from '../support.js';

test('each fact tells what it says', () => {
  const c = makeCharacter(`
lanes: [body, hands]
pools: { wind: { min: 1, max: 9, start: 5 } }
events: [bell]
abilities:
  jab: { start: { press: gaff }, cooldown: 30f, charges: { max: 2, every: 1s }, tags: busy, phases: [{ for: 10f }] }
  wind: { lane: hands, start: { press: gale }, phases: [{ charge: { over: 8f, levels: { half: 0.5 } } }, { for: 2f }] }
  lamp: { lane: hands, start: { toggle: jump } }`);
  const fact = (name: string) => Math.round(c.facts.fact(name) * 1000) / 1000;
  const facts = (...names: string[]) => Object.fromEntries(names.map((name) => [name, fact(name)]));

  c.door.press('move.right');
  tick(c, 13);
  expect(
    facts('grounded', 'airborne', 'moving', 'vx', 'speed', 'facing', 'headroom', 'in(stand)', 'steer', 'gravity'),
  ).toEqual({
    grounded: 1,
    airborne: 0,
    moving: 1,
    vx: 5,
    speed: 5,
    facing: 1,
    headroom: 1,
    'in(stand)': 1,
    steer: 1,
    gravity: 25,
  });
  expect(
    facts('stance.time', 'ground.time', 'air.time', 'held(move.right)', 'heldFor(move.right)', 'move.x', 'move.amount'),
  ).toEqual({
    'stance.time': 0.2,
    'ground.time': 0.2,
    'air.time': 0,
    'held(move.right)': 1,
    'heldFor(move.right)': 0.2,
    'move.x': 1,
    'move.amount': 1,
  });
  expect(facts('pool.wind', 'pool.wind.min', 'pool.wind.max', 'atWall', 'atCeiling')).toEqual({
    'pool.wind': 5,
    'pool.wind.min': 1,
    'pool.wind.max': 9,
    atWall: 0,
    atCeiling: 0,
  });

  tap(c, 'gaff');
  tick(c, 4);
  expect(facts('running(jab)', 'timeIn(jab)', 'charges(jab)', 'tagged(busy)', 'cooldown(jab)')).toEqual({
    'running(jab)': 1,
    'timeIn(jab)': 0.083,
    'charges(jab)': 1,
    'tagged(busy)': 1,
    'cooldown(jab)': 0,
  });
  tick(c, 11);
  expect(facts('running(jab)', 'timeIn(jab)', 'since(jab)', 'tagged(busy)', 'cooldown(jab)')).toEqual({
    'running(jab)': 0,
    'timeIn(jab)': 0,
    'since(jab)': 0.1,
    'tagged(busy)': 0,
    'cooldown(jab)': 0.4,
  });

  c.door.press('gale');
  tick(c, 5);
  expect(facts('charge(wind)', 'level(wind.half)')).toEqual({ 'charge(wind)': 0.5, 'level(wind.half)': 1 });
  c.door.release('gale');
  c.door.event('bell');
  tick(c);
  expect(facts('released(gale)', 'pressed(gale)', 'event(bell)')).toEqual({
    'released(gale)': 1,
    'pressed(gale)': 0,
    'event(bell)': 1,
  });
  tick(c, 3);
  tap(c, 'jump');
  expect(fact('latched(lamp)')).toBe(1);

  c.door.velocity(0, 6);
  tick(c, 2);
  expect(facts('grounded', 'landed', 'in(fall)', 'air.time')).toEqual({
    grounded: 0,
    landed: 0,
    'in(fall)': 1,
    'air.time': 0,
  });
  const landings = Array.from({ length: 40 }, () => {
    tick(c);
    return fact('landed');
  });
  expect(landings.filter((landed) => landed === 1)).toHaveLength(1);
});

test('every fact and function is documented with its type, and nothing is that does not exist', () => {
  const pell = plan(readFileSync(join(ROOT, 'scripts/reference/moveset.yaml'), 'utf8'));
  const known = documentFacts(pell.names, pell.factNames(), (fact) => pell.reading(fact)?.type);
  const types = { truth: 'condition', number: 'number', time: 'time' };
  for (const { key, doc } of known) expect([key, doc?.gives]).toEqual([key, types[pell.reading(key)?.type ?? 'truth']]);
  const used = new Set(known.map(({ doc }) => doc));
  // Inside an ability, its own charge and levels need no name.
  expect(FACT_DOCS.filter((doc) => !used.has(doc)).map(({ write }) => write)).toEqual([
    ...['charge', 'level({level})'],
    // Names of others are theirs.
    ...['{target}.pool({pool})', '{target}.tagged({tag})', '{target}.in({stance})'],
  ]);
  expect(Object.keys(FUNCTION_DOCS).map((write) => write.split('(')[0])).toEqual(
    expect.arrayContaining([...FUNCTIONS]),
  );
  expect(Object.keys(FUNCTION_DOCS)).toHaveLength(FUNCTIONS.length);
});
