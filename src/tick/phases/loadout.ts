import { fitsHere, isSmaller } from '../../motion/move-body.js';
import { EVENT } from '../../record/event-codes.js';
import {
  BASE_LOADOUT,
  HEADROOM,
  L_ABILITY,
  LANE,
  LOADOUT,
  LOADOUT_SINCE,
  PASSES,
  SHAPE,
  T,
} from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { refuseUnavailable } from '../judge/unavailable.js';
import { runActions } from '../scopes.js';
import { endUnavailable } from './phases.js';

/**
 * The loadout that the host set, unless an ability brings another one. What is not in it ends. Where one of them has a body of its own, the change
 * waits until there is room for the body that comes, so that nobody has the abilities of one form in the shape of another.
 */
export function useLoadout(c: Actor): void {
  const { r, plan } = c;
  do {
    let loadout = r[BASE_LOADOUT];
    for (let i = 0; i < plan.names.lane.length; i++) {
      const ability = r[plan.layout.lanes + i * LANE + L_ABILITY];
      if (ability >= 0 && plan.abilities[ability].loadout >= 0) loadout = plan.abilities[ability].loadout;
    }
    if (loadout === r[LOADOUT] || !hasRoom(c, loadout)) return;
    if (r[LOADOUT] >= 0) runActions(c, plan.loadouts[r[LOADOUT]].scope.ends);
    r[LOADOUT] = loadout;
    r[LOADOUT_SINCE] = r[T];
    c.changeRoster();
    c.updateRoster();
    c.events.add(EVENT.loadout, loadout);
    refuseUnavailable(c);
    if (loadout >= 0) runActions(c, plan.loadouts[loadout].scope.begins);
  } while (endUnavailable(c));
}

function hasRoom({ r, plan, mover }: Actor, loadout: number): boolean {
  const { loadouts, shapes } = plan;
  const wanted = loadout < 0 ? -1 : loadouts[loadout].shape;
  if (wanted < 0 && (r[LOADOUT] < 0 || loadouts[r[LOADOUT]].shape < 0)) return true;
  const shape = shapes[Math.max(0, wanted)];
  if (isSmaller(shape, shapes[r[SHAPE]])) return true;
  // An engine knows of the first shape only.
  if (mover === null) return wanted > 0 || r[HEADROOM] === 1;
  mover.cast.passes = plan.surfaces(r[PASSES] | 0);
  return fitsHere(shape, r, mover);
}
