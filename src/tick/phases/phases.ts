import type { AbilityPlan, BeatPlan, PhasePlan } from '../../compile/plan.js';
import { updatePower } from '../../compile/power.js';
import { LONGEST_SECONDS } from '../../moveset/time.js';
import { CUT_SHORT, ENDED, EVENT } from '../../record/event-codes.js';
import { anyHolds, type Operand } from '../../record/frame.js';
import { updatePool } from '../../record/pool-line.js';
import {
  A_BROKEN,
  A_ENDED,
  B_DOWN,
  CLIP,
  CLIP_SINCE,
  L_ABILITY,
  L_DUE,
  L_PHASE,
  L_PHASE_SINCE,
  L_SINCE,
  L_TRIGGER,
  LANE,
  LAYER,
  LOADOUT,
  LOADOUT_SINCE,
  MARK,
  NEVER,
  P_MIN,
  RUNNING,
  STANCE,
  STANCE_SINCE,
  T,
} from '../../record/slots.js';
import { wholeTicks } from '../../record/whole-ticks.js';
import type { Actor } from '../actor.js';
import { wake } from '../awake.js';
import { beginCooldown } from '../cooldowns.js';
import { payLater, refundCosts } from '../pools/costs.js';
import { updateDrains } from '../pools/pools.js';
import { noteMoments } from '../presses/presses.js';
import { isAvailable } from '../roster.js';
import { closeScope, openScope, runActions } from '../scopes.js';

/** Begins a phase, or the first one after it whose `when` holds; none left ends the ability. */
export function enterPhase(c: Actor, lane: number, phase: number): void {
  const { r, plan } = c;
  const a = plan.abilities[r[lane + L_ABILITY]];
  let next = phase;
  while (next >= 0 && plan.phases[next].when?.(c) === false) next = plan.phases[next].next;
  // Where the phase that pays is skipped, what comes instead of it pays.
  const pays = a.payPhase >= 0 && phase >= 0 && phase <= a.payPhase && (next < 0 || next >= a.payPhase);
  if (pays && !payLater(c, a)) {
    endAbility(c, lane, ENDED.couldNotPay);
    return;
  }
  if (next < 0) {
    endAbility(c, lane, ENDED.time);
    return;
  }
  const { scope, ability } = plan.phases[next];
  r[lane + L_PHASE] = next;
  r[lane + L_PHASE_SINCE] = r[T];
  setDue(c, lane, plan.phases[next]);
  c.events.add(EVENT.phase, ability, next);
  openScope(c, scope);
  endAstray(c, lane);
}

/** When a phase that begins is over, and its charge is full, where a formula says so. */
export function setDue(c: Actor, lane: number, { lasts, time, charge }: PhasePlan): void {
  const { r } = c;
  let ticks = lasts;
  if (time !== null) ticks = Math.min(ticks, readTime(c, time));
  if (charge !== null && charge.time !== null) {
    r[charge.overAt] = readTime(c, charge.time);
    if (charge.goes) ticks = Math.min(ticks, r[charge.overAt]);
  }
  r[lane + L_DUE] = r[T] + ticks;
}

/** A time that is a formula, a tick at least and an hour at most. */
function readTime(c: Actor, time: Operand): number {
  time.run?.(c);
  return Math.max(1, Math.min(wholeTicks(c.r[time.at]), LONGEST_SECONDS * c.plan.rate));
}

/** Ends what has begun with a warp that led nowhere; says whether it has. */
export function endAstray(c: Actor, lane: number): boolean {
  if (!c.warpFailed) return false;
  c.warpFailed = false;
  c.plan.code.end(c, lane, ENDED.interrupted, -1);
  return true;
}

/** Ends the present phase and goes on to the next. */
export function leavePhase(c: Actor, lane: number): void {
  const { next } = c.plan.phases[c.r[lane + L_PHASE]];
  closePhase(c, lane);
  enterPhase(c, lane, next);
}

function closePhase(c: Actor, lane: number): void {
  const { r, plan } = c;
  const { scope, charge, ability } = plan.phases[r[lane + L_PHASE]];
  const a = plan.abilities[ability];
  if (charge !== null) updatePower(r, a, plan.phases, a.powerAt);
  closeScope(c, scope);
  r[lane + L_PHASE] = -1;
  r[lane + L_DUE] = NEVER;
}

const CUTS = /* @__PURE__ */ new Set(/* @__PURE__ */ CUT_SHORT.map((why) => ENDED[why]));

/** Ends what runs in a lane; `by` is the ability that breaks it or follows it. Every way out comes through here, so that its scopes always close. */
export function endAbility(c: Actor, lane: number, why: number, by = -1): void {
  const { r, plan } = c;
  const a = plan.abilities[r[lane + L_ABILITY]];
  if (r[lane + L_PHASE] >= 0) closePhase(c, lane);
  closeScope(c, a.scope);
  if (a.powerAt >= 0 && !a.keepsCharge && CUTS.has(why)) r[a.powerAt] = 0;
  for (let i = 0; i < a.marks.length; i++) r.fill(0, a.marks[i], a.marks[i] + MARK);
  r[RUNNING] -= 1;
  r[lane + L_ABILITY] = -1;
  r[a.at + A_ENDED] = r[T];
  if ((why === ENDED.broken && by !== a.index) || why === ENDED.code) r[a.at + A_BROKEN] = r[T];
  // What keeps it up may begin it again.
  for (let i = 0; i < a.sustained.length; i++) wake(r, plan, a.sustained[i]);
  if (a.upkeeps.length > 0) updateDrains(c);
  if (a.cooldownFrom === 'end') beginCooldown(c, a);
  refundCosts(c, a, why);
  c.events.add(EVENT.ended, a.index, why, by);
  noteMoments(c, c.roster.endings[a.index], why, 1);
}

