import type { AbilityPlan, PhasePlan, Plan, PoolPlan, ScopePlan, TriggerPlan } from '../compile/plan.js';
import { settleBody } from '../motion/move-body.js';
import { C_GUARD } from '../record/combat.js';
import { ENDED } from '../record/event-codes.js';
import type { SlotRange } from '../record/layout.js';
import { updatePool } from '../record/pool-line.js';
import { R_MARK } from '../record/ride.js';
import {
  B_USED,
  BASE_LOADOUT,
  BUTTON,
  C_WAITING,
  CLIP,
  FORCED,
  FORCED_VELOCITY,
  GROUND_SURFACES,
  HEAD,
  L_ABILITY,
  L_DUE,
  L_PHASE,
  L_PHASE_SINCE,
  L_TRIGGER,
  LACKING,
  LANE,
  LAYER,
  LAYOUT_ID,
  LOADOUT,
  LOADOUT_SINCE,
  M_COUNT,
  M_FIRST,
  M_HANDLED,
  N_LEFT,
  N_MAX,
  NEVER,
  P_MAX,
  PASSES,
  PENDING,
  R_COUNT,
  R_TOLD,
  RUNNING,
  SHAPE,
  STANCE,
  STANCE_SINCE,
  T,
  TRIGGER,
  WANT_SHAPE,
} from '../record/slots.js';
import { fillCharges } from '../tick/cooldowns.js';
import { beginLine, setLine, updateDrains, updateLimits } from '../tick/pools/pools.js';
import { runActions } from '../tick/scopes.js';
import { KEY, keyAt, pushedAt } from '../tick/take-in/devices.js';
import { initializeRecord } from '../tick/take-in/initialize.js';
import { indexOfWas, mapIndex, mapSurfaces, nameNow, type Renamed, sameValues } from '../tick/take-in/map-rows.js';
import type { Character } from './character.js';

/*
 * What a character keeps as another moveset takes the place of its own: everything that has a place by a name. Two steps: what is
 * gone ends by the old moveset, as anything ends; then its numbers are written anew for the new one.
 */

/** What of the old moveset goes on in the new one. */
interface Kept {
  /** By lane of the old one: whether what runs there goes on. */
  readonly runs: ReadonlySet<number>;
  readonly stance: boolean;
  readonly loadout: boolean;
  /** Nothing ended. */
  readonly all: boolean;
}

/** Effects with numbers of their own go on only where they are the same ones. */
function sameScope(old: ScopePlan, next: ScopePlan): boolean {
  return old.owns === next.owns && old.owners === next.owners;
}

function phaseNow(old: PhasePlan, a: AbilityPlan, next: Plan): number {
  if (a.firstPhase < 0) return -1;
  for (let i = a.firstPhase; next.phases[i]?.ability === a.index; i++) if (next.phases[i].name === old.name) return i;
  return -1;
}

/** What goes on in a lane, or undefined. */
function runsOn(c: Character, next: Plan, lane: number, renamed: Renamed) {
  const { plan: old, r } = c;
  const running = old.abilities[r[lane + L_ABILITY]];
  if (!running) return undefined;
  const a = next.abilities[mapIndex(old, next, 'ability', running.index, renamed)];
  if (!a || !sameScope(running.scope, a.scope)) return undefined;
  if (next.names.lane[a.lane] !== nameNow(old.names.lane[running.lane], renamed)) return undefined;
  const before = old.phases[r[lane + L_PHASE]];
  if (!before) return a.firstPhase < 0 ? { a, phase: -1 } : undefined;
  const phase = phaseNow(before, a, next);
  return phase >= 0 && sameScope(before.scope, next.phases[phase].scope) ? { a, phase } : undefined;
}

