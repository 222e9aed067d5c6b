import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as rapier from '@dimforge/rapier3d-compat';
import { expect, test } from 'vitest';
import { type ScenarioFile, scenarioIn } from '../../src/format/project-files.js';
import { BoxWorld, Cast, Character, Hit, type Plan, TileWorld, type World } from '../../src/index.js';
import { Recording } from '../../src/recording/index.js';
import { runScenarioFile } from '../../src/scenario/index.js';
import { lastUse, timingRows } from '../../viewer/model/chosen.js';
import { type Disk, relativeTo, resolveFrom } from '../../viewer/model/disk.js';
import { groundOf, YARD } from '../../viewer/model/grounds.js';
import { guestsOf } from '../../viewer/model/guests.js';
import { notesOf } from '../../viewer/model/lit.js';
import { Model } from '../../viewer/model/model.js';
import { numberAt, numbersIn, stepped } from '../../viewer/model/numbers.js';
import { roomOf } from '../../viewer/model/rapier-room.js';
import { type Game, type Games, Remote } from '../../viewer/model/remote.js';
import { PELL_TEXT, plan, ROOT } from '../support.js';

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
  const at = (ground: string) => groundOf({ ground, as: null, guests: [] }, { file: '', scenarios: [] }, disk, []);
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

test('guests: everybody whom scenarios have, each once, with what plays them; who is played is played by nothing else', async () => {
  const scenarios = ['sentry-fights', 'parry', 'dash-neutral'].map((name) => {
    const file = `demo/boatyard/scenarios/${name}.yaml`;
    return scenarioIn(file, readFileSync(join(ROOT, file), 'utf8')) as ScenarioFile;
  });
  const pell = 'demo/boatyard/pell-breakwater.yaml';
  const guests = guestsOf(pell, scenarios);
  expect(guests.map(({ text }) => text)).toEqual([
    'one with the same moveset',
    'sentry (sentry.yaml), plays patient.yaml',
    'sentry (sentry.yaml), stands',
  ]);
  const disk = { read: async (file: string) => readFileSync(join(ROOT, file), 'utf8') } as Disk;
  const at = async (as: string | null) => {
    const found = await groundOf(
      { ground: YARD, as, guests: [guests[1], guests[0], guests[2]] },
      { file: pell, scenarios },
      disk,
      [],
    );
    if ('fault' in found) throw new Error(found.fault);
    return found.ready;
  };
  const { players, places } = await at(null);
  expect([...players.others.keys()]).toEqual(['sentry', 'double', 'sentry2']);
  // They stand side by side on the same floor, and whoever may be called is known from the scenarios.
  expect([...places.values()].map(([x, y]) => [x, y])).toEqual([
    [6.5, 3],
    [10.5, 3],
    [13, 3],
    [15.5, 3],
  ]);
  expect([Object.keys(players.summons), [...players.plays.keys()]]).toEqual([['skerry', 'pearl'], ['sentry']]);
  expect([...(await at('sentry')).players.plays.keys()]).toEqual([]);
});

test('a room of Rapier is the same world: whoever walks, hops and falls in it is where they are in ours', async () => {
  await rapier.init();
  const moveset = plan(PELL_TEXT);
  const rows = ['..............', '......##......', '..............', '.@..--....##..', '##############'];
  const blocks = [{ at: [9, 1.2], size: [3, 0.4], turn: [0, 0, 0.1736, 0.9848] }] as const;
  const own = new TileWorld(rows, { blocks, places: { slip: '@' }, edges: { sides: 'wall', bottom: 'fall' } });
  const room = roomOf(rapier, own, ['slip']);
  expect(room).toBe('In Rapier, the edges of a world can only be walls.');
  expect(roomOf(rapier, new BoxWorld([{ from: [0, 0], to: [1, 1], name: 'raft' }]), [])).toMatch(/something moves\.$/);
  const world = new TileWorld(rows, { blocks, places: { slip: '@' }, edges: { sides: 'wall' } });
  const same = roomOf(rapier, world, ['slip', 'nowhere']);
  if (typeof same === 'string') throw new Error(same);
  expect([same.find?.('slip'), same.find?.('nowhere')]).toEqual([{ x: 1.5, y: 1, z: 0 }, undefined]);
  // Its edge is a wall, too.
  const out = Object.assign(new Cast(), { kind: 'ray', x: 8, y: 4.5, z: 0, hx: 0, hy: 0, hz: 0, dx: 20, dy: 0, dz: 0 });
  const [edge, wall] = [new Hit(), new Hit()];
  expect([world.ray(out, edge), same.ray(out, wall), edge.part * 20]).toEqual([true, true, 6]);
  expect(wall.part).toBeCloseTo(edge.part, 5);
  const walk = (of: World) => {
    const c = new Character(moveset, { world: of, at: [1.5, 1] });
    const way: number[] = [];
    for (let t = 0; t < 240; t++) {
      if (t === 5) c.door.press('move.right');
      if (t % 50 === 40) c.door.press('jump');
      if (t % 50 === 45) c.door.release('jump');
      if (t === 170) c.door.release('move.right');
      c.tick();
      way.push(c.readout.x, c.readout.y);
    }
    return way;
  };
  // Rays meet the same, each from above, with areas only where they are asked for.
  const legend = { '/': { slope: [0, 1] }, '~': { solid: false, tags: ['water'] } } as const;
  const many = new TileWorld(['...~~..........', '#...../#.......', '###############'], {
    legend,
    blocks: [
      { at: [4, 2], size: [2, 0.5, 4], turn: [0, 0, 0.3827, 0.9239] },
      { from: [9, 2], to: [10, 2.6], radius: 0.4 },
      { from: [12, 1.5], to: [12, 1.5], radius: 0.5, tags: ['buoy'] },
      { from: [13, 1], to: [14, 2], area: true, tags: ['water'] },
    ],
  });
  const colliders = roomOf(rapier, many, []) as World;
  for (let x = 0.05; x < 15; x += 0.1)
    for (const surfaces of [null, ['water'], ['buoy']]) {
      const cast = Object.assign(new Cast(), {
        kind: 'ray',
        x,
        y: 6,
        z: 0,
        hx: 0,
        hy: 0,
        hz: 0,
        dx: 0,
        dy: -8,
        dz: 0,
        surfaces,
      });
      const [ours, theirs] = [many, colliders].map((of) => {
        const hit = new Hit();
        return of.ray(cast, hit) ? [hit.part * 8, hit.nx, hit.ny] : [-1, 0, 0];
      });
      expect(
        theirs.map((n, i) => Math.abs(n - ours[i]) < 0.02),
        `${x} ${surfaces}: ${ours} ${theirs}`,
      ).toEqual([true, true, true]);
    }
  const [a, b] = [walk(world), walk(same)];
  expect(Math.max(...a.map((one, i) => Math.abs(one - b[i])))).toBeLessThan(0.15);
  expect(Math.max(...a.filter((_, i) => i % 2 === 0))).toBeGreaterThan(8);
});

