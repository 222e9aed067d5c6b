import { compileDirections } from '../moveset/directions/direction.js';
import { compilePoint, type ValuePlace } from '../moveset/directions/point.js';
import { emitted } from '../moveset/effects/actions.js';
import type { EffectTools, Piece } from '../moveset/effects/effect.js';
import { byKind, MEETS, type Meets } from '../moveset/effects/guard.js';
import { EFFECTS } from '../moveset/effects/index.js';
import { compileVolume } from '../moveset/effects/strike.js';
import { optionsOf } from '../moveset/inputs/choice.js';
import type { Input } from '../moveset/inputs/index.js';
import { type Message, messagesOf } from '../moveset/messages.js';
import type { Names, Parsed, ParsedFormula } from '../moveset/read.js';
import type { NameKind } from '../moveset/shape.js';
import {
  BLOW,
  type Guarding,
  type HurtPlan,
  type Insight,
  NO_FOE,
  SIGHT,
  type Striking,
  type Summoning,
  type TargetPlan,
  W_AT,
  W_FROM,
  W_PUSH,
} from '../record/combat.js';
import type { Test, Warping } from '../record/frame.js';
import { AWAKE_BITS, layOut, PROBE, ROOM } from '../record/layout.js';
import { MAKING, type Making } from '../record/recipes.js';
import { A_ENDED, AIM, CHOICE, COOLDOWN, LANE, MARK, NEVER, POOL, STICK } from '../record/slots.js';
import type { Sink } from '../report/diagnostic.js';
import { nearestName } from '../report/nearest.js';
import { cosine } from '../world/cosine.js';
import { firstOf } from './conditions.js';
import { toldOf } from './describe.js';
import { OTHER_FACTS, sightFact } from './facts/blows.js';
import { type Fact, numberAt, truthAt } from './facts/fact.js';
import { allFacts } from './facts/index.js';
import { fingerprintOf, formerFingerprint } from './fingerprint.js';
import { FormulaCompiler, type Tuning } from './formula.js';
import { Members, unite } from './members.js';
import { NamedConditions } from './named-conditions.js';
import { BASE, clipTicks, cooldownName, cooldownNames, countNeeds, countOwned, graceOf, layersOf } from './needs.js';
import type {
  AbilityPlan,
  Action,
  BeatPlan,
  LoadoutPlan,
  PhasePlan,
  Plan,
  PlanCode,
  PoolPlan,
  Predecessor,
  ScopePlan,
  StancePlan,
  TriggerPlan,
} from './plan.js';
import { checkProbes, compileProbe } from './probes.js';
import { surfacesBy, taggedBy, wearersOf } from './tags.js';
import { collectStarts, compileTriggers } from './triggers.js';

/**
 * Compiles what was read, and tells `sink` of the faults that only show then. `facts` are those that formulas read,
 * by key; null when a function may read any. `code` is what the plan is to do.
 */
export function compilePlan(
  parsed: Parsed,
  names: Names,
  rate: number,
  sink: Sink,
  code: PlanCode,
  making: Making = MAKING,
  tuning?: Tuning,
): { plan: Plan; facts: readonly string[] | null } {
  const compiler = new PlanCompiler(parsed, names, rate, sink, code, making, tuning);
  return { plan: compiler.compile(), facts: compiler.readFacts() };
}

class PlanCompiler {
  private readonly layout;
  private readonly starts;
  private readonly messages: readonly Message[];
  private readonly formulas: FormulaCompiler;
  private readonly conditions: NamedConditions;
  private readonly members: Members;
  private readonly probesAt: number;
  private readonly valuesAt: number;
  private readonly pricesAt: number;
  private readonly devicesAt: number;
  private readonly roomAt: number;
  private readonly rosterAt: number;
  private readonly foldedAt: number;
  private readonly freeAt: number;
  private readonly awakeAt: number;
  private readonly outAt: number;
  private readonly blowAt: number;
  private readonly guards: Guarding[] = [];
  private readonly summonings: Summoning[] = [];
  private readonly foeAt: number;
  private readonly sights: number;
  private readonly insights: Insight[] = [];
  /** Slots of marks that are set on what may move. */
  private readonly following = new Set<number>();
  private readonly effects: EffectTools;
  private readonly plans = {
    stances: [] as StancePlan[],
    loadouts: [] as LoadoutPlan[],
    abilities: [] as AbilityPlan[],
    phases: [] as PhasePlan[],
    pools: [] as PoolPlan[],
  };
  private readonly clips = new Map<string, number>();
  private readonly layers: readonly string[];
  private readonly indexes: Record<NameKind, Map<string, number>>;
  private readonly cooldowns: Map<string, number>;
  /** Probes that directions read. */
  private readonly aimedBy = new Set<string>();

  /** Ticks of the scope that is compiled. */
  private lasting = NEVER;

  /** Some direction or point is the nearest foe. */
  private aimsAtFoe = false;

