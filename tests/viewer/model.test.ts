import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { Recording } from '../../src/recording/index.js';
import { runScenarioFile } from '../../src/scenario/index.js';
import { type Disk, relativeTo, resolveFrom } from '../../viewer/model/disk.js';
import { groundOf } from '../../viewer/model/grounds.js';
import { notesOf } from '../../viewer/model/lit.js';
import { Model } from '../../viewer/model/model.js';
import { numberAt, numbersIn, stepped } from '../../viewer/model/numbers.js';
import { ROOT } from '../support.js';

async function opened(name: string): Promise<Model> {
  let recording: Recording | undefined;
  await runScenarioFile(join(ROOT, `demo/boatyard/scenarios/${name}.yaml`), {
    record: (one) => {
      recording = one;
    },
  });
  // As from a file: a report knows no more.
  return new Model(await Recording.fromFile(await (recording as Recording).toFile()), name);
}

test.each([
  ['for: 0.2s, speed: 18', ['0.2s', '18']],
  ['wind: { max: 24, regen: 1.5 } # 3 of 4', ['24', '1.5']],
  ['move: { up: 45% }, at: [-0.4, 12f]', ['45%', '-0.4', '12f']],
  ["name: 'Pell 2', tag: a1, x2: 3", ['3']],
  ['when: pool.wind >= 12 and held(jump2)', ['12']],
  ['version: 1.2.3', []],
])('numbers of %s', (line, texts) => {
  expect(numbersIn(line).map(({ from, to }) => line.slice(from, to))).toEqual(texts);
});

test.each([
  ['0.2s', 1, '0.21s'],
  ['0.25s', -3, '0.22s'],
  ['0.01s', -5, '0.00s'],
  ['12f', 2, '14f'],
  ['1f', -4, '0f'],
  ['18', 10, '28'],
  ['2', -3, '-1'],
  ['1.5', 1, '1.6'],
  ['-0.4', -1, '-0.5'],
  ['45%', 5, '50%'],
  ['200ms', 1, '210ms'],
])('%s, %i steps further, is %s', (text, steps, wanted) => {
  const number = numberAt(text, 1);
  expect(number && stepped(number, steps)).toBe(wanted);
});

test('a refusal is reached by a jump, and its line says why, with the values of then', async () => {
  const model = await opened('second-dash-refused');
  model.jump('refusal', 1);
  expect([model.tick, model.ability, model.why?.refused]).toEqual([24, 'galeDash', true]);
  const notes = notesOf(() => model.now, model.why, model.ability);
  expect(notes.filter(({ kind }) => kind === 'against')).toEqual([
    expect.objectContaining({ file: expect.stringMatching(/pell-basics\.yaml$/), text: 'no charges left' }),
  ]);
  expect(model.file).toMatch(/pell-basics\.yaml$/);
  model.jump('refusal', 1);
  expect(model.told).toBe('There is no refusal after this tick.');
});

test('a number that is changed makes the run again from there; what was stays beside it; without the change all is as before', async () => {
  const model = await opened('dash-neutral');
  const { last } = model.ticks;
  const file = model.files.find(({ name }) => name.endsWith('pell-basics.yaml')) as Model['files'][number];
  const before = file.text;
  const start = model.timeline.members[0].tracks.flatMap((track) => (track.kind === 'lane' ? track.bars : []))[0].from;
  model.goTo(start);
  model.edit(file.name, before.replace('speed: 18', 'speed: 24'));
  expect(model.told).toMatch(/^First difference at .* x is .* in the former run, .* in this one\. At most \d/);
  const far = (ticks: Model['ticks']) => ticks.at(last).members[0].readout.x;
  expect(model.ghost && Math.abs(far(model.ticks) - far(model.ghost.ticks))).toBeGreaterThan(0.5);
  expect(model.ticks.at(start - 2).members[0].readout.x).toBe(model.ghost?.ticks.at(start - 2).members[0].readout.x);

  model.edit(file.name, before.replace('speed: 18', 'speed: [18'));
  expect(model.told).toMatch(/^The text has an error/);
  expect(model.diagnostics.length).toBeGreaterThan(0);
  model.edit(file.name, before);
  expect([model.made, model.ghost, model.told]).toEqual([null, null, '']);
});

test('a number that counts from the start only shows where the run is made again from there', async () => {
  const model = await opened('dash-neutral');
  const file = model.files.find(({ name }) => name.endsWith('pell-basics.yaml')) as Model['files'][number];
  model.goTo(model.ticks.last);
  model.edit(file.name, file.text.replace('speed: 18', 'speed: 24'));
  expect(model.told).toContain('nothing differs');
  model.setFromStart(true);
  expect(model.told).toMatch(/^First difference/);
});

test('time: it plays at its pace, loops, and the timeline follows', async () => {
  const model = await opened('dash-neutral');
  model.goTo(0);
  model.setSpeed(0.5);
  model.toggle();
  model.advance(1 / 60);
  model.advance(1 / 60);
  expect(model.tick).toBe(1);
  model.zoom(0.2, 0);
  model.toggleLoop();
  const [from, to] = model.loop as [number, number];
  for (let i = 0; i < 300; i++) {
    model.advance(1 / 30);
    expect(model.tick).toBeGreaterThanOrEqual(from);
    expect(model.tick).toBeLessThanOrEqual(to);
  }
  model.toggleLoop();
  for (let i = 0; i < 600; i++) model.advance(1 / 30);
  expect([model.playing, model.tick]).toEqual([false, model.ticks.last]);
  expect(model.tick + 1).toBeLessThanOrEqual(model.to + 1e-9);
});

test('paths of files that name one another', () => {
  expect(resolveFrom('a/scenarios/x.yaml', '../pell.yaml')).toBe('a/pell.yaml');
  expect(relativeTo('a/scenarios', 'a/pell.yaml')).toBe('../pell.yaml');
  expect(relativeTo('', 'pell.yaml')).toBe('pell.yaml');
});

test('the world of a scenario is played with everybody in it: movesets and opponents come from their files', async () => {
  const disk = { read: async (file: string) => readFileSync(join(ROOT, file), 'utf8') } as Disk;
  const at = (ground: string) => groundOf({ ground, as: null, guests: [] }, '', disk, []);
  const found = await at('demo/boatyard/scenarios/sentry-fights.yaml');
  if ('fault' in found) throw new Error(found.fault);
  const { players } = found.ready;
  expect([players.plan.name, [...players.others.keys()], [...players.plays.keys()]]).toEqual([
    'Pell',
    ['sentry'],
    ['sentry'],
  ]);
  expect(await at('demo/boatyard/pell.yaml')).toEqual({
    fault: 'demo/boatyard/pell.yaml names no moveset.',
  });
  expect(await at('nowhere.yaml')).toEqual({ fault: expect.stringContaining('ENOENT') });
});
