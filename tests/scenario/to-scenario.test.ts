import { mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { parse } from 'yaml';
import { Character, flatGround, UsageError } from '../../src/index.js';
import { Recording } from '../../src/recording/index.js';
import { Movesets, runScenarioData, runScenarioFile, toScenario } from '../../src/scenario/index.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { makeMoveset } from '../random/moveset.js';
import { create, makeScript, play, worldOf } from '../random/play.js';
import { plan as planOf, ROOT, SMALL } from '../support.js';

const SCENARIOS = join(ROOT, 'demo/boatyard/scenarios');

test('what any scenario of the boatyard recorded becomes a scenario that passes, as a file', async () => {
  const movesets = new Movesets();
  const folder = mkdtempSync(join(tmpdir(), 'scenarios-'));
  // A part of them each time; "test:long" takes all.
  const some = readdirSync(SCENARIOS).filter((_, i) => MOVESETS > 120 || i % 3 === 0);
  for (const name of some) {
    let text = '';
    await runScenarioFile(join(SCENARIOS, name), {
      movesets,
      record: (recording) => {
        text = toScenario(recording, { folder });
      },
    });
    const file = join(folder, name);
    writeFileSync(file, text);
    const { result, diagnostics } = await runScenarioFile(file, { movesets, root: '/' });
    expect([name, diagnostics.filter(({ severity }) => severity === 'error'), result?.failures]).toEqual([
      name,
      [],
      [],
    ]);
  }
});

const DASH = `
pools: { wind: { max: 9 } }
abilities:
  galeDash: { start: { press: gale }, cost: { wind: 4 }, cooldown: 0.5s, phases: [{ for: 0.2s, move: { along: facing, speed: 12 } }] }
  hop: { start: { press: jump }, when: grounded, phases: [{ for: 2f, move: { along: up, speed: 9, mode: replace } }] }
`;
const DONE = `loggia: 1
scenario: galeDash starts, as it was recorded
moveset: pell.yaml
world:
  blocks:
    - { from: [-1000, -10], to: [1000, 0] }
start: { at: [0, 0] }
run: 2s
inputs:
  - { at: 4f, tap: gale }
  - { at: 0.4s, tap: gale }
  - { at: 50f, hold: jump, for: 0.1s }
  - { at: 0.9s, tap: gale }
expect:
  - { started: galeDash, at: 4f }
  - { ended: galeDash, why: time, at: 16f }
  - { refused: galeDash, because: cooldown, at: 0.4s }
  - { started: hop, at: 50f }
  - { ended: hop, why: time, at: 52f }
  - { started: galeDash, at: 0.9s }
  - { ended: galeDash, why: time, at: 1.1s }
  - { landed: true, at: 1.6s }
  - { at: end, stance: stand, place: [7, 0], within: 0.05, that: "abs(pool.wind - 1) < 0.05" }
`;

/** Two dashes with a refused one between, and a hop. */
function recordDash(): Recording {
  const c = new Character(planOf(SMALL + DASH), { world: flatGround() });
  const recording = new Recording(c);
  for (let t = 0; t < 120; t++) {
    if (t === 4 || t === 24 || t === 54) c.door.press('gale');
    if (t === 5 || t === 25 || t === 55) c.door.release('gale');
    if (t === 50) c.door.press('jump');
    if (t === 56) c.door.release('jump');
    c.tick();
  }
  return recording;
}

test('a short run is a short file, as one would have written it', () => {
  expect(toScenario(recordDash(), { movesets: { Pell: 'pell.yaml' } })).toBe(DONE);
});

test('it fails where the abilities that it shows are others', () => {
  const data: unknown = parse(DONE);
  const passes = (text: string) => runScenarioData(planOf(SMALL + text), data).result?.passed;
  expect(passes(DASH)).toBe(true);
  const changes = [
    ['speed: 12', 'speed: 13'],
    ['for: 0.2s', 'for: 0.25s'],
    ['wind: 4', 'wind: 3'],
    ['cooldown: 0.5s', 'cooldown: 0.1s'],
    ['cooldown: 0.5s', 'cooldown: 2s'],
    ['speed: 9', 'speed: 11'],
    ['press: jump', 'press: gaff'],
    ['when: grounded', 'when: airborne'],
  ];
  expect(changes.filter(([from, to]) => passes(DASH.replace(from, to)))).toEqual([]);
});

test('of random play it passes, or says why there can be none', () => {
  let made = 0;
  forRandom(MOVESETS / 6, (random) => {
    const plan = makeMoveset(random, { functions: false });
    const c = create(plan, worldOf(random, plan), { places: undefined });
    const recording = new Recording(c);
    play(c, makeScript(random, plan, TICKS, { place: false }));
    try {
      toScenario(recording);
      made++;
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      expect(error.message).toMatch(/^toScenario: no scenario can say this: .*\.$/s);
    }
  });
  expect(made).toBeGreaterThan(0);
});

test('from amid a run it begins where everybody rests', () => {
  const text = toScenario(recordDash(), { from: 60, movesets: { Pell: 'pell.yaml' } });
  expect(text).toContain('started: galeDash');
  expect(() => toScenario(recordDash(), { from: 200 })).toThrow(/from/);
});
