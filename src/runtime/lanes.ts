import type { AbilityPlan, Ask, ScopePlan } from '../compile/plan.js';
import {
  A_CHARGE,
  A_CHARGES,
  A_DRY,
  A_ENDED,
  A_FIT,
  A_KNOWN,
  A_REFILL,
  A_REFUSED,
  B_DOWN,
  DIRTY,
  L_ABILITY,
  L_ASK,
  L_DUE,
  L_MOVE,
  L_PHASE,
  L_PHASE_SINCE,
  L_SINCE,
  LACKING,
  LANE,
  LOADOUT,
  MOVE,
  NEVER,
  NEXT_DUE,
  P_MIN,
  RUNNING,
  STALE,
  T,
  UNAIMED,
  VERSION,
} from '../moveset/slots.js';
import type { Character } from './character.js';
import { forgetPaid, payCosts, refundCosts, setCooldown } from './costs.js';
import { ENDED, EVENT } from './events.js';
import { ENOUGH } from './judge.js';
import { readPool, refreshDrains } from './pools.js';
import { anyHolds } from './restless.js';

/** Commits a granted request in one step: what it breaks ends, it is paid, its first phase begins. */
export function startAbility(c: Character, a: AbilityPlan, ask: Ask): void {
  const { r, plan } = c;
  const now = r[T];
  for (let i = 0; i < plan.names.lane.length; i++) {
    const lane = plan.layout.lanes + i * LANE;
    const other = r[lane + L_ABILITY];
    if (other < 0) continue;
    const breaks = a.breaks?.[other] === 1;
    if (breaks || lane === a.laneAt) endAbility(c, lane, breaks ? ENDED.broken : ENDED.followed, a.index);
  }
  forgetPaid(c, a);
  if (a.payPhase < 0) payCosts(c, a);
  r[a.at + A_CHARGE] = 0;
  r[a.at + A_DRY] = 0;
  r[a.at + A_REFUSED] = 0;
  if (a.cooldown > 0 && a.cooldownFrom !== 'end') setCooldown(c, a, a.cooldownFrom === 'start' ? a.cooldown : NEVER);
  if (a.charges > 0) {
    if (r[a.at + A_CHARGES] === a.charges && a.refillEvery > 0) r[a.at + A_REFILL] = now + a.refillEvery;
    if (r[a.at + A_CHARGES] === a.charges) r[LACKING] += 1;
    r[a.at + A_CHARGES] -= 1;
  }
  for (let i = 0; i < plan.graced.length; i++)
    if (plan.graced[i].laneAt === a.laneAt) r[plan.graced[i].at + A_FIT] = -NEVER;

  r[RUNNING] += 1;
  r[VERSION] += 1;
  r[STALE] = 1;
  r[a.laneAt + L_ABILITY] = a.index;
  r[a.laneAt + L_PHASE] = -1;
  r[a.laneAt + L_SINCE] = now;
  r[a.laneAt + L_PHASE_SINCE] = now;
  r[a.laneAt + L_DUE] = NEVER;
  r[a.laneAt + L_ASK] = ask.at - plan.layout.asks;
  c.events.add(EVENT.started, a.index);
  if (a.upkeeps.length > 0) refreshDrains(c);
  beginScope(c, a.scope, a.laneAt + L_MOVE);
  if (a.firstPhase >= 0) enterPhase(c, a.laneAt, a.firstPhase);
}

/** Begins a phase, or the first one after it whose `when` holds; none left ends the ability. */
export function enterPhase(c: Character, lane: number, phase: number): void {
  const { r, plan } = c;
  let next = phase;
  while (next >= 0 && plan.phases[next].when?.(c) === false) next = plan.phases[next].next;
  if (next < 0) {
    endAbility(c, lane, ENDED.time, -1);
    return;
  }
  const { lasts, scope, ability } = plan.phases[next];
  if (plan.abilities[ability].payPhase === next && !payCosts(c, plan.abilities[ability])) {
    endAbility(c, lane, ENDED.unpaid, -1);
    return;
  }
  r[VERSION] += 1;
  r[lane + L_PHASE] = next;
  r[lane + L_PHASE_SINCE] = r[T];
  r[lane + L_DUE] = lasts === NEVER ? NEVER : r[T] + lasts;
  if (r[lane + L_DUE] < r[NEXT_DUE]) r[NEXT_DUE] = r[lane + L_DUE];
  c.events.add(EVENT.phase, ability, next);
  beginScope(c, scope, lane + L_MOVE + MOVE);
}