  /** Choices that stand for a point. */
  private readonly pointing = new Set<string>();
  constructor(
    private readonly parsed: Parsed,
    private readonly names: Names,
    private readonly rate: number,
    private readonly sink: Sink,
    private readonly code: PlanCode,
    private readonly making: Making,
    tuning: Tuning | undefined,
  ) {
    this.indexes = Object.fromEntries(
      Object.entries(names).map(([kind, list]) => [kind, new Map(list.map((name, i) => [name, i]))]),
    ) as Record<NameKind, Map<string, number>>;
    this.cooldowns = new Map(cooldownNames(parsed, names).map((name, i) => [name, i]));
    this.starts = collectStarts(names.ability.map((name) => parsed.abilities?.[name]));
    this.layers = layersOf(parsed);
    this.messages = messagesOf(parsed);
    this.layout = layOut(countNeeds(parsed, names, this.starts, this.messages));
    const { layout } = this;
    this.probesAt = layout.end;
    this.valuesAt = this.probesAt + names.probe.length * PROBE;
    this.pricesAt = this.valuesAt + names.pool.length;
    // What every tick reads lies side by side.
    this.roomAt = this.pricesAt + names.pool.length;
    this.rosterAt = this.roomAt + ROOM;
    this.foldedAt = this.rosterAt + 1;
    this.freeAt = this.foldedAt + 1;
    this.awakeAt = this.freeAt + 1;
    this.devicesAt = this.awakeAt + Math.ceil(this.starts.length / AWAKE_BITS);
    this.outAt = this.devicesAt + (names.button.length + names.stick.length) * 2;
    this.foeAt = this.outAt + layout.message;
    // Of the foe; of whom it looks at to choose a target, and of each of these.
    this.sights = names.target.length > 0 ? 2 + names.target.length : 1;
    this.blowAt = this.foeAt + this.sights * SIGHT;
    this.formulas = new FormulaCompiler(rate, sink, this.blowAt + (layout.combat < 0 ? 0 : 1 + BLOW));
    this.formulas.tuning = tuning;
    this.formulas.further = (key) => this.insight(key);
    const { plans } = this;
    this.conditions = new NamedConditions(parsed, names, this.formulas, sink);
    this.members = new Members(parsed, names, this.indexes);
    const heights = names.shape.map((shape) => shapesOf(parsed)[shape]?.[1] ?? 0);
    const { facts, inside } = allFacts({
      names,
      layout,
      messages: this.messages,
      spot: (source) => compilePoint(source, this.effects),
      valueAt: (source) => this.valueAt(source),
      probesAt: this.probesAt,
      laneOf: (ability) => this.laneOf(this.parsed.abilities?.[names.ability[ability]] ?? {}),
      scratch: (write, code) => this.formulas.scratch(write, code),
      poolAt: (pool) => this.valuesAt + pool,
      clash: (name) => {
        sink.add('name-clash', ['conditions', name], { name, first: 'condition', second: 'fact' }, { on: 'key' });
      },
      named: (condition) => this.conditions.named(condition),
      phasesOf: (ability) => [...new Set(phaseNames(this.parsed.abilities?.[ability]))],
      heights,
      blowAt: this.blowAt,
      sightAt: (name) => this.foeAt + this.sightOf(name) * SIGHT,
      optionsOf: (choice) => optionsOf(parsed.inputs?.[choice] ?? {}),
      levelsOf: (ability) => levelsOf(this.parsed.abilities?.[ability]),
      cooldownAt: (ability) => this.cooldownAt(names.ability[ability]),
      plans,
      wearers: (tag) => wearersOf(tag, plans),
    });
    this.formulas.facts = facts;
    this.formulas.inside = inside;
    const markAt = (name: string) => layout.marks + this.indexOf('mark', name) * MARK;
    const aimAt = (name: string) => layout.aims + this.indexOf('aim', name) * AIM;
    this.effects = {
      markAt,
      aimAt,
      noteFoe: () => {
        this.aimsAtFoe = true;
      },
      noteFollowing: (mark) => this.following.add(mark),
      targetAt: (name) => this.foeAt + (2 + this.indexOf('target', name)) * SIGHT,
      valueAt: (source) => this.valueAt(source),
      message: (event) => {
        const { values, size } = this.messages[this.indexOf('event', event)];
        return { values, size, at: this.outAt };
      },
      unknown: (path, data, severity) => {
        sink.add('unknown-name', path, data, severity);
      },
      time: (formula) =>
        typeof formula === 'object' ? this.formulas.time(formula) : this.formulas.constant(formula ?? 0),
      either: (formula) => this.formulas.either(formula),
      kinds: names.kind,
      combatAt: layout.combat,
      rideAt: layout.ride,
      resultAt: () => layout.abilities[this.indexOf('ability', this.formulas.own ?? '')]?.result ?? -1,
      addSummoning: (summoning) => this.summonings.push(summoning) - 1,
      foeAt: this.foeAt,
      addGuard: (guard) => this.guards.push(guard) - 1,
      choice: (name) => ({
        at: layout.choices + this.indexOf('choice', name) * CHOICE,
        places: this.placesOf(name),
      }),
      heights,
      dt: 1 / rate,
      lasts: () => this.lasting,
      walkStick: () => {
        if (names.stick.length === 0) return -1;
        return layout.sticks + Math.max(0, this.indexOf('stick', parsed.body?.stick)) * STICK;
      },
      number: (formula) => this.formulas.number(formula),
      codeOf: (operand) => this.formulas.codeOf(operand),
      amount: (formula, otherwise) => (formula ? this.formulas.number(formula) : this.formulas.constant(otherwise)),
      index: (kind, name) => this.indexOf(kind, name),
      stickAt: (name) => layout.sticks + this.indexOf('stick', name) * STICK,
      probe: (name) => {
        this.aimedBy.add(name);
        const index = this.indexOf('probe', name);
        return { index, at: this.probesAt + index * PROBE };
      },
      view: parsed.view ?? 'side',
    };
  }