/** Ends what does not go on, by the old moveset; says what of it does. */
export function endGone(c: Character, next: Plan, renamed: Renamed): Kept {
  const { plan: old, r } = c;
  const ran = r[RUNNING];
  for (let lane = old.lanesAt; lane < old.lanesEnd; lane += LANE)
    if (r[lane + L_ABILITY] >= 0 && !runsOn(c, next, lane, renamed)) old.code.end(c, lane, ENDED.unavailable, -1);
  // Only now: what an end does may end others.
  const runs = new Set<number>();
  for (let lane = old.lanesAt; lane < old.lanesEnd; lane += LANE) if (r[lane + L_ABILITY] >= 0) runs.add(lane);
  const stance = old.stances[r[STANCE]];
  const stanceNow = next.stances[mapIndex(old, next, 'stance', r[STANCE], renamed)];
  const keepsStance = stanceNow !== undefined && sameScope(stance.scope, stanceNow.scope);
  if (!keepsStance) runActions(c, stance.scope.ends);
  const loadout = old.loadouts[r[LOADOUT]];
  const loadoutNow = loadout && next.loadouts[mapIndex(old, next, 'loadout', r[LOADOUT], renamed)];
  const keepsLoadout = loadoutNow !== undefined && sameScope(loadout.scope, loadoutNow.scope);
  if (loadout && !keepsLoadout) runActions(c, loadout.scope.ends);
  const all = runs.size === ran && keepsStance && (keepsLoadout || !loadout);
  return { runs, stance: keepsStance, loadout: keepsLoadout, all };
}

/** The numbers of a character for another moveset with as many of them, and the same names: only what they are tuned to is another. */
export function retune(c: Character, old: Plan): void {
  const { plan, r } = c;
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const phase = r[lane + L_PHASE];
    if (phase >= 0) retime(r, lane, old.phases[phase], plan.phases[phase]);
  }
  for (const [i, pool] of plan.pools.entries()) relimit(c, pool, old.pools[i], old);
  // A formula is read in each tick.
  if (!plan.varyingDrains) updateDrains(c);
  for (const [i, a] of plan.abilities.entries()) if (a.chargesAt >= 0) recharge(c, a, old.abilities[i], old);
}

/** A phase whose time is another now is over that long after its beginning. */
function retime(r: Float64Array, lane: number, before: PhasePlan, now: PhasePlan): void {
  if (before.lasts === now.lasts || now.time !== null || now.charge?.time) return;
  r[lane + L_DUE] = Math.max(r[T], r[lane + L_PHASE_SINCE] + now.lasts);
}

/** Limits that are numbers hold at once; formulas are read as each tick reads them. */
function relimit(c: Character, pool: PoolPlan, before: PoolPlan | undefined, old: Plan): void {
  const { r, plan } = c;
  const fixed = (owner: PoolPlan, whose: Plan) =>
    (['min', 'max', 'regen'] as const).map((key) =>
      owner[key].constant ? whose.constants.find(({ at }) => at === owner[key].at)?.value : 'formula',
    );
  if (before && fixed(before, old).join() === fixed(pool, plan).join() && before.rest === pool.rest) return;
  updatePool(r, pool);
  if (updateLimits(c, pool)) beginLine(r, pool);
}

/** No more uses than there may be now; where there may be more, those are still to come back. */
function recharge(c: Character, a: AbilityPlan, before: AbilityPlan | undefined, old: Plan): void {
  const { r, plan } = c;
  const most = (owner: AbilityPlan, whose: Plan) =>
    owner.charges?.constant ? whose.constants.find(({ at }) => at === owner.charges?.at)?.value : undefined;
  const now = most(a, plan);
  if (now === undefined || (before && most(before, old) === now)) return;
  const at = a.chargesAt;
  const lacked = r[at + N_LEFT] < r[at + N_MAX];
  // Whoever had all of them has all of them.
  const left = lacked ? Math.min(r[at + N_LEFT], now) : now;
  r[at + N_MAX] = Math.floor(now);
  r[at + N_LEFT] = Math.min(left, r[at + N_MAX]);
  r[LACKING] += (r[at + N_LEFT] < r[at + N_MAX] ? 1 : 0) - (lacked ? 1 : 0);
}

/** The label of a stretch of the record by the names of now: kinds and names are its words. */
function labelNow(label: string, renamed: Renamed): string {
  const words = label.split(' ');
  // What a message says to an ability has no word for its kind.
  const isHeard = words.length === 3 && words[1] === 'to';
  return words.map((word, i) => (i === 0 && !isHeard ? word : nameNow(word, renamed))).join(' ');
}

/** Stretches that mean something else in another moveset, and are carried one by one. */
const BY_HAND = /^(head$|trigger |memory of trigger |messages$|paid$|choice |clips of )/;

