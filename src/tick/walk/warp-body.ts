import type { WarpCode } from '../../compile/plan.js';
import { FOUND, findWarp, turnMomentum } from '../../motion/warp.js';
import { EVENT } from '../../record/event-codes.js';
import type { Warping } from '../../record/frame.js';
import type { Actor } from '../actor.js';
import { putBody } from './put-body.js';

const OUT = new Float64Array(3);

/** Does a warp. Says whether it led anywhere. */
function warpBody(c: Actor, warp: Warping): boolean {
  if (findWarp(c, warp, OUT) !== FOUND) return false;
  turnMomentum(c, warp, OUT);
  const row = c.events.add(EVENT.warped);
  c.events.data.set(OUT, row + 1);
  putBody(c, OUT);
  return true;
}

export const warpCode = { find: findWarp, run: warpBody } as unknown as WarpCode;