  compile(): Plan {
    const { parsed, names, layout, formulas, plans, rate } = this;
    const indexOf = (kind: NameKind, name: string) => this.indexOf(kind, name);
    // Also those that no formula reads, so that their faults are found.
    for (const name of names.condition) this.formulas.readAlways(name);
    for (const name of names.stance) plans.stances.push(this.compileStance(name));
    for (const name of names.loadout) plans.loadouts.push(this.compileLoadout(name, parsed.loadouts?.[name] ?? {}));
    names.pool.forEach((name, i) => {
      plans.pools.push(this.compilePool(name, i));
    });
    const breaks = names.ability.map((name, i) => this.members.mask(parsed.abilities?.[name]?.breaks, 'ability', i));
    const triggers = compileTriggers(this.starts, {
      parsed,
      names,
      layout,
      rate,
      indexOf,
      breaks,
      making: this.making,
      truth: (ability, formula) => this.formulas.within(names.ability[ability], () => formulas.truth(formula)),
    });
    const triggersOf = names.ability.map((): TriggerPlan[] => []);
    for (const trigger of triggers) triggersOf[trigger.ability].push(trigger);
    names.ability.forEach((name, i) => {
      plans.abilities.push(this.formulas.within(name, () => this.compileAbility(name, i, breaks[i], triggersOf[i])));
    });
    const body = parsed.body ?? {};
    const sticks = names.stick.map((name, i) => ({
      name,
      at: layout.sticks + i * STICK,
      deadzone: parsed.inputs[name]?.deadzone ?? 0.2,
      opposite: parsed.inputs[name]?.opposite ?? 'last',
      sides: this.indexOf('button', `${name}.left`),
    }));
    const walkStick = sticks.find((stick) => stick.name === body.stick) ?? sticks[0];
    const shapes = shapesOf(parsed);
    const hurt = parsed.hurt ? this.compileHurt(parsed.hurt) : null;
    const { slope = 1 } = body;
    const scratchAt = formulas.size++;
    const pickStance = firstOf(plans.stances.map((stance) => stance.when));
    const probes = names.probe.map((name) =>
      compileProbe(name, parsed.probes[name] ?? {}, this.effects, formulas, this.making),
    );
    checkProbes(parsed, names, formulas, this.sink);
    const targets = names.target.map((name, i) => this.compileTarget(parsed.targets[name] ?? {}, name, i));
    const readFacts = this.readFacts();
    const plan: { -readonly [K in keyof Plan]: Plan[K] } = {
      fingerprint: 0,
      former: 0,
      inputs: withoutData(parsed.inputs),
      told: toldOf(parsed),
      name: parsed.name,
      renamed: parsed.renamed ?? {},
      code: this.code,
      parsed,
      rate,
      dt: 1 / rate,
      view: parsed.view ?? 'side',
      names,
      layout,
      recordSize: layout.end,
      snapshotSize: layout.end + this.outAt - this.devicesAt,
      arraySize: () => formulas.size,
      lanesAt: layout.lanes,
      lanesEnd: layout.lanes + names.lane.length * LANE,
      waitsLast: this.lanesThatWait('last'),
      waitsTurn: this.lanesThatWait('turn'),
      probesAt: this.probesAt,
      devicesAt: this.devicesAt,
      roomAt: this.roomAt,
      rosterAt: this.rosterAt,
      foldedAt: this.foldedAt,
      freeAt: this.freeAt,
      awakeAt: this.awakeAt,
      outAt: this.outAt,
      blowAt: this.blowAt,
      combatAt: layout.combat,
      rideAt: layout.ride,
      stuns: Uint8Array.from(names.event, (event) => (event === 'struck' || event === 'guardBroken' ? 1 : 0)),
      guards: this.guards,
      summonings: this.summonings,
      summonedAt: layout.summoned,
      foeAt: this.foeAt,
      readsFoe:
        readFacts === null ||
        this.aimsAtFoe ||
        readFacts.some((fact) => fact.startsWith('foe.') || fact === 'ahead(foe)'),
      targets,
      insights: this.insights,
      forgets: [...plans.abilities, ...plans.phases].some(({ scope }) => scope.forgets),
      tags: ((parsed.tags ?? []) as (string | undefined)[]).filter((tag) => tag !== undefined),
      testOfTag: taggedBy({ names, lanesAt: layout.lanes, ...plans }),
      hurt,
      meets: MEETS[(body.meets ?? 'pass') as Meets],
      strikes: plans.abilities.some(({ strikes }) => strikes),
      messages: this.messages,
      scratchAt,
      constants: formulas.constants,
      body: {
        gravity: body.gravity ?? 25,
        fall: body.fall ?? 20,
        speed: body.walk?.speed ?? 5,
        accel: body.walk?.accel ?? 60,
        brake: body.walk?.brake ?? 60,
        steepest: 1 / Math.sqrt(1 + slope * slope) - ROUNDING,
        slope,
        step: body.step ?? 0,
        // A body of 1.8 is carried by ground up to 0.02 below it.
        reach: (shapes[names.shape[0]]?.[1] ?? 1.8) / 90,
        drop: (shapes[names.shape[0]]?.[1] ?? 1.8) / 4,
      },
      surfaces: surfacesBy(names.surface),
      shapes: names.shape.map((name) => {
        const [width, height, depth] = shapes[name] ?? [];
        return { name, width, height, depth: depth ?? width, hx: width / 2, hy: height / 2, hz: (depth ?? width) / 2 };
      }),
      pools: plans.pools,
      varyingPools: plans.pools.filter((pool) => pool.varies),
      varyingDrains: plans.abilities.some(({ upkeeps }) => upkeeps.some(({ rate }) => rate !== null)),
      sticks,
      aimsAt: layout.aims,
      choicesAt: layout.choices,
      marksAt: layout.marks,
      following: [...this.following],
      choiceOf: names.button.map((button) => this.optionOf(button)),
      savedMarks: names.mark.filter((mark) => parsed.marks?.[mark]?.saved),
      stickOf: names.button.map((_, i) => sticks.findIndex(({ sides }) => i >= sides && i < sides + 4)),
      walkStick: walkStick?.at ?? -1,
      probes,
      stances: plans.stances,
      pickStance,
      abilities: plans.abilities,
      barred: unite(
        [...plans.stances, ...plans.loadouts, ...plans.abilities, ...plans.phases].map(({ scope }) => scope.bars),
        names.ability.length,
      ),
      phases: plans.phases,
      loadouts: plans.loadouts,
      clips: [...this.clips.keys()],
      clipTicks: [...this.clips.keys()].map((clip) => this.ticksOf(clip)),
      layers: this.layers,
      restingBeats: [...plans.stances, ...plans.loadouts].some(({ scope }) => scope.beats.length > 0),
      hasFactors: [...plans.stances, ...plans.loadouts, ...plans.abilities, ...plans.phases].some(
        ({ scope }) => scope.scales.length > 0,
      ),
      triggers,
      asksNearest: probes.some(({ kind }) => kind === 'nearest'),
      warps: plans.abilities.some(({ warp }) => warp !== null),
      probesRead: names.probe.filter(
        (name) => !readFacts || this.aimedBy.has(name) || readFacts.some((fact) => fact.startsWith(`${name}.`)),
      ),
      indexes: this.indexes,
      reading: (fact) => formulas.lateReading(fact),
      conditions: (formula, sink) => formulas.reportingTo(sink).conditions(formula),
      amountOf: (formula, sink) => formulas.reportingTo(sink).either(formula),
      factNames: () => [...formulas.facts.keys()],
      longConditions: this.conditions.long,
    };
    // Not by a spread: then engines would take each plan for an object of another kind, and all that reads it would be slower.
    plan.fingerprint = fingerprintOf(plan);
    plan.former = Object.keys(plan.renamed).length > 0 ? formerFingerprint(plan) : plan.fingerprint;
    return plan;
  }

