import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import * as rapier from '@dimforge/rapier2d-compat';
import { expect, test } from 'vitest';
import { Arena } from '../../src/arena/index.js';
import { parseMoveset } from '../../src/format/text.js';
import { Character, characterIn, flatGround, type Plan, swapMoveset, tickAll, UsageError } from '../../src/index.js';
import { RapierWorld } from '../../src/rapier/index.js';
import { compare, Recording } from '../../src/recording/index.js';
import { Engine } from '../random/engine.js';
import { withoutRooms } from '../random/play.js';
import { makeCharacter, plan as planOf, ROOT, SMALL } from '../support.js';

const DASH = `
pools: { wind: { max: 9, start: 9 } }
conditions: { rested: pool.wind > 2 }
abilities:
  galeDash:
    start: { press: gale }
    cost:
      wind: 1 + facing * 3
    cooldown: 0.5s
    when: rested and vy <= 0
    phases: [{ name: go, for: 0.2s, move: { along: facing, speed: 12 } }]
  brace: { start: { press: gaff }, phases: [{ for: 1s, bars: galeDash }] }
`;

/** Presses gale in some ticks, and gaff in others; 120 ticks. */
function record(text: string, gale: readonly number[], gaff: readonly number[] = []): Recording {
  const c = makeCharacter(text);
  const recording = new Recording(c);
  for (let t = 0; t < 120; t++) {
    for (const [input, ticks] of [
      ['gale', gale],
      ['gaff', gaff],
    ] as const) {
      if (ticks.includes(t)) c.door.press(input);
      if (ticks.includes(t - 1)) c.door.release(input);
    }
    c.tick();
  }
  return recording;
}

test('ticks are found by a formula, by what happens, and by both', () => {
  const recording = record(DASH, [10, 20, 60]);
  // Whoever was read before has no numbers for what is asked for now.
  expect(recording.at(15).of().facts.fact('timeIn(galeDash)')).toBeCloseTo(5 / 60);
  expect(recording.find('timeIn(galeDash) >= 0.15s')).toEqual([19, 20, 21, 69, 70, 71]);
  expect(recording.find({ started: 'galeDash' })).toEqual([10, 60]);
  expect(recording.find({ refused: 'galeDash' })).toEqual([20]);
  expect(recording.find({ ended: 'galeDash' })).toEqual([22, 72]);
  expect(recording.find({ event: 'ended', holds: 'pool.wind < 2' })).toEqual([72]);
  expect(recording.find('running(galeDash) and x > 2')).toEqual([
    20,
    21,
    ...Array.from({ length: 12 }, (_, i) => 60 + i),
  ]);
  expect(recording.find({ running: 'galeDash' }).length).toBe(24);
  const fails = (sought: unknown) => () => recording.find(sought as string);
  expect(fails('running(galeDsh)')).toThrow(/is no condition here: .*Did you mean "running\(galeDash\)"/);
  expect(fails({ started: 'galeDsh' })).toThrow('find: there is no ability "galeDsh". Did you mean "galeDash"?');
  expect(fails({})).toThrow('say what is sought');
  expect(fails({ start: 'x' })).toThrow('no option "start"');
  expect(fails(3)).toThrow(UsageError);
});

test('why: every reason with its line, and what it rests on as it was then', () => {
  const { plan } = parseMoveset(SMALL + DASH, 'pell.yaml');
  const c = new Character(plan as Plan, { world: flatGround() });
  const recording = new Recording(c);
  c.door.press('gaff');
  c.door.pool('wind', 1);
  c.tick();
  c.door.press('gale');
  c.tick();
  const { refused, may, text, reasons } = recording.why(1, 'galeDash');
  expect([refused, may]).toEqual([true, false]);
  expect(text).toContain('galeDash may not start');
  const line = (part: string) => `${SMALL}${DASH}`.split('\n').findIndex((one) => one.includes(part)) + 1;
  expect(reasons.map(({ reason, path, place }) => [reason.code, path, place?.line])).toEqual([
    ['busy', 'abilities.brace.phases[0].open', line('brace:')],
    ['barred', 'abilities.brace.phases[0].bars', line('brace:')],
    ['when', 'abilities.galeDash.when', line('when: rested')],
    ['pool', 'abilities.galeDash.cost.wind', line('wind: 1 + facing')],
  ]);
  expect(reasons[3].line).toBe('wind: 1 + facing * 3');
  expect(reasons[3].operands).toEqual([
    { text: 'pool.wind', value: 1 },
    { text: 'facing', value: 1 },
  ]);
  expect(reasons[2].operands).toContainEqual({ text: 'pool.wind', value: 1 });
  // Of several conditions, the one that does not hold; times are in seconds.
  const two = record(
    DASH.replace('when: rested and vy <= 0', 'when: [rested, not running(brace), timeIn(brace) > 2s]'),
    [20],
    [5],
  );
  expect(two.why(20, 'galeDash').reasons.map(({ path }) => path)).toContain('abilities.galeDash.when[2]');
  const slow = record(DASH.replace('1 + facing * 3', '9 + timeIn(brace) / 1s'), [], [5]);
  expect(slow.why(35, 'galeDash').reasons.at(-1)?.operands).toContainEqual({ text: 'timeIn(brace)', value: 0.5 });
  // Where nothing was requested: as if it were now.
  expect(recording.why(-1, 'galeDash')).toMatchObject({ refused: false, may: true, reasons: [] });
  expect(() => recording.why(1, 'galeDsh')).toThrow(/Did you mean "galeDash"/);
  expect(() => recording.why(9, 'galeDash')).toThrow('it holds the ticks -1 to 1, not 9');
});