test('formulas say on their lines what they are: of what runs, of what was chosen, and named conditions', async () => {
  const model = await opened('dash-neutral');
  model.goTo(model.timeline.members[0].tracks.flatMap((track) => (track.kind === 'lane' ? track.bars : []))[0].from);
  const texts = () =>
    notesOf(() => model.now, null, model.ability).flatMap(({ kind, file, line, text }) => {
      const lines = model.files.find(({ name }) => name === file)?.text.split('\n') ?? [];
      return kind === 'value' ? [`${lines[line - 1].trim()} -> ${text}`] : [];
    });
  const lineOf = (start: string) => texts().find((text) => text.startsWith(start));
  expect(lineOf('steering:')).toBe('steering: move.amount > 0 -> does not hold · move.amount 0');
  expect(lineOf('end: [landed, atWall]')).toBe('end: [landed, atWall] -> landed false; atWall false');
  expect(lineOf('- { name: rise')).toBeUndefined();
  model.choose('hop');
  expect(lineOf('- { name: rise')).toMatch(/-> holds · vy -?[\d.]+; holds · held\(jump\) false$/);
});

test('an ability that was chosen tells its timing, and how far its last use carried', async () => {
  const model = await opened('dash-neutral');
  expect(Object.fromEntries(timingRows(model.now?.plan as Plan, 'galeDash'))).toEqual({
    'starts up': '0f',
    acts: '12f',
    recovers: '0f',
    'in all': '12f, 0.20 s',
    costs: '9 wind',
  });
  expect(lastUse(model, 'galeDash')).toBe('not used before this tick');
  model.goTo(model.ticks.last);
  expect(lastUse(model, 'galeDash')).toMatch(/^used at 0\.\d+ s for 12 ticks, carried 3\.6\d*; galeDash ends$/);
});

test('any fact can be a curve, and is one in the run beside it, too', async () => {
  const model = await opened('dash-neutral');
  model.setFacts(['timeIn(galeDash)']);
  const curves = () =>
    model.timeline.members[0].tracks.flatMap((track) => (track.kind === 'fact' ? [[track.name, track.high]] : []));
  expect(curves()).toEqual([['timeIn(galeDash)', expect.closeTo(11 / 60, 2)]]);
  const file = model.files.find(({ name }) => name.endsWith('pell-basics.yaml')) as Model['files'][number];
  model.goTo(0);
  model.edit(file.name, file.text.replace('for: 0.2s', 'for: 0.1s'));
  model.setFacts(['timeIn(galeDash)', 'vx']);
  expect(model.ghost?.timeline.members[0].tracks.filter(({ kind }) => kind === 'fact').map(({ name }) => name)).toEqual(
    ['timeIn(galeDash)', 'vx'],
  );
});

test('an edit that takes away the ability that was asked about asks no longer', async () => {
  const model = await opened('second-dash-refused');
  model.goTo(20);
  model.ask('hookThrow');
  const file = model.files.find(({ name }) => name.endsWith('boatyard/pell.yaml')) as Model['files'][number];
  model.edit(file.name, file.text.replaceAll('hookThrow', 'lineThrow'));
  expect([model.told, model.why]).toEqual([expect.stringMatching(/nothing differs|^First difference/), null]);
});

test('what an engine has is drawn as its game says, if that is a world', async () => {
  const recording = (await opened('dash-neutral')).recording;
  const games = { hear: () => () => {} } as unknown as Games;
  const sceneryOf = (scenery: unknown) => {
    const game = { id: 'a', name: 'Pell', canPause: false, canRestore: false, scenery } as Game;
    return new Remote(games, game, recording).scenery;
  };
  expect(sceneryOf({ rows: ['..', '##'], options: {} })).toBeInstanceOf(TileWorld);
  expect([sceneryOf(null), sceneryOf({ rows: ['#'], options: { size: -1 } }), sceneryOf('x')]).toEqual([
    null,
    null,
    null,
  ]);
});
