import type { Plan } from '../../compile/plan.js';
import { NEVER } from '../../record/slots.js';
import { want, wantObject, wantOptions, wantPlan } from '../../report/arguments.js';
import { type Path, Sink } from '../../report/diagnostic.js';
import { UsageError } from '../../report/usage-error.js';
import { wordPlaced } from '../../report/wording.js';
import { playersOf } from '../../scenario/players-of.js';
import { readScenario } from '../../scenario/read-scenario.js';
import { prepareRun } from '../../scenario/run.js';
import { runScenarioData } from '../../scenario/run-data.js';
import {
  AGAINST,
  bitOf,
  COST_BIT,
  COST_BITS,
  UPKEEP_BIT,
  UPKEEP_BITS,
  WHEN_BIT,
  WHEN_BITS,
} from '../../tick/judge/against.js';
import { type Act, buttonsOf, rowsOf, stepsOf } from './acts.js';
import { circlesThrough, waysFrom } from './cycles.js';
import { groundsFor } from './grounds.js';
import { pathTo, Search, type Way } from './search.js';
import { allKept, type Kept, NEAR, OTHER, Stage, startRows } from './stage.js';

/** What was found. */
export type FindingKind =
  | 'never-starts'
  | 'never-reached'
  | 'soft-lock'
  | 'endless-in-the-air'
  | 'endless-at-no-cost'
  | 'always-immune'
  | 'endless-stun'
  | 'only-falls';

/** Something that can happen, or that was never seen to. Plain data. */
export interface Finding {
  readonly kind: FindingKind;
  /** The ability, stance or pool that it is about. */
  readonly name: string;
  /** What it is, in a sentence. */
  readonly text: string;
  /** Where in the moveset that is. */
  readonly path: Path;
  /** A scenario that shows it, and passes; of what was never seen there is none. */
  readonly scenario?: Readonly<Record<string, unknown>>;
}

/** How far something can be brought, and by what. */
export interface Reach {
  readonly value: number;
  readonly scenario?: Readonly<Record<string, unknown>>;
}

/** What a search came to. Plain data. */
export interface Exploration {
  readonly moveset: string;
  readonly findings: readonly Finding[];
  /** How far over the ground it came from its start, and how high. */
  readonly furthest: Reach;
  readonly highest: Reach;
  /** Seconds up to the first start of each ability and the first of each event that it emits. */
  readonly quickest: Readonly<Record<string, number>>;
  /** How much was looked at. */
  readonly states: number;
  readonly ticks: number;
  /** The longest play, in seconds. */
  readonly depth: number;
  /** Why the search ended: all was seen, or one of the limits. */
  readonly ended: 'all' | 'states' | 'time' | 'stopped';
  /** Places that are nearer to one another than this counted as one. */
  readonly near: number;
}

/** How far is searched, and where. */
export interface ExploreOptions {
  /** The `world` of a scenario. Default: one with a floor, walls, a ledge, a gap, a slope of each kind. */
  readonly world?: unknown;
  /** Where it begins: a letter of the world, or [x, y]. Default `@`, or [0, 0, 0]. */
  readonly start?: string | readonly number[] | undefined;
  /** Somebody who stands before it and presses nothing: combos are looked for. */
  readonly against?: Plan | undefined;
  /** Movesets of those who may be called, by their names; needed where `against` is given and somebody is called. */
  readonly summons?: Readonly<Record<string, Plan>> | undefined;
  /** Most states. Default 40,000. */
  readonly states?: number | undefined;
  /** Longest play in seconds. Default 12. */
  readonly depth?: number | undefined;
  /** Longest search in seconds. Default 20. */
  readonly time?: number | undefined;
  /** Abilities and stances in which it may well stay for ever, such as a faint. */
  readonly allow?: readonly string[] | undefined;
  /** Is told how far the search is; `false` ends it with what was found. */
  readonly progress?: ((states: number, ticks: number) => boolean | Promise<boolean>) | undefined;
}

