import { emitted } from '../moveset/effects/actions.js';
import type { ParsedAbility, ParsedPhase, ParsedScope } from '../moveset/schema.js';
import { sound, soundEntries } from '../moveset/shape.js';
import { A_ENDED, NEVER } from '../record/slots.js';
import type { Compiling } from './compiling.js';
import { cooldownOf, graceOf, timeOf, upkeepOf, writtenScopes } from './needs.js';
import type { AbilityPlan, PhasePlan, Predecessor, TriggerPlan } from './plan.js';

/** Compiles abilities and their phases. */
export class AbilityCompiler {
  constructor(private readonly c: Compiling) {}

  compile(name: string, index: number, breaks: Uint8Array | null, triggers: readonly TriggerPlan[]): AbilityPlan {
    const a: ParsedAbility = this.c.parsed.abilities?.[name] ?? {};
    const { layout, formulas } = this.c;
    // What is judged before it starts reads the message that asks for it; what runs reads the one that it was started by.
    const before = <R>(compile: () => R): R => this.c.formulas.within(name, compile, false);
    const lane = this.c.laneOf(a);
    const places = layout.abilities[index];
    const { at: laneAt, abilityOwn, phaseOwn } = layout.laneOwn[lane] ?? { at: -1, abilityOwn: -1, phaseOwn: -1 };
    const { phases } = this.c.plans;
    const firstPhase = a.phases?.length ? phases.length : -1;
    (a.phases ?? []).forEach((phase, i, all) => {
      phases.push(this.compilePhase(phase ?? {}, index, i, i + 1 === all.length, phaseOwn));
    });
    const own = phases.slice(firstPhase < 0 ? phases.length : firstPhase);
    const cooldown = cooldownOf(a);
    const [rests, restsVarying] = timeOf(cooldown.for, 0, 0);
    const cooldownEvent = this.c.indexOf('event', cooldown.from);
    const { at, charges: chargesAt, eligible: eligibleAt, ranOut: ranOutAt } = places;
    const { latched: latchedAt, power: powerAt, waits: waitsAt } = places;
    const varies = ({ time, charge }: PhasePlan) => time !== null || (charge?.goes && charge.time !== null);
    const lasts = own.reduce((sum, phase) => sum + (varies(phase) ? NEVER : phase.lasts), 0) || NEVER;
    const scope = this.c.scopes.compile(a, abilityOwn, index, lasts);
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
      keepsCharge: (a.phases ?? []).some((phase) => phase?.charge?.keep),
      waitsAt,
      resultAt: places.result,
      strikes: [scope, ...own.map((phase) => phase.scope)].some((one) => one.strikes.length > 0),
      heard: places.heard.map(({ event, ...one }) => ({ ...one, event: this.c.indexOf('event', event) })),
      cooldownAt: this.c.cooldownAt(name),
      firstPhase,
      scope,
      warp: [scope, ...own.map((phase) => phase.scope)].find((one) => one.warp)?.warp ?? null,
      summon: [scope, ...own.map((phase) => phase.scope)].find((one) => one.summon >= 0)?.summon ?? -1,
      from: this.c.members.mask(a.from, 'stance'),
      fromNames: sound(a.from),
      follows: before(() => this.compileFollows(a.follows)),
      when: before(() => sound(a.when).flatMap((w) => formulas.conditions(w))),
      grace: graceOf(a, this.c.parsed),
      lifts: writtenScopes(a).some(lifts),
      costs: this.c.amounts(a.cost).map(([pool, w]) => ({
        pool,
        amount: before(() => formulas.number(w)),
        price: this.c.behind.pricesAt + pool,
      })),
      upkeeps: this.c.amounts(a.upkeep).map(([pool, w]) => {
        const { rate, restart = 0 } = upkeepOf(w);
        const fixed = typeof rate?.source === 'number' ? rate.source / this.c.rate : null;
        return {
          pool,
          perTick: fixed ?? NEVER,
          rate: fixed === null ? formulas.number(rate) : null,
          restart,
        };
      }),
      cooldown: rests,
      cooldownTime: restsVarying && formulas.time(restsVarying),
      cooldownFrom:
        cooldownEvent >= 0
          ? emits(a, this.c.names.event[cooldownEvent])
            ? 'own'
            : 'event'
          : cooldown.from === 'start'
            ? 'start'
            : 'end',
      cooldownEvent,
      cooldownLess: Object.entries(cooldown.less ?? {}).map(([event, time]) => ({
        event: this.c.indexOf('event', event),
        time: this.c.effects.time(time),
      })),
      payPhase: a.pay === undefined ? -1 : phases.findIndex((phase, i) => i >= firstPhase && phase.name === a.pay),
      refund: a.refund ? formulas.number(a.refund) : null,
      interrupt: this.c.tests(a.interrupt),
      locked: a.locked ?? false,
      loadouts: this.c.members.loadoutsOf(name, a),
      loadout: this.c.indexOf('loadout', a.loadout),
      lasts,
      levels: levelsOf(a),
      marks: sound(a.marks).map((mark) => this.c.effects.markAt(mark)),
      charges: a.charges?.max ? formulas.number(a.charges.max) : null,
      refillEvery: a.charges?.every ? this.c.effects.time(a.charges.every) : null,
      refill: a.charges?.refill ? formulas.truth(a.charges.refill) : null,
      breaks,
      end: this.c.tests(a.end),
      triggers,
      sustained: triggers.filter((trigger) => trigger.sustained),
      codeTrigger: triggers.find((trigger) => trigger.byCode)?.index ?? -1,
    };
  }

  private compilePhase(phase: ParsedPhase, ability: number, i: number, last: boolean, ownAt: number): PhasePlan {
    const { charge } = phase;
    const index = this.c.plans.phases.length;
    const [time, varying] = timeOf(phase.for, NEVER, NEVER);
    const [over, overVarying] = timeOf(charge?.over, NEVER, 1);
    const lasts = Math.min(time, charge?.full === 'go' ? over : NEVER);
    return {
      name: phase.name ?? String(i + 1),
      ability,
      lasts,
      time: varying && this.c.formulas.time(varying),
      until: this.c.tests(phase.until),
      when: phase.when ? this.c.formulas.truth(phase.when) : null,
      scope: this.c.scopes.compile(phase, ownAt, ability, varying ? NEVER : lasts),
      next: last ? -1 : index + 1,
      interrupt: this.c.tests(phase.interrupt),
      charge: charge
        ? {
            over,
            time: overVarying && this.c.formulas.time(overVarying),
            overAt: overVarying ? this.c.layout.abilities[ability].powerTime : -1,
            goes: charge.full === 'go',
            curve: charge.curve ?? 'even',
            cancels: charge.early === 'cancel',
          }
        : null,
    };
  }

  private compileFollows(follows: ParsedAbility['follows']): readonly Predecessor[] | null {
    if (!follows) return null;
    const pairs = Array.isArray(follows) ? follows.map((name) => [name, 0] as const) : Object.entries(follows);
    return pairs.flatMap(([name, ticks = 0]) => {
      const ability = name === undefined ? -1 : this.c.indexOf('ability', name);
      if (ability < 0) return [];
      const endedAt = this.c.layout.abilities[ability].at + A_ENDED;
      if (typeof ticks === 'number') return { ability, endedAt, within: ticks, time: null };
      return { ability, endedAt, within: NEVER, time: this.c.formulas.time(ticks) };
    });
  }
}

/** Levels of a charge, the highest first. */
export function levelsOf(a: ParsedAbility | undefined): { name: string; from: number }[] {
  const levels = (a?.phases ?? []).flatMap((phase) => soundEntries(phase?.charge?.levels));
  return levels.map(([name, from]) => ({ name, from })).sort((x, y) => y.from - x.from);
}

/** Whether a scope may move the body upwards. */
function lifts(scope: ParsedScope | undefined): boolean {
  const { move } = scope ?? {};
  if (move === undefined) return false;
  const { up, along, flat } = move;
  if (up !== undefined && !(typeof up.source === 'number' && up.source <= 0)) return true;
  return along !== undefined && !flat && along.some((source) => source !== 'down');
}

/** Whether an ability emits an event itself. */
function emits(a: ParsedAbility, event: string): boolean {
  const scopes = writtenScopes(a);
  return [...scopes, ...scopes.flatMap((scope) => scope?.beats ?? [])].some((scope) => emitted(scope).includes(event));
}