/** Writes all numbers of a character anew. `c` has the new moveset and an array for it; `was` holds those of the old one. */
export function carry(c: Character, old: Plan, was: Float64Array, kept: Kept, renamed: Renamed): void {
  const { plan: next, r } = c;
  initializeRecord(next, r, { x: 0, y: 0, z: 0, facing: 1 });
  for (let i = 0; i < HEAD; i++) r[i] = was[i];
  r[LAYOUT_ID] = next.fingerprint;
  const labels = new Map<string, SlotRange>(old.layout.ranges.map((range) => [labelNow(range.label, renamed), range]));
  const carried = new Set<string>();
  for (const { label, at, count } of next.layout.ranges) {
    const from = labels.get(label);
    if (BY_HAND.test(label) || !from) continue;
    const isEvent = label.startsWith('event ');
    if (from.count !== count && !isEvent) continue;
    // Of an event with other values, only when it came is known.
    const length = from.count === count ? count : 1;
    for (let i = 0; i < length; i++) r[at + i] = was[from.at + i];
    carried.add(label);
  }
  carryHead(c, old, was, renamed);
  carryDevices(c, old, was, renamed);
  carryChoices(c, old, was, renamed);
  carryLanes(c, old, was, kept, renamed);
  carryTriggers(c, old, was, renamed);
  carryMessages(c, old, was, renamed);
  if (next.combatAt >= 0) r[next.combatAt + C_GUARD] = 0;
  if (next.rideAt >= 0) r[next.rideAt + R_MARK] = 0;
  for (const pool of next.pools) {
    const before = old.pools.find(({ name }) => nameNow(name, renamed) === pool.name);
    if (carried.has(`pool ${pool.name}`)) relimit(c, pool, before, old);
    else {
      updateLimits(c, pool);
      r[pool.value] = pool.start ?? r[pool.at + P_MAX];
      setLine(r, pool);
    }
  }
  countLacking(c, old, carried, renamed);
  c.changeRoster();
  c.updateRoster();
  openResting(c, old, was, kept, renamed);
  if (!next.varyingDrains) updateDrains(c);
  c.plan.code.fold(c);
  // What moves make of the velocity holds until the next tick that is not frozen: an engine is told of it.
  if (kept.all) for (let i = FORCED; i < FORCED_VELOCITY + 3; i++) r[i] = was[i];
}

function carryHead(c: Character, old: Plan, was: Float64Array, renamed: Renamed): void {
  const { plan: next, r, mover } = c;
  const shape = (at: number) => Math.max(0, mapIndex(old, next, 'shape', was[at], renamed));
  r[WANT_SHAPE] = shape(WANT_SHAPE);
  r[SHAPE] = shape(SHAPE);
  r[GROUND_SURFACES] = mapSurfaces(old, next, was[GROUND_SURFACES], renamed);
  r[PASSES] = mapSurfaces(old, next, was[PASSES], renamed);
  resize(c, old, was[SHAPE], mover);
}

/** A body of another size is put where it has room. */
export function resize(c: Character, old: Plan, shape: number, mover = c.mover): void {
  const { plan: next, r } = c;
  const before = old.shapes[shape];
  const now = next.shapes[r[SHAPE]];
  if (mover === null || (before.hx === now.hx && before.hy === now.hy && before.hz === now.hz)) return;
  settleBody(next, r, mover);
}

function carryDevices(c: Character, old: Plan, was: Float64Array, renamed: Renamed): void {
  const { plan: next, r } = c;
  for (let i = 0; i < next.names.button.length; i++) {
    const used = next.layout.buttons + i * BUTTON + B_USED;
    r[used] = r[used] > 0 ? mapIndex(old, next, 'ability', r[used] - 1, renamed) + 1 : 0;
  }
  old.names.button.forEach((_, i) => {
    const now = mapIndex(old, next, 'button', i, renamed);
    if (now >= 0) for (let k = 0; k < KEY; k++) r[keyAt(next, now) + k] = was[keyAt(old, i) + k];
  });
  old.names.stick.forEach((_, i) => {
    const now = mapIndex(old, next, 'stick', i, renamed);
    if (now >= 0) for (let k = 0; k < 2; k++) r[pushedAt(next, now) + k] = was[pushedAt(old, i) + k];
  });
}