/** A step of a tenth of a second: what is done with the devices stays for that long. */
const STEP = 0.1;
/** Ticks before anything is done, so that the body stands. */
const SETTLE = 0.5;
/** How long a circle is repeated before it is believed to have no end, and a lock tried; in seconds. */
const ENDLESS = 8;
/** Random plays out of a state that may be a lock. */
const TRIES = 24;
/** States about which circles are looked for, and how many states near each. */
const SEEDS = 24;
const NEARBY = 120;
/** So far below its start, a body has left the world. */
const LOST = 30;
/** Circles that are tried of one kind. */
const CIRCLES = 400;

const KEYS = ['world', 'start', 'against', 'summons', 'states', 'depth', 'time', 'allow', 'progress'];

/**
 * Searches what can happen with a moveset, on the runtime itself: state after state, with everything that a player and code can do. What was
 * merged and how far was searched is said with what was found; what was not found may still be.
 * @param plan What `compileMoveset` or a file gives.
 * @param options Where, how far, and against whom.
 * @throws {UsageError} for a faulty world.
 */
export async function exploreMoveset(plan: Plan, options: ExploreOptions = {}): Promise<Exploration> {
  const call = 'exploreMoveset';
  wantPlan(call, plan);
  wantObject(call, 'the options', options);
  wantOptions(call, options, KEYS);
  const { against, summons = {} } = options;
  if (against !== undefined) wantPlan(`${call}: of "against"`, against);
  wantObject(call, 'summons', summons);
  for (const one of against ? [plan, against] : [])
    for (const who of one.names.summon)
      if (!Object.hasOwn(summons, who))
        throw new UsageError(
          `${call}: ${one.name} calls "${who}", of whom nothing is known: give its moveset in "summons"; on the command line, a --world with "summons" brings it.`,
          'missing',
        );
  for (const key of ['states', 'depth', 'time'] as const) {
    const value = options[key];
    want(value === undefined || (Number.isFinite(value) && value > 0), call, key, 'a number above 0', value);
  }
  return new Explorer(plan, options).run();
}

class Explorer {
  private readonly step: number;
  private readonly settle: number;
  private data: Readonly<Record<string, unknown>>;
  private readonly stage: Stage;
  private readonly search: Search;
  private readonly stance: number;
  private readonly start: Float64Array;
  private readonly floor: number;
  private random = 1;

  constructor(
    private readonly plan: Plan,
    private readonly options: ExploreOptions,
  ) {
    const { rate } = plan;
    this.step = Math.max(2, Math.round(rate * STEP));
    this.settle = Math.round(rate * SETTLE);
    const { against } = options;
    const world = options.world ?? groundsFor(plan);
    const at = options.start ?? ((world as Record<string, unknown>).rows ? '@' : [0, 0, 0]);
    const data = {
      world,
      start: { at },
      ...(options.summons && { summons: Object.fromEntries(Object.keys(options.summons).map((name) => [name, name])) }),
    };
    const other = against && { moveset: against.name, facing: 'left' };
    this.data = data;
    const { world: made, place } = this.makeWorld(at);
    const there: [number, number, number] = [place[0] + 1, place[1], place[2]];
    if (other) this.data = { ...data, others: { [OTHER]: { ...other, at: there } } };
    this.stage = new Stage({
      plan,
      world: made,
      at: place,
      ...(against && { against: { plan: against, at: there, summons: options.summons ?? {} } }),
    });
    for (let i = 0; i < this.settle; i++) this.stage.tick();
    this.stance = this.stage.stance;
    this.floor = this.stage.place[1];
    this.start = this.stage.snapshot();
    const clock = () => performance.now();
    this.search = new Search(this.stage, this.step, {
      states: options.states ?? 40_000,
      steps: Math.ceil((options.depth ?? 12) / STEP),
      time: (options.time ?? 20) * 1000,
      now: clock,
      ...(options.progress && { progress: options.progress }),
    });
  }