  /** Facts that formulas read, or null when there is a function, which may read any. */
  readFacts(): string[] | null {
    return this.formulas.hasFunctions ? null : this.formulas.readFacts();
  }

  /** The places that a choice can mean, where one is used as a point. An option that is none of them is nowhere. */
  private placesOf(choice: string): number[] {
    const options = optionsOf(this.parsed.inputs[choice]);
    const known = this.names.place;
    const lost = options.filter((option) => !known.includes(option));
    const doubtful = lost.length === options.length ? lost : lost.filter((option) => nearestName(option, known));
    if (!this.pointing.has(choice))
      for (const value of doubtful) {
        const path = ['inputs', choice, 'choice', value];
        this.sink.add('unknown-name', path, { value, what: 'place', known }, { severity: 'warning', on: 'key' });
      }
    this.pointing.add(choice);
    return options.map((option) => this.indexOf('place', option));
  }

  /** What the press of a button chooses. */
  private optionOf(button: string): { at: number; option: number } {
    const [name, option] = button.split('.');
    const choice = this.indexOf('choice', name);
    if (choice < 0) return { at: -1, option: -1 };
    return { at: this.layout.choices + choice * CHOICE, option: optionsOf(this.parsed.inputs[name]).indexOf(option) };
  }

  private indexOf(kind: NameKind, name: string): number {
    return this.indexes[kind].get(name) ?? -1;
  }

