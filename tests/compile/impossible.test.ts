import { expect, test } from 'vitest';
import { advise } from '../../src/analysis/advice.js';
import { checkMoveset } from '../../src/index.js';
import { wordDiagnostic } from '../../src/report/wording.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { makeSource } from '../random/moveset.js';
import { answer, create, makeScript, worldOf } from '../random/play.js';

/** What is said of a moveset with these stances and abilities. */
function said(stances: object, abilities: Record<string, object> = {}, conditions = {}): string[] {
  const { diagnostics } = checkMoveset(
    {
      loggia: 1,
      name: 'Pell',
      pools: { wind: { max: 9 } },
      conditions,
      inputs: { gaff: { button: 'KeyJ' } },
      stances,
      abilities: Object.fromEntries(
        Object.entries(abilities).map(([name, more]) => [
          name,
          { start: { press: 'gaff' }, phases: [{ for: '9f' }], ...more },
        ]),
      ),
    },
    advise,
  );
  return diagnostics
    .filter(({ code }) => ['never-holds', 'stance-shadowed', 'no-start'].includes(code))
    .map((d) => `${d.path.join('.')}: ${wordDiagnostic(d)}`);
}

const STANCES = { stand: { when: 'grounded' }, fall: {} };

test('a stance that one above it always shadows is told of, also through conditions, numbers and "or"', () => {
  const shadowed = (stand: string, run: string, conditions = {}) =>
    said({ stand: { when: stand }, run: { when: run }, fall: {} }, {}, conditions).length;
  expect(said({ stand: { when: 'grounded' }, run: { when: 'grounded and vx > 3' }, fall: {} })).toEqual([
    'stances.run: The stance "run" never applies: whenever its "when" holds, so does that of "stand" above it. Move it above "stand", or ask for something else.',
  ]);
  expect(shadowed('vx > 3', 'vx > 3.5')).toBe(1);
  expect(shadowed('vx >= 3', '3 < vx')).toBe(1);
  expect(shadowed('grounded or vy > 1', 'vy > 2 or not airborne')).toBe(1);
  expect(shadowed('low', 'grounded and vx > 9', { low: 'grounded' })).toBe(1);
  expect(shadowed('vx > 3', 'vx > 2')).toBe(0);
  expect(shadowed('vx > 3', 'vx >= 3')).toBe(0);
  expect(shadowed('grounded and vx > 3', 'grounded')).toBe(0);
  expect(shadowed('grounded or vy > 1', 'vy > 0')).toBe(0);
});

test('an ability whose stances and conditions exclude one another is told of; one way that is left is enough', () => {
  expect(said(STANCES, { hop: { from: 'stand', when: 'airborne' } })).toEqual([
    'abilities.hop: "hop" can never start: "from" and "when" exclude one another: together they need grounded and airborne; change one of them.',
  ]);
  // The last stance applies where those above do not.
  expect(said(STANCES, { hop: { from: 'fall', when: 'grounded' } })).toHaveLength(1);
  expect(said(STANCES, { hop: { from: ['fall', 'stand'], when: 'grounded' } })).toEqual([]);
  expect(said(STANCES, { hop: { from: 'stand', when: 'airborne or pool.wind > 3' } })).toEqual([]);
  expect(said(STANCES, { hop: { when: ['pool.wind > 5', 'pool.wind <= 5'] } })).toEqual([
    'abilities.hop: "hop" can never start: its "when" needs both pool.wind > 5 and pool.wind <= 5; remove one of them.',
  ]);
});

test('ends that can never come are told of at their place', () => {
  const phases = [{ for: '9f', until: ['landed', 'vy > 2 and vy <= 2'] }];
  expect(
    said(STANCES, {
      dive: { end: 'grounded and airborne', interrupt: 'since(dive) < 0.1s and since(dive) > 12f', phases },
    }),
  ).toEqual([
    'abilities.dive.end: This can never hold: it needs grounded and airborne at once. Change one of them, or say "or".',
    'abilities.dive.interrupt: This can never hold: it needs since(dive) < 0.1s and since(dive) > 12f at once. Change one of them, or say "or".',
    'abilities.dive.phases.0.until.1: This can never hold: it needs vy > 2 and vy <= 2 at once. Change one of them, or say "or".',
  ]);
  expect(said(STANCES, { dive: { end: 'in(stand) and in(fall)' } })).toHaveLength(1);
  expect(said(STANCES, { dive: { end: 'vy > 2 and vx <= 2 and vy != 2 and vx / 2 > vy' } })).toEqual([]);
});

test('random movesets in random play: what is said never to come does not', () => {
  let told = 0;
  forRandom(MOVESETS, (random, seed) => {
    const { plan, diagnostics } = checkMoveset(makeSource(random), advise);
    if (!plan) return;
    const never = new Set<string>();
    for (const { code, path } of diagnostics)
      if (code === 'stance-shadowed' || (code === 'no-start' && path.length === 2)) never.add(`${path[0]} ${path[1]}`);
    told += never.size;
    if (never.size === 0) return;
    const world = worldOf(random, plan);
    const c = create(plan, world, { probes: answer });
    for (const actions of makeScript(random, plan, 4 * TICKS, { place: false }).actions) {
      for (const action of actions) action(c);
      c.tick();
      const came = [
        `stances ${c.readout.stance}`,
        ...c.readout.events.flatMap((e) => (e.kind === 'started' ? `abilities ${e.ability}` : [])),
      ];
      expect([seed, came.filter((one) => never.has(one))]).toEqual([seed, []]);
    }
  });
  expect(told).toBeGreaterThan(0);
});
