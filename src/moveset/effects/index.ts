import { emit, gain } from './actions.js';
import type { Effect } from './effect.js';
import { body, face, tags } from './look.js';
import { move } from './move.js';
import { fall, gravity, steer } from './physics.js';
import { walk } from './walk.js';

/** Every effect; a new one is a file beside these and a line here. Facing is set before moves are aimed. */
export const EFFECTS: readonly Effect[] = [face, move, gravity, fall, steer, walk, body, tags, gain, emit];
