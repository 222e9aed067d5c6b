import { expect, test } from 'vitest';
import { type Character, packMoveset, Tape, unpackMoveset } from '../../src/index.js';
import { L_ABILITY, L_PHASE, LACKING, N_LEFT, N_MAX, PENDING, R_COUNT, RUNNING } from '../../src/record/slots.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { makeMoveset } from '../random/moveset.js';
import { answer, create, difference, holdAsAt, makeScript, play, tell, withoutRooms, worldOf } from '../random/play.js';

/** Reads all that can be read, which must change nothing. */
function readAll(c: Character): void {
  for (const fact of c.plan.factNames()) c.facts.fact(fact);
  for (const ability of c.plan.names.ability) {
    c.explain(ability);
    c.may(ability);
    c.readout.cooldownPart(ability);
    c.readout.charge(ability);
  }
  for (const pool of c.plan.names.pool) c.readout.pool(pool);
  c.snapshot();
}

/** Pools keep their limits, numbers are numbers, counts count, and nothing is left of what has ended. */
function checkRecord(c: Character): void {
  const { plan, record: r } = c;
  for (const pool of plan.names.pool) {
    const { min, max } = c.readout.poolLimits(pool);
    const has = c.readout.pool(pool);
    if (!(has >= min && has <= max)) expect([pool, has]).toEqual([pool, `from ${min} to ${max}`]);
  }
  if (r.some(Number.isNaN)) expect('a number').toBe('not NaN');
  let running = 0;
  for (const { at, abilityOwn, phaseOwn } of plan.layout.laneOwn) {
    if (r[at + L_ABILITY] >= 0) running++;
    const owned = (first: number) => plan.layout.ranges.find((range) => range.at === first)?.count ?? 0;
    if (r[at + L_ABILITY] < 0)
      expect([...r.subarray(abilityOwn, abilityOwn + owned(abilityOwn))].some(Boolean)).toBe(false);
    if (r[at + L_PHASE] < 0) expect([...r.subarray(phaseOwn, phaseOwn + owned(phaseOwn))].some(Boolean)).toBe(false);
  }
  const pending = plan.triggers.filter(({ at }) => r[at + R_COUNT] > 0).length;
  const lacking = plan.abilities.filter(
    (a) => a.chargesAt >= 0 && r[a.chargesAt + N_LEFT] < r[a.chargesAt + N_MAX],
  ).length;
  expect([r[RUNNING], r[PENDING], r[LACKING]]).toEqual([running, pending, lacking]);
}

test('random movesets: reading, rooms, packing, tapes and restoring anywhere change no number and no event', () => {
  const seen = { started: 0, refused: 0, ended: 0 };
  forRandom(MOVESETS, (random) => {
    const functions = random.chance(0.5);
    const plan = makeMoveset(random, { functions });
    // Now and then an engine moves the body.
    const world = random.chance(0.2) ? undefined : worldOf(random, plan);
    const options = world ? {} : { probes: answer };
    const script = makeScript(random, plan, TICKS, { contacts: !world });
    const c = create(plan, world, options);
    const tape = new Tape();
    c.tape = tape;
    const middle = random.whole(1, TICKS - 1);
    const told = play(c, script, 0, middle, checkRecord);
    const snapshot = c.snapshot();
    told.push(...play(c, script, middle));
    for (const kind of Object.keys(seen) as (keyof typeof seen)[])
      seen[kind] += told.filter((line) => line.includes(`"kind":"${kind}"`)).length;

    // Reading in between, and a world that is asked each time.
    expect(
      difference(
        told,
        play(create(plan, world && withoutRooms(world), options), script, 0, TICKS, (c) => {
          if (random.chance(0.15)) readAll(c);
        }),
      ),
    ).toBeUndefined();

    // What was packed and unpacked.
    if (!functions) {
      const unpacked = unpackMoveset(JSON.parse(JSON.stringify(packMoveset(plan))));
      expect(difference(told, play(create(unpacked, world, options), script))).toBeUndefined();
    }

    // The tape, in another character.
    const replayed = create(plan, world, options);
    const saved = Tape.from(JSON.parse(JSON.stringify(tape)));
    saved.rewindTo(replayed);
    for (let i = 0; i < TICKS; i++) {
      saved.feed(replayed);
      replayed.tick();
      expect([i, tell(replayed)]).toEqual([i, told[i]]);
    }

    // Back to the middle, in the same character and in another that did something else; with the devices as they were then.
    const other = create(plan, world, options);
    play(other, makeScript(random, plan, 20, { contacts: !world }));
    for (const back of [c, other]) {
      holdAsAt(back, script.held[middle]);
      back.restore(snapshot);
      expect(back.readout.eventCount).toBe(0);
      expect(difference(told.slice(middle), play(back, script, middle))).toBeUndefined();
    }
    // The tape followed the character back.
    saved.rewindTo(replayed);
    const followed = Tape.from(JSON.parse(JSON.stringify(tape)));
    followed.rewindTo(replayed);
    for (let i = 0; i < TICKS; i++) {
      followed.feed(replayed);
      replayed.tick();
    }
    expect(tell(replayed)).toBe(told[TICKS - 1]);
  });
  // It is about something: most movesets do a lot.
  if (MOVESETS > 100) for (const count of Object.values(seen)) expect(count).toBeGreaterThan(MOVESETS);
}, 300_000);
