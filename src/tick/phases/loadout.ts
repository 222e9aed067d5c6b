import { EVENT } from '../../record/event-codes.js';
import { BASE_LOADOUT, L_ABILITY, LANE, LOADOUT, LOADOUT_SINCE, T } from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { refuseUnavailable } from '../judge/unavailable.js';
import { runActions } from '../scopes.js';
import { endUnavailable } from './phases.js';

/** The loadout that the host set, unless an ability brings another one. What is not in it ends. */
export function useLoadout(c: Actor): void {
  const { r, plan } = c;
  do {
    let loadout = r[BASE_LOADOUT];
    for (let i = 0; i < plan.names.lane.length; i++) {
      const ability = r[plan.layout.lanes + i * LANE + L_ABILITY];
      if (ability >= 0 && plan.abilities[ability].loadout >= 0) loadout = plan.abilities[ability].loadout;
    }
    if (loadout === r[LOADOUT]) return;
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
