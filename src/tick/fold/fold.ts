import { C_ARMOUR, C_BOUNCE, C_GUARD, C_IMMUNE, C_MEETS, C_PARRIES } from '../../record/combat.js';
import { EVENT } from '../../record/event-codes.js';
import { R_MARK, R_STEERS } from '../../record/ride.js';
import {
  ACCEL,
  BRAKE,
  CLIP,
  CLIP_LASTS,
  CLIP_SINCE,
  FACE_LOCK,
  FALL,
  FORCED,
  FORCED_VELOCITY,
  GRAVITY,
  L_ABILITY,
  L_DUE,
  L_PHASE,
  L_PHASE_SINCE,
  L_SINCE,
  LANE,
  LAYER,
  LOADOUT,
  NEVER,
  PASSES,
  RUNNING,
  SPEED,
  STANCE,
  STANCE_SINCE,
  STEER,
  WANT_SHAPE,
} from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { runActions } from '../scopes.js';

/** The values over which effects are laid. */
export function foldBase({ r, plan }: Actor): void {
  const { body } = plan;
  r[GRAVITY] = body.gravity;
  r[FALL] = body.fall;
  r[STEER] = 1;
  r[SPEED] = body.speed;
  r[ACCEL] = body.accel;
  r[BRAKE] = body.brake;
  r[WANT_SHAPE] = 0;
  r[FACE_LOCK] = 0;
  r[PASSES] = 0;
  if (r[FORCED] !== 0) r.fill(0, FORCED, FORCED_VELOCITY + 3);
  const { combatAt, rideAt } = plan;
  if (rideAt >= 0) r[rideAt + R_MARK] = r[rideAt + R_STEERS] = 0;
  if (combatAt < 0) return;
  r[combatAt + C_IMMUNE] = 0;
  r[combatAt + C_ARMOUR] = 0;
  r[combatAt + C_GUARD] = 0;
  r[combatAt + C_PARRIES] = 0;
  r[combatAt + C_MEETS] = plan.meets;
  r[combatAt + C_BOUNCE] = -1;
}

/** Lays the effects of all that is active over the base values: the stance, the loadout, then lane by lane. */
export function foldEffects(c: Actor): void {
  const { r, plan } = c;
  foldBase(c);
  const stance = plan.stances[r[STANCE]].scope;
  runActions(c, stance.folds);
  if (r[LOADOUT] >= 0) runActions(c, plan.loadouts[r[LOADOUT]].scope.folds);
  if (r[RUNNING] > 0)
    for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
      if (r[lane + L_ABILITY] < 0) continue;
      runActions(c, plan.abilities[r[lane + L_ABILITY]].scope.folds);
      if (r[lane + L_PHASE] >= 0) runActions(c, plan.phases[r[lane + L_PHASE]].scope.folds);
    }

  // Factors multiply whatever number came last, so their order does not matter.
  if (!plan.hasFactors) return;
  runActions(c, stance.scales);
  if (r[LOADOUT] >= 0) runActions(c, plan.loadouts[r[LOADOUT]].scope.scales);
  if (r[RUNNING] > 0)
    for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
      if (r[lane + L_ABILITY] < 0) continue;
      runActions(c, plan.abilities[r[lane + L_ABILITY]].scope.scales);
      if (r[lane + L_PHASE] >= 0) runActions(c, plan.phases[r[lane + L_PHASE]].scope.scales);
    }
}

/** On each layer, the clip of what lies uppermost: the stance's, the loadout's, then lane by lane. */
export function foldClips(c: Actor): void {
  const { layers, layout } = c.plan;
  for (let i = 0; i < layers.length; i++) foldClip(c, i, layout.layers + i * LAYER);
}

function foldClip(c: Actor, layer: number, at: number): void {
  const { r, plan } = c;
  let clip = plan.stances[r[STANCE]].scope.clips[layer];
  let since = r[STANCE_SINCE];
  let lasts = NEVER;
  if (r[LOADOUT] >= 0 && plan.loadouts[r[LOADOUT]].scope.clips[layer] >= 0)
    clip = plan.loadouts[r[LOADOUT]].scope.clips[layer];
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    if (r[lane + L_ABILITY] < 0) continue;
    const a = plan.abilities[r[lane + L_ABILITY]];
    if (a.scope.clips[layer] >= 0) {
      clip = a.scope.clips[layer];
      since = r[lane + L_SINCE];
      lasts = a.lasts;
    }
    const phase = r[lane + L_PHASE];
    if (phase >= 0 && plan.phases[phase].scope.clips[layer] >= 0) {
      clip = plan.phases[phase].scope.clips[layer];
      since = r[lane + L_PHASE_SINCE];
      lasts = r[lane + L_DUE] - since;
    }
  }
  if (clip === r[at + CLIP] && since === r[at + CLIP_SINCE]) return;
  if (clip !== r[at + CLIP]) c.events.add(EVENT.clip, clip, layer);
  // The same clip of another part goes on: a stride that nothing interrupts does not begin again.
  if (clip !== r[at + CLIP] || lasts !== NEVER) r[at + CLIP_SINCE] = since;
  r[at + CLIP] = clip;
  r[at + CLIP_LASTS] = lasts;
}