test('compare tells the first tick that differs, what differs there by name, and how far they go apart', () => {
  const one = record(DASH, [10, 60]);
  expect(compare(one, record(DASH, [10, 60]))).toMatchObject({
    same: true,
    first: null,
    furthest: 0,
    common: { ticks: 121 },
  });
  const dearer = record(DASH.replace('facing * 3', 'facing * 5'), [10, 60]);
  const found = compare(one, dearer, { names: ['pell', 'heavier'] });
  expect(found.first?.tick).toBe(10);
  expect(found.first?.differences.map(({ text }) => text)).toEqual(['pool.wind is 5 in pell, 3 in heavier.']);
  // From there on the second dash differs, too.
  const later = compare(record(DASH, [60]), record(DASH.replace('start: 9', 'start: 3'), [60]));
  expect(later.first?.differences[0].name).toBe('pool.wind');
  const refused = compare(
    one,
    one.play({
      from: 30,
      inputs: ({ tick, of, recorded }) => {
        recorded();
        if (tick === 40) of().door.pool('wind', 3.5);
      },
    }),
    { within: 9 },
  );
  expect(refused.first?.tick).toBe(60);
  expect(refused.first?.differences[0]).toMatchObject({
    kind: 'event',
    name: 'galeDash',
    text: 'galeDash started in a, was refused: wind 3.5 of 4 in b.',
  });
  expect(refused.furthest).toBeGreaterThan(2);
  expect(refused.drift.at(-1)?.distance.Pell).toBe(refused.furthest);
  expect(compare(one, record(DASH.replace('brace:', 'block:'), [10, 60])).only).toEqual({
    a: ['ability brace'],
    b: ['ability block'],
  });
  expect(() => compare(one, {} as Recording)).toThrow('the second argument must be a Recording');
});

test('runs of two tick rates are compared by time', () => {
  const at = (rate: number) => {
    const c = makeCharacter(`rate: ${rate}\n${DASH}`);
    const recording = new Recording(c);
    for (let t = 0; t < 2 * rate; t++) {
      if (t === rate / 2) c.door.press('gale');
      c.tick();
    }
    return recording;
  };
  const found = compare(at(60), at(120));
  expect(found.rates).toEqual([60, 120]);
  expect(found.first?.differences.filter(({ kind }) => kind === 'event') ?? []).toEqual([]);
  expect(found.furthest).toBeLessThan(0.3);
  expect([found.from, found.until]).toEqual([-1, 119]);
});

test('another moveset from some tick on: what it changes, and from what tick', () => {
  const recording = record(DASH, [10, 60]);
  const faster = planOf(
    SMALL +
      DASH.replace('speed: 12', 'speed: 24').replace('galeDash:', 'squallDash:').replace('galeDash }', 'squallDash }') +
      'renamed: { galeDash: squallDash }\n',
  );
  const again = recording.play({ from: 30, plan: faster });
  expect(again.find({ started: 'squallDash' })).toEqual([60]);
  expect(again.at(119).of().readout.x - recording.at(119).of().readout.x).toBeGreaterThan(2);
  expect(compare(recording, again).first?.tick).toBe(60);
  // It is a recording like any other.
  expect(compare(again, again.play({ from: 65 })).same).toBe(true);
});

