import { expect, test } from 'vitest';
import { replaceAt } from '../../src/format/edit.js';
import { compileMoveset } from '../../src/index.js';
import { Sink } from '../../src/report/diagnostic.js';
import { playersOf } from '../../src/scenario/players-of.js';
import { aimAt } from '../../src/study/aim.js';
import { MEASURES, sweepScenario } from '../../src/study/index.js';
import { Sweeper } from '../../src/study/sweep.js';
import { forRandom } from '../random/for-random.js';
import { makeSound } from '../random/moveset.js';
import { plan } from '../support.js';

const TEXT = `
loggia: 1
name: Pell
pools: { wind: { max: 20, regen: 0 } }
inputs: { gale: { button: KeyF } }
body: { gravity: 0 }
stances: { stand: {} }
events: [puff]
abilities:
  dash:
    start: { press: gale }
    cost: { wind: 9 }
    phases: [{ name: go, for: 12f, move: { forward: 10, keep: 0 }, emit: puff }]
`;
const SCENARIO = {
  scenario: 'a dash',
  world: { rows: ['@...................', '....................', '####################'] },
  run: '0.5s',
  inputs: [{ at: '0.1s', tap: 'gale' }],
  expect: [{ started: 'dash' }],
};
const PELL = plan(TEXT);
const sweep = (vary: string | string[], measure?: string | string[]) =>
  sweepScenario(PELL, SCENARIO, { vary, measure });
const measured = (vary: string | string[], measure?: string | string[]) =>
  sweep(vary, measure).rows.map(
    ({ measured, fault }) => fault ?? measured.map((value) => value && Number(value.toFixed(9))),
  );

test('a sweep measures what the arithmetic of a dash says', () => {
  // 12 ticks of a sixtieth at that speed.
  expect(measured('abilities.dash.phases.go.move.forward=5..25/5')).toEqual([[1], [2], [3], [4], [5]]);
});

test('values are ranges, lists and shares of what is there, in the unit of what is there', () => {
  const values = (vary: string) => sweep(vary).varied[0].values;
  expect(values('pools.wind.max=10..30')).toHaveLength(11);
  expect(values('pools.wind.max=50%,100%,150%')).toEqual([10, 20, 30]);
  expect(values('abilities.dash.phases.go.for=6..12/3')).toEqual(['6f', '9f', '12f']);
  expect(values('abilities.dash.phases.go.for=50%..100%/2')).toEqual(['6f', '12f']);
  expect(values('inputs.0.at=0.1s..0.3s/3')).toEqual(['0.1s', '0.2s', '0.3s']);
  expect(values('scenario:run=0.4s,0.5s')).toEqual(['0.4s', '0.5s']);
});

test('every measure', () => {
  const all = [
    'distance',
    'height',
    'pool.wind',
    'max vx',
    'min vx',
    'sum vx',
    'time to puff',
    'at started dash: x',
    'time to refused dash',
  ];
  expect(measured('abilities.dash.cost.wind=9,25', all)).toEqual([
    // The dash starts in the seventh tick, which is over 7/60 s after the start.
    [2, 0, 11, 10, 0, 120, Number((7 / 60).toFixed(9)), Number((0.5 + 10 / 60).toFixed(9)), null],
    [0, 0, 20, 0, 0, 0, null, null, Number((7 / 60).toFixed(9))],
  ]);
  for (const name of Object.keys(MEASURES)) expect(measured('abilities.dash.cost.wind=9,9.5', name)[0]).toHaveLength(1);
});

test('a number of the scenario is another one in each run, and what a place does not allow is a fault in its row only', () => {
  expect(measured('inputs.0.at=0.1s,0.4s', 'time to started dash')).toEqual([[0.116666667], [0.416666667]]);
  const rows = measured('abilities.dash.phases.go.steer=0..4/17', 'pool.wind');
  expect(rows.slice(0, 5)).toEqual([[11], [11], [11], [11], [11]]);
  expect(rows[5]).toContain('1.25 is out of range');
});

test('two numbers make a grid, the second one going first', () => {
  const { rows } = sweep(['abilities.dash.phases.go.move.forward=10,20', 'abilities.dash.phases.go.for=6f,12f']);
  expect(rows.map(({ values, measured: [value] }) => [...values, Math.round((value ?? 0) * 1e6) / 1e6])).toEqual([
    [10, '6f', 1],
    [10, '12f', 2],
    [20, '6f', 2],
    [20, '12f', 4],
  ]);
});

test('what cannot be varied or measured is said with the way out, and what a value makes impossible in its row', () => {
  const fault = (vary: string | string[], measure?: string) => {
    try {
      return sweep(vary, measure).rows[0].fault;
    } catch (error) {
      return (error as Error).message;
    }
  };
  expect(fault('abilities.dahs.cost.wind=1,2')).toContain('There is no "dahs" in abilities');
  expect(fault('abilities.dahs.cost.wind=1,2')).toContain('Did you mean "dash"?');
  expect(fault('abilities.dash.phases=1,2')).toContain('is a list; name one of the numbers within it');
  expect(fault('pools.wind.max')).toContain('says no values');
  expect(fault('abilities.dash.phases[0].for=6f,0.5s')).toContain('are in several units; write all in one');
  expect(fault('pools.wind.max=1..x')).toContain('"x" is no number');
  expect(fault('pools.wind.max=1,2', 'distanc')).toContain('Did you mean "distance"?');
  expect(fault('pools.wind.max=1,2', 'time to started dahs')).toContain('Did you mean "dash"?');
  expect(fault('abilities.dash.cost.wind=-1,2')).toContain('out of range');
  expect(fault(['pools.wind.max=1..2', 'pools.wind.start=1..2', 'pools.wind.regen=1..2'])).toContain(
    'one or two texts',
  );
});

