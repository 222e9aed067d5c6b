import type { NameTypes } from '../name-types.js';
import type { Field } from '../shape.js';
import { type EmitField, emitEffect, type GainField, gainEffect } from './actions.js';
import type { Effect } from './effect.js';
import {
  type ArmourField,
  armourEffect,
  type GuardField,
  guardEffect,
  type ImmuneField,
  immuneEffect,
  type MeetsField,
  meetsEffect,
} from './guard.js';
import { type BodyField, bodyEffect, type FaceField, faceEffect, type TagsField, tagsEffect } from './look.js';
import { type MarkField, markEffect } from './mark.js';
import {
  type BounceField,
  bounceEffect,
  type ForgetField,
  forgetEffect,
  type LearnField,
  type LeaveField,
  learnEffect,
  leaveEffect,
  type SummonField,
  summonEffect,
} from './meeting.js';
import { type MoveField, moveEffect } from './move.js';
import { type PassesField, passesEffect } from './passes.js';
import {
  type FallField,
  fallEffect,
  type GravityField,
  gravityEffect,
  type SteerField,
  steerEffect,
} from './physics.js';
import { type RideField, rideEffect } from './ride.js';
import { type StrikeField, strikeEffect, type TouchField, touchEffect } from './strike.js';
import { type WalkField, walkEffect } from './walk.js';
import { type WarpField, warpEffect } from './warp.js';

/*
 * Every effect: a new one is a file beside these, its fields and its effect in the lists here, and an export for modules.
 */

/** Effects of a stance, an ability or a phase: they last exactly as long as it does. */
export interface Effects<N extends NameTypes>
  extends GravityField<N>,
    FallField<N>,
    SteerField<N>,
    WalkField<N>,
    BodyField<N>,
    FaceField<N>,
    PassesField<N>,
    TagsField<N>,
    ImmuneField<N>,
    ArmourField<N>,
    MeetsField,
    BounceField,
    RideField<N> {}

/** Effects that begin with an ability or phase. */
export interface AbilityEffects<N extends NameTypes>
  extends Effects<N>,
    WarpField<N>,
    StrikeField<N>,
    TouchField<N>,
    SummonField<N>,
    LeaveField,
    LearnField<N>,
    ForgetField<N>,
    GuardField<N>,
    MoveField<N>,
    GainField<N>,
    EmitField<N>,
    MarkField<N> {}

/** Facing is set before marks and warps, and all of them before moves are aimed. The compiler misses none. */
const BY_KEY = {
  face: faceEffect,
  mark: markEffect,
  warp: warpEffect,
  move: moveEffect,
  gravity: gravityEffect,
  fall: fallEffect,
  steer: steerEffect,
  walk: walkEffect,
  body: bodyEffect,
  passes: passesEffect,
  tags: tagsEffect,
  strike: strikeEffect,
  guard: guardEffect,
  immune: immuneEffect,
  armour: armourEffect,
  meets: meetsEffect,
  bounce: bounceEffect,
  ride: rideEffect,
  touch: touchEffect,
  learn: learnEffect,
  forget: forgetEffect,
  summon: summonEffect,
  leave: leaveEffect,
  gain: gainEffect,
  emit: emitEffect,
} satisfies Readonly<Record<keyof AbilityEffects<NameTypes>, Effect>>;

export const EFFECTS: readonly Effect[] = Object.values(BY_KEY);

/** @internal The fields of all effects, by their keys. */
export type EffectFields = { [K in keyof typeof BY_KEY]: Field<(typeof BY_KEY)[K]['shape']> };

export * from './actions.js';
export * from './guard.js';
export * from './look.js';
export * from './mark.js';
export * from './meeting.js';
export * from './move.js';
export * from './passes.js';
export * from './physics.js';
export * from './ride.js';
export * from './strike.js';
export * from './walk.js';
export * from './warp.js';