  private makeWorld(at: string | readonly number[]) {
    const { plan } = this;
    const sink = new Sink();
    const data = {
      loggia: 1,
      moveset: plan.name,
      scenario: 'x',
      ...this.data,
      others: {},
      run: '1f',
      expect: [{ members: [] }],
    };
    const players = playersOf(plan, data, this.options.summons ?? {}, sink);
    const parsed = readScenario(players, data, sink);
    const prepared = parsed && prepareRun(players, parsed, sink);
    if (!prepared)
      throw new UsageError(
        `exploreMoveset: the world is faulty: ${sink.list.map(wordPlaced).join(' ')}`,
        'out-of-range',
      );
    const { world } = prepared;
    world.advanceTo(0);
    const found = typeof at === 'string' ? world.find(at) : { x: at[0], y: at[1], z: at[2] ?? 0 };
    if (!found)
      throw new UsageError(
        `exploreMoveset: there is no "${String(at)}" in the world, where it could begin.`,
        'missing',
      );
    const place: [number, number, number] = [found.x, found.y, found.z ?? 0];
    return { world, place };
  }

  async run(): Promise<Exploration> {
    const { search, plan, stage } = this;
    await search.run(this.stance);
    const { seen, states } = search;
    const findings = [...this.unstarted(), ...this.unreached(), ...this.locks(), ...this.endless(), ...this.pools()];
    const deepest = states.reduce((most, { depth }) => Math.max(most, depth), 0);
    const quickest: Record<string, number> = {};
    for (const [i, first] of seen.started.entries())
      if (first >= 0) quickest[plan.names.ability[i]] = this.seconds(search.pathToFirst(first));
    for (const [event, first] of seen.emitted) quickest[event] = this.seconds(search.pathToFirst(first));
    return {
      moveset: plan.name,
      findings,
      furthest: this.reached(seen.furthest, 'furthest'),
      highest: this.reached(seen.highest, 'highest'),
      quickest,
      states: states.length,
      ticks: stage.ticks,
      depth: deepest * STEP,
      ended: search.ended,
      near: NEAR,
    };
  }

  private seconds(acts: readonly Act[]): number {
    return Math.round(stepsOf(acts) * STEP * 100) / 100;
  }

  /** Abilities that never started, and what stood against them all the time. */
  private unstarted(): Finding[] {
    const { plan } = this;
    const { started, always } = this.search.seen;
    return plan.abilities.flatMap((a, i): Finding[] => {
      if (started[i] >= 0) return [];
      const why = this.whyNever(i, always[i]);
      return [
        {
          kind: 'never-starts',
          name: a.name,
          text: `${a.name} never started: ${why.text}`,
          path: ['abilities', a.name, ...why.path],
        },
      ];
    });
  }

  private whyNever(ability: number, against: number): { text: string; path: Path } {
    const a = this.plan.abilities[ability];
    const { names } = this.plan;
    const has = (bit: number) => (against & bit) !== 0;
    for (const [i, { text }] of a.when.entries())
      if (has(bitOf(WHEN_BIT, WHEN_BITS, i)))
        return { text: `its "when" needs ${text}, which never held`, path: ['when'] };
    for (const [i, { pool }] of a.costs.entries())
      if (has(bitOf(COST_BIT, COST_BITS, i)))
        return { text: `there was never enough ${names.pool[pool]} for its cost`, path: ['cost', names.pool[pool]] };
    for (const [i, { pool }] of a.upkeeps.entries())
      if (has(bitOf(UPKEEP_BIT, UPKEEP_BITS, i)))
        return { text: `there was never ${names.pool[pool]} for its upkeep`, path: ['upkeep', names.pool[pool]] };
    if (has(AGAINST.from))
      return { text: `it starts from ${a.fromNames.join(', ')}, which never held`, path: ['from'] };
    if (has(AGAINST.follows)) return { text: 'nothing that it follows ever came before it', path: ['follows'] };
    if (has(AGAINST.loadout)) return { text: 'no loadout that has it was ever in use', path: [] };
    if (has(AGAINST.target)) return { text: 'its warp never had a point to go to', path: ['warp'] };
    if (has(AGAINST.room)) return { text: 'there was never room for it', path: [] };
    if (has(AGAINST.cooldown)) return { text: 'its cooldown was never over', path: ['cooldown'] };
    if (has(AGAINST.charges)) return { text: 'it never had a charge', path: ['charges'] };
    if (against !== 0) return { text: 'what runs never let it in', path: [] };
    return {
      text: 'nothing stood against it at times, but nothing that was tried asks for it at such a time (see its "start")',
      path: ['start'],
    };
  }