function carryChoices(c: Character, old: Plan, was: Float64Array, renamed: Renamed): void {
  const { plan: next, r } = c;
  old.choiceOf.forEach(({ at, option }, button) => {
    if (at < 0 || was[at] !== option) return;
    const now = next.choiceOf[mapIndex(old, next, 'button', button, renamed)];
    if (now && now.at >= 0) r[now.at] = now.option;
  });
  next.layers.forEach((layer, i) => {
    const then = old.layers.indexOf(layer);
    if (then < 0) return;
    const from = old.layout.layers + then * LAYER;
    const to = next.layout.layers + i * LAYER;
    const shown = was[from + CLIP];
    const clip = shown < 0 ? shown : next.clips.indexOf(old.clips[shown]);
    if (clip < 0 && shown >= 0) return;
    for (let k = 0; k < LAYER; k++) r[to + k] = was[from + k];
    r[to + CLIP] = clip;
  });
}

function carryLanes(c: Character, old: Plan, was: Float64Array, kept: Kept, renamed: Renamed): void {
  const { plan: next, r } = c;
  r[RUNNING] = 0;
  for (let lane = next.lanesAt; lane < next.lanesEnd; lane += LANE) {
    r[lane + L_ABILITY] = r[lane + L_PHASE] = -1;
    r[lane + L_DUE] = NEVER;
  }
  old.names.lane.forEach((name, i) => {
    const from = old.lanesAt + i * LANE;
    const running = old.abilities[was[from + L_ABILITY]];
    const lane = indexOfWas(next, 'lane', name, renamed);
    if (lane < 0) return;
    const to = next.lanesAt + lane * LANE;
    const a =
      running && kept.runs.has(from) ? next.abilities[mapIndex(old, next, 'ability', running.index, renamed)] : null;
    const { abilityOwn, phaseOwn } = next.layout.laneOwn[lane];
    const before = old.layout.laneOwn[i];
    const own = (at: number, first: number, scope: ScopePlan | undefined) => {
      for (let k = 0; k < (scope?.owns ?? 0); k++) r[at + k] = was[first + k];
    };
    clearOwn(next, r, lane);
    const started = old.triggers[was[from + L_TRIGGER]];
    const trigger = started && triggerNow(old, next, started, renamed)?.index;
    r[to + L_TRIGGER] = trigger ?? 0;
    for (const [pool, { name: of }] of next.pools.entries()) {
      const paid = old.pools.findIndex((one) => nameNow(one.name, renamed) === of);
      if (paid >= 0)
        r[next.layout.paid + lane * next.pools.length + pool] = was[old.layout.paid + i * old.pools.length + paid];
    }
    if (!a) return;
    const phase = was[from + L_PHASE] < 0 ? -1 : phaseNow(old.phases[was[from + L_PHASE]], a, next);
    for (let k = 0; k < LANE; k++) r[to + k] = was[from + k];
    r[to + L_ABILITY] = a.index;
    r[to + L_PHASE] = phase;
    r[to + L_TRIGGER] = trigger ?? a.codeTrigger;
    r[RUNNING] += 1;
    own(abilityOwn, before.abilityOwn, a.scope);
    own(phaseOwn, before.phaseOwn, next.phases[phase]?.scope);
    if (phase >= 0) retime(r, to, old.phases[was[from + L_PHASE]], next.phases[phase]);
  });
}

/** Numbers of a lane that effects own are 0 where nothing runs. */
function clearOwn(next: Plan, r: Float64Array, lane: number): void {
  const name = next.names.lane[lane];
  for (const { label, at, count } of next.layout.ranges)
    if (label === `effects of an ability in ${name}` || label === `effects of a phase in ${name}`)
      r.fill(0, at, at + count);
}

/** The trigger that wants the same of the same thing. */
function triggerNow(old: Plan, next: Plan, trigger: TriggerPlan, renamed: Renamed): TriggerPlan | undefined {
  const key = keyOf(old, trigger, renamed);
  const nth = old.triggers.slice(0, trigger.index).filter((one) => keyOf(old, one, renamed) === key).length;
  return next.triggers.filter((one) => keyOf(next, one, {}) === key)[nth];
}

function keyOf(
  { names }: Plan,
  { ability, kind, byCode, input, event, after, on }: TriggerPlan,
  renamed: Renamed,
): string {
  const named = (name: string | null | undefined) => (name == null ? '' : nameNow(name, renamed));
  return [
    named(names.ability[ability]),
    kind,
    byCode,
    named(input),
    named(names.event[event]),
    named(names.ability[after]),
    on,
  ].join();
}