/** Places of plain numbers within the abilities of a moveset. */
function numbersIn(value: unknown, path: readonly (string | number)[] = []): (readonly (string | number)[])[] {
  if (typeof value === 'number') return [path];
  if (typeof value !== 'object' || value === null) return [];
  return Object.entries(value).flatMap(([key, item]) =>
    numbersIn(item, [...path, Array.isArray(value) ? Number(key) : key]),
  );
}

test('random movesets: a number that is changed in what is compiled comes to the same as compiled anew', () => {
  let tuned = 0;
  forRandom(40, (random) => {
    const { source } = makeSound(random, { functions: false });
    const moveset = compileMoveset(source as never);
    const places = numbersIn(source.abilities, ['abilities']);
    if (places.length === 0 || moveset.view === 'open') return;
    const path = random.pick(places);
    const scenario = {
      loggia: 1,
      moveset: moveset.name,
      scenario: 'mashing',
      world: { rows: ['....................', '....................', '.........@..........', '####################'] },
      run: '60f',
      inputs: [],
      expect: [{ that: 'vx >= 0 or vx < 0' }],
    };
    const vary = [`moveset:${path.join('.')}=0..4/17`];
    const measures = [
      'distance',
      'height',
      'sum vx',
      'sum vy',
      ...moveset.names.pool.map((pool) => `sum pool.${pool}`),
    ];
    const sink = new Sink();
    const players = playersOf(moveset, scenario, {}, sink);
    const data = {
      ...scenario,
      inputs: moveset.names.ability.map((ability, i) => ({ at: `${i * 4}f`, request: ability })),
    };
    const whole = new Sweeper({ players, data }, vary, measures);
    for (const index of [0, 3, 8, 11, 16]) {
      const alone = new Sweeper({ players, data }, [`moveset:${path.join('.')}=${whole.valuesAt(index)[0]}`], measures);
      const { index: _, ...row } = whole.run(index);
      expect(row).toEqual(alone.runWith(alone.valuesAt(0)));
      tuned += Number(row.fault === undefined);
    }
  });
  expect(tuned).toBeGreaterThan(60);
});

test('an aim is found by halving where a measure only rises, and what is not even is said', () => {
  const aim = (vary: string, goal: number, measure = 'distance') => {
    const players = playersOf(PELL, SCENARIO, {}, new Sink());
    const data = { loggia: 1, moveset: 'Pell', ...SCENARIO };
    const sweeper = new Sweeper({ players, data }, [vary], [measure]);
    const rows = Array.from({ length: sweeper.count }, (_, i) => sweeper.run(i));
    const found = aimAt(sweeper, rows, goal);
    return found && [found.value, Number(found.measured.toFixed(4)), found.how];
  };
  expect(aim('abilities.dash.phases.go.move.forward=5..25/4', 2.468)).toEqual([12.34, 2.468, 'exact']);
  expect(aim('abilities.dash.phases.go.move.forward=25..5/4', 2.468)).toEqual([12.34, 2.468, 'exact']);
  expect(aim('abilities.dash.phases.go.for=2f..20f/4', 2)).toEqual(['12f', 2, 'exact']);
  expect(aim('abilities.dash.phases.go.for=2f..20f/4', 2.05)).toEqual(['12f', 2, 'near']);
  expect(aim('abilities.dash.phases.go.move.forward=5..25/4', 50)).toEqual([25, 5, 'outside']);
  expect(aim('abilities.dash.cost.wind=5,30,6', 1.9)).toEqual([5, 2, 'uneven']);
  expect(aim('abilities.dash.cost.wind=30,40', 3, 'time to puff')).toBeUndefined();
});

test('a value is written into a file with everything else as it was', () => {
  const text = '# a rigger\npools:\n  wind: { max:   20, "start": 12f } # breath\n  oil: &o { max: 3 }\n  tar: *o\n';
  expect(replaceAt(text, ['pools', 'wind', 'max'], 20, 22.5)).toBe(text.replace('20', '22.5'));
  expect(replaceAt(text, { line: 3, column: text.split('\n')[2].indexOf('12f') + 1 }, '12f', '14f')).toBe(
    text.replace('12f', '14f'),
  );
  expect(replaceAt(text, ['pools', 'wind', 'max'], 21, 22)).toBeUndefined();
  expect(replaceAt(text, ['pools', 'tar', 'max'], 3, 4)).toBeUndefined();
  expect(replaceAt(text, ['pools', 'wind', 'min'], undefined, 4)).toBeUndefined();
  expect(replaceAt('{"pools":{"wind":{"rest":"12f"}}}', ['pools', 'wind', 'rest'], '12f', '14f')).toBe(
    '{"pools":{"wind":{"rest":"14f"}}}',
  );
});
