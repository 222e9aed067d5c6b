import type { Sink } from '../moveset/diagnostic.js';
import type { EffectTools, Piece } from '../moveset/effects/effect.js';
import { EFFECTS } from '../moveset/effects/index.js';
import type { Names, WrittenFormula } from '../moveset/read.js';
import type { NameKind } from '../moveset/shape.js';
import { ABILITY, BUTTON, LANE, NEVER, POOL, STICK } from '../moveset/slots.js';
import type { Moment } from '../moveset/starts/start.js';
import { compileAsks, countAsks } from './asks.js';
import { allFacts } from './facts.js';
import { FormulaCompiler } from './formula.js';
import { layOut, PROBE } from './layout.js';
import {
  type AbilityPlan,
  type Ask,
  HAS,
  type PhasePlan,
  type Plan,
  type PoolPlan,
  type ScopePlan,
  type StancePlan,
} from './plan.js';
import { always, firstOf, PACE, paceOf, restless } from './tests.js';

type Scope = Record<string, unknown> & { loadout?: string; open?: string[]; bars?: string[]; clip?: string };
/** A moveset as it was read: names known, times in ticks, formulas parsed. Without functions it is plain data. */
export type Written = Record<string, any>;

/**
 * Compiles what was read, and tells `sink` of the faults that only show then. `facts` are those that formulas read,
 * by key; null when a function may read any.
 */
export function compilePlan(
  written: Written,
  names: Names,
  rate: number,
  sink: Sink,
): { plan: Plan; facts: readonly string[] | null } {
  const compiler = new PlanCompiler(written, names, rate, sink);
  return { plan: compiler.compile(), facts: compiler.readFacts() };
}

class PlanCompiler {
  private readonly layout;
  private readonly formulas: FormulaCompiler;
  private readonly probesAt: number;
  private readonly valuesAt: number;
  private readonly abilities: Written;
  private readonly stances: Written;
  private readonly effects: EffectTools;
  private readonly phases: PhasePlan[] = [];
  private readonly clips: string[] = [];

  constructor(
    private readonly written: Written,
    private readonly names: Names,
    private readonly rate: number,
    sink: Sink,
  ) {
    this.abilities = written.abilities ?? {};
    this.stances = written.stances ?? {};
    this.layout = layOut(
      names,
      countAsks(Object.fromEntries(names.ability.map((name) => [name, this.abilities[name]]))),
    );
    this.probesAt = this.layout.end;
    this.valuesAt = this.probesAt + names.probe.length * PROBE;
    this.formulas = new FormulaCompiler(rate, sink, this.valuesAt + names.pool.length);
    this.formulas.facts = allFacts({
      names,
      layout: this.layout,
      probesAt: this.probesAt,
      valuesAt: this.valuesAt,
      laneOf: (ability) => this.laneOf(names.ability[ability]),
      scratch: (write, steady) => this.formulas.scratch(write, steady),
      levelsOf: (ability) => this.levelsOf(this.abilities[ability]),
    });
    this.effects = {
      number: (formula) => this.formulas.number(formula),
      index: (kind: NameKind, name: string) => names[kind].indexOf(name),
      stickAt: (name) => this.layout.sticks + names.stick.indexOf(name) * STICK,
      tagAt: (name) => this.layout.tags + names.tag.indexOf(name),
      view: written.view ?? 'side',
    };
  }

