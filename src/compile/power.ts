import { L_ABILITY, L_PHASE, L_PHASE_SINCE, T } from '../record/slots.js';
import type { AbilityPlan, PhasePlan } from './plan.js';

/**
 * Writes the charge of power that an ability has now to `r[out]`, 0 to 1. It is a function of the time in the phase that
 * builds it, full at exactly the declared tick; behind that phase it is what was kept as the phase closed.
 */
export function updatePower(r: Float64Array, a: AbilityPlan, phases: readonly PhasePlan[], out: number): void {
  r[out] = r[a.powerAt];
  if (r[a.laneAt + L_ABILITY] !== a.index || r[a.laneAt + L_PHASE] < 0) return;
  const { charge } = phases[r[a.laneAt + L_PHASE]];
  if (charge === null) return;
  const over = charge.overAt < 0 ? charge.over : r[charge.overAt];
  const part = Math.min(1, (r[T] - r[a.laneAt + L_PHASE_SINCE]) / over);
  switch (charge.curve) {
    case 'even':
      r[out] = part;
      break;
    case 'late':
      r[out] = part * part;
      break;
    case 'early':
      r[out] = part * (2 - part);
      break;
    case 'smooth':
      r[out] = part * part * (3 - 2 * part);
      break;
  }
}
