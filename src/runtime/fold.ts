import type { ScopePlan } from '../compile/plan.js';
import {
  ACCEL,
  BRAKE,
  DIRTY,
  FACE_LOCK,
  FALL,
  GRAVITY,
  L_ABILITY,
  L_PHASE,
  LANE,
  SPEED,
  STANCE,
  STANCE_SINCE,
  STEER,
  T,
  WANT_SHAPE,
} from '../moveset/slots.js';
import type { Character } from './character.js';
import { EVENT } from './events.js';

/** The first stance whose condition holds. */
export function deriveStance(c: Character): void {
  const { r, plan } = c;
  let next = 0;
  for (; next < plan.stances.length - 1; next++) {
    const { when } = plan.stances[next];
    if (when === null || when(c)) break;
  }
  if (next === r[STANCE]) return;
  c.events.add(EVENT.stance, next, r[STANCE]);
  r[STANCE] = next;
  r[STANCE_SINCE] = r[T];
  r[DIRTY] = 1;
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
  r[DIRTY] = live ? 1 : 0;
}

function foldScope(c: Character, { folds, live }: ScopePlan): boolean {
  for (let i = 0; i < folds.length; i++) folds[i](c);
  return live;
}