  compile(): Plan {
    const { written, names, layout } = this;
    const stances = names.stance.map((name) => this.compileStance(name));
    const heeded = this.heeded();
    const abilities = names.ability.map((name, index) => this.within(name, () => this.compileAbility(name, index)));
    const loadouts = names.loadout.map((name) => ({ name, scope: this.compileScope(written.loadouts[name] ?? {}) }));
    const pools = names.pool.map((name, i) => this.compilePool(name, i));
    const asks = compileAsks(written, names, layout, this.rate, (ability, w) =>
      this.within(ability, () => this.formulas.truth(w)),
    );
    for (const ability of abilities)
      (ability.standing as Ask[]).push(...asks.filter((ask) => ask.ability === ability.index && ask.stands));
    const { formulas } = this;
    const rules = asks.filter((ask) => ask.turn === 0);
    const varies =
      (pools.some((pool) => pool.varies) ? HAS.varyingPools : 0) |
      (abilities.some((a) => a.grace > 0 && a.when.length > 0) ? HAS.watched : 0) |
      // A stance that depends on what changes without setting STALE.
      (stances.some(({ when }) => when && paceOf(when) !== PACE.steady) ? HAS.varyingStances : 0);
    const has =
      varies |
      (varies || rules.some(({ stands }) => stands && paceOf(stands) < PACE.worked) ? HAS.restless : 0) |
      (this.phases.some((phase) => phase.charge) ? HAS.charges : 0) |
      (this.phases.some((phase) => phase.beats.length > 0) ? HAS.beats : 0) |
      (rules.length > 0 ? HAS.rules : 0) |
      ([...abilities, ...this.phases].some((part) => part.restless.length > 0) ? HAS.restlessLanes : 0) |
      ([...abilities, ...this.phases].some(({ scope }) => scope.bars) ? HAS.bars : 0);
    const byButton = (some: readonly Ask[]) =>
      names.button.map((_, i) => some.filter((ask) => ask.button === layout.buttons + i * BUTTON));
    const moments = asks.filter((ask) => ask.moment);
    const momentsOf = (moment: Moment) => moments.filter((ask) => ask.moment === moment);
    const body = written.body ?? {};
    const sticks = names.stick.map((name, i) => ({
      name,
      at: layout.sticks + i * STICK,
      deadzone: written.inputs[name]?.deadzone ?? 0.2,
      opposite: written.inputs[name]?.opposite ?? 'last',
      sides: names.button.indexOf(`${name}.left`),
    }));
    const shapes: Written = body.shapes ?? { tall: [0.6, 1.8] };
    const walkStick = sticks.find((s) => s.name === body.stick) ?? sticks[0];
    return {
      inputs: written.inputs ?? {},
      name: written.name,
      written,
      rate: this.rate,
      dt: 1 / this.rate,
      view: written.view ?? 'side',
      names,
      layout,
      recordSize: layout.end,
      arraySize: () => formulas.size,
      probesAt: this.probesAt,
      scratchAt: formulas.size++,
      constants: this.formulas.constants,
      body: {
        gravity: body.gravity ?? 25,
        fall: body.fall ?? 20,
        speed: body.walk?.speed ?? 5,
        accel: body.walk?.accel ?? 60,
        brake: body.walk?.brake ?? 60,
      },
      shapes: names.shape.map((name) => {
        const [width, height, depth] = shapes[name] ?? [];
        return { name, width, height, depth: depth ?? width, hx: width / 2, hy: height / 2, hz: (depth ?? width) / 2 };
      }),
      pools,
      varyingPools: pools.filter((pool) => pool.varies),
      sticks,
      walkStick: walkStick?.at ?? -1,
      probes: names.probe.map((name) => {
        const { ray = [], at = [0, 0], on = [] } = written.probes[name] ?? {};
        return { name, ray: [ray[0], ray[1], ray[2] ?? 0], at: [at[0], at[1], at[2] ?? 0], on };
      }),
      stances,
      heeded,
      pickStance: firstOf(stances.map((stance) => stance.when)),
      abilities,
      phases: this.phases,
      loadouts,
      clips: this.clips,
      has,
      eventCooldowns: abilities.filter((a) => a.cooldownFrom === 'event'),
      asks,
      momentAsks: moments,
      momentsBy: {
        press: byButton(momentsOf('press')),
        release: byButton(momentsOf('release')),
        edges: momentsOf('edges'),
        queue: momentsOf('queue'),
      },
      heldBy: byButton(asks.filter((ask) => ask.stands && !ask.latch)),
      ruleAsks: rules,
      graced: abilities.filter((a) => a.grace > 0),
      watched: abilities.filter((a) => a.grace > 0 && a.when.length > 0),
      charged: abilities.filter((a) => a.charges > 0),
      latched: asks.filter((ask) => ask.latch),
      reading: (fact) => formulas.lateReading(fact),
      conditions: (written, sink) => formulas.reportingTo(sink).conditions(written),
      factNames: () => [...formulas.facts.keys()],
    };
  }

  /** Facts that formulas read, or null when there is a function, which may read any. */
  readFacts(): string[] | null {
    return this.formulas.hasFunctions ? null : this.formulas.readFacts();
  }

  /** Called when nothing but the stances is compiled yet, so that what was read is what they read. */
  private heeded(): Uint8Array {
    const used = new Set(this.formulas.readFacts());
    const { button, stick } = this.names;
    const sticks = stick.some((name) => ['x', 'y', 'amount'].some((part) => used.has(`${name}.${part}`)));
    return Uint8Array.from([...button.map((name) => used.has(`held(${name})`)), sticks], Number);
  }

