import { type Diagnostic, Sink } from '../moveset/diagnostic.js';
import type { EffectTools, Operand, Piece } from '../moveset/effects/effect.js';
import { EFFECTS } from '../moveset/effects/index.js';
import { isPlain, type Names, read, type WrittenFormula } from '../moveset/read.js';
import { FORMAT, MOVESET } from '../moveset/schema.js';
import type { NameKind } from '../moveset/shape.js';
import { A_LATCHED, ABILITY, BUTTON, LANE, NEVER, POOL, STICK } from '../moveset/slots.js';
import { STARTS } from '../moveset/starts/index.js';
import type { AskPiece, StartTools } from '../moveset/starts/start.js';
import type { Moveset } from '../moveset/types.js';
import { allFacts } from './facts.js';
import { FormulaCompiler } from './formula.js';
import { layOut, PROBE } from './layout.js';
import { checkClashes, collectNames } from './names.js';
import type { AbilityPlan, Ask, PhasePlan, Plan, ScopePlan, StancePlan } from './plan.js';
import { firstOf, isSteady } from './tests.js';

/** The compiled moveset, unless there are errors; and everything that was found, in no certain order. */
export interface Compiled {
  readonly plan?: Plan;
  readonly diagnostics: readonly Diagnostic[];
}

type Scope = Record<string, unknown> & { open?: string[]; bars?: string[] };
type Written = Record<string, any>;

/**
 * Checks a moveset whole and compiles it. It never throws for what is wrong in the moveset: every
 * fault is a diagnostic. The moveset is kept by reference and must not be changed afterwards.
 */
export function checkMoveset(source: unknown): Compiled {
  const sink = new Sink();
  if (!isPlain(source)) {
    sink.add('wrong-type', [], { expected: 'a moveset', found: Array.isArray(source) ? 'a list' : 'something else' });
    return { diagnostics: sink.list };
  }
  if (source.loggia !== undefined && source.loggia !== FORMAT) {
    sink.add('unknown-version', ['loggia'], { value: source.loggia, known: FORMAT });
    return { diagnostics: sink.list };
  }
  const rate = Number.isInteger(source.rate) && (source.rate as number) >= 10 ? (source.rate as number) : 60;
  const names = collectNames(source);
  checkClashes(names, sink);
  const written = read(MOVESET, source, [], names, rate, sink) as Written;
  checkStances(written, sink);
  const compiler = new PlanCompiler(source as unknown as Moveset, written, names, rate, sink);
  const plan = compiler.compile();
  return { plan: sink.failed ? undefined : plan, diagnostics: sink.list };
}

function checkStances(written: Written, sink: Sink): void {
  const stances = Object.entries((written.stances ?? {}) as Record<string, Written | undefined>);
  if (written.stances && stances.length === 0) sink.add('too-many', ['stances'], { count: 0, min: 1, max: 999 });
  stances.forEach(([name, stance], i) => {
    const last = i === stances.length - 1;
    if (last && stance?.when) sink.add('stance-last', ['stances', name, 'when'], { stance: name }, { on: 'key' });
    if (!last && stance && !stance.when)
      sink.add('stance-unreachable', ['stances', name], { stance: name }, { on: 'key' });
  });
}

class PlanCompiler {
  private readonly layout;
  private readonly formulas: FormulaCompiler;
  private readonly probesAt: number;
  private readonly recordSize: number;
  private readonly abilities: Written;
  private readonly stances: Written;
  private readonly effects: EffectTools;
  private readonly phases: PhasePlan[] = [];

