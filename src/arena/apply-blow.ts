import type { Plan } from '../compile/plan.js';
import {
  BLOW,
  C_ARMOUR,
  C_GUARD,
  C_HITS,
  C_PARRIES,
  C_PUSH,
  C_PUSHED,
  type Guarding,
  HAS_HIT,
  W_BY,
  W_DAMAGE,
  W_FROM,
  W_KIND,
  W_PUSH,
  W_STUN,
  WAS_BLOCKED,
  WAS_PARRIED,
} from '../record/combat.js';
import type { Operand } from '../record/frame.js';
import { ENOUGH, updatePool } from '../record/pool-line.js';
import { FX, FZ, HOST, NEVER, P_MIN, STOP, T, X, Z } from '../record/slots.js';
import { wholeTicks } from '../record/whole-ticks.js';
import { type Blow, kindBit, kindIndex, writeMiddle } from '../strikes/gather.js';
import type { Actor } from '../tick/actor.js';
import { gain, spend } from '../tick/pools/pools.js';
import { tell } from './tell.js';

/** What becomes of a blow: the message of who is struck, and that of the striker. */
export const OUTCOMES = {
  struck: 'hit',
  armoured: 'hit',
  blocked: 'hitBlocked',
  parried: 'hitParried',
  guardBroken: 'hit',
} as const;
/** What became of a blow, as who is struck hears of it. */
export type Outcome = keyof typeof OUTCOMES;

const MIDDLE = new Float64Array(3);

/** Applies a blow to who is struck, as their moveset says, and tells them. Says what became of it. */
export function applyBlow(blow: Blow, by: Actor, to: Actor): Outcome {
  const { plan, r } = to;
  const { values } = blow;
  const hurt = plan.hurt as NonNullable<Plan['hurt']>;
  const kind = kindIndex(plan, blow.plan.kind);
  values[W_BY] = blow.by.id;
  // Formulas of who is struck read the blow here.
  const at = plan.blowAt + 1;
  r[plan.blowAt] = r[T];
  for (let i = 0; i < BLOW; i++) r[at + i] = values[i];
  r[at + W_KIND] = kind;
  values[W_DAMAGE] *= shareOf(ofKind(hurt.factors, kind), 1, to);
  r[at + W_DAMAGE] = values[W_DAMAGE];
  if (hurt.damage !== null) {
    hurt.damage.run?.(to);
    if (!Number.isNaN(r[hurt.damage.at])) values[W_DAMAGE] = r[hurt.damage.at];
    r[at + W_DAMAGE] = values[W_DAMAGE];
  }
  const outcome = judgeBlow(blow, to, kind);
  // What is behind the record must not tell later formulas anything.
  r[plan.blowAt] = -NEVER;
  r.fill(0, at, at + BLOW);

  if (values[W_DAMAGE] > 0 && hurt.pool >= 0) {
    r[plan.scratchAt] = values[W_DAMAGE];
    spend(to, hurt.pool, plan.scratchAt);
  }
  if (outcome === 'struck' || outcome === 'guardBroken') r[plan.combatAt + C_HITS] += 1;
  stopClocks(blow, by, Math.min(blow.stop, hurt.stop), to);
  push(to, values, hurt.push);
  values[W_KIND] = kind;
  tell(to, outcome, blow);
  noteResult(blow, by, outcome);
  return outcome;
}

/** What is declared for a kind of damage, or for those that are not told apart. */
function ofKind<T>(list: readonly T[], kind: number): T {
  return list[kind < 0 ? list.length - 1 : kind];
}

/** A share as it is now; what a function gives that is no number is what it is by default. */
function shareOf(share: Operand, otherwise: number, c: Actor): number {
  share.run?.(c);
  return Number.isNaN(c.r[share.at]) ? otherwise : c.r[share.at];
}

/** What the guard, the armour or nothing makes of a blow; changes its values to what is left of it. */
function judgeBlow(blow: Blow, to: Actor, kind: number): Outcome {
  const { plan, r } = to;
  const { values } = blow;
  const up = r[plan.combatAt + C_GUARD];
  const guard = up > 0 ? plan.guards[up - 1] : null;
  if (guard !== null && isInArc(guard, r, values)) {
    const absorbs = shareOf(ofKind(guard.absorbs, kind), 1, to);
    if (absorbs > 0) return takeOnGuard(guard, absorbs, to, values);
  }
  if ((r[plan.combatAt + C_ARMOUR] & kindBit(plan, blow.plan.kind)) === 0) return 'struck';
  values[W_STUN] = 0;
  values.fill(0, W_PUSH, W_PUSH + 3);
  return 'armoured';
}