test('a swap is on the recording: it is made again with it, and from before it', () => {
  const c = makeCharacter(DASH);
  const recording = new Recording(c);
  const faster = planOf(SMALL + DASH.replace('speed: 12', 'speed: 24').replace('events', 'events'));
  const other = planOf(
    `${SMALL}pools: { oil: { max: 3 } }\nabilities: { galeDash: { start: { press: gale }, phases: [{ for: 9f }] } }`,
  );
  for (let t = 0; t < 90; t++) {
    if (t === 5 || t === 40 || t === 70) c.door.press('gale');
    if (t === 6 || t === 41 || t === 71) c.door.release('gale');
    if (t === 30) swapMoveset(c, faster);
    if (t === 60) swapMoveset(c, other);
    c.tick();
  }
  expect(recording.at(50).of().plan).toBe(faster);
  expect(recording.at(80).of().plan).toBe(other);
  expect(recording.at(10).of().readout.pool('wind')).toBe(5);
  expect(compare(recording, recording.play({ from: 3 })).first).toBeNull();
  expect(compare(recording, recording.play({ from: 62 })).first).toBeNull();
  // What is forgotten by a restore is not swapped again.
  c.restore(recording.at(70).of().record.slice());
  swapMoveset(c, other);
  c.restore(recording.at(62).of().record.slice());
  for (let t = 0; t < 20; t++) c.tick();
  expect(compare(recording, recording.play({ from: 40 })).first).toBeNull();
});

test('an engine is not needed again: only a run that asks its body for something else ends, and says so', () => {
  const plan = planOf(SMALL + DASH);
  const c = new Character(plan, { at: [2.5, 1] });
  const engine = new Engine(plan.dt);
  const recording = new Recording(c);
  for (let t = 0; t < 90; t++) {
    if (t === 20 || t === 60) c.door.press('gale');
    if (t === 21 || t === 61) c.door.release('gale');
    c.door.contacts({ ...engine });
    c.tick();
    engine.step(c);
  }
  const same = recording.play();
  expect([same.stopped, compare(recording, same).first]).toEqual([null, null]);
  const without = recording.play({ inputs: () => {} });
  expect(without.stopped?.tick).toBe(21);
  expect(without.stopped?.why).toBe(
    "From tick 21 on it would need the engine: what it asks of Pell's body is another than what was recorded.",
  );
  expect([without.last, recording.play({ until: 100 }).stopped?.tick]).toEqual([20, 90]);
});