  private unreached(): Finding[] {
    return this.plan.stances.flatMap(({ name }, i): Finding[] =>
      this.search.seen.stances[i] >= 0
        ? []
        : [{ kind: 'never-reached', name, text: `the stance ${name} never held`, path: ['stances', name] }],
    );
  }

  /** States from which nothing that was tried leads back to rest. */
  private locks(): Finding[] {
    const { stage, search, plan } = this;
    const allow = new Set(this.options.allow ?? []);
    const found = new Map<string, Finding>();
    const out = search.leadingTo((state) => state.rests);
    for (const index of search.seen.doing.values()) {
      if (out.has(index)) continue;
      const { snapshot } = search.states[index];
      stage.restore(snapshot);
      if (stage.rests(this.stance)) continue;
      const running = stage.running();
      const stance = plan.names.stance[stage.stance];
      const name = running[0] ?? stance;
      if ([...running, stance].some((one) => allow.has(one)) || found.has(name)) continue;
      if (this.leadsOut(snapshot)) continue;
      // What stays is what holds it; what merely ran beside it may have ended meanwhile.
      stage.restore(snapshot);
      for (let i = 0; i < this.ticksOf(ENDLESS); i++) stage.play(IDLE, 1, allKept());
      const held = stage.running();
      const stays = held[0] ?? plan.names.stance[stage.stance];
      if (found.has(stays) || allow.has(stays)) continue;
      const what =
        held.length > 0 ? `${held.join(' and ')} ${held.length > 1 ? 'run' : 'runs'}` : `the stance ${stays} holds`;
      const hasFallen = stage.place[1] < this.floor - LOST;
      const scenario = this.lockScenario(index, held, stays);
      if (!scenario) continue;
      found.set(stays, {
        kind: 'soft-lock',
        name: stays,
        text: hasFallen
          ? 'it can fall out of the world, and nothing brings it back'
          : `nothing leads back to ${plan.names.stance[this.stance]} with nothing running, once ${what}`,
        path: [held.length > 0 ? 'abilities' : 'stances', stays],
        scenario,
      });
    }
    return [...found.values()];
  }

  private ticksOf(seconds: number): number {
    return Math.round(seconds * this.plan.rate);
  }

  /** Whether any of many plays comes back to rest. */
  private leadsOut(snapshot: Float64Array): boolean {
    const { stage, step } = this;
    const steps = Math.ceil(ENDLESS / STEP);
    const tries: ((i: number) => Act)[] = [
      () => IDLE,
      ...stage.acts.map((act) => () => act),
      // Pressed again and again, and let go between.
      ...stage.acts.map((act) => (i: number) => (i % 8 < 6 ? act : IDLE)),
      ...Array.from({ length: TRIES }, () => {
        let act = IDLE;
        return (i: number) => {
          if (i % 3 === 0) act = this.pick(stage.acts);
          return act;
        };
      }),
    ];
    for (const choose of tries) {
      stage.restore(snapshot);
      for (let i = 0; i < steps; i++) {
        let isOut = false;
        stage.play(choose(i), step, allKept(), () => {
          isOut ||= stage.rests(this.stance);
        });
        if (isOut) return true;
      }
    }
    return false;
  }

  private pick<X>(list: readonly X[]): X {
    this.random = (Math.imul(this.random, 1664525) + 1013904223) >>> 0;
    return list[this.random % list.length];
  }

  /** Circles that can be gone round for ever. */
  private endless(): Finding[] {
    const { plan, options } = this;
    const hasHurt = plan.hurt !== null && plan.combatAt >= 0;
    const paid = (way: Way) => way.started >= 0 && plan.abilities[way.started].costs.length > 0;
    return [
      ...this.circles(
        'endless-in-the-air',
        'airborne',
        (way) => way.started >= 0,
        (names) => `${names} can go on for ever in the air`,
      ),
      ...this.circles(
        'endless-at-no-cost',
        'busy',
        paid,
        (names) => `${names} can go on for ever, and what it costs comes back meanwhile`,
      ),
      ...(hasHurt
        ? this.circles(
            'always-immune',
            'immune',
            () => true,
            (names) => `${names} can keep it immune to everything without a gap`,
          )
        : []),
      ...(options.against
        ? this.circles(
            'endless-stun',
            'stunned',
            (way) => way.started >= 0,
            (names) => `${names} can go on for ever, and whom it strikes never acts`,
          )
        : []),
    ];
  }