  private compileStance(name: string): StancePlan {
    const stance = this.stances[name] ?? {};
    return { name, when: stance.when ? this.formulas.truth(stance.when) : null, scope: this.compileScope(stance) };
  }

  private compileAbility(name: string, index: number): AbilityPlan {
    const a: Written = this.abilities[name] ?? {};
    const { names, layout, formulas } = this;
    const lane = this.laneOf(name);
    const firstPhase = a.phases?.length ? this.phases.length : -1;
    (a.phases ?? []).forEach((phase: Written | undefined, i: number, all: unknown[]) => {
      const [until, interrupt] = [this.tests(phase?.until), this.tests(phase?.interrupt)];
      this.phases.push({
        name: phase?.name ?? String(i + 1),
        ability: index,
        lasts: Math.min(phase?.for ?? NEVER, phase?.charge?.full === 'go' ? (phase.charge.over ?? 1) : NEVER),
        until,
        when: phase?.when ? formulas.truth(phase.when) : null,
        scope: this.compileScope(phase ?? {}),
        next: i + 1 < all.length ? this.phases.length + 1 : -1,
        interrupt,
        charge: phase?.charge
          ? {
              over: phase.charge.over ?? 1,
              curve: phase.charge.curve ?? 'even',
              cancels: phase.charge.early === 'cancel',
            }
          : null,
        beats: (phase?.beats ?? []).map((beat: Written = {}) => ({
          at: beat.at ?? 0,
          every: beat.every ?? 0,
          begins: this.compileScope({ gain: beat.gain, emit: beat.emit }).begins,
        })),
        restless: phase?.charge || phase?.beats ? [always] : restless([...until, ...interrupt]),
      });
    });
    const costs = this.amounts(a.cost).map(([pool, w]) => ({ pool, amount: formulas.number(w) }));
    const cooldown = typeof a.cooldown === 'object' ? a.cooldown : { for: a.cooldown };
    const [end, interrupt] = [this.tests(a.end), this.tests(a.interrupt)];
    const refill = a.charges?.refill ? formulas.truth(a.charges.refill) : null;
    return {
      name,
      index,
      at: layout.abilities + index * ABILITY,
      lane,
      laneAt: layout.lanes + lane * LANE,
      firstPhase,
      scope: this.compileScope(a),
      from: this.mask(a.from, 'stance'),
      fromNames: a.from ?? [],
      follows: this.compileFollows(a.follows),
      when: (a.when ?? []).flatMap((w: WrittenFormula | undefined) => (w ? formulas.conditions(w) : [])),
      grace: a.grace ?? this.inputGrace(a),
      costs,
      steadyCosts: costs.every(({ amount }) => amount.constant),
      upkeeps: this.amounts(a.upkeep).map(([pool, w]) => {
        const { rate, restart = 0 } = typeof w === 'object' ? w : { rate: w };
        return { pool, perTick: rate / this.rate, restart };
      }),
      cooldown: cooldown?.for ?? 0,
      cooldownFrom: names.event.includes(cooldown?.from) ? 'event' : (cooldown?.from ?? 'end'),
      cooldownEvent: names.event.indexOf(cooldown?.from),
      group: this.groupOf(name, cooldown?.group),
      payPhase: this.payPhase(a, firstPhase),
      refund: a.refund ? formulas.number(a.refund) : null,
      interrupt,
      locked: a.locked ?? false,
      loadouts: this.loadoutsOf(name, a),
      loadout: names.loadout.indexOf(a.loadout),
      lasts:
        this.phases
          .slice(firstPhase < 0 ? this.phases.length : firstPhase)
          .reduce((sum, phase) => sum + phase.lasts, 0) || NEVER,
      levels: this.levelsOf(a),
      charges: a.charges?.max ?? 0,
      refillEvery: a.charges?.every ?? 0,
      refill,
      breaks: this.mask(a.breaks, 'ability'),
      end,
      restless: restless([...end, ...interrupt]),
      // Refills are looked at before the stance is: what changes with it is seen in the tick after.
      restlessRefill: refill && paceOf(refill) === PACE.worked ? [always] : restless(refill ? [refill] : []),
      standing: [],
    };
  }

