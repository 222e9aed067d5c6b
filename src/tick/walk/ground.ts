import { EVENT } from '../../record/event-codes.js';
import { GROUNDED } from '../../record/slots.js';
import type { Actor } from '../actor.js';

/** Tells that the body landed or left the ground, if it is not as it was. */
export function tellGround({ r, events }: Actor, before: number): void {
  if (r[GROUNDED] !== before) events.add(r[GROUNDED] === 1 ? EVENT.landed : EVENT.airborne);
}
