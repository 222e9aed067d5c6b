import type { AbilityPlan, ScopePlan } from '../compile/plan.js';
import {
  A_FIT,
  ACCEL,
  BASE_LOADOUT,
  BRAKE,
  CLIP,
  CLIP_LASTS,
  CLIP_SINCE,
  DIRTY,
  FACE_LOCK,
  FALL,
  GRAVITY,
  L_ABILITY,
  L_PHASE,
  L_PHASE_SINCE,
  L_SINCE,
  LANE,
  LOADOUT,
  NEVER,
  SPEED,
  STALE,
  STANCE,
  STANCE_SINCE,
  STEER,
  T,
  UNAIMED,
  VERSION,
  WANT_SHAPE,
} from '../moveset/slots.js';
import type { Character } from './character.js';
import { EVENT } from './events.js';
import { endUnavailable } from './lanes.js';

/** The first stance whose condition holds. */
export function deriveStance(c: Character): void {
  const { r, plan } = c;
  r[STALE] = 0;
  const next = plan.pickStance(c);
  if (next === r[STANCE]) return;
  for (let i = 0; i < plan.graced.length; i++) noteLeft(r, plan.graced[i], r[STANCE], next);
  c.events.add(EVENT.stance, next, r[STANCE] | 0);
  r[STANCE] = next;
  r[VERSION] += 1;
  r[STANCE_SINCE] = r[T];
  r[DIRTY] = 1;
}

/**
 * The last tick in which a stance allowed an ability, for its grace; unless something started in its lane in that
 * very tick: what has just hopped has not slipped off an edge.
 */
function noteLeft(r: Float64Array, a: AbilityPlan, before: number, next: number): void {
  if (a.when.length > 0 || a.from === null || a.from[before] === 0 || a.from[next] === 1) return;
  if (r[a.laneAt + L_SINCE] !== r[T] - 1) r[a.at + A_FIT] = r[T] - 1;
}

/** Lays the effects of all that is active over the base values: the stance, then lane by lane. */
export function foldEffects(c: Character): void {
  const { r, plan } = c;
  const { body } = plan;
  if (plan.loadouts.length > 0) wearLoadout(c);
  r[GRAVITY] = body.gravity;
  r[FALL] = body.fall;
  r[STEER] = 1;
  r[SPEED] = body.speed;
  r[ACCEL] = body.accel;
  r[BRAKE] = body.brake;
  for (let slot = GRAVITY + 1; slot <= BRAKE + 1; slot += 2) r[slot] = 1;
  r[WANT_SHAPE] = 0;
  r[FACE_LOCK] = 0;
  for (let i = 0; i < plan.names.tag.length; i++) r[plan.layout.tags + i] = 0;

  let live = foldScope(c, plan.stances[r[STANCE]].scope);
  if (r[LOADOUT] >= 0 && foldScope(c, plan.loadouts[r[LOADOUT]].scope)) live = true;
  const { lanes } = plan.layout;
  for (let i = 0; i < plan.names.lane.length; i++) {
    const lane = lanes + i * LANE;
    if (r[lane + L_ABILITY] < 0) continue;
    if (foldScope(c, plan.abilities[r[lane + L_ABILITY]].scope)) live = true;
    const phase = r[lane + L_PHASE];
    if (phase >= 0 && foldScope(c, plan.phases[phase].scope)) live = true;
  }
  for (let slot = GRAVITY; slot <= BRAKE; slot += 2) r[slot] *= r[slot + 1];
  r[DIRTY] = live ? 1 : 0;
  r[UNAIMED] = 1;
  if (plan.clips.length > 0) foldClip(c);
}

/** The loadout that the host set, unless an ability has another one worn. What is not with it ends. */
function wearLoadout(c: Character): void {
  const { r, plan } = c;
  do {
    let worn = r[BASE_LOADOUT];
    for (let i = 0; i < plan.names.lane.length; i++) {
      const ability = r[plan.layout.lanes + i * LANE + L_ABILITY];
      if (ability >= 0 && plan.abilities[ability].loadout >= 0) worn = plan.abilities[ability].loadout;
    }
    if (worn === r[LOADOUT]) return;
    r[LOADOUT] = worn;
    r[VERSION] += 1;
    c.events.add(EVENT.loadout, worn);
  } while (endUnavailable(c));
}

/** The clip of what lies uppermost: the stance's, the loadout's, then lane by lane. */
function foldClip(c: Character): void {
  const { r, plan } = c;
  let clip = plan.stances[r[STANCE]].scope.clip;
  let since = r[STANCE_SINCE];
  let lasts = NEVER;
  if (r[LOADOUT] >= 0 && plan.loadouts[r[LOADOUT]].scope.clip >= 0) clip = plan.loadouts[r[LOADOUT]].scope.clip;
  for (let i = 0; i < plan.names.lane.length; i++) {
    const lane = plan.layout.lanes + i * LANE;
    if (r[lane + L_ABILITY] < 0) continue;
    const a = plan.abilities[r[lane + L_ABILITY]];
    if (a.scope.clip >= 0) {
      clip = a.scope.clip;
      since = r[lane + L_SINCE];
      lasts = a.lasts;
    }
    const phase = r[lane + L_PHASE];
    if (phase >= 0 && plan.phases[phase].scope.clip >= 0) {
      clip = plan.phases[phase].scope.clip;
      since = r[lane + L_PHASE_SINCE];
      lasts = plan.phases[phase].lasts;
    }
  }
  if (clip === r[CLIP] && since === r[CLIP_SINCE]) return;
  if (clip !== r[CLIP]) c.events.add(EVENT.clip, clip);
  // The same clip of another part goes on: a stride that is interrupted by nothing does not begin anew.
  if (clip !== r[CLIP] || lasts !== NEVER) r[CLIP_SINCE] = since;
  r[CLIP] = clip;
  r[CLIP_LASTS] = lasts;
}

function foldScope(c: Character, { folds, live }: ScopePlan): boolean {
  for (let i = 0; i < folds.length; i++) folds[i](c);
  return live;
}