  private compileScope(scope: Scope): ScopePlan {
    const pieces: Piece[] = EFFECTS.filter((e) => scope[e.key] !== undefined).map((e) =>
      e.compile(scope[e.key] as never, this.effects),
    );
    const folds = pieces.flatMap((p) => p.fold ?? []);
    return {
      folds,
      shows: folds.length > 0 || scope.clip !== undefined || scope.loadout !== undefined,
      begins: pieces.flatMap((p) => p.begin ?? []),
      ends: pieces.flatMap((p) => p.end ?? []),
      live: pieces.some((p) => p.live),
      open: this.mask(scope.open, 'ability'),
      bars: this.mask(scope.bars, 'ability'),
      clip: this.clipIndex(scope.clip),
    };
  }

  private compileFollows(follows: undefined | (string | undefined)[] | Record<string, number>): Float64Array | null {
    if (!follows) return null;
    const within = new Float64Array(this.names.ability.length).fill(-1);
    const pairs = Array.isArray(follows) ? follows.map((name) => [name, 0] as const) : Object.entries(follows);
    for (const [name, ticks] of pairs) if (name) within[this.names.ability.indexOf(name)] = ticks ?? 0;
    return within;
  }

  private compilePool(name: string, i: number): PoolPlan {
    const { min, max, start, regen, rest = 0 } = this.written.pools[name] ?? {};
    const [low, high, rate] = [min, max, regen].map((w: WrittenFormula | undefined) => this.formulas.number(w));
    const varies = [low, high, rate].some((operand) => !operand.constant);
    const at = this.layout.pools + i * POOL;
    const value = this.valuesAt + i;
    return { name, index: i, at, value, min: low, max: high, regen: rate, varies, start: start ?? null, rest };
  }

  /** `charge` and `level(x)` mean the ability whose formulas are compiled. */
  private within<R>(ability: string, compile: () => R): R {
    this.formulas.own = ability;
    const result = compile();
    this.formulas.own = undefined;
    return result;
  }

  private levelsOf(a: Written | undefined): { name: string; from: number }[] {
    const levels = (a?.phases ?? []).flatMap((phase: Written | undefined) =>
      Object.entries(phase?.charge?.levels ?? {}),
    );
    return levels
      .map(([name, from]: [string, number]) => ({ name, from }))
      .sort((x: { from: number }, y: { from: number }) => y.from - x.from);
  }

  private groupOf(name: string, group: string | undefined): number[] {
    return this.names.ability.flatMap((other, i) =>
      other === name || (group !== undefined && this.abilities[other]?.cooldown?.group === group) ? i : [],
    );
  }

  private payPhase(a: Written, firstPhase: number): number {
    if (a.pay === undefined) return -1;
    return this.phases.findIndex((phase, i) => i >= firstPhase && phase.name === a.pay);
  }

  /** Where an ability is there: in the loadouts that list it or a tag of it, or everywhere if none does. */
  private loadoutsOf(name: string, a: Written): Uint8Array | null {
    const there = Uint8Array.from(this.names.loadout, (loadout) => {
      const listed: (string | undefined)[] = this.written.loadouts[loadout]?.abilities ?? [];
      return listed.includes(name) || listed.some((tag) => tag && a.tags?.includes(tag)) ? 1 : 0;
    });
    return there.includes(1) ? there : null;
  }

  private inputGrace(a: Written): number {
    const starts: Written[] = Array.isArray(a.start) ? a.start : [a.start];
    return Math.max(0, ...starts.map((start) => this.written.inputs?.[start?.press]?.grace ?? 0));
  }

  private clipIndex(clip: string | undefined): number {
    if (clip === undefined) return -1;
    if (!this.clips.includes(clip)) this.clips.push(clip);
    return this.clips.indexOf(clip);
  }

  private laneOf(ability: string): number {
    return Math.max(0, this.names.lane.indexOf(this.abilities[ability]?.lane));
  }

  private tests(written: (WrittenFormula | undefined)[] | undefined) {
    return (written ?? []).flatMap((w) => (w ? this.formulas.truth(w) : []));
  }

  private amounts(map: Record<string, any> | undefined): [pool: number, value: any][] {
    return Object.entries(map ?? {})
      .filter(([, value]) => value !== undefined)
      .map(([name, value]) => [this.names.pool.indexOf(name), value]);
  }

  /** A table by stance or ability of those that are listed by name or by a tag they wear. */
  private mask(listed: (string | undefined)[] | undefined, kind: 'stance' | 'ability'): Uint8Array | null {
    if (!listed) return null;
    const owners = kind === 'stance' ? this.stances : this.abilities;
    return Uint8Array.from(this.names[kind], (name) =>
      listed.includes(name) || listed.some((tag) => tag && owners[name]?.tags?.includes(tag)) ? 1 : 0,
    );
  }
}
