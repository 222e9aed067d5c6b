import { GROUNDED } from '../../record/slots.js';
import { EVENT } from '../../report/events.js';
import type { Actor } from '../actor.js';

/** Tells that the body landed or left the ground, if it is not as it was. */
export function tellGround({ r, events }: Actor, before: number): void {
  if (r[GROUNDED] !== before) events.add(r[GROUNDED] === 1 ? EVENT.landed : EVENT.left);
}