/** Phases whose time is up, unless something interrupts them in the same tick. */
export function endDuePhases(c: Actor): void {
  const { r, plan } = c;
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    if (r[lane + L_DUE] > r[T]) continue;
    const { interrupt, ability } = plan.phases[r[lane + L_PHASE]];
    if (anyHolds(c, plan.abilities[ability].interrupt) || anyHolds(c, interrupt))
      endAbility(c, lane, ENDED.interrupted);
    else leavePhase(c, lane);
  }
}

/** Beats of the stance and the loadout whose tick has come. */
export function playRestingBeats(c: Actor): void {
  const { r, plan } = c;
  playScope(c, plan.stances[r[STANCE]].scope.beats, r[T] - r[STANCE_SINCE]);
  if (r[LOADOUT] >= 0) playScope(c, plan.loadouts[r[LOADOUT]].scope.beats, r[T] - r[LOADOUT_SINCE]);
}

export function playScope(c: Actor, beats: readonly BeatPlan[], since: number): void {
  const { r, plan } = c;
  for (let k = 0; k < beats.length; k++) {
    const { at, every, layer, clip, begins } = beats[k];
    let passed = since;
    let turn = 0;
    if (layer >= 0) {
      // A place of a clip counts only while that clip is shown.
      const shown = plan.layout.layers + layer * LAYER;
      if (clip < 0 || r[shown + CLIP] !== clip) continue;
      passed = r[T] - r[shown + CLIP_SINCE];
      turn = every > 0 ? at % every : 0;
    }
    if (passed > 0 && (every > 0 ? passed % every === turn : passed === at)) runActions(c, begins);
  }
}

/** Beats of what runs whose tick has come, and what effects do in each tick. */
export function playBeats(c: Actor): void {
  const { r, plan } = c;
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    if (r[lane + L_ABILITY] < 0) continue;
    const { scope: whole } = plan.abilities[r[lane + L_ABILITY]];
    runActions(c, whole.eachs);
    playScope(c, whole.beats, r[T] - r[lane + L_SINCE]);
    if (r[lane + L_PHASE] < 0) continue;
    const { scope } = plan.phases[r[lane + L_PHASE]];
    runActions(c, scope.eachs);
    playScope(c, scope.beats, r[T] - r[lane + L_PHASE_SINCE]);
  }
}

/** Abilities that end, and phases that are over, by their conditions. */
export function checkEndings(c: Actor): void {
  const { r, plan } = c;
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    if (r[lane + L_ABILITY] < 0) continue;
    const a = plan.abilities[r[lane + L_ABILITY]];
    if (anyHolds(c, a.interrupt)) endAbility(c, lane, ENDED.interrupted);
    else if (anyHolds(c, a.end)) endAbility(c, lane, ENDED.condition);
    else if (hasRunOut(c, a)) {
      if (a.ranOutAt >= 0) r[a.ranOutAt] = 1;
      endAbility(c, lane, ENDED.ranOut);
    } else if (isReleased(c, a, lane)) endAbility(c, lane, ENDED.released);
    else if (r[lane + L_PHASE] >= 0) checkPhase(c, lane);
  }
}

function checkPhase(c: Actor, lane: number): void {
  const { r, plan } = c;
  const { until, interrupt, charge } = plan.phases[r[lane + L_PHASE]];
  if (anyHolds(c, interrupt)) endAbility(c, lane, ENDED.interrupted);
  else if (charge !== null && isButtonUp(c, lane)) releaseCharge(c, lane);
  else if (anyHolds(c, until)) leavePhase(c, lane);
}

/** A charge whose button was released: what cancels before it is full ends, else the next phase begins. */
export function releaseCharge(c: Actor, lane: number): void {
  const { r, plan } = c;
  const { charge } = plan.phases[r[lane + L_PHASE]];
  updatePower(r, plan.abilities[r[lane + L_ABILITY]], plan.phases, plan.scratchAt);
  if (charge?.cancels && r[plan.scratchAt] < 1) plan.code.end(c, lane, ENDED.interrupted, -1);
  else plan.code.leave(c, lane);
}

/** Whether the button that started what runs has been released. */
export function isButtonUp({ r, plan }: Actor, lane: number): boolean {
  const { button } = plan.triggers[r[lane + L_TRIGGER]];
  return button >= 0 && r[button + B_DOWN] === 0;
}

function hasRunOut({ r, plan }: Actor, a: AbilityPlan): boolean {
  for (let i = 0; i < a.upkeeps.length; i++) {
    const pool = plan.pools[a.upkeeps[i].pool];
    if (a.upkeeps[i].perTick === 0) continue;
    updatePool(r, pool);
    if (r[pool.value] <= r[pool.at + P_MIN]) return true;
  }
  return false;
}

/** Whether what was requested as long as something holds is requested no longer. */
function isReleased(c: Actor, a: AbilityPlan, lane: number): boolean {
  if (c.plan.triggers[c.r[lane + L_TRIGGER]].sustained === null) return false;
  for (let i = 0; i < a.sustained.length; i++) if (a.sustained[i].sustained?.(c)) return false;
  return true;
}

/** Ends what is no longer there: forgotten, or not in the loadout. Says whether there was any. */
export function endUnavailable(c: Actor): boolean {
  const { r, plan } = c;
  let ended = false;
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    if (r[lane + L_ABILITY] < 0 || isAvailable(r, plan.abilities[r[lane + L_ABILITY]])) continue;
    plan.code.end(c, lane, ENDED.unavailable, -1);
    ended = true;
  }
  return ended;
}
