import { emit, gain } from './actions.js';
import type { Effect } from './effect.js';
import { armour, guard, immune, meets } from './guard.js';
import { body, face, tags } from './look.js';
import { mark } from './mark.js';
import { bounce, forget, learn, leave, summon } from './meeting.js';
import { move } from './move.js';
import { passes } from './passes.js';
import { fall, gravity, steer } from './physics.js';
import { strike, touch } from './strike.js';
import { walk } from './walk.js';
import { warp } from './warp.js';

/** Every effect; a new one is a file beside these and a line here. Facing is set before marks and warps, and all of them before moves are aimed. */
export const EFFECTS: readonly Effect[] = [
  face,
  mark,
  warp,
  move,
  gravity,
  fall,
  steer,
  walk,
  body,
  passes,
  tags,
  strike,
  guard,
  immune,
  armour,
  meets,
  bounce,
  touch,
  learn,
  forget,
  summon,
  leave,
  gain,
  emit,
];
