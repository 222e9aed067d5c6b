import type { AbilityPlan, PhasePlan, Plan } from '../compile/plan.js';
import type { Striking } from '../record/combat.js';
import type { Frame, Operand } from '../record/frame.js';
import { NEVER, P_MAX, P_MIN } from '../record/slots.js';
import { wholeTicks } from '../record/whole-ticks.js';
import { wantPlan } from '../report/arguments.js';
import { Cast, Hit } from '../world/world.js';

/**
 * When one ability does what, and what comes of it. Times are in ticks; null for what has no fixed length or is not there. A time that is a
 * formula is read as it is for a character that has done nothing yet.
 */
export interface Timing {
  readonly ability: string;
  readonly lane: string;
  /** Ticks before the first in which it strikes; of one that does not strike, before what is not called windup. */
  readonly startup: number | null;
  /** Ticks from the first to the last in which it strikes. */
  readonly active: number | null;
  /** Ticks after that. */
  readonly recovery: number | null;
  /** All of them together. */
  readonly total: number | null;
  /** Its charge is taken to be full: it starts up for that long. */
  readonly charged: boolean;
  readonly cooldown: number;
  /** What it costs, by pool; what is a formula, at the start of a character. */
  readonly costs: Readonly<Record<string, number>>;
  /** Damage of one use that meets one target with each of its strikes once; null without a strike. */
  readonly damage: number | null;
  /** The same per second of its total, or of its cooldown from start to start where that is longer. */
  readonly damagePerSecond: number | null;
  /** What it costs per damage, all pools together. */
  readonly costPerDamage: number | null;
  /** Stun of its last strike. */
  readonly stun: number | null;
  /**
   * Advantage on hit: how many ticks the striker can act before the target can, if the first tick of its last strike connects; below 0,
   * the target is first. The target is stunned from the next tick on, for as long as the strike says.
   */
  readonly onHit: number | null;
  /** The same against the first guard of this moveset; null without one. */
  readonly onBlock: number | null;
  /** Abilities that it is open to, and from which tick on. */
  readonly cancels: readonly { readonly into: string; readonly from: number }[];
  /** Strikes that reach who is still stunned by it: by cancelling it, or once it is over. */
  readonly combos: readonly string[];
}

/** A stretch of an ability. */
interface Part {
  readonly phase: PhasePlan;
  readonly from: number;
  readonly ticks: number;
}

/**
 * Timing data of every ability that has phases, in their order: from the moveset alone.
 * @param plan What `compileMoveset`, a file or a module gives.
 */
export function timingOf(plan: Plan): Timing[] {
  wantPlan('timingOf', plan);
  const frame = makeFrame(plan);
  const guard = plan.guards[0];
  const guardStun = guard ? read(frame, guard.stun) : null;
  const rows = plan.abilities.flatMap((a) => (a.firstPhase < 0 ? [] : makeRow(plan, a, frame, guardStun)));
  return rows.map(({ row, hits, stunUntil }) => ({
    ...row,
    combos: rows.flatMap(({ row: next }) => {
      if (next.startup === null || hits === null || stunUntil === null || next.damage === null) return [];
      const cancel = row.cancels.find(({ into }) => into === next.ability);
      const free = [cancel ? Math.max(cancel.from, hits + 1) : null, row.total].filter((tick) => tick !== null);
      // After itself, only when its cooldown is over.
      if (next === row && row.cooldown > 0) return [];
      const own = plan.abilities[plan.names.ability.indexOf(next.ability)];
      const mayFollow = cancel !== undefined || (own.follows === null && share(plan, row.ability, own));
      return mayFollow && free.some((tick) => tick + (next.startup as number) <= stunUntil) ? [next.ability] : [];
    }),
  }));
}

/** Whether both may start in some same stance, or the first one leaves the ground and so may end in any. */
function share(plan: Plan, first: string, next: AbilityPlan): boolean {
  const a = plan.abilities[plan.names.ability.indexOf(first)];
  if (a.lifts || a.from === null || next.from === null) return true;
  return a.from.some((may, i) => may === 1 && next.from?.[i] === 1);
}