  constructor(
    private readonly source: Moveset,
    private readonly written: Written,
    private readonly names: Names,
    private readonly rate: number,
    private readonly sink: Sink,
  ) {
    this.abilities = written.abilities ?? {};
    this.stances = written.stances ?? {};
    this.layout = layOut(names);
    const asks = Object.values(this.abilities).reduce((n: number, a) => n + 1 + (a?.start?.length ?? 1), 0);
    this.recordSize = this.layout.asks + asks;
    this.probesAt = this.recordSize;
    this.formulas = new FormulaCompiler(rate, sink, this.probesAt + names.probe.length * PROBE);
    this.formulas.facts = allFacts({
      names,
      layout: this.layout,
      probesAt: this.probesAt,
      laneOf: (ability) => this.laneOf(names.ability[ability]),
      constant: (value) => this.formulas.constant(value),
      scratch: (write) => this.formulas.scratch(write),
      limitsOf: (pool) => ({ min: written.pools?.[pool]?.min ?? 0, max: written.pools?.[pool]?.max ?? 0 }),
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
    const { written, names, layout, source } = this;
    const stances = names.stance.map((name) => this.compileStance(name));
    const abilities = names.ability.map((name, index) => this.compileAbility(name, index));
    const asks = this.compileAsks();
    for (const ability of abilities) {
      (ability.standing as Ask[]).push(...asks.filter((ask) => ask.ability === ability.index && ask.stands));
      this.checkEnds(ability, asks);
    }
    const { formulas } = this;
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
      moveset: source,
      name: written.name,
      rate: this.rate,
      dt: 1 / this.rate,
      view: written.view ?? 'side',
      names,
      layout,
      recordSize: this.recordSize,
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
        return { name, width, height, depth: depth ?? width };
      }),
      pools: names.pool.map((name, i) => {
        const { min = 0, max = 0, start, regen = 0, rest = 0 } = written.pools[name] ?? {};
        if (max < min) this.sink.add('out-of-range', ['pools', name, 'max'], { value: max, min, max: 1e6 });
        if (start !== undefined && (start < min || start > max))
          this.sink.add('out-of-range', ['pools', name, 'start'], { value: start, min, max });
        const at = layout.pools + i * POOL;
        return { name, at, min, max, start: start ?? max, regenPerTick: regen / this.rate, rest };
      }),
      sticks,
      walkStick: walkStick?.at ?? -1,
      probes: names.probe.map((name) => {
        const { ray = [], at = [0, 0], on = [] } = written.probes[name] ?? {};
        return { name, ray: [ray[0], ray[1], ray[2] ?? 0], at: [at[0], at[1], at[2] ?? 0], on };
      }),
      stances,
      pickStance: firstOf(stances.map((stance) => stance.when)),
      stanceVaries: stances.some((stance) => stance.when && !isSteady(stance.when)),
      hasBars: [...abilities, ...this.phases].some(({ scope }) => scope.bars),
      abilities,
      phases: this.phases,
      asks,
      momentAsks: asks.filter((ask) => ask.happens),
      heldAsks: asks.filter((ask) => ask.stands && ask.turn !== 0),
      ruleAsks: asks.filter((ask) => ask.turn === 0),
      graced: abilities.filter((a) => a.grace > 0),
      watched: abilities.filter((a) => a.grace > 0 && a.when.length > 0),
      charged: abilities.filter((a) => a.charges > 0),
      latched: asks.filter((ask) => ask.latch),
      reading: (fact) => formulas.lateReading(fact),
      conditions: (written, sink) => formulas.reportingTo(sink).conditions(written),
      factNames: () => [...formulas.facts.keys()],
    };
  }

  private compileStance(name: string): StancePlan {
    const stance = this.stances[name] ?? {};
    return { name, when: stance.when ? this.formulas.truth(stance.when) : null, scope: this.compileScope(stance) };
  }

  private compileAbility(name: string, index: number): AbilityPlan {
    const a: Written = this.abilities[name] ?? {};
    const { layout, formulas } = this;
    const lane = this.laneOf(name);
    const firstPhase = a.phases?.length ? this.phases.length : -1;
    (a.phases ?? []).forEach((phase: Written | undefined, i: number, all: unknown[]) => {
      this.phases.push({
        name: phase?.name ?? String(i + 1),
        ability: index,
        lasts: phase?.for ?? NEVER,
        until: this.tests(phase?.until),
        when: phase?.when ? formulas.truth(phase.when) : null,
        scope: this.compileScope(phase ?? {}),
        next: i + 1 < all.length ? this.phases.length + 1 : -1,
      });
    });
    const cooldown = typeof a.cooldown === 'object' ? a.cooldown : { for: a.cooldown };
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
      grace: a.grace ?? 0,
      costs: this.amounts(a.cost).map(([pool, w]) => ({ pool, amount: formulas.number(w) as Operand })),
      upkeeps: this.amounts(a.upkeep).map(([pool, w]) => {
        const { rate, restart = 0 } = typeof w === 'object' ? w : { rate: w };
        return { pool, perTick: rate / this.rate, restart };
      }),
      cooldown: cooldown?.for ?? 0,
      cooldownFrom: cooldown?.from ?? 'end',
      charges: a.charges?.max ?? 0,
      refillEvery: a.charges?.every ?? 0,
      refill: a.charges?.refill ? formulas.truth(a.charges.refill) : null,
      breaks: this.mask(a.breaks, 'ability'),
      end: this.tests(a.end),
      standing: [],
    };
  }

  private compileScope(scope: Scope): ScopePlan {
    const pieces: Piece[] = EFFECTS.filter((e) => scope[e.key] !== undefined).map((e) =>
      e.compile(scope[e.key] as never, this.effects),
    );
    return {
      folds: pieces.flatMap((p) => p.fold ?? []),
      begins: pieces.flatMap((p) => p.begin ?? []),
      ends: pieces.flatMap((p) => p.end ?? []),
      live: pieces.some((p) => p.live),
      open: this.mask(scope.open, 'ability'),
      bars: this.mask(scope.bars, 'ability'),
    };
  }

  private compileFollows(follows: undefined | (string | undefined)[] | Record<string, number>): Float64Array | null {
    if (!follows) return null;
    const within = new Float64Array(this.names.ability.length).fill(-1);
    const pairs = Array.isArray(follows) ? follows.map((name) => [name, 0] as const) : Object.entries(follows);
    for (const [name, ticks] of pairs) if (name) within[this.names.ability.indexOf(name)] = ticks ?? 0;
    return within;
  }

  private compileAsks(): Ask[] {
    const { names, layout, formulas } = this;
    const asks: Ask[] = names.ability.flatMap((name, ability) => {
      const a: Written = this.abilities[name] ?? {};
      const tools: StartTools = {
        buttonAt: (input) => layout.buttons + names.button.indexOf(input) * BUTTON,
        eventAt: (event) => layout.events + names.event.indexOf(event),
        latchAt: layout.abilities + ability * ABILITY + A_LATCHED,
        requestAt: layout.requests + ability,
        truth: (w) => formulas.truth(w),
      };
      const pieces: AskPiece[] = (Array.isArray(a.start) ? a.start : [a.start]).flatMap(
        (start: Written | undefined) => {
          const kind = start && STARTS.find(({ key }) => start[key] !== undefined);
          return kind ? kind.compile(start as never, tools) : [];
        },
      );
      // Code may ask for any ability, whatever else starts it.
      const code = STARTS.find(({ key }) => key === 'code');
      if (code && !pieces.some((p) => p.happens && p.button === undefined && p.turn === 2))
        pieces.push(code.compile({} as never, tools));
      return pieces.map((piece) => ({
        ability,
        at: -1,
        turn: piece.turn,
        rank: piece.rank,
        happens: piece.happens ?? null,
        stands: piece.stands ?? null,
        button: piece.button ?? -1,
        buffer: a.buffer ?? (piece.input && this.written.inputs?.[piece.input]?.buffer) ?? 0,
        latch: piece.latch ?? false,
        unlatch: piece.unlatch ?? [],
      }));
    });
    return asks
      .toSorted((a, b) => a.turn - b.turn || b.rank - a.rank || a.ability - b.ability)
      .map((ask, i) => ({ ...ask, at: layout.asks + i }));
  }

  private checkEnds(ability: AbilityPlan, asks: readonly Ask[]): void {
    const last = this.phases.findLast((phase) => phase.ability === ability.index);
    const phaseEnds = last && (last.lasts !== NEVER || last.until.length > 0);
    const drains = ability.upkeeps.some((upkeep) => upkeep.perTick > 0);
    if (phaseEnds || drains || ability.end.length > 0 || !this.abilities[ability.name]) return;
    const moment = asks.some((ask) => ask.ability === ability.index && ask.happens && !ask.latch && ask.turn < 2);
    const pressed = asks.some((ask) => ask.ability === ability.index && ask.happens && ask.button >= 0 && !ask.latch);
    if (!moment && !pressed && ability.standing.length > 0) return;
    const why = last ? 'nothing ends its last phase' : 'it has no phases, is not held, and nothing ends it';
    this.sink.add('never-ends', ['abilities', ability.name], { ability: ability.name, why }, { on: 'key' });
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