/** Ends the present phase and goes on to the next. */
export function leavePhase(c: Character, lane: number): void {
  const phase = c.plan.phases[c.r[lane + L_PHASE]];
  endScope(c, phase.scope, lane + L_MOVE + MOVE);
  c.r[lane + L_PHASE] = -1;
  enterPhase(c, lane, phase.next);
}

/** Ends what runs in a lane. Every way out comes through here, so that its scopes always close. */
export function endAbility(c: Character, lane: number, why: number, by: number): void {
  const { r, plan } = c;
  const a = plan.abilities[r[lane + L_ABILITY]];
  const phase = r[lane + L_PHASE];
  if (phase >= 0) endScope(c, plan.phases[phase].scope, lane + L_MOVE + MOVE);
  endScope(c, a.scope, lane + L_MOVE);
  r[RUNNING] -= 1;
  r[VERSION] += 1;
  r[STALE] = 1;
  r[lane + L_ABILITY] = -1;
  r[lane + L_PHASE] = -1;
  r[lane + L_DUE] = NEVER;
  r[a.at + A_ENDED] = r[T];
  if (a.upkeeps.length > 0) refreshDrains(c);
  if (a.cooldown > 0 && a.cooldownFrom === 'end') setCooldown(c, a, a.cooldown);
  refundCosts(c, a, why);
  c.events.add(EVENT.ended, a.index, why, by);
}

/** Phases that are over by time or by their conditions, and abilities that end. */
export function checkEndings(c: Character): void {
  const { r, plan } = c;
  for (let i = 0; i < plan.names.lane.length; i++) {
    const lane = plan.layout.lanes + i * LANE;
    const index = r[lane + L_ABILITY];
    if (index < 0) continue;
    const a = plan.abilities[index];
    if (a.interrupt.length > 0 && anyHolds(c, a.interrupt)) endAbility(c, lane, ENDED.interrupted, -1);
    else if (a.end.length > 0 && anyHolds(c, a.end)) endAbility(c, lane, ENDED.condition, -1);
    else if (isDry(c, a)) {
      r[a.at + A_DRY] = 1;
      endAbility(c, lane, ENDED.dry, -1);
    } else if (a.standing.length > 0 && isLetGo(c, a, lane)) endAbility(c, lane, ENDED.letGo, -1);
    else if (r[lane + L_PHASE] >= 0) checkPhase(c, a, lane);
  }
}

function checkPhase(c: Character, a: AbilityPlan, lane: number): void {
  const { r, plan } = c;
  const { until, interrupt, charge } = plan.phases[r[lane + L_PHASE]];
  if (interrupt.length > 0 && anyHolds(c, interrupt)) endAbility(c, lane, ENDED.interrupted, -1);
  else if (charge !== null && isButtonUp(c, lane)) {
    if (charge.cancels && r[a.at + A_CHARGE] < 1) endAbility(c, lane, ENDED.interrupted, -1);
    else leavePhase(c, lane);
  } else if (until.length > 0 && anyHolds(c, until)) leavePhase(c, lane);
}

/** Whether the button that started what runs has been let go. */
function isButtonUp({ r, plan }: Character, lane: number): boolean {
  const { button } = plan.asks[r[lane + L_ASK]];
  return button >= 0 && r[button + B_DOWN] === 0;
}

