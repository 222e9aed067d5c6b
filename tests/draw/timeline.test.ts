import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from 'vitest';
import { LIGHT } from '../../src/draw/palette.js';
import { AXIS, LABELS, layOutRows, timelineAt, timeScale, wordHit } from '../../src/draw/timeline/draw-timeline.js';
import { joined, ticksOf } from '../../src/draw/timeline/ticks.js';
import { timelineSvg } from '../../src/draw/timeline/timeline-svg.js';
import { TimelineMaker, type Track, tracksOf } from '../../src/draw/timeline/tracks.js';
import { Character, flatGround } from '../../src/index.js';
import { Recording } from '../../src/recording/index.js';
import { runScenarioFile } from '../../src/scenario/index.js';
import { makeCharacter, plan, ROOT, SMALL } from '../support.js';

async function recorded(name: string): Promise<Recording> {
  let recording: Recording | undefined;
  await runScenarioFile(join(ROOT, `demo/boatyard/scenarios/${name}.yaml`), {
    record: (one) => {
      recording = one;
    },
  });
  return recording as Recording;
}

type Of<K extends Track['kind']> = Extract<Track, { kind: K }>;

function trackOf<K extends Track['kind']>(tracks: readonly Track[], kind: K, name: string): Of<K> {
  const found = tracks.find((track): track is Of<K> => track.kind === kind && track.name === name);
  if (!found) throw new Error(`no ${kind} ${name}`);
  return found;
}

test('a press that is kept, refused and used later stands on the track of its input; abilities are bars cut into phases', async () => {
  const { members } = tracksOf(ticksOf(await recorded('combo-buffered')));
  const gaff = trackOf(members[0].tracks, 'input', 'gaff');
  expect(gaff.presses.map(({ tick }) => tick)).toEqual([0, 5]);
  expect(gaff.used.map(({ tick, ability }) => [tick, ability])).toEqual([
    [0, 'gaffJab'],
    [11, 'gaffSweep'],
  ]);
  expect(gaff.refused[0]).toMatchObject({ tick: 5, kept: 14, ability: 'gaffJab', text: 'already running' });
  const [jab, sweep] = trackOf(members[0].tracks, 'lane', 'body').bars;
  expect([jab.ability, jab.from, jab.to, jab.end?.why, jab.end?.by]).toEqual([
    'gaffJab',
    0,
    11,
    'followed',
    'gaffSweep',
  ]);
  expect(jab.phases.map(({ name, kind, from, to, opens }) => [name, kind, from, to, opens])).toEqual([
    ['windup', 'windup', 0, 6, []],
    ['active', 'active', 6, 11, []],
    // In the tick in which it would have recovered, the next one began.
    ['recovery', 'recovery', 11, 11, ['hop', 'gaffSweep']],
  ]);
  expect(sweep.phases.at(-1)).toMatchObject({ name: 'recovery', kind: 'recovery' });
});

test('a blow stands on the tracks of who gives it and of who takes it, with what became of it', async () => {
  const { members } = tracksOf(ticksOf(await recorded('guard-holds')));
  const blows = members.map(({ name, tracks }) => [name, trackOf(tracks, 'blows', 'blows').blows]);
  expect(blows).toEqual([
    ['Pell', [expect.objectContaining({ tick: 16, gave: false, outcome: 'blocked' })]],
    [
      'sentry',
      [expect.objectContaining({ tick: 16, gave: true, text: expect.stringMatching(/^strikes Pell: blocked/) })],
    ],
  ]);
});

test('what is drawn at a place is found there again: a refusal, a bar, a curve, the time', async () => {
  const timeline = tracksOf(ticksOf(await recorded('combo-buffered')), { facts: ['vx'] });
  const { rows, height } = layOutRows(timeline);
  const view = { rows, width: LABELS + 900, height, from: 0, to: 90, palette: LIGHT };
  const x = timeScale(view);
  const yOf = (kind: Track['kind'], name: string) => {
    const row = rows.find(({ track }) => track?.kind === kind && track.name === name);
    return (row?.y ?? 0) + 9;
  };
  const refusal = timelineAt(view, x(5.5) as number, yOf('input', 'gaff'));
  expect(wordHit(refusal, timeline)).toMatch(
    /^0\.08 s: gaffJab refused: already running; .*gaffSweep refused: gaffJab \(windup\) is running/,
  );
  const bar = timelineAt(view, x(8.5) as number, yOf('lane', 'body'));
  expect(wordHit(bar, timeline)).toBe('gaffJab, active: from 0.00 s, 11 ticks, followed by gaffSweep');
  expect(timelineAt(view, x(30.2) as number, yOf('fact', 'vx'))).toMatchObject({ kind: 'curve', tick: 30 });
  expect(timelineAt(view, x(30.2) as number, AXIS - 4)).toEqual({ kind: 'time', tick: 30 });
  // Lanes on which nothing ran, and inputs that nobody touched, take no room.
  expect(rows.map(({ track }) => track?.name)).toEqual(['gaff', 'stance', 'body', 'wind', 'oil', 'grit', 'vx']);
});