test("a host's own world is not needed again, until something is asked that never was", async () => {
  const recorded = (still: boolean) => {
    const c = makeCharacter(DASH, { world: { ...withoutRooms(flatGround()), still } });
    const recording = new Recording(c);
    for (let t = 0; t < 60; t++) {
      if (t === 20) c.door.press('gale');
      c.tick();
    }
    return { c, recording };
  };
  const { c, recording } = recorded(false);
  expect(compare(recording, recording.play()).first).toBeNull();
  const without = recording.play({ inputs: () => {} });
  expect(without.stopped?.why).toMatch(/^From tick 20 on it would need the world: a sweep from \(0, /);
  // One that never changes is asked itself, as long as it is there: a changed run needs nothing else, and goes on behind what was recorded.
  const own = recorded(true).recording;
  expect(compare(own, own.play()).first).toBeNull();
  const changed = own.play({ inputs: () => {}, until: 90 });
  expect([changed.stopped, changed.last, changed.find({ started: 'galeDash' })]).toEqual([null, 90, []]);
  expect(changed.play({ inputs: () => {}, until: 95 }).stopped).toBeNull();
  const file = await Recording.fromFile(await own.toFile());
  expect(file.play({ inputs: () => {} }).stopped?.tick).toBe(20);
  // What looking asks is there for every tick, also before the first one and after a restore.
  const warps = `${DASH.replace('brace:', 'step: { start: { press: gaff }, warp: { along: facing, by: 3 }, phases: [{ for: 1s }] }\n  brace:')}`;
  const one = makeCharacter(warps, { world: { ...withoutRooms(flatGround()), still: false } });
  const looked = new Recording(one);
  one.tick();
  one.restore(one.snapshot());
  const read = await Recording.fromFile(await looked.toFile());
  for (const tick of [-1, 0]) expect(read.why(tick, 'step')).toMatchObject({ tick, may: true });
  // A tick in which it threw has not been.
  const moody = withoutRooms(flatGround());
  let throws = false;
  const other = makeCharacter(DASH, {
    world: {
      ...moody,
      sweep: (cast, hit) => {
        const does = moody.sweep(cast, hit);
        if (throws) throw new Error('no');
        return does;
      },
    },
  });
  const twice = new Recording(other);
  for (let t = 0; t < 9; t++) {
    throws = t === 5;
    if (throws) {
      const still = other.snapshot();
      expect(() => other.tick()).toThrow('no');
      other.restore(still);
    } else other.tick();
  }
  expect(compare(twice, twice.play()).first).toBeNull();
  recording.stop();
  expect(c.world?.roomAround).toBeUndefined();
  c.tick();
  expect(recording.last).toBe(59);
});

test("a room of Rapier's is not needed again, things that move in it included", async () => {
  await rapier.init();
  const physics = new rapier.World({ x: 0, y: -25 });
  physics.createCollider(rapier.ColliderDesc.cuboid(20, 0.5).setTranslation(0, -0.5));
  const raft = physics.createRigidBody(rapier.RigidBodyDesc.kinematicPositionBased().setTranslation(3, 0.5));
  physics.createCollider(rapier.ColliderDesc.cuboid(0.5, 0.5), raft);
  physics.step();
  const text = `${DASH}marks: { hooked: {} }
probes: { rope: { ray: [9, 0], at: [0, 0.6] } }
`.replace('bars: galeDash', 'bars: galeDash, mark: { hooked: on(rope) }');
  const c = makeCharacter(text, { world: new RapierWorld(rapier, physics) });
  const recording = new Recording(c);
  for (let t = 0; t < 90; t++) {
    raft.setNextKinematicTranslation({ x: 3 + t / 30, y: 0.5 });
    physics.step();
    if (t === 20) c.door.press('gaff');
    if (t === 80) c.door.press('gale');
    c.tick();
  }
  const then = recording.at(50).of();
  expect(then.readout.mark('hooked')?.x).toBeCloseTo(3 + 50 / 30 - 0.5, 1);
  expect(then.facts.distance('rope')).toBeLessThan(recording.at(60).of().facts.distance('rope'));
  const back = await Recording.fromFile(await recording.toFile());
  expect(compare(recording, back.play({ from: 30 })).first).toBeNull();
});

test('what is recorded: no longer than was asked for, from where it was restored, one of a crowd, and nobody in an arena', () => {
  const c = makeCharacter(DASH);
  const recording = new Recording(c, { seconds: 2 });
  for (let t = 0; t < 1000; t++) c.tick();
  expect(recording.last - recording.first).toBeGreaterThanOrEqual(120);
  expect(recording.last - recording.first).toBeLessThan(120 + 256);
  const before = recording.at(900).of().record.slice();
  c.restore(before);
  expect([recording.last, c.hostTick]).toEqual([900, 900]);
  c.tick();
  expect(recording.last).toBe(901);
  c.restore(makeCharacter(DASH).snapshot());
  expect([recording.first, recording.last]).toEqual([-1, -1]);

  const small = new Recording(c, { seconds: 600, megabytes: 1 });
  for (let t = 0; t < 60_000; t++) {
    c.door.velocity(t % 7, 3);
    c.tick();
  }
  expect([small.bytes < 1.1 * 2 ** 20, small.first > 10_000]).toEqual([true, true]);

  const plan = planOf(SMALL + DASH);
  const records = new Float64Array(plan.arraySize() * 4);
  const one = characterIn(plan, records, 2, flatGround(), { at: [7, 0] });
  const ofCrowd = new Recording(one);
  expect(ofCrowd.at(-1).of().readout.x).toBe(7);

  const arena = new Arena({ world: flatGround() });
  const { character } = arena.add('pell', plan);
  expect(() => new Recording(character)).toThrow('must be the arena, for a character that is in one');
  expect(() => new Recording({} as Character)).toThrow('a Character or an Arena');
  expect(() => new Recording(c, { seconds: 0 })).toThrow('from 1 to 36000');
  expect(() => recording.at(5)).toThrow(/holds the ticks|not 5/);
});

test('one of a crowd is recorded as it ticks with the others', () => {
  const plan = planOf(SMALL + DASH);
  const world = flatGround();
  const records = new Float64Array(plan.arraySize() * 4);
  tickAll(plan, records, 4, world);
  const recording = new Recording(characterIn(plan, records, 2, world));
  for (let t = 0; t < 30; t++)
    tickAll(plan, records, 4, world, { before: (c, i) => (t === 3 && i === 2 ? c.door.press('gale') : undefined) });
  expect(recording.find({ started: 'galeDash' })).toEqual([4]);
  expect(compare(recording, recording.play({ from: 2 })).first).toBeNull();
  const before = records.slice();
  tickAll(plan, records, 4, world);
  // Put back without a word: it begins again.
  records.set(before);
  tickAll(plan, records, 4, world);
  expect(recording.first).toBe(recording.last);
});

test('the boatyard recorded: what its scenarios expect is found in their recordings', async () => {
  const { runScenarioFile } = await import('../../src/scenario/index.js');
  const file = join(ROOT, 'demo/boatyard/scenarios/second-dash-refused.yaml');
  let recording: Recording | undefined;
  await runScenarioFile(file, {
    record: (one) => {
      recording = one;
    },
  });
  expect(recording?.find({ refused: 'galeDash' })).toEqual([24]);
  const [{ reason, line }] = recording?.why(24, 'galeDash').reasons ?? [];
  expect(reason?.code).toBe('charges');
  expect(readFileSync(join(ROOT, 'demo/boatyard/pell-basics.yaml'), 'utf8')).toContain(line);
});