function takeOnGuard(guard: Guarding, absorbs: number, to: Actor, values: Float64Array): Outcome {
  const { plan, r } = to;
  if (r[T] < r[plan.combatAt + C_PARRIES]) {
    guard.parried.run?.(to);
    values[W_STUN] = wholeTicks(r[guard.parried.at]);
    values[W_DAMAGE] = 0;
    values.fill(0, W_PUSH, W_PUSH + 3);
    return 'parried';
  }
  const paid = payGuard(guard, to);
  if (paid < 1 && guard.unpaid === 'breaks') {
    guard.broken?.run?.(to);
    if (guard.broken !== null) values[W_STUN] = wholeTicks(r[guard.broken.at]);
    return 'guardBroken';
  }
  guard.stun.run?.(to);
  values[W_STUN] = wholeTicks(r[guard.stun.at]);
  values[W_DAMAGE] *= 1 - absorbs * (guard.unpaid === 'leaks' ? paid : 1);
  const taken = shareOf(guard.steady, 0.5, to);
  for (let i = 0; i < 3; i++) values[W_PUSH + i] *= 1 - taken;
  return 'blocked';
}

/** Whether a blow comes from where the guard is: the level way to the striker, which may be none. */
function isInArc({ cos }: Guarding, r: Float64Array, values: Float64Array): boolean {
  if (cos <= -1) return true;
  const x = values[W_FROM] - r[X];
  const z = values[W_FROM + 2] - r[Z];
  return x * r[FX] + z * r[FZ] >= cos * Math.sqrt(x * x + z * z);
}

/** Pays what a blow costs who guards; where there is not enough of something, all of that is gone. Says which share was paid, the least of all pools. */
function payGuard({ costs }: Guarding, to: Actor): number {
  const { plan, r } = to;
  let paid = 1;
  for (let i = 0; i < costs.length; i++) {
    const pool = plan.pools[costs[i].pool];
    costs[i].amount.run?.(to);
    const price = r[costs[i].amount.at];
    if (!(price > 0)) continue;
    updatePool(r, pool);
    const has = r[pool.value] - r[pool.at + P_MIN];
    if (price > has + ENOUGH) paid = Math.min(paid, has / price);
    r[plan.scratchAt] = price;
    spend(to, costs[i].pool, plan.scratchAt);
  }
  return paid;
}

/** The clocks of both stand still from the next tick on. */
function stopClocks(blow: Blow, by: Actor, stop: number, to: Actor): void {
  // What is told is how long they do stand still.
  blow.stop = Math.max(0, stop);
  if (!(stop > 0)) return;
  to.r[STOP] = Math.max(to.r[STOP], to.r[HOST] + 1 + stop);
  by.r[STOP] = Math.max(by.r[STOP], by.r[HOST] + 1 + stop);
}

/** A push waits until the clock goes on; two of one tick add up. */
function push({ plan, r }: Actor, values: Float64Array, limit: number): void {
  const x = values[W_PUSH];
  const y = values[W_PUSH + 1];
  const z = plan.view === 'open' ? values[W_PUSH + 2] : 0;
  if (x === 0 && y === 0 && z === 0) return;
  const at = plan.combatAt + C_PUSH;
  r[plan.combatAt + C_PUSHED] = 1;
  r[at] += x;
  r[at + 1] += y;
  r[at + 2] += z;
  const pace = Math.sqrt(r[at] * r[at] + r[at + 1] * r[at + 1] + r[at + 2] * r[at + 2]);
  if (pace <= limit) return;
  for (let i = 0; i < 3; i++) r[at + i] *= limit / pace;
}

function noteResult({ plan }: Blow, { r }: Actor, outcome: Outcome): void {
  if (plan.result < 0) return;
  r[plan.result] |= outcome === 'blocked' ? WAS_BLOCKED : outcome === 'parried' ? WAS_PARRIED : HAS_HIT;
}

/** Tells who is touched, and who touched them. */
export function applyTouch(blow: Blow, by: Actor, to: Actor): void {
  blow.values[W_BY] = blow.by.id;
  if (!tell(to, blow.plan.tells ?? '', blow)) return;
  tellStriker(blow, by, 'touched');
}

/** Whoever was called by who is struck hears of it, as it was told to them. */
export function tellCalled(blow: Blow, called: Actor): void {
  blow.values[W_KIND] = kindIndex(called.plan, blow.plan.kind);
  tell(called, 'callerStruck', blow);
}

/** A strike that was lost to another one hears of that: whose it is, where it is, and where they met. */
export function tellClash(clash: Blow, to: Actor): void {
  clash.values[W_KIND] = kindIndex(to.plan, clash.plan.kind);
  clash.values[W_BY] = clash.by.id;
  tell(to, 'clashed', clash);
}

/** The striker hears of it with its own kinds, and with where the other is. */
export function tellStriker(blow: Blow, by: Actor, name: string): void {
  const { values, plan, to } = blow;
  if (name === 'hit')
    for (let i = 0; i < plan.gains.length; i++) {
      const { pool, amount } = plan.gains[i];
      amount.run?.(by);
      gain(by, pool, amount.at);
    }
  if (by.plan.indexes.event.get(name) === undefined) return;
  values[W_KIND] = kindIndex(by.plan, plan.kind);
  values[W_BY] = to.id;
  writeMiddle(MIDDLE, to);
  for (let i = 0; i < 3; i++) values[W_FROM + i] = MIDDLE[i];
  tell(by, name, blow);
}