function carryTriggers(c: Character, old: Plan, was: Float64Array, renamed: Renamed): void {
  const { plan: next, r } = c;
  r[PENDING] = 0;
  for (const trigger of old.triggers) {
    const now = triggerNow(old, next, trigger, renamed);
    if (!now) continue;
    for (let k = 0; k < TRIGGER; k++) r[now.at + k] = was[trigger.at + k];
    r[now.at + R_TOLD] = 0;
    const owned = (plan: Plan, { own }: TriggerPlan) => plan.layout.ranges.find(({ at }) => at === own);
    const [from, to] = [owned(old, trigger), owned(next, now)];
    if (from && to && from.count === to.count) for (let k = 0; k < to.count; k++) r[to.at + k] = was[from.at + k];
  }
  for (const { at } of next.triggers) if (r[at + R_COUNT] > 0) r[PENDING] += 1;
}

function carryMessages(c: Character, old: Plan, was: Float64Array, renamed: Renamed): void {
  const { plan: next, r } = c;
  const from = old.layout.messages;
  const to = next.layout.messages;
  if (from < 0 || to < 0) return;
  for (let i = 0; i < was[from + M_COUNT]; i++) {
    const at = from + M_FIRST + i * old.layout.message;
    const event = was[at];
    const now = mapIndex(old, next, 'event', event, renamed);
    if (now < 0 || r[to + M_COUNT] >= next.layout.mostMessages) continue;
    const place = to + M_FIRST + r[to + M_COUNT] * next.layout.message;
    r[place] = now;
    if (sameValues(old, event, next, now))
      for (let k = 0; k < next.messages[now].size; k++) r[place + 1 + k] = was[at + 1 + k];
    r[to + M_COUNT] += 1;
    if (i < was[from + M_HANDLED]) r[to + M_HANDLED] += 1;
  }
}

/** Counts that stand beside what they count. */
function countLacking(c: Character, old: Plan, carried: ReadonlySet<string>, renamed: Renamed): void {
  const { plan: next, r } = c;
  r[LACKING] = 0;
  for (const { cooldownAt } of next.abilities) if (cooldownAt >= 0) r[cooldownAt + C_WAITING] = 0;
  for (const a of next.abilities) {
    if (a.waitsAt >= 0 && r[a.waitsAt] === 1) r[a.cooldownAt + C_WAITING] += 1;
    if (a.chargesAt < 0) continue;
    if (!carried.has(`charges of ${a.name}`)) {
      fillCharges(c, a);
      continue;
    }
    if (r[a.chargesAt + N_LEFT] < r[a.chargesAt + N_MAX]) r[LACKING] += 1;
    const before = old.abilities.find(({ name }) => nameNow(name, renamed) === a.name);
    recharge(c, a, before, old);
  }
}

/** The stance and the loadout: those of before, or those that hold now. */
function openResting(c: Character, old: Plan, was: Float64Array, kept: Kept, renamed: Renamed): void {
  const { plan: next, r } = c;
  const base = was[BASE_LOADOUT] < 0 ? -1 : mapIndex(old, next, 'loadout', was[BASE_LOADOUT], renamed);
  r[BASE_LOADOUT] = base < 0 && next.loadouts.length > 0 ? 0 : base;
  const worn = was[LOADOUT] < 0 ? -1 : mapIndex(old, next, 'loadout', was[LOADOUT], renamed);
  r[LOADOUT] = worn < 0 ? r[BASE_LOADOUT] : worn;
  c.changeRoster();
  c.updateRoster();
  const clear = (label: string) => {
    const range = next.layout.ranges.find((one) => one.label === label);
    if (range) r.fill(0, range.at, range.at + range.count);
  };
  // Whoever wears none goes on wearing none.
  if (!kept.loadout && (was[LOADOUT] >= 0 || r[LOADOUT] >= 0)) {
    clear('effects of the loadout');
    r[LOADOUT_SINCE] = r[T];
    if (r[LOADOUT] >= 0) runActions(c, next.loadouts[r[LOADOUT]].scope.begins);
  }
  const stance = mapIndex(old, next, 'stance', was[STANCE], renamed);
  if (kept.stance) r[STANCE] = stance;
  else {
    clear('effects of the stance');
    r[STANCE] = stance >= 0 ? stance : next.pickStance(c);
    r[STANCE_SINCE] = stance >= 0 ? was[STANCE_SINCE] : r[T];
    runActions(c, next.stances[r[STANCE]].scope.begins);
  }
}
