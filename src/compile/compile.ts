import { compilePoint } from '../moveset/directions/point.js';
import type { EffectTools } from '../moveset/effects/effect.js';
import { byKind, MEETS, type Meets } from '../moveset/effects/guard.js';
import { compileVolume } from '../moveset/effects/strike.js';
import type { ParsedFormula } from '../moveset/formula.js';
import { optionsOf } from '../moveset/inputs/choice.js';
import type { Input } from '../moveset/inputs/index.js';
import { type Message, messagesOf } from '../moveset/messages.js';
import type { Names } from '../moveset/read.js';
import type { ParsedAbility, ParsedHurt, ParsedLoadout, ParsedMoveset } from '../moveset/schema.js';
import { type NameKind, sound, soundEntries } from '../moveset/shape.js';
import { type Guarding, type HurtPlan, SIGHT, type Summoning } from '../record/combat.js';
import type { Test } from '../record/frame.js';
import { layOut, PROBE } from '../record/layout.js';
import { MAKING, type Making } from '../record/recipes.js';
import { AIM, CHOICE, COOLDOWN, LANE, MARK, NEVER, POOL, STICK } from '../record/slots.js';
import type { Sink } from '../report/diagnostic.js';
import { nearestName } from '../report/nearest.js';
import { AbilityCompiler, levelsOf } from './ability.js';
import { type Behind, placesBehind } from './behind.js';
import type { Compiling } from './compiling.js';
import { firstOf } from './conditions.js';
import { toldOf } from './describe.js';
import { allFacts } from './facts/index.js';
import { fingerprintOf, formerFingerprint } from './fingerprint.js';
import { FormulaCompiler } from './formula.js';
import { Members, unite } from './members.js';
import { NamedConditions } from './named-conditions.js';
import { cooldownName, cooldownNames, countNeeds, layersOf } from './needs.js';
import { OthersCompiler } from './others.js';
import type { Tuning } from './places.js';
import type { AbilityPlan, LoadoutPlan, PhasePlan, Plan, PlanCode, PoolPlan, StancePlan, TriggerPlan } from './plan.js';
import { checkProbes, compileProbe } from './probes.js';
import { ScopeCompiler } from './scope.js';
import { surfacesBy, taggedBy, wearersOf } from './tags.js';
import { collectStarts, compileTriggers } from './triggers.js';

/**
 * Compiles what was read, and tells `sink` of the faults that only show then. `facts` are those that formulas read,
 * by key; null when a function may read any. `code` is what the plan is to do.
 */