  private compileStance(name: string): StancePlan {
    const stance = this.parsed.stances?.[name] ?? {};
    const scope = this.compileScope(stance, this.layout.stanceOwn);
    return { name, when: stance.when ? this.formulas.truth(stance.when) : null, scope };
  }

  private compileLoadout(name: string, loadout: Parsed): LoadoutPlan {
    const scope = this.compileScope(loadout, this.layout.loadoutOwn);
    return { name, scope, shape: this.indexOf('shape', loadout.body) };
  }

  private compileAbility(
    name: string,
    index: number,
    breaks: Uint8Array | null,
    triggers: readonly TriggerPlan[],
  ): AbilityPlan {
    const a: Parsed = this.parsed.abilities?.[name] ?? {};
    const { layout, formulas } = this;
    // What is judged before it starts reads the message that asks for it; what runs reads the one that it was started by.
    const before = <R>(compile: () => R): R => this.formulas.within(name, compile, false);
    const lane = this.laneOf(a);
    const places = layout.abilities[index];
    const { at: laneAt, abilityOwn, phaseOwn } = layout.laneOwn[lane] ?? { at: -1, abilityOwn: -1, phaseOwn: -1 };
    const { phases } = this.plans;
    const firstPhase = a.phases?.length ? phases.length : -1;
    (a.phases ?? []).forEach((phase: Parsed | undefined, i: number, all: unknown[]) => {
      phases.push(this.compilePhase(phase ?? {}, index, i, i + 1 === all.length, phaseOwn));
    });
    const own = phases.slice(firstPhase < 0 ? phases.length : firstPhase);
    const cooldown = typeof a.cooldown === 'object' && !('source' in a.cooldown) ? a.cooldown : { for: a.cooldown };
    const cooldownEvent = this.indexOf('event', cooldown?.from);
    const { at, charges: chargesAt, eligible: eligibleAt, ranOut: ranOutAt } = places;
    const { latched: latchedAt, power: powerAt, waits: waitsAt } = places;
    const varies = ({ time, charge }: PhasePlan) => time !== null || (charge?.goes && charge.time !== null);
    const lasts = own.reduce((sum, phase) => sum + (varies(phase) ? NEVER : phase.lasts), 0) || NEVER;
    const scope = this.compileScope(a, abilityOwn, index, lasts);
    return {
      name,
      index,
      at,
      lane,
      laneAt,
      chargesAt,
      eligibleAt,
      ranOutAt,
      latchedAt,
      powerAt,
      keepsCharge: (a.phases ?? []).some((phase: Parsed | undefined) => phase?.charge?.keep),
      waitsAt,
      resultAt: places.result,
      strikes: [scope, ...own.map((phase) => phase.scope)].some((one) => one.strikes.length > 0),
      heard: places.heard.map(({ event, ...one }) => ({ ...one, event: this.indexOf('event', event) })),
      cooldownAt: this.cooldownAt(name),
      firstPhase,
      scope,
      warp: [scope, ...own.map((phase) => phase.scope)].find((one) => one.warp)?.warp ?? null,
      summon: [scope, ...own.map((phase) => phase.scope)].find((one) => one.summon >= 0)?.summon ?? -1,
      from: this.members.mask(a.from, 'stance'),
      fromNames: a.from ?? [],
      follows: before(() => this.compileFollows(a.follows)),
      when: before(() => (a.when ?? []).flatMap((w: ParsedFormula | undefined) => (w ? formulas.conditions(w) : []))),
      grace: graceOf(a, this.parsed),
      lifts: [a, ...(a.phases ?? [])].some(lifts),
      costs: this.amounts(a.cost).map(([pool, w]) => ({
        pool,
        amount: before(() => formulas.number(w)),
        price: this.pricesAt + pool,
      })),
      upkeeps: this.amounts(a.upkeep).map(([pool, w]) => {
        const { rate, restart = 0 } = 'source' in w ? { rate: w } : w;
        const fixed = typeof rate?.source === 'number';
        return {
          pool,
          perTick: fixed ? rate.source / this.rate : NEVER,
          rate: fixed ? null : formulas.number(rate),
          restart,
        };
      }),
      cooldown: typeof cooldown.for === 'object' ? 0 : (cooldown.for ?? 0),
      cooldownTime: typeof cooldown.for === 'object' ? formulas.time(cooldown.for) : null,
      cooldownFrom:
        cooldownEvent < 0 ? (cooldown?.from ?? 'end') : emits(a, cooldown.from) ? ('own' as const) : ('event' as const),
      cooldownEvent,
      cooldownLess: Object.entries((cooldown.less ?? {}) as Record<string, ParsedFormula | number>).map(
        ([event, time]) => ({ event: this.indexOf('event', event), time: this.effects.time(time) }),
      ),
      payPhase: a.pay === undefined ? -1 : phases.findIndex((phase, i) => i >= firstPhase && phase.name === a.pay),
      refund: a.refund ? formulas.number(a.refund) : null,
      interrupt: this.tests(a.interrupt),
      locked: a.locked ?? false,
      loadouts: this.members.loadoutsOf(name, a),
      loadout: this.indexOf('loadout', a.loadout),
      lasts,
      levels: levelsOf(a),
      marks: (a.marks ?? []).flatMap((mark: string | undefined) =>
        mark === undefined ? [] : this.effects.markAt(mark),
      ),
      charges: a.charges?.max ? formulas.number(a.charges.max) : null,
      refillEvery: a.charges?.every ? this.effects.time(a.charges.every) : null,
      refill: a.charges?.refill ? formulas.truth(a.charges.refill) : null,
      breaks,
      end: this.tests(a.end),
      triggers,
      sustained: triggers.filter((trigger) => trigger.sustained),
      codeTrigger: triggers.find((trigger) => trigger.byCode)?.index ?? -1,
    };
  }