  private circles(
    kind: FindingKind,
    key: keyof Kept,
    through: (way: Way) => boolean,
    say: (names: string) => string,
  ): Finding[] {
    const { plan } = this;
    const found = new Map<string, Finding>();
    let tried = 0;
    for (const { begin, circle } of this.candidates(key, through)) {
      const names = new Set(circle.flatMap(({ started }) => (started >= 0 ? plan.names.ability[started] : [])));
      // What goes round with others goes round without them.
      const isKnown = [...found.keys()].some((known) => known.split(',').every((name) => names.has(name)));
      if (isKnown) continue;
      if (++tried > CIRCLES) break;
      const acts = circle.map(({ act }) => this.stage.acts[act]);
      const told = this.goesOn(begin, acts, key);
      if (!told || [...found.keys()].some((known) => known.split(',').every((name) => told.names.includes(name))))
        continue;
      const path = this.shortened(begin, (shorter) => this.goesOn(shorter, acts, key) !== undefined);
      const now = this.goesOn(path, acts, key) ?? told;
      if (found.has(now.names.join())) continue;
      const scenario = this.circleScenario(kind, say(now.names.join(', ')), path, acts, now);
      if (!scenario) continue;
      const [name = ''] = now.names;
      found.set(now.names.join(), {
        kind,
        name,
        text: say(now.names.join(' and ')),
        path: ['abilities', ...(name ? [name] : [])],
        scenario,
      });
    }
    return [...found.values()];
  }

  /** Circles of all ways that were searched, then of those about states in which something has begun. */
  private *candidates(
    key: keyof Kept,
    through: (way: Way) => boolean,
  ): Generator<{ begin: readonly Act[]; circle: readonly Way[] }> {
    const { search } = this;
    // What code does is not up to a player.
    const acts = this.stage.acts.map(isPlayed);
    const ways = search.ways.filter(({ act, kept }) => acts[act] && kept[key]);
    for (const circle of circlesThrough(waysFrom(ways), through))
      yield { begin: search.pathTo(circle[0].from), circle };
    const seeds = new Map<string, number>();
    for (const { to, started } of ways) {
      const seed = `${started} ${search.states[to].doing}`;
      if (started >= 0 && !seeds.has(seed)) seeds.set(seed, to);
    }
    for (const seed of [...seeds.values()].slice(0, SEEDS)) {
      const near = this.nearby(search.states[seed].snapshot, key);
      for (const circle of circlesThrough(waysFrom(near.ways), through))
        yield { begin: [...search.pathTo(seed), ...near.pathTo(circle[0].from)], circle };
    }
  }

  /** States that can be reached from one while something stays so: few of them, but with all acts that matter. */
  private nearby(from: Float64Array, key: keyof Kept) {
    const { stage, step } = this;
    const acts = stage.acts.flatMap((act, i) => (isPlain(act) ? i : []));
    const known = new Map<number, number>();
    const states: { snapshot: Float64Array; parent: number; act: number }[] = [];
    const ways: Way[] = [];
    const reach = (parent: number, act: number): number => {
      const state = stage.state();
      const index = known.get(state) ?? states.length;
      if (index === states.length) {
        known.set(state, index);
        states.push({ snapshot: stage.snapshot(), parent, act });
      }
      return index;
    };
    stage.restore(from);
    reach(-1, -1);
    for (let at = 0; at < states.length && at < NEARBY; at++)
      for (const act of acts) {
        stage.restore(states[at].snapshot);
        const kept = allKept();
        let started = -1;
        stage.play(stage.acts[act], step, kept, () => {
          started = stage.started().at(-1) ?? started;
        });
        if (kept[key]) ways.push({ from: at, to: reach(at, act), act, kept, started });
      }
    return { ways, pathTo: (index: number) => pathTo(states, stage.acts, index) };
  }