function makeRow(plan: Plan, a: AbilityPlan, frame: Frame, guardStun: number | null) {
  const parts = partsOf(plan, a, frame);
  const whole = parts.every(({ ticks }) => ticks < NEVER);
  const total = whole ? parts.reduce((sum, { ticks }) => sum + ticks, 0) : null;
  if (a.powerAt >= 0) frame.r[a.powerAt] = 1;
  const strikes = strikesOf(a, parts, total);
  const [first, last] = [strikes[0], strikes.at(-1)];
  const { startup, end } = first && last ? { startup: first.from, end: last.until } : boundsByName(parts, total);
  const damage = strikes.length === 0 ? null : strikes.reduce((sum, { strike }) => sum + read(frame, strike.damage), 0);
  const stun = last ? read(frame, last.strike.stun) : null;
  const costs = Object.fromEntries(
    a.costs.map(({ pool, amount }): [string, number] => [plan.names.pool[pool], read(frame, amount)]),
  );
  const paid = Object.values(costs).reduce((sum, cost) => sum + cost, 0);
  if (a.powerAt >= 0) frame.r[a.powerAt] = 0;
  const cooldown = a.cooldownTime === null ? a.cooldown : Math.max(0, wholeTicks(read(frame, a.cooldownTime)));
  const cycle = Math.max(total ?? 0, cooldown + (a.cooldownFrom === 'end' ? (total ?? 0) : 0));
  const left = total === null || !last ? null : total - last.from;
  const row = {
    ability: a.name,
    lane: plan.names.lane[a.lane],
    startup: startup < NEVER ? startup : null,
    active: end === null || startup === NEVER ? null : end - startup,
    recovery: total === null || end === null ? null : total - end,
    total,
    charged: parts.some(({ phase }) => phase.charge !== null),
    cooldown,
    costs,
    damage,
    damagePerSecond: damage === null || cycle === 0 ? null : damage / (cycle / plan.rate),
    costPerDamage: damage === null || damage === 0 || paid === 0 ? null : paid / damage,
    stun,
    onHit: left === null || stun === null ? null : stun + 1 - left,
    onBlock: left === null || guardStun === null ? null : guardStun + 1 - left,
    cancels: cancelsOf(plan, a, parts),
  };
  // Who is struck hears of it in the next tick, and is stunned for that long from there.
  return { row, hits: last?.from ?? null, stunUntil: last && stun !== null ? last.from + stun : null };
}

/** Its phases with when they begin and how long they last, as that is for a character that has done nothing yet. */
export function partsOf(plan: Plan, a: AbilityPlan, frame: Frame = makeFrame(plan)): Part[] {
  const parts: Part[] = [];
  let from = 0;
  for (let i = a.firstPhase; i >= 0; i = plan.phases[i].next) {
    const phase = plan.phases[i];
    // A charge that waits is released when it is full; what a condition ends has no fixed length.
    const time = phase.time === null ? NEVER : Math.max(1, wholeTicks(read(frame, phase.time)));
    const over = phase.charge?.time ? Math.max(1, wholeTicks(read(frame, phase.charge.time))) : phase.charge?.over;
    const ticks = Math.min(phase.lasts, time, over ?? NEVER);
    parts.push({ phase, from, ticks });
    from += ticks;
  }
  return parts;
}

/** Its strikes in their order: in which tick each begins, and in which it is over. */
function strikesOf(a: AbilityPlan, parts: readonly Part[], total: number | null) {
  const isBlow = ({ plan }: { plan: Striking }) => plan.tells === null;
  const own = a.scope.strikes.filter(isBlow).map(({ plan }) => ({ strike: plan, from: 0, until: total }));
  const phased = parts.flatMap(({ phase, from, ticks }) =>
    phase.scope.strikes
      .filter(isBlow)
      .map(({ plan }) => ({ strike: plan, from, until: ticks < NEVER ? from + ticks : null })),
  );
  return [...own, ...phased].filter(({ from }) => from < NEVER);
}

/** Of what does not strike: windups at its beginning, and recoveries at its end. */
function boundsByName(parts: readonly Part[], total: number | null): { startup: number; end: number | null } {
  const begins = parts.find(({ phase }) => phase.name !== 'windup');
  const recovers = [...parts].reverse().findIndex(({ phase }) => phase.name !== 'recovery');
  const recovery = recovers > 0 ? parts[parts.length - recovers].from : total;
  return { startup: begins?.from ?? total ?? NEVER, end: recovery !== null && recovery < NEVER ? recovery : null };
}

function cancelsOf(plan: Plan, a: AbilityPlan, parts: readonly Part[]): { into: string; from: number }[] {
  return plan.abilities.flatMap((other) => {
    if (other.lane !== a.lane) return [];
    if (a.scope.open?.[other.index] === 1) return [{ into: other.name, from: 1 }];
    const part = parts.find(({ phase, from }) => phase.scope.open?.[other.index] === 1 && from < NEVER);
    return part ? [{ into: other.name, from: Math.max(1, part.from) }] : [];
  });
}

/** A number of a formula, as it is for a character that has done nothing yet; 0 where that depends on more. */
function read(frame: Frame, { at, run }: Operand): number {
  try {
    run?.(frame);
  } catch {
    return 0;
  }
  const value = frame.r[at];
  return Number.isFinite(value) ? value : 0;
}

/** What formulas see of a character that is nowhere: its pools are full, nothing runs, nothing is hit. */
function makeFrame(plan: Plan): Frame {
  const r = new Float64Array(plan.arraySize());
  for (const { at, value } of plan.constants) r[at] = value;
  const frame: Frame = {
    r,
    world: null,
    cast: new Cast(),
    hit: new Hit(),
    probe: () => {},
    gain: () => {},
    emit: () => {},
    fits: () => true,
    summon: () => {},
    leave: () => {},
    learn: () => {},
    warp: () => {},
    place: () => false,
  };
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane++) r[lane] = -1;
  for (const pool of plan.pools) {
    r[pool.at + P_MIN] = read(frame, pool.min);
    r[pool.at + P_MAX] = read(frame, pool.max);
    r[pool.at] = pool.start ?? r[pool.at + P_MAX];
  }
  return frame;
}