  private compilePhase(phase: Parsed, ability: number, i: number, last: boolean, ownAt: number): PhasePlan {
    const { charge } = phase;
    const index = this.plans.phases.length;
    const varies = typeof phase.for === 'object';
    const time: number = varies ? NEVER : (phase.for ?? NEVER);
    const over: number = typeof charge?.over === 'object' ? NEVER : (charge?.over ?? 1);
    const lasts = Math.min(time, charge?.full === 'go' ? over : NEVER);
    return {
      name: phase.name ?? String(i + 1),
      ability,
      lasts,
      time: varies ? this.formulas.time(phase.for) : null,
      until: this.tests(phase.until),
      when: phase.when ? this.formulas.truth(phase.when) : null,
      scope: this.compileScope(phase, ownAt, ability, varies ? NEVER : lasts),
      next: last ? -1 : index + 1,
      interrupt: this.tests(phase.interrupt),
      charge: charge
        ? {
            over,
            time: over === NEVER ? this.formulas.time(charge.over) : null,
            overAt: over === NEVER ? this.layout.abilities[ability].powerTime : -1,
            goes: charge.full === 'go',
            curve: charge.curve ?? 'even',
            cancels: charge.early === 'cancel',
          }
        : null,
    };
  }

  /** A beat at a time, or at a place of the clip of its scope, which comes again in what lasts without end. */
  private compileBeat(beat: Parsed, scope: Parsed, begins: readonly Action[], lasting: boolean): BeatPlan {
    const { at = 0, every = 0, place } = beat;
    if (place === undefined) return { at, every, layer: -1, clip: -1, begins };
    const layer = this.layers.findIndex((name) => clipOf(scope, name) !== undefined);
    const clip = layer < 0 ? undefined : clipOf(scope, this.layers[layer]);
    const ticks = clip === undefined ? 0 : this.ticksOf(clip);
    return {
      at: Math.round(place * ticks),
      every: lasting ? ticks : 0,
      layer,
      clip: ticks > 0 ? this.clipIndex(clip) : -1,
      begins,
    };
  }

  private ticksOf(clip: string): number {
    return clipTicks(this.parsed, clip) ?? 0;
  }

  private compileScope(scope: Parsed, ownAt: number, ability = -1, lasts = NEVER): ScopePlan {
    const [begins, eachs, folds, scales, ends]: Action[][] = [[], [], [], [], []];
    let warp: Warping | null = null;
    let summon = -1;
    const strikes: { plan: Striking; own: number }[] = [];
    const beats: BeatPlan[] = [];
    const owners: string[] = [];
    let own = ownAt;
    this.lasting = lasts;
    for (const effect of EFFECTS) {
      if (scope[effect.key] === undefined) continue;
      const value = scope[effect.key];
      const piece: Piece = this.making.make(`${effect.key}Effect.compile`, [value], this.effects, (tools) =>
        effect.compile(value as never, tools),
      );
      if (piece.begin) begins.push({ run: piece.begin, own, key: effect.key });
      if (piece.each) eachs.push({ run: piece.each, own, key: effect.key });
      if (piece.fold) folds.push({ run: piece.fold, own, key: effect.key });
      if (piece.scale) scales.push({ run: piece.scale, own, key: effect.key });
      if (piece.end) ends.push({ run: piece.end, own, key: effect.key });
      warp ??= piece.warp ?? null;
      summon = piece.summon ?? summon;
      const striking = piece.strike ?? piece.touch;
      if (striking) strikes.push({ plan: striking, own });
      const owns = effect.owns(scope[effect.key]);
      if (owns > 0) owners.push(effect.key);
      own += owns;
    }
    for (const beat of (scope.beats ?? []) as (Parsed | undefined)[]) {
      if (!beat) continue;
      const actions = this.compileScope({ gain: beat.gain, emit: beat.emit, mark: beat.mark }, -1).begins;
      if (beat.moment === 'begin') begins.push(...actions);
      else if (beat.moment === 'end') ends.push(...actions);
      else beats.push(this.compileBeat(beat, scope, actions, ability < 0));
    }
    return {
      begins,
      eachs,
      folds,
      scales,
      ends,
      warp,
      summon,
      strikes,
      forgets: scope.forget !== undefined,
      ownAt,
      owns: countOwned(scope),
      owners: owners.join(),
      tags: (scope.tags ?? []).filter((tag: string | undefined) => tag !== undefined),
      open: this.members.mask(scope.open, 'ability'),
      bars: this.members.mask(scope.bars, 'ability', ability),
      clips: this.layers.map((layer) => this.clipIndex(clipOf(scope, layer))),
      beats,
    };
  }