  /** Whether a circle can be gone round for a long time: who ran meanwhile, and how often it was gone round. */
  private goesOn(path: readonly Act[], circle: readonly Act[], key: keyof Kept): Round | undefined {
    const { stage, step, plan } = this;
    this.replay(path);
    const kept = allKept();
    const [, height] = stage.place;
    const before = plan.pools.map((_, i) => stage.pool(i));
    const ran = new Set<string>();
    /** By ability: how often it started. */
    const counts = new Map<number, number>();
    const rounds = Math.max(3, Math.ceil(ENDLESS / STEP / stepsOf(circle)));
    for (let round = 0; round < rounds; round++) {
      let starts = 0;
      // What began it is no part of it.
      if (round === 1) counts.clear();
      for (const act of circle) {
        stage.play(act, step, kept, () => {
          for (const ability of stage.started()) {
            starts++;
            counts.set(ability, (counts.get(ability) ?? 0) + 1);
          }
          for (const name of stage.running()) ran.add(name);
          this.mash();
        });
        if (!kept[key]) return undefined;
      }
      if ((key === 'airborne' || key === 'busy') && starts === 0) return undefined;
    }
    const [, now] = stage.place;
    // Who only falls slowly comes down.
    if (key === 'airborne' && now < height - 1) return undefined;
    if (key === 'busy') {
      const paid = [...counts].map(([ability, times]) => ({ ...plan.abilities[ability], times }));
      const costs = paid.flatMap((a) => a.costs);
      if (costs.length === 0 || costs.some(({ pool }) => stage.pool(pool) < before[pool] - 1e-6)) return undefined;
      // Who rests between is not at it all the time.
      const worked = paid.reduce((sum, a) => sum + (a.costs.length > 0 && a.lasts < NEVER ? a.lasts * a.times : 0), 0);
      if (worked < stepsOf(circle) * step * (rounds - 1) * 0.5) return undefined;
    }
    const names = [...counts.keys()].map((ability) => plan.names.ability[ability]);
    return { names: names.length > 0 ? names : [...ran], ran: [...ran], rounds };
  }

  /** The other one tries what it can. */
  private mash(): void {
    const { other, ticks } = this.stage;
    if (!other) return;
    for (const button of buttonsOf(other.plan)) {
      if (ticks % 2 === 0) other.door.press(button);
      else other.door.release(button);
    }
  }

  private replay(path: readonly Act[]): void {
    this.stage.restore(this.start);
    for (const act of path) this.stage.play(act, this.step, allKept());
  }

  /** A path without the acts that it does not need. */
  private shortened(path: readonly Act[], holds: (path: readonly Act[]) => boolean): readonly Act[] {
    let best = path;
    for (let i = 0, tries = 0; i < best.length && tries < 60; tries++) {
      const shorter = best.toSpliced(i, 1);
      if (holds(shorter)) best = shorter;
      else i++;
    }
    return best;
  }

  private lockScenario(index: number, held: readonly string[], stays: string): Record<string, unknown> | undefined {
    const { plan } = this;
    const isHeld = () => {
      const { stage } = this;
      for (let i = 0; i < this.ticksOf(2); i++) stage.play(IDLE, 1, allKept());
      return held.length > 0
        ? held.every((name) => stage.running().includes(name))
        : plan.names.stance[stage.stance] === stays;
    };
    const path = this.shortened(this.search.pathTo(index), (shorter) => {
      this.replay(shorter);
      return isHeld() && !this.leadsOut(this.stage.snapshot());
    });
    const from = this.settle + stepsOf(path) * this.step;
    const buttons = buttonsOf(plan);
    const begin = from + this.ticksOf(2);
    const mash = buttons.map((button, i) => ({ at: `${begin + i * 60}f`, mash: button, times: 5 }));
    const run = begin + Math.max(1, buttons.length) * 60 + 30;
    const expect = { from: `${begin}f`, always: true, ...(held.length > 0 ? { running: held } : { stance: stays }) };
    const what = held.length > 0 ? `${held.join(' and ')} never ends` : `the stance ${stays} never ends`;
    return (
      this.scenario(`Whatever is pressed, ${what}`, path, mash, run, [expect]) ??
      this.scenario(`Left alone, ${what}`, path, [], run, [expect])
    );
  }

