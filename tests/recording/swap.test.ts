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
  TileWorld,
  UsageError,
} from '../../src/index.js';
import { C_ARMOUR, C_BOUNCE, C_GUARD, C_IMMUNE, C_MEETS, C_PARRIES } from '../../src/record/combat.js';
import {
  A_KNOWN,
  ACCEL,
  BRAKE,
  C_WAITING,
  FACE_LOCK,
  FALL,
  GRAVITY,
  L_ABILITY,
  L_PHASE,
  LACKING,
  LANE,
  N_LEFT,
  N_MAX,
  PASSES,
  PENDING,
  R_COUNT,
  RUNNING,
  SPEED,
  STEER,
  WANT_SHAPE,
} from '../../src/record/slots.js';
import { compare, Recording } from '../../src/recording/index.js';
import { generated, generatedWhole } from '../emit/generated.js';
import { forRandom, MOVESETS, TICKS } from '../random/for-random.js';
import { GULL } from '../random/gull.js';
import { makeSound } from '../random/moveset.js';
import { create, difference, makeScript, play, withoutRooms, worldOf } from '../random/play.js';
import type { Random } from '../random/random.js';
import { spoil } from '../random/spoil.js';
import { makeCharacter, plan as planOf, SMALL, tick } from '../support.js';

test('an equal moveset in the place of another changes nothing, whenever it comes; a module may do that, too', () => {
  forRandom(MOVESETS / 12, (random, seed) => {
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
    const own = (label: string) =>
      plan.layout.ranges.find(
        (range) => range.label.startsWith(label) && range.label.endsWith(` ${plan.names.lane[i]}`),
      )?.count ?? 0;
    for (let k = a?.scope.owns ?? 0; k < own('effects of an ability'); k++) expect(r[abilityOwn + k]).toBe(0);
    for (let k = phase?.scope.owns ?? 0; k < own('effects of a phase'); k++) expect(r[phaseOwn + k]).toBe(0);
  });
  expect(r[RUNNING]).toBe(running);
  expect(r[PENDING]).toBe(plan.triggers.filter(({ at }) => r[at + R_COUNT] > 0).length);
  expect(r[LACKING]).toBe(
    plan.abilities.filter(({ chargesAt: at }) => at >= 0 && r[at + N_LEFT] < r[at + N_MAX]).length,
  );
  for (const at of new Set(plan.abilities.flatMap(({ cooldownAt }) => (cooldownAt >= 0 ? cooldownAt : []))))
    expect(r[at + C_WAITING]).toBe(
      plan.abilities.filter(({ cooldownAt, waitsAt }) => cooldownAt === at && waitsAt >= 0 && r[waitsAt] === 1).length,
    );
  for (const { at } of plan.abilities) expect([0, 1]).toContain(r[at + A_KNOWN]);
}

test('there and back between random movesets, whatever runs: nothing throws, and each record is one that there could be', () => {
  forRandom(MOVESETS / 10, (random) => {
    const { source, plan } = makeSound(random, { functions: false });
    const other = change(random, source);
    const world = worldOf(random, plan);
    const c = create(plan, world);
    const script = makeScript(random, plan, 2 * TICKS);
    for (let at = 0; at < 2 * TICKS; at++) {
      for (const deed of script.actions[at]) unless(UsageError, () => deed(c));
      c.tick();
      if (!random.chance(0.15)) continue;
      swapMoveset(c, c.plan === plan ? other : plan);
      expectSound(c);
    }
  });
});

/** The same moveset with one more of everything, which nothing uses: each comes second, so that what follows stands elsewhere. */
function withSpares(source: Record<string, unknown>): Record<string, unknown> {
  const spares: Record<string, object> = {
    pools: { max: 3, start: 1, regen: 1 },
    inputs: { button: 'KeyZ' },
    stances: { when: 'pool.spare > 9' },
    lanes: {},
    events: {},
    marks: {},
    loadouts: { abilities: ['spare'] },
    abilities: { start: { toggle: 'spare' }, charges: { max: 2, every: '1s' }, phases: [{ for: '3f' }] },
  };
  const second = (given: object, spare: unknown) => {
    if (Array.isArray(given)) return given.toSpliced(1, 0, 'spare');
    const all = Object.entries(given);
    // A last stance has no "when".
    all.splice(given === source.stances ? 0 : 1, 0, ['spare', spare]);
    return Object.fromEntries(all);
  };
  const twin: Record<string, object> = { pools: {}, ...source };
  for (const [kind, spare] of Object.entries(spares)) if (twin[kind]) twin[kind] = second(twin[kind], spare);
  const { shapes } = (twin.body ?? {}) as { shapes?: object };
  if (shapes) twin.body = { ...twin.body, shapes: second(shapes, [1, 1]) };
  return twin;
}

const FOLDED = [
  ...[GRAVITY, FALL, STEER, SPEED, ACCEL, BRAKE, WANT_SHAPE, FACE_LOCK, PASSES].map((at) => `head [${at}]`),
  ...[C_IMMUNE, C_ARMOUR, C_GUARD, C_PARRIES, C_MEETS, C_BOUNCE].map((at) => `combat [${at}]`),
];

test('with everything at another place, it goes on as if nothing had been swapped', () => {
  forRandom(MOVESETS / 8, (random) => {
    const { source, plan } = makeSound(random, { functions: false });
    const twin = compileMoveset(withSpares(source) as unknown);
    const world = worldOf(random, plan);
    const script = makeScript(random, plan, 2 * TICKS);
    // A refusal of what waits is told again after a swap.
    const [one, other] = [0, 1].map(() => create(plan, world, { refusals: false })) as [Character, Character];
    const [left, swapped] = [new Recording(one), new Recording(other)];
    play(one, script);
    for (let at = 0; at < 2 * TICKS; ) {
      const next = Math.min(2 * TICKS, at + random.whole(1, TICKS / 2));
      play(other, script, at, next);
      swapMoveset(other, other.plan === plan ? twin : plan);
      at = next;
    }
    // What effects fold is folded anew at a swap, else not while time stands still.
    const found = compare(left, swapped).first?.differences.filter(({ name }) => !FOLDED.includes(name));
    expect(found?.map(({ text }) => text) ?? []).toEqual([]);
  });
});

test('duels with swaps in between are recorded, and made again from anywhere the same', () => {
  forRandom(MOVESETS / 12, (random, seed) => {
    const { source, plan } = makeSound(random, { fights: true, functions: false });
    const plans = [plan, change(random, source)];
    const world = worldOf(random, plan);
    const arena = new Arena({ world: seed % 3 === 0 ? withoutRooms(world) : world, summons: { gull: GULL } });
    const names = ['pell', 'skerry'];
    names.forEach((name, i) => {
      arena.add(name, plan, { at: [2.5 + i / 2, 1], places: () => ({ x: 4, y: 1 }) });
    });
    const scripts = names.map(() => makeScript(random, plan, 2 * TICKS));
    const recording = new Recording(arena);
    for (let t = 0; t < 2 * TICKS; t++) {
      for (const [i, name] of names.entries()) {
        const c = arena.find(name)?.character;
        for (const deed of c ? scripts[i].actions[t] : []) unless(UsageError, () => deed(c as Character));
      }
      if (random.chance(0.1)) {
        const [now, next] = plans;
        // Perhaps all have left.
        if (unless(UsageError, () => swapMoveset(arena, next, { of: now }))) plans.reverse();
      }
      arena.tick();
    }
    const again = recording.play({ from: random.whole(recording.first, recording.last) });
    expect([again.stopped, compare(recording, again).first]).toEqual([null, null]);
  });
});

/** Whether something was done; an error of that kind is no fault. */
function unless(kind: typeof UsageError, act: () => void): boolean {
  try {
    act();
    return true;
  } catch (error) {
    if (!(error instanceof kind)) throw error;
    return false;
  }
}

const DASH = `
pools: { wind: { max: 10, start: 6 } }
abilities:
  galeDash:
    start: { press: gale }
    cooldown: 2s
    cost: { wind: 2 }
    phases:
      - { name: windup, for: 4f }
      - { name: go, for: 10f, move: { along: facing, speed: 12 }, gravity: 0 }
  brace: { start: { press: gaff }, phases: [{ until: not held(gaff), tags: braced, beats: [{ moment: end, emit: eased }] }] }
events: [eased]
`;
const changed = (...pairs: [string, string][]) =>
  planOf(SMALL + pairs.reduce((text, [from, to]) => text.replace(from, to), DASH));

test('a dash that runs goes on as it began, for its new time, and the next one has the new speed; the cooldown and what is in the pool stay', () => {
  const c = makeCharacter(DASH);
  c.door.press('gale');
  tick(c, 10);
  const [x, wind, cooldown] = [c.readout.x, c.readout.pool('wind'), c.readout.cooldown('galeDash')];
  const swapped = swapMoveset(
    c,
    changed(['speed: 12', 'speed: 24'], ['for: 10f', 'for: 20f'], ['max: 10, start: 6', 'max: 3']),
  );
  expect(swapped.carried).toContainEqual({ kind: 'ability', name: 'galeDash' });
  expect([swapped.ended, swapped.begun, swapped.events]).toEqual([[], [], []]);
  expect([c.readout.x, c.readout.cooldown('galeDash'), c.readout.phase()]).toEqual([x, cooldown, 'go']);
  expect(wind).toBe(4);
  expect(c.readout.pool('wind')).toBe(3);
  expect(tick(c, 14)).toEqual([]);
  expect(c.readout.x - x).toBeCloseTo((14 * 12) / 60);
  expect(tick(c)).toContain('-galeDash time');
  tick(c, 130);
  c.door.release('gale');
  c.door.press('gale');
  tick(c, 6);
  expect(c.readout.vx).toBe(24);
});

test('what is gone ends as anything ends: its effects close, its events are told; what is new is as at the start', () => {
  const c = makeCharacter(DASH);
  c.door.press('gaff');
  tick(c, 5);
  const swapped = swapMoveset(
    c,
    planOf(`${SMALL}
pools: { oil: { max: 8 } }
abilities: { galeDash: { start: { press: gale }, charges: { max: 2, every: 1s }, phases: [{ for: 4f }] } }
events: [eased]`),
  );
  expect(swapped.events).toEqual([
    { kind: 'emitted', event: 'eased' },
    { kind: 'ended', ability: 'brace', why: 'unavailable', by: null },
  ]);
  expect(swapped.ended).toEqual([
    { kind: 'ability', name: 'brace' },
    { kind: 'pool', name: 'wind' },
  ]);
  expect(swapped.begun).toEqual([{ kind: 'pool', name: 'oil' }]);
  expect([c.readout.ability(), c.readout.pool('oil' as never), c.readout.charges('galeDash')]).toEqual([null, 8, 2]);
  expect(() => c.facts.fact('tagged(braced)')).toThrow(UsageError);
});

test('a body that is larger now is put where it has room, whether or not the names are others', () => {
  for (const more of ['', 'pools: { oil: { max: 3 } }']) {
    const world = new TileWorld(['#......', '#.@....', '#######']);
    const c = makeCharacter('body: { shapes: { tall: [0.6, 1.8] } }', { world, at: [1.3, 1] });
    swapMoveset(c, planOf(`${SMALL}body: { shapes: { tall: [1.6, 1.8] } }\n${more}`));
    expect(c.readout.x).toBeCloseTo(1.8, 2);
  }
});

test('what was paid before it comes back after it', () => {
  const text = (pools: string) => `pools: {${pools} wind: { max: 9, start: 9 } }
events: [bell]
abilities:
  lamp: { start: { press: gaff }, cost: { wind: 4 }, refund: 100%, phases: [{ for: 1s, interrupt: event(bell) }] }`;
  const c = makeCharacter(text(''));
  c.door.press('gaff');
  tick(c, 3);
  swapMoveset(c, planOf(SMALL + text(' oil: { max: 3 },')));
  expect(c.readout.pool('wind')).toBe(5);
  c.door.event('bell');
  tick(c, 2);
  expect([c.readout.ability(), c.readout.pool('wind')]).toEqual([null, 9]);
});

test('a module without formulas takes another with the same names, and says how to take others', () => {
  const plan = generatedWhole(planOf(SMALL + DASH));
  const c = create(plan, flatGround(), { at: [0, 0], places: undefined });
  const recording = new Recording(c);
  c.door.press('gale');
  tick(c, 2);
  swapMoveset(c, generatedWhole(changed(['for: 4f', 'for: 9f'])));
  tick(c, 4);
  // Of 4 ticks before.
  expect(c.readout.phase()).toBe('windup');
  expect(compare(recording, recording.play()).same).toBe(true);
  expect(() => swapMoveset(c, generatedWhole(changed(['events: [', 'events: [bell, '])))).toThrow(
    /leaves out what its numbers are called; generate it with "formulas"/,
  );
});

test('with new names for old ones, what runs, what waits and what is kept goes on under them', () => {
  const squall = changed(['galeDash:', 'squallDash:'], ['wind: {', 'breath: {'], ['wind: 2', 'breath: 2']);
  const renamed = { galeDash: 'squallDash', wind: 'breath' };
  const c = makeCharacter(DASH);
  c.door.press('gale');
  tick(c, 3);
  expect(swapMoveset(c, squall, { renamed }).ended).toEqual([]);
  expect([c.readout.ability(), c.readout.pool('breath' as never)]).toEqual(['squallDash', 4]);

  // In the moveset itself, they hold for saves, tapes and snapshots, too.
  const named =
    planOf(`${SMALL}${DASH.replace('galeDash:', 'squallDash:').replace('wind: {', 'breath: {').replace('wind: 2', 'breath: 2')}
renamed: { galeDash: squallDash, wind: breath }`);
  const old = makeCharacter(DASH);
  const tape = new Tape();
  old.tape = tape;
  old.door.press('gale');
  tick(old, 30);
  const saved = { ...saveProgress(old), forgotten: ['galeDash'] };
  const again = create(named, flatGround(), { at: [0, 0], places: undefined });
  tape.rewindTo(again);
  const told: string[] = [];
  for (let t = 0; t < 30; t++) {
    tape.feed(again);
    told.push(...tick(again));
  }
  expect(told).toContain('+squallDash');
  expect(again.readout.x).toBe(old.readout.x);
  expect(loadProgress(again, saved).problems).toEqual([]);
  tick(again);
  expect([again.readout.isKnown('squallDash'), again.readout.pool('breath' as never)]).toEqual([false, 4]);
});

test('check says which new name is none, and which old name is still there', () => {
  const { diagnostics } = checkMoveset({
    ...(JSON.parse(JSON.stringify({ loggia: 1, name: 'P', stances: { stand: {} }, events: ['bell'] })) as object),
    renamed: { ring: 'bel', bell: 'stand' },
  });
  expect(diagnostics.map(({ code, path }) => `${code} ${path.join('.')}`)).toEqual([
    'unknown-name renamed.ring',
    'pointless-key renamed.bell',
  ]);
});

test('in an arena it is swapped for all who have it and for who may be called, and for nobody else', () => {
  const one = planOf(SMALL + DASH);
  const sentry = compileMoveset({ loggia: 1, name: 'Sentry', stances: { stand: {} } });
  const arena = new Arena({ world: flatGround(), summons: { double: one } });
  const pell = arena.add('pell', one);
  const twin = arena.add('twin', one);
  arena.add('sentry', sentry);
  const next = changed(['for: 4f', 'for: 1f']);
  expect(swapMoveset(arena, next).map(({ name }) => name)).toEqual(['pell', 'twin']);
  expect([pell.character.plan, twin.character.plan, arena.find('sentry')?.character.plan]).toEqual([
    next,
    next,
    sentry,
  ]);
  const before = arena.snapshot();
  pell.character.door.press('gale');
  for (let t = 0; t < 4; t++) arena.tick();
  expect(pell.character.readout.phase()).toBe('go');
  arena.restore(before);
  expect(pell.character.readout.ability()).toBeNull();
  expect(() => swapMoveset(arena, compileMoveset({ loggia: 1, name: 'Gull', stances: { fly: {} } }))).toThrow(
    /nobody here/,
  );
});

test('what cannot take the place of another is refused, and nothing has changed', () => {
  const c = makeCharacter(DASH);
  const before = c.checksum();
  expect(() => swapMoveset(c, planOf(`${SMALL}rate: 30`))).toThrow(/30 ticks per second instead of 60/);
  expect(() => swapMoveset(c, planOf(`${SMALL}view: open`))).toThrow(/in the open/);
  expect(() => swapMoveset(c, {} as Plan)).toThrow(/compiled moveset/);
  expect(() => swapMoveset({} as Character, c.plan)).toThrow(/Character or an Arena/);
  expect(() => swapMoveset(c, c.plan, { renamed: ['x'] as never })).toThrow(/map of new names/);
  const narrow = create(c.plan, flatGround(), { into: new Float64Array(c.plan.arraySize()), places: undefined });
  expect(() => swapMoveset(narrow, changed(['events: [', 'events: [bell, ']))).toThrow(/holds \d+/);
  expect(c.checksum()).toBe(before);
});
