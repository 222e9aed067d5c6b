import { EVENT } from '../../record/event-codes.js';
import { A_KNOWN, PENDING, R_COUNT } from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { dropRequests } from '../presses/presses.js';
import { isAvailable } from '../roster.js';
import { AGAINST } from './against.js';
import { writeReasons } from './reasons.js';

/** Requests that wait for what has been forgotten, or is in another loadout, are refused and wait no longer. */
export function refuseUnavailable(c: Actor): void {
  const { r, plan, events, reasons } = c;
  if (r[PENDING] === 0) return;
  for (const trigger of plan.triggers) {
    const a = plan.abilities[trigger.ability];
    if (r[trigger.at + R_COUNT] === 0 || isAvailable(r, a)) continue;
    dropRequests(r, trigger);
    if (!c.tellsRefusals) continue;
    const first = reasons.count;
    writeReasons(c, a, r[a.at + A_KNOWN] === 0 ? AGAINST.locked : AGAINST.loadout, reasons);
    events.add(EVENT.refused, trigger.index, first, reasons.count);
  }
}
