import type { AbilityPlan } from '../compile/plan.js';
import {
  C_LENGTH,
  C_READY,
  C_WAITING,
  L_ABILITY,
  LACKING,
  N_LEFT,
  N_MAX,
  N_REFILL,
  NEVER,
  T,
} from '../record/slots.js';
import { wholeTicks } from '../record/whole-ticks.js';
import type { Actor } from './actor.js';

/** Whether it has a cooldown that may be longer than nothing. */
export function hasCooldown({ cooldown, cooldownTime }: AbilityPlan): boolean {
  return cooldown > 0 || cooldownTime !== null;
}

/** A cooldown that counts from now. It may be shared: of two, the one that is over later counts. */
export function beginCooldown(c: Actor, { cooldownAt: at, cooldown, cooldownTime }: AbilityPlan): void {
  const { r } = c;
  let length = cooldown;
  if (cooldownTime !== null) {
    cooldownTime.run?.(c);
    length = wholeTicks(r[cooldownTime.at]);
  }
  if (length <= 0 || r[T] + length <= r[at + C_READY]) return;
  r[at + C_READY] = r[T] + length;
  r[at + C_LENGTH] = length;
}

/** As an ability starts: its cooldown counts from here, or waits for its event. */
export function startCooldown(c: Actor, a: AbilityPlan): void {
  const { r } = c;
  if (!hasCooldown(a)) return;
  if (a.cooldownFrom === 'start') beginCooldown(c, a);
  else if (a.cooldownFrom === 'event' && r[a.waitsAt] === 0) {
    r[a.waitsAt] = 1;
    r[a.cooldownAt + C_WAITING] += 1;
  }
}

/** An event is received: cooldowns that count are shortened by it. */
export function shortenCooldowns(c: Actor, event: number): void {
  const { r } = c;
  const { shortened } = c.roster;
  for (let i = 0; i < shortened.length; i++) {
    const { cooldownAt: at, cooldownLess } = shortened[i];
    for (let k = 0; k < cooldownLess.length; k++) {
      if (cooldownLess[k].event !== event || r[at + C_READY] <= r[T]) continue;
      const { time } = cooldownLess[k];
      time.run?.(c);
      r[at + C_READY] = Math.max(r[T], r[at + C_READY] - Math.max(0, wholeTicks(r[time.at])));
    }
  }
}

/** An event has come: cooldowns that wait for it begin. */
export function countFromEvent(c: Actor, event: number): void {
  const { waiting } = c.roster;
  for (let i = 0; i < waiting.length; i++) {
    const a = waiting[i];
    if (a.cooldownEvent !== event || c.r[a.waitsAt] === 0) continue;
    stopWaiting(c, a);
    beginCooldown(c, a);
  }
}

/** A character emits an event itself: cooldowns that wait for it begin, and that of what runs and emitted it. */
export function countFromOwnEvent(c: Actor, event: number): void {
  const { r } = c;
  countFromEvent(c, event);
  const { waiting } = c.roster;
  for (let i = 0; i < waiting.length; i++) {
    const a = waiting[i];
    if (a.cooldownEvent === event && a.cooldownFrom === 'own' && r[a.laneAt + L_ABILITY] === a.index)
      beginCooldown(c, a);
  }
}

function stopWaiting({ r }: Actor, a: AbilityPlan): void {
  r[a.waitsAt] = 0;
  r[a.cooldownAt + C_WAITING] -= 1;
}

/** Makes an ability ready: its cooldown is over and its charges are full. */
export function resetAbility(c: Actor, a: AbilityPlan): void {
  const { r } = c;
  if (a.cooldownAt >= 0) {
    r[a.cooldownAt + C_READY] = -NEVER;
    if (a.waitsAt >= 0 && r[a.waitsAt] === 1) stopWaiting(c, a);
  }
  if (a.chargesAt >= 0) fillCharges(c, a);
}

/** All uses of an ability that has so many are there. */
export function fillCharges(c: Actor, a: AbilityPlan): void {
  readMost(c, a);
  setLeft(c, a, c.r[a.chargesAt + N_MAX]);
}

/** Charges that come back, by time or because their condition holds. */
export function refillCharges(c: Actor): void {
  const { r } = c;
  const { charged } = c.roster;
  for (let i = 0; i < charged.length; i++) {
    const a = charged[i];
    const { chargesAt: at, refill, refillEvery } = a;
    if (r[at + N_LEFT] >= r[at + N_MAX]) continue;
    if (refill?.(c)) {
      readMost(c, a);
      setLeft(c, a, r[at + N_MAX]);
    } else if (refillEvery !== null && r[T] >= r[at + N_REFILL]) {
      readMost(c, a);
      setLeft(c, a, r[at + N_LEFT] + 1);
      beginRefill(c, a, r[at + N_REFILL]);
    }
  }
}

/** One use less; the first that is missing begins the wait for the next. */
export function takeCharge(c: Actor, a: AbilityPlan): void {
  const { r } = c;
  const at = a.chargesAt;
  const full = r[at + N_LEFT] >= r[at + N_MAX];
  readMost(c, a);
  setLeft(c, a, Math.min(r[at + N_LEFT], r[at + N_MAX]) - 1);
  if (full) beginRefill(c, a, r[T]);
}

/** How many uses there may be now; what is no number changes nothing. */
function readMost(c: Actor, { chargesAt: at, charges }: AbilityPlan): void {
  const { r } = c;
  const lacked = r[at + N_LEFT] < r[at + N_MAX] ? 1 : 0;
  charges?.run?.(c);
  if (charges !== null && !Number.isNaN(r[charges.at])) r[at + N_MAX] = Math.floor(r[charges.at]);
  r[LACKING] += (r[at + N_LEFT] < r[at + N_MAX] ? 1 : 0) - lacked;
}

function setLeft({ r }: Actor, { chargesAt: at }: AbilityPlan, left: number): void {
  const lacked = r[at + N_LEFT] < r[at + N_MAX] ? 1 : 0;
  r[at + N_LEFT] = Math.min(left, r[at + N_MAX]);
  r[LACKING] += (r[at + N_LEFT] < r[at + N_MAX] ? 1 : 0) - lacked;
}

/** The next one comes back so long after a tick. */
function beginRefill(c: Actor, { chargesAt: at, refillEvery }: AbilityPlan, since: number): void {
  if (refillEvery === null) return;
  refillEvery.run?.(c);
  c.r[at + N_REFILL] = since + Math.max(1, wholeTicks(c.r[refillEvery.at]));
}