export function compilePlan(
  parsed: ParsedMoveset,
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

class PlanCompiler implements Compiling {
  readonly layout;
  private readonly starts;
  readonly messages: readonly Message[];
  readonly formulas: FormulaCompiler;
  private readonly conditions: NamedConditions;
  readonly members: Members;
  readonly behind: Behind;
  readonly scopes: ScopeCompiler = new ScopeCompiler(this);
  private readonly abilities = new AbilityCompiler(this);
  private readonly others = new OthersCompiler(this);
  private readonly guards: Guarding[] = [];
  private readonly summonings: Summoning[] = [];
  /** Slots of marks that are set on what may move. */
  private readonly following = new Set<number>();
  readonly effects: EffectTools;
  readonly plans = {
    stances: [] as StancePlan[],
    loadouts: [] as LoadoutPlan[],
    abilities: [] as AbilityPlan[],
    phases: [] as PhasePlan[],
    pools: [] as PoolPlan[],
  };
  readonly layers: readonly string[];
  private readonly indexes: Record<NameKind, Map<string, number>>;
  private readonly cooldowns: Map<string, number>;
  /** Probes that directions read. */
  private readonly aimedBy = new Set<string>();

  /** Choices that stand for a point. */
  private readonly pointing = new Set<string>();
  constructor(
    readonly parsed: ParsedMoveset,
    readonly names: Names,
    readonly rate: number,
    private readonly sink: Sink,
    private readonly code: PlanCode,
    readonly making: Making,
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
    this.behind = placesBehind(layout, names, this.starts.length);
    const { behind } = this;
    this.formulas = new FormulaCompiler(rate, sink, behind.formulasAt);
    this.formulas.tuning = tuning;
    this.formulas.further = (key) => this.others.insight(key);
    const { plans } = this;
    this.conditions = new NamedConditions(parsed, names, this.formulas, sink);
    this.members = new Members(parsed, names, this.indexes);
    const heights = names.shape.map((shape) => shapesOf(parsed)[shape]?.[1] ?? 0);
    const { facts, inside } = allFacts({
      names,
      layout,
      messages: this.messages,
      spot: (source) => compilePoint(source, this.effects),
      valueAt: (source) => this.others.valueAt(source),
      probesAt: this.behind.probesAt,
      laneOf: (ability) => this.laneOf(this.parsed.abilities?.[names.ability[ability]] ?? {}),
      scratch: (write, code) => this.formulas.scratch(write, code),
      poolAt: (pool) => this.behind.valuesAt + pool,
      clash: (name) => {
        sink.add('name-clash', ['conditions', name], { name, first: 'condition', second: 'fact' }, { on: 'key' });
      },
      named: (condition) => this.conditions.named(condition),
      phasesOf: (ability) => [...new Set(phaseNames(this.parsed.abilities?.[ability]))],
      heights,
      blowAt: this.behind.blowAt,
      sightAt: (name) => this.behind.foeAt + this.others.sightOf(name) * SIGHT,
      optionsOf: (choice) => optionsOf(parsed.inputs?.[choice] ?? {}),
      levelsOf: (ability) => levelsOf(this.parsed.abilities?.[ability]),
      cooldownAt: (ability) => this.cooldownAt(names.ability[ability]),
      plans,
      wearers: (tag) => wearersOf(tag, plans),
    });
    this.formulas.facts = facts;
    this.formulas.inside = inside;
    const markAt = (name: string | undefined) => layout.marks + this.indexOf('mark', name) * MARK;
    const aimAt = (name: string) => layout.aims + this.indexOf('aim', name) * AIM;
    this.effects = {
      markAt,
      aimAt,
      noteFoe: () => {
        this.others.readsFoe = true;
      },
      noteFollowing: (mark) => this.following.add(mark),
      targetAt: (name) => this.behind.foeAt + (2 + this.indexOf('target', name)) * SIGHT,
      valueAt: (source) => this.others.valueAt(source),
      message: (event) => {
        const { values, size } = this.messages[this.indexOf('event', event)];
        return { values, size, at: this.behind.outAt };
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
      foeAt: this.behind.foeAt,
      addGuard: (guard) => this.guards.push(guard) - 1,
      choice: (name) => ({
        at: layout.choices + this.indexOf('choice', name) * CHOICE,
        places: this.placesOf(name),
      }),
      heights,
      dt: 1 / rate,
      lasts: () => this.scopes.lasting,
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
        return { index, at: this.behind.probesAt + index * PROBE };
      },
      view: parsed.view ?? 'side',
    };
  }

  compile(): Plan {
    const { parsed, names, layout, formulas, plans, rate } = this;
    const indexOf = (kind: NameKind, name: string | undefined) => this.indexOf(kind, name);
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
      plans.abilities.push(this.formulas.within(name, () => this.abilities.compile(name, i, breaks[i], triggersOf[i])));
    });
    const body = parsed.body ?? {};
    const sticks = names.stick.map((name, i) => ({
      name,
      at: layout.sticks + i * STICK,
      deadzone: parsed.inputs?.[name]?.deadzone ?? 0.2,
      opposite: parsed.inputs?.[name]?.opposite ?? 'last',
      sides: this.indexOf('button', `${name}.left`),
    }));
    const walkStick = sticks.find((stick) => stick.name === body.stick) ?? sticks[0];
    const shapes = shapesOf(parsed);
    const hurt = parsed.hurt ? this.compileHurt(parsed.hurt) : null;
    const { slope = 1 } = body;
    const scratchAt = formulas.size++;
    const pickStance = firstOf(plans.stances.map((stance) => stance.when));
    const probes = names.probe.map((name) =>
      compileProbe(name, parsed.probes?.[name] ?? {}, this.effects, formulas, this.making),
    );
    checkProbes(parsed, names, formulas, this.sink);
    const targets = names.target.map((name, i) => this.others.compileTarget(parsed.targets?.[name] ?? {}, name, i));
    const readFacts = this.readFacts();
    const plan: { -readonly [K in keyof Plan]: Plan[K] } = {
      fingerprint: 0,
      former: 0,
      inputs: withoutData(parsed.inputs),
      told: toldOf(parsed),
      name: parsed.name ?? '',
      renamed: (parsed.renamed ?? {}) as Readonly<Record<string, string>>,
      code: this.code,
      parsed,
      rate,
      dt: 1 / rate,
      view: parsed.view ?? 'side',
      names,
      layout,
      recordSize: layout.end,
      snapshotSize: layout.end + this.behind.outAt - this.behind.devicesAt,
      arraySize: () => formulas.size,
      lanesAt: layout.lanes,
      lanesEnd: layout.lanes + names.lane.length * LANE,
      waitsLast: this.lanesThatWait('last'),
      waitsTurn: this.lanesThatWait('turn'),
      probesAt: this.behind.probesAt,
      devicesAt: this.behind.devicesAt,
      roomAt: this.behind.roomAt,
      rosterAt: this.behind.rosterAt,
      foldedAt: this.behind.foldedAt,
      freeAt: this.behind.freeAt,
      awakeAt: this.behind.awakeAt,
      outAt: this.behind.outAt,
      blowAt: this.behind.blowAt,
      combatAt: layout.combat,
      rideAt: layout.ride,
      stuns: Uint8Array.from(names.event, (event) => (event === 'struck' || event === 'guardBroken' ? 1 : 0)),
      guards: this.guards,
      summonings: this.summonings,
      summonedAt: layout.summoned,
      foeAt: this.behind.foeAt,
      readsFoe:
        readFacts === null ||
        this.others.readsFoe ||
        readFacts.some((fact) => fact.startsWith('foe.') || fact === 'ahead(foe)'),
      targets,
      insights: this.others.insights,
      forgets: [...plans.abilities, ...plans.phases].some(({ scope }) => scope.forgets),
      tags: sound(parsed.tags),
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
        const [width = 0, height = 0, depth = width] = shapes[name] ?? [];
        return { name, width, height, depth, hx: width / 2, hy: height / 2, hz: depth / 2 };
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
      clips: this.scopes.clips,
      clipTicks: this.scopes.clipTicks,
      layers: this.layers,
      restingBeats: [...plans.stances, ...plans.loadouts].some(({ scope }) => scope.beats.length > 0),
      hasFactors: [...plans.stances, ...plans.loadouts, ...plans.abilities, ...plans.phases].some(
        ({ scope }) => scope.scales.length > 0,
      ),
      triggers,
      asksNearest: probes.some(({ asks }) => asks === 'nearest'),
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
    const options = optionsOf(this.parsed.inputs?.[choice] ?? {});
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
    return {
      at: this.layout.choices + choice * CHOICE,
      option: optionsOf(this.parsed.inputs?.[name] ?? {}).indexOf(option),
    };
  }

  indexOf(kind: NameKind, name: string | undefined): number {
    return this.indexes[kind].get(name ?? '') ?? -1;
  }

  private compileStance(name: string): StancePlan {
    const stance = this.parsed.stances?.[name] ?? {};
    const scope = this.scopes.compile(stance, this.layout.stanceOwn);
    return { name, when: stance.when ? this.formulas.truth(stance.when) : null, scope };
  }

  private compileLoadout(name: string, loadout: ParsedLoadout): LoadoutPlan {
    const scope = this.scopes.compile(loadout, this.layout.loadoutOwn);
    return { name, scope, shape: this.indexOf('shape', loadout.body) };
  }

  private compilePool(name: string, i: number): PoolPlan {
    const { min, max, start, regen, rest = 0 } = this.parsed.pools?.[name] ?? {};
    const [low, high, rate] = [min, max, regen].map((w) => this.formulas.number(w));
    const varies = [low, high, rate].some((operand) => !operand.constant);
    const at = this.layout.pools + i * POOL;
    const value = this.behind.valuesAt + i;
    return { name, index: i, at, value, min: low, max: high, regen: rate, varies, start: start ?? null, rest };
  }

  private compileHurt({ pool, when, factors, damage, limits = {}, volumes = {} }: ParsedHurt): HurtPlan {
    return {
      pool: this.indexOf('pool', pool),
      when: when ? this.formulas.truth(when) : null,
      factors: byKind(factors, undefined, 1, this.effects),
      damage: damage ? this.formulas.number(damage) : null,
      push: limits.push ?? 50,
      stop: limits.stop ?? NEVER,
      volumes: this.names.shape.map((shape) => {
        const declared = volumes[shape];
        return declared
          ? declared.flatMap((one) =>
              one ? this.making.make('compileVolume', [one], this.effects, (tools) => compileVolume(one, tools)) : [],
            )
          : null;
      }),
    };
  }

  cooldownAt(ability: string): number {
    const name = cooldownName(ability, this.parsed.abilities?.[ability]);
    return name === undefined ? -1 : this.layout.cooldowns + (this.cooldowns.get(name) as number) * COOLDOWN;
  }

  /** By lane: 1 where its presses wait so. */
  private lanesThatWait(how: string): Uint8Array {
    const { lanes = [] } = this.parsed;
    if (Array.isArray(lanes)) return new Uint8Array(this.names.lane.length);
    return Uint8Array.from(this.names.lane, (lane) => (lanes[lane]?.waits === how ? 1 : 0));
  }

  laneOf(a: ParsedAbility): number {
    return Math.max(0, this.indexOf('lane', a.lane));
  }

  tests(parsed: (ParsedFormula | undefined)[] | undefined): Test[] {
    return sound(parsed).map((w) => this.formulas.truth(w));
  }

  amounts<V>(map: Readonly<Record<string, V | undefined>> = {}): [pool: number, value: V][] {
    return soundEntries(map).map(([name, value]) => [this.indexOf('pool', name), value]);
  }
}

/** Ground exactly as steep as the limit counts. */
const ROUNDING = 1e-6;

/** Inputs as the host reads them: what they have for it, `describe` tells. */
function withoutData(inputs: ParsedMoveset['inputs'] = {}): Plan['inputs'] {
  return Object.fromEntries(Object.entries(inputs).map(([name, { data, ...input } = {}]) => [name, input as Input]));
}

/** The shapes of the body: the usual one, where none is declared. */
function shapesOf({ body }: ParsedMoveset): Record<string, (number | undefined)[] | undefined> {
  return body?.shapes ?? { tall: [0.6, 1.8] };
}

/** Phases that formulas can name: a place in the list is no name. */
function phaseNames(a: ParsedAbility | undefined): string[] {
  return (a?.phases ?? []).flatMap((phase) => phase?.name ?? []);
}