  private compileFollows(
    follows: undefined | (string | undefined)[] | Record<string, number | ParsedFormula>,
  ): readonly Predecessor[] | null {
    if (!follows) return null;
    const pairs = Array.isArray(follows) ? follows.map((name) => [name, 0] as const) : Object.entries(follows);
    return pairs.flatMap(([name, ticks = 0]) => {
      const ability = name === undefined ? -1 : this.indexOf('ability', name);
      if (ability < 0) return [];
      const endedAt = this.layout.abilities[ability].at + A_ENDED;
      if (typeof ticks === 'number') return { ability, endedAt, within: ticks, time: null };
      return { ability, endedAt, within: NEVER, time: this.formulas.time(ticks) };
    });
  }

  private compilePool(name: string, i: number): PoolPlan {
    const { min, max, start, regen, rest = 0 } = this.parsed.pools[name] ?? {};
    const [low, high, rate] = [min, max, regen].map((w: ParsedFormula | undefined) => this.formulas.number(w));
    const varies = [low, high, rate].some((operand) => !operand.constant);
    const at = this.layout.pools + i * POOL;
    const value = this.valuesAt + i;
    return { name, index: i, at, value, min: low, max: high, regen: rate, varies, start: start ?? null, rest };
  }

  /** Where a value of a message stands: in an ability that its message has started, as it was then; else as it came last. */
  private valueAt(source: string | undefined): ValuePlace | undefined {
    const [name, value] = (source ?? '').split('.');
    if (name === 'blow' && this.layout.combat >= 0) {
      const blow = BLOW_PLACES[value];
      return blow === undefined ? undefined : { at: this.blowAt + 1 + blow, since: this.blowAt };
    }
    const event = this.indexOf('event', name);
    const at = this.messages[event]?.values.find((one) => one.name === value)?.at;
    if (at === undefined) return undefined;
    const { own, runs } = this.formulas;
    const { heard } = this.layout.abilities[this.indexOf('ability', own ?? '')] ?? { heard: [] };
    const inside = runs ? heard.find((one) => one.event === name) : undefined;
    const since = inside?.at ?? this.layout.events[event];
    return { at: since + 1 + at, since };
  }

  private compileHurt({ pool, when, factors, damage, limits = {}, volumes = {} }: Parsed): HurtPlan {
    return {
      pool: this.indexOf('pool', pool),
      when: when ? this.formulas.truth(when) : null,
      factors: byKind(factors, undefined, 1, this.effects),
      damage: damage ? this.formulas.number(damage) : null,
      push: limits.push ?? 50,
      stop: limits.stop ?? NEVER,
      volumes: this.names.shape.map((shape) => {
        const declared: (Parsed | undefined)[] | undefined = volumes[shape];
        return declared
          ? declared.flatMap((one) =>
              one ? this.making.make('compileVolume', [one], this.effects, (tools) => compileVolume(one, tools)) : [],
            )
          : null;
      }),
    };
  }

  private compileTarget(given: Parsed, name: string, i: number): TargetPlan {
    const { among = 'foes', tagged, reach, along, arc = 90, when, least } = given;
    this.formulas.others = OTHER_FACTS;
    const target: TargetPlan = {
      name,
      sight: 2 + i,
      among,
      tagged: tagged?.filter((tag: string | undefined) => tag !== undefined) ?? null,
      reach: this.effects.amount(reach, NO_FOE),
      aim: along
        ? this.making.make('compileDirections', [along, {}], this.effects, (tools) =>
            compileDirections(along, {}, tools),
          )
        : null,
      cos: cosine(arc / 2),
      when: when ? this.formulas.truth(when) : null,
      least: least ? this.formulas.number(least) : null,
    };
    this.formulas.others = [];
    return target;
  }