  private circleScenario(
    kind: FindingKind,
    text: string,
    path: readonly Act[],
    circle: readonly Act[],
    { rounds, ran }: Round,
  ): Record<string, unknown> | undefined {
    const { step, settle } = this;
    const times = Math.min(rounds, Math.max(3, Math.ceil(3 / STEP / stepsOf(circle))));
    const acts = [...path, ...Array.from({ length: times }, () => circle).flat()];
    const [from, by] = [settle + stepsOf(path) * step, settle + stepsOf(acts) * step - 1];
    const always = { from: `${from}f`, by: `${by}f`, always: true };
    const runs = ran.map((name) => `running(${name})`).join(' or ');
    const expect =
      kind === 'endless-in-the-air'
        ? { ...always, that: 'airborne' }
        : kind === 'endless-stun'
          ? { ...always, of: OTHER, that: 'hitsTaken > 0' }
          : { ...always, that: runs };
    return this.scenario(text, acts, [], by + 1, [expect]);
  }

  /** A scenario of some acts, if it passes. */
  private scenario(
    text: string,
    acts: readonly Act[],
    more: readonly Record<string, unknown>[],
    run: number,
    expect: readonly Record<string, unknown>[],
  ): Record<string, unknown> | undefined {
    const { plan, options, data, step, settle } = this;
    const rows = [...startRows(plan), ...rowsOf(plan, acts, step, settle), ...more];
    // What is still down is let go before it is pressed again.
    const last = acts.at(-1);
    if (more.length > 0 && last && last.buttons.length > 0 && !last.tap)
      rows.push({ at: `${settle + stepsOf(acts) * step}f`, release: [...last.buttons] });
    const scenario = {
      loggia: 1,
      scenario: `${text[0].toUpperCase()}${text.slice(1)}`,
      moveset: plan.name,
      ...data,
      run: `${run}f`,
      ...(rows.length > 0 && { inputs: rows }),
      expect,
    };
    const movesets = {
      ...options.summons,
      [plan.name]: plan,
      ...(options.against && { [options.against.name]: options.against }),
    };
    const { result } = runScenarioData(plan, scenario, 'nothing', movesets);
    return result?.passed ? scenario : undefined;
  }

  private pools(): Finding[] {
    const { poolFell, poolRose } = this.search.seen;
    return this.plan.pools.flatMap(({ name }, i): Finding[] =>
      poolFell[i] === 1 && poolRose[i] === 0
        ? [
            {
              kind: 'only-falls',
              name,
              text: `the pool ${name} falls, and nothing that was tried gave anything back`,
              path: ['pools', name],
            },
          ]
        : [],
    );
  }

  private reached({ state, value }: { state: number; value: number }, which: 'furthest' | 'highest'): Reach {
    if (value <= 0) return { value: 0 };
    const acts = this.search.pathTo(state);
    this.replay([]);
    const [begun] = this.stage.place;
    this.replay(acts);
    const [x, y] = this.stage.place;
    const by = this.settle + stepsOf(acts) * this.step;
    const that =
      which === 'highest'
        ? `y >= ${Math.floor(y * 100) / 100}`
        : x >= begun
          ? `x >= ${Math.floor(x * 100) / 100}`
          : `x <= ${Math.ceil(x * 100) / 100}`;
    const scenario =
      this.plan.view === 'open' && which === 'furthest'
        ? undefined
        : this.scenario(`This is the ${which} that was reached`, acts, [], by, [{ at: 'end', that }]);
    return { value: Math.round(value * 1000) / 1000, ...(scenario && { scenario }) };
  }
}

interface Round {
  readonly names: readonly string[];
  /** Everything that ran meanwhile. */
  readonly ran: readonly string[];
  readonly rounds: number;
}

/** What is done with buttons alone, or the stick alone. */
function isPlain(act: Act): boolean {
  const { buttons, stick, steps } = act;
  return steps === 1 && isPlayed(act) && (buttons.length === 0 || (stick[0] === 0 && stick[1] === 0));
}

/** What a player can do, without code. */
function isPlayed({ event, request, loadout }: Act): boolean {
  return event === undefined && request === undefined && loadout === undefined;
}

const IDLE: Act = { steps: 1, buttons: [], tap: false, stick: [0, 0] };
