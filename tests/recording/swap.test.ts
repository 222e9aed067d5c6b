import { expect, test } from 'vitest';
import { Arena } from '../../src/arena/index.js';
import {
  type Character,
  checkMoveset,
  compileMoveset,
  flatGround,
  loadProgress,
  type Plan,
  saveProgress,
  swapMoveset,
  Tape,
  UsageError,
} from '../../src/index.js';
import {
  A_KNOWN,
  C_WAITING,
  L_ABILITY,
  L_PHASE,
  LACKING,
  LANE,
  N_LEFT,
  N_MAX,
  PENDING,
  R_COUNT,
  RUNNING,
} from '../../src/record/slots.js';
import { generated } from '../emit/generated.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { makeSound } from '../random/moveset.js';
import { create, difference, makeScript, play, worldOf } from '../random/play.js';
import type { Random } from '../random/random.js';
import { spoil } from '../random/spoil.js';
import { makeCharacter, SMALL, plan as planOf, tick } from '../support.js';

test('an equal moveset in the place of another changes nothing, whenever it comes; a module may do that, too', () => {
  forRandom(MOVESETS / 3, (random, seed) => {
    const { source, plan } = makeSound(random, { functions: false });
    const again = seed % 2 === 0 ? compileMoveset(source as unknown) : generated(plan);
    const world = worldOf(random, plan);
    const script = makeScript(random, plan, 2 * TICKS);
    const before = play(create(plan, world), script);
    const c = create(plan, world);
    const at = random.whole(1, 2 * TICKS - 1);
    const told = play(c, script, 0, at);
    swapMoveset(c, again);
    expect(difference([...told, ...play(c, script, at)], before)).toBeUndefined();
  });
});

/** The same moveset with some random changes that leave it without faults, seen in the same way. */
function change(random: Random, source: Record<string, unknown>): Plan {
  for (;;) {
    const changed = structuredClone(source);
    for (let n = random.whole(1, 6); n > 0; n--) spoil(random, changed);
    if (changed.rate !== source.rate || changed.view !== source.view) continue;
    const { plan, diagnostics } = checkMoveset(changed);
    if (plan && diagnostics.every(({ severity }) => severity !== 'error')) return plan;
  }
}

/** What holds of every record, whoever made it. */
function expectSound(c: Character): void {
  const { plan, record: r } = c;
  // Restoring checks all indexes, places and numbers.
  c.restore(c.snapshot());
  for (const { at } of plan.pools) expect(r[at + 5]).toBeLessThanOrEqual(r[at + 6]);
  for (const pool of plan.names.pool) {
    const { min, max } = c.readout.poolLimits(pool);
    expect(c.readout.pool(pool)).toBeGreaterThanOrEqual(min);
    expect(c.readout.pool(pool)).toBeLessThanOrEqual(max);
  }
  let running = 0;
  plan.layout.laneOwn.forEach(({ abilityOwn, phaseOwn }, i) => {
    const lane = plan.lanesAt + i * LANE;
    const a = plan.abilities[r[lane + L_ABILITY]];
    const phase = plan.phases[r[lane + L_PHASE]];
    if (a) running++;
    const own = (label: string) => plan.layout.ranges.find((range) => range.label.startsWith(label) && range.label.endsWith(` ${plan.names.lane[i]}`))?.count ?? 0;
    for (let k = a?.scope.owns ?? 0; k < own('effects of an ability'); k++) expect(r[abilityOwn + k]).toBe(0);
    for (let k = phase?.scope.owns ?? 0; k < own('effects of a phase'); k++) expect(r[phaseOwn + k]).toBe(0);
  });
  expect(r[RUNNING]).toBe(running);
  expect(r[PENDING]).toBe(plan.triggers.filter(({ at }) => r[at + R_COUNT] > 0).length);
  expect(r[LACKING]).toBe(plan.abilities.filter(({ chargesAt: at }) => at >= 0 && r[at + N_LEFT] < r[at + N_MAX]).length);
  for (const at of new Set(plan.abilities.flatMap(({ cooldownAt }) => (cooldownAt >= 0 ? cooldownAt : []))))
    expect(r[at + C_WAITING]).toBe(plan.abilities.filter(({ cooldownAt, waitsAt }) => cooldownAt === at && waitsAt >= 0 && r[waitsAt] === 1).length);
  for (const { at } of plan.abilities) expect([0, 1]).toContain(r[at + A_KNOWN]);
}

test('there and back between random movesets, whatever runs: nothing throws, and each record is one that there could be', () => {
  forRandom(MOVESETS / 2, (random) => {
    const { source, plan } = makeSound(random, { functions: false });
    const other = change(random, source);
    const world = worldOf(random, plan);
    const c = create(plan, world);
    const script = makeScript(random, plan, 2 * TICKS);
    for (let at = 0; at < 2 * TICKS; at++) {
      for (const deed of script.actions[at]) {
        try {
          deed(c);
        } catch (error) {
          if (!(error instanceof UsageError)) throw error;
        }
      }
      c.tick();
      if (!random.chance(0.15)) continue;
      swapMoveset(c, c.plan === plan ? other : plan);
      expectSound(c);
    }
  });
});
