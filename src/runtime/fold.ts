import type { AbilityPlan, ScopePlan } from '../compile/plan.js';
import {
  A_FIT,
  ACCEL,
  BRAKE,
  DIRTY,
  FACE_LOCK,
  FALL,
  GRAVITY,
  L_ABILITY,
  L_PHASE,
  L_SINCE,
  LANE,
  SPEED,
  STALE,
  STANCE,
  STANCE_SINCE,
  STEER,
  T,
  VERSION,
  WANT_SHAPE,
} from '../moveset/slots.js';
import type { Character } from './character.js';
import { EVENT } from './events.js';

/** The first stance whose condition holds. */
export function deriveStance(c: Character): void {
  const { r, plan } = c;
  r[STALE] = 0;
  const next = plan.pickStance(c);
  if (next === r[STANCE]) return;
  for (let i = 0; i < plan.graced.length; i++) noteLeft(r, plan.graced[i], r[STANCE], next);
  c.events.add(EVENT.stance, next, r[STANCE]);
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
}

function foldScope(c: Character, { folds, live }: ScopePlan): boolean {
  for (let i = 0; i < folds.length; i++) folds[i](c);
  return live;
}