  /** Which sight is that of a name: the foe, a target, or whom one looks at to choose it; -1 for none. */
  private sightOf(name: string): number {
    if (name === 'foe') return 0;
    if (name === 'other') return this.formulas.others.length > 0 ? 1 : -1;
    const target = this.indexOf('target', name);
    return target < 0 ? -1 : 2 + target;
  }

  /** Facts of others: what formulas read of them by a name of theirs, and all of whom a target is chosen from. */
  private insight(key: string): Fact | undefined {
    // Code may ask for anything.
    if (typeof key !== 'string') return undefined;
    const [, name = '', rest = '', of] = /^(\w+)\.(\w+)(?:\((\w+)\))?$/.exec(key) ?? [];
    const sight = this.sightOf(name);
    if (sight < 0) return undefined;
    if (of === undefined) return name === 'other' ? sightFact(this.foeAt + SIGHT, rest) : undefined;
    if (rest !== 'pool' && rest !== 'tagged' && rest !== 'in') return undefined;
    let known = this.insights.find((one) => one.what === rest && one.name === of);
    if (!known) {
      const at = this.formulas.take(this.sights);
      if (at < 0) return undefined;
      known = { what: rest, name: of, at };
      this.insights.push(known);
    }
    if (sight === 0) this.aimsAtFoe = true;
    return rest === 'pool' ? numberAt(known.at + sight) : truthAt(known.at + sight);
  }

  private cooldownAt(ability: string): number {
    const name = cooldownName(ability, this.parsed.abilities?.[ability]);
    return name === undefined ? -1 : this.layout.cooldowns + (this.cooldowns.get(name) as number) * COOLDOWN;
  }

  private clipIndex(clip: string | undefined): number {
    if (clip === undefined) return -1;
    if (!this.clips.has(clip)) this.clips.set(clip, this.clips.size);
    return this.clips.get(clip) as number;
  }

  /** By lane: 1 where its presses wait so. */
  private lanesThatWait(how: string): Uint8Array {
    return Uint8Array.from(this.names.lane, (lane) => (this.parsed.lanes?.[lane]?.waits === how ? 1 : 0));
  }

  private laneOf(a: Parsed): number {
    return Math.max(0, this.indexOf('lane', a.lane));
  }

  private tests(parsed: (ParsedFormula | undefined)[] | undefined): Test[] {
    return (parsed ?? []).flatMap((w) => (w ? this.formulas.truth(w) : []));
  }

  private amounts(map: Record<string, any> | undefined): [pool: number, value: any][] {
    return Object.entries(map ?? {})
      .filter(([, value]) => value !== undefined)
      .map(([name, value]) => [this.indexOf('pool', name), value]);
  }
}

/** Places of the points and directions of a blow that is taken. */
const BLOW_PLACES: Record<string, number | undefined> = { push: W_PUSH, from: W_FROM, at: W_AT };

/** Ground exactly as steep as the limit counts. */
const ROUNDING = 1e-6;

/** The clip that a scope shows on a layer. */
function clipOf({ clip }: Parsed, layer: string): string | undefined {
  if (typeof clip === 'object') return clip[layer];
  return layer === BASE ? clip : undefined;
}

/** Inputs as the host reads them: what they have for it, `describe` tells. */
function withoutData(inputs: Parsed = {}): Plan['inputs'] {
  return Object.fromEntries(Object.entries(inputs).map(([name, { data, ...input } = {}]) => [name, input as Input]));
}

/** The shapes of the body: the usual one, where none is declared. */
function shapesOf({ body }: Parsed): Parsed {
  return body?.shapes ?? { tall: [0.6, 1.8] };
}

/** Phases that formulas can name: a place in the list is no name. */
function phaseNames(a: Parsed | undefined): string[] {
  return (a?.phases ?? []).flatMap((phase: Parsed | undefined) => phase?.name ?? []);
}

function levelsOf(a: Parsed | undefined): { name: string; from: number }[] {
  const levels = (a?.phases ?? []).flatMap((phase: Parsed | undefined) => Object.entries(phase?.charge?.levels ?? {}));
  return levels
    .map(([name, from]: [string, number]) => ({ name, from }))
    .sort((x: { from: number }, y: { from: number }) => y.from - x.from);
}

/** Whether a scope may move the body upwards. */
function lifts(scope: Parsed | undefined): boolean {
  const { move } = scope ?? {};
  if (move === undefined) return false;
  const { up, along, flat } = move;
  if (up !== undefined && !(typeof up.source === 'number' && up.source <= 0)) return true;
  return along !== undefined && !flat && along.some((source: string | undefined) => source !== 'down');
}

/** Whether an ability emits an event itself. */
function emits(a: Parsed, event: string): boolean {
  const scopes: (Parsed | undefined)[] = [a, ...(a.phases ?? [])];
  return [...scopes, ...scopes.flatMap((scope) => scope?.beats ?? [])].some((scope) => emitted(scope).includes(event));
}
