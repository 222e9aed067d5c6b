import type { AbilityPlan } from '../../compile/plan.js';
import { ENDED } from '../../record/event-codes.js';
import { ENOUGH, updatePool } from '../../record/pool-line.js';
import { P_MIN } from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { gain, spend } from './pools.js';

/** Charges what was judged: the price that `judge` left behind the record. */
export function payPrice(c: Actor, a: AbilityPlan): void {
  const { r } = c;
  for (let i = 0; i < a.costs.length; i++) {
    const { pool, price } = a.costs[i];
    r[paidAt(c, a, pool)] = r[price];
    spend(c, pool, price);
  }
}

/** Pays the cost as it is now, at the phase that pays: in all its pools or, if one has too little, in none. */
export function payLater(c: Actor, a: AbilityPlan): boolean {
  const { r, plan } = c;
  for (let i = 0; i < a.costs.length; i++) {
    const { pool, amount, price } = a.costs[i];
    const { at, value } = plan.pools[pool];
    updatePool(r, plan.pools[pool]);
    amount.run?.(c);
    r[price] = r[amount.at];
    if (!(r[value] + ENOUGH >= r[at + P_MIN] + r[price])) return false;
  }
  payPrice(c, a);
  return true;
}

/** What was paid is forgotten as an ability starts. */
export function forgetPaid(c: Actor, a: AbilityPlan): void {
  for (let i = 0; i < c.plan.pools.length; i++) c.r[paidAt(c, a, i)] = 0;
}

/** Gives back its declared share of what was paid, when an ability was ended before its time. */
export function refundCosts(c: Actor, a: AbilityPlan, why: number): void {
  if (
    a.refund === null ||
    why === ENDED.time ||
    why === ENDED.condition ||
    why === ENDED.followed ||
    why === ENDED.ranOut
  )
    return;
  const { r, plan } = c;
  a.refund.run?.(c);
  for (let i = 0; i < plan.pools.length; i++) {
    if (r[paidAt(c, a, i)] === 0) continue;
    r[plan.scratchAt] = r[paidAt(c, a, i)] * r[a.refund.at];
    gain(c, i, plan.scratchAt);
  }
}

function paidAt({ plan }: Actor, a: AbilityPlan, pool: number): number {
  return plan.layout.paid + a.lane * plan.pools.length + pool;
}
