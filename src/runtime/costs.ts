import type { AbilityPlan } from '../compile/plan.js';
import { A_READY, NEVER, P_MIN, T, VERSION } from '../moveset/slots.js';
import type { Character } from './character.js';
import { ENDED } from './events.js';
import { ENOUGH } from './judge.js';
import { gain, readPool, spend } from './pools.js';

/** Pays an ability's cost in all its pools, or, if one has too little, in none; says whether it was paid. */
export function payCosts(c: Character, a: AbilityPlan): boolean {
  const { r, plan } = c;
  for (let i = 0; i < a.costs.length; i++) {
    const { pool, amount } = a.costs[i];
    const { at, value } = plan.pools[pool];
    readPool(r, plan.pools[pool]);
    amount.run?.(c);
    if (r[value] + ENOUGH < r[at + P_MIN] + r[amount.at]) return false;
  }
  for (let i = 0; i < a.costs.length; i++) {
    const { pool, amount } = a.costs[i];
    r[paidAt(c, a, pool)] = r[amount.at];
    spend(c, pool, amount.at);
  }
  return true;
}

/** What was paid is forgotten as an ability starts. */
export function forgetPaid(c: Character, a: AbilityPlan): void {
  for (let i = 0; i < c.plan.pools.length; i++) c.r[paidAt(c, a, i)] = 0;
}

/** Gives back its declared share of what was paid, when an ability was ended before its time. */
export function refundCosts(c: Character, a: AbilityPlan, why: number): void {
  if (a.refund === null || why === ENDED.time || why === ENDED.condition || why === ENDED.followed || why === ENDED.dry)
    return;
  const { r, plan } = c;
  a.refund.run?.(c);
  for (let i = 0; i < plan.pools.length; i++) {
    if (r[paidAt(c, a, i)] === 0) continue;
    r[plan.scratchAt] = r[paidAt(c, a, i)] * r[a.refund.at];
    gain(c, i, plan.scratchAt);
  }
}

/** Sets the cooldown of an ability and of its group, `ticks` from now; NEVER for until told. */
export function setCooldown(c: Character, a: AbilityPlan, ticks: number): void {
  const { r, plan } = c;
  r[VERSION] += 1;
  for (let i = 0; i < a.group.length; i++)
    r[plan.abilities[a.group[i]].at + A_READY] = ticks === NEVER ? NEVER : r[T] + ticks;
}

/** Cooldowns that count from an event which has come in. */
export function heedEvent(c: Character, event: number): void {
  const { eventCooldowns } = c.plan;
  for (let i = 0; i < eventCooldowns.length; i++) {
    const a = eventCooldowns[i];
    if (a.cooldownEvent === event && c.r[a.at + A_READY] === NEVER) setCooldown(c, a, a.cooldown);
  }
}

function paidAt({ plan }: Character, a: AbilityPlan, pool: number): number {
  return plan.layout.paid + a.lane * plan.pools.length + pool;
}