/** Builds charges of power: full at exactly the declared tick, whatever ends the phase in that tick. */
export function buildCharges(c: Character): void {
  const { r, plan } = c;
  for (let i = 0; i < plan.names.lane.length; i++) {
    const lane = plan.layout.lanes + i * LANE;
    if (r[lane + L_PHASE] < 0) continue;
    const { charge, ability } = plan.phases[r[lane + L_PHASE]];
    if (charge === null) continue;
    const part = Math.min(1, (r[T] - r[lane + L_PHASE_SINCE]) / charge.over);
    const at = plan.abilities[ability].at + A_CHARGE;
    switch (charge.curve) {
      case 'even':
        r[at] = part;
        break;
      case 'late':
        r[at] = part * part;
        break;
      case 'early':
        r[at] = part * (2 - part);
        break;
      case 'smooth':
        r[at] = part * part * (3 - 2 * part);
        break;
    }
  }
}

/** Deeds whose tick has come. */
export function playBeats(c: Character): void {
  const { r, plan } = c;
  for (let i = 0; i < plan.names.lane.length; i++) {
    const lane = plan.layout.lanes + i * LANE;
    if (r[lane + L_PHASE] < 0) continue;
    const { beats } = plan.phases[r[lane + L_PHASE]];
    const passed = r[T] - r[lane + L_PHASE_SINCE];
    for (let k = 0; k < beats.length; k++) {
      const { at, every, begins } = beats[k];
      if (passed === 0 || (every > 0 ? passed % every !== 0 : passed !== at)) continue;
      for (let b = 0; b < begins.length; b++) begins[b](c, lane + L_MOVE + MOVE);
    }
  }
}

/** Ends what no longer is there: forgotten, or not with the loadout that is worn. */
export function endUnavailable(c: Character): boolean {
  const { r, plan } = c;
  let ended = false;
  for (let i = 0; i < plan.names.lane.length; i++) {
    const lane = plan.layout.lanes + i * LANE;
    if (r[lane + L_ABILITY] < 0) continue;
    const a = plan.abilities[r[lane + L_ABILITY]];
    if (r[a.at + A_KNOWN] === 1 && (a.loadouts === null || a.loadouts[r[LOADOUT]] === 1)) continue;
    endAbility(c, lane, ENDED.gone, -1);
    ended = true;
  }
  return ended;
}

/** Phases whose time is up. */
export function checkDue(c: Character): void {
  const { r, plan } = c;
  const end = plan.layout.lanes + plan.names.lane.length * LANE;
  for (let lane = plan.layout.lanes; lane < end; lane += LANE) if (r[lane + L_DUE] <= r[T]) leavePhase(c, lane);
  r[NEXT_DUE] = NEVER;
  for (let lane = plan.layout.lanes; lane < end; lane += LANE)
    if (r[lane + L_DUE] < r[NEXT_DUE]) r[NEXT_DUE] = r[lane + L_DUE];
}

function isDry({ r, plan }: Character, a: AbilityPlan): boolean {
  for (let i = 0; i < a.upkeeps.length; i++) {
    const pool = plan.pools[a.upkeeps[i].pool];
    if (a.upkeeps[i].perTick === 0) continue;
    readPool(r, pool);
    if (r[pool.value] <= r[pool.at + P_MIN] + ENOUGH) return true;
  }
  return false;
}

/** Whether what was asked for by holding is asked for no longer. */
function isLetGo(c: Character, a: AbilityPlan, lane: number): boolean {
  if (c.plan.asks[c.r[lane + L_ASK]].stands === null) return false;
  for (let i = 0; i < a.standing.length; i++) if (c.r[a.standing[i].at] === NEVER) return false;
  return true;
}

function beginScope(c: Character, scope: ScopePlan, move: number): void {
  c.r[UNAIMED] = 1;
  if (scope.shows) c.r[DIRTY] = 1;
  for (let i = 0; i < scope.begins.length; i++) scope.begins[i](c, move);
}

function endScope(c: Character, scope: ScopePlan, move: number): void {
  c.r[UNAIMED] = 1;
  if (scope.shows) c.r[DIRTY] = 1;
  c.r[move] = 0;
  for (let i = 0; i < scope.ends.length; i++) scope.ends[i](c);
}