test('a picture of it is whole: it escapes what it is called, says why it failed, and needs no tracks', async () => {
  const timeline = tracksOf(ticksOf(await recorded('combo-buffered')));
  const svg = timelineSvg(timeline, { title: 'A <b>"long"</b> one', note: 'not as expected', flags: [5] });
  expect(svg).toMatch(/^<svg [^>]+role="img"><title>A &#60;b&#62;&#34;long&#34;&#60;\/b&#62; one<\/title>/);
  expect(svg).toContain('>not as expected<');
  expect(svg).not.toMatch(/NaN|Infinity|undefined/);
  const empty = tracksOf(ticksOf(new Recording(makeCharacter('', { world: flatGround() }))));
  expect(timelineSvg(empty, { title: 'empty' })).not.toMatch(/NaN|Infinity|undefined/);
});

test('tracks that are added tick by tick, also after a swap and in a ring, are those of the whole', () => {
  const c = new Character(
    plan(
      `${SMALL}pools: { wind: { max: 9 } }\nabilities:\n  dash: { start: { press: gale }, cooldown: 20f, phases: [{ name: go, for: 9f }] }\n`,
    ),
    { world: flatGround() },
  );
  const recording = new Recording(c, { seconds: 3 });
  const live = new TimelineMaker(ticksOf(recording));
  for (let tick = 0; tick < 400; tick++) {
    if (tick % 37 === 5) c.door.press('gale');
    if (tick % 37 === 8) c.door.release('gale');
    c.tick();
    live.catchUp();
  }
  const whole = tracksOf(ticksOf(recording));
  const lane = (of: typeof whole) => trackOf(of.members[0].tracks, 'lane', 'body');
  // The first may have begun before what is still kept.
  expect(lane(live.timeline).bars.slice(1)).toEqual(lane(whole).bars.slice(1));
  expect(lane(live.timeline).cooldowns.slice(1)).toEqual(lane(whole).cooldowns.slice(1));
  expect(live.timeline.first).toBe(recording.first);

  const other = plan(
    `${SMALL}pools: { wind: { max: 12 } }\nabilities:\n  dash: { start: { press: gale }, phases: [{ name: go, for: 20f }] }\n`,
  );
  // In tick 375 it is pressed, and 378 is amid the dash.
  const made = recording.play({ from: 375, plan: other });
  const { members } = tracksOf(
    joined([
      { from: -1, recording },
      { from: 375, recording: made },
    ]),
  );
  expect(trackOf(members[0].tracks, 'input', 'gale').presses.map(({ tick }) => tick)).toContain(375);
  // It stands in its stance all the time, and what cooled down by the former moveset cools no more.
  expect(trackOf(members[0].tracks, 'stance', 'stance').spans).toHaveLength(1);
  expect(trackOf(members[0].tracks, 'lane', 'body').cooldowns.every(({ to }) => Number.isFinite(to))).toBe(true);

  // What runs, and is gone by another moveset, ends there.
  const without = plan(
    `${SMALL}pools: { wind: { max: 12 } }\nabilities:\n  leap: { start: { press: gale }, phases: [{ for: 20f }] }\n`,
  );
  const gone = tracksOf(
    joined([
      { from: -1, recording },
      { from: 378, recording: recording.play({ from: 378, plan: without }) },
    ]),
  );
  const last = trackOf(gone.members[0].tracks, 'lane', 'body').bars.findLast(({ ability }) => ability === 'dash');
  expect([last?.from, last?.to]).toEqual([375, 378]);
});

test('every row of the legend and of the keys is one that the page knows', () => {
  const keys = readFileSync(join(ROOT, 'viewer/keys.ts'), 'utf8');
  const shown = [...keys.matchAll(/keys: \['(.+?)'/g)].map(([, key]) => key);
  expect(new Set(shown).size).toBe(shown.length);
});

test('a run that was continued elsewhere begins where its recordings still follow one another', () => {
  const c = makeCharacter('');
  const before = new Recording(c);
  for (let t = 0; t < 100; t++) c.tick();
  const later = before.play({ from: 60 });
  const parts = [
    { from: Number.NEGATIVE_INFINITY, recording: before },
    { from: 60, recording: later },
  ];
  expect([joined(parts).first, joined(parts).last, joined(parts).at(59).tick, joined(parts).at(60).tick]).toEqual([
    -1, 99, 59, 60,
  ]);
  // What went on has forgotten how it began.
  const forgot = { ...later, first: 70, last: 99, rate: 60 } as unknown as Recording;
  expect(joined([parts[0], { from: 60, recording: forgot }]).first).toBe(70);
});

test('who is played has the first tracks', async () => {
  const timeline = tracksOf(ticksOf(await recorded('parry')));
  const heads = (first?: string) =>
    layOutRows(timeline, first).rows.flatMap(({ member, track }) => (track === null ? [member.name] : []));
  expect([heads(), heads('sentry')]).toEqual([
    ['Pell', 'sentry'],
    ['sentry', 'Pell'],
  ]);
});
