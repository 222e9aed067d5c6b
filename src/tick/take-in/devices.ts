import type { Plan } from '../../compile/plan.js';

/** Numbers behind the record for each button: the order in which its key went down (0 for up), and whether it is down. */
export const KEY = 2;

/** Place behind the record of what the devices hold of a button, and of where they push a stick (x, y). */
export function keyAt(plan: Plan, button: number): number {
  return plan.devicesAt + button * KEY;
}

export function pushedAt(plan: Plan, stick: number): number {
  return plan.devicesAt + plan.names.button.length * KEY + stick * 2;
}

/** What the last stick that was read gives. */
export const GIVEN = new Float64Array(2);

/** Reads what a stick gives, no longer than 1: its keys if any is held, else where it is pushed. Says whether a key is held. */
export function readStick(r: Float64Array, plan: Plan, stick: number): boolean {
  const { sides, opposite } = plan.sticks[stick];
  const keys = keyAt(plan, sides);
  const left = r[keys];
  const right = r[keys + KEY];
  const up = r[keys + 2 * KEY];
  const down = r[keys + 3 * KEY];
  const byKeys = left + right + up + down > 0;
  const at = pushedAt(plan, stick);
  let x = byKeys ? sideOf(left, right, opposite) : r[at];
  let y = byKeys ? sideOf(down, up, opposite) : r[at + 1];
  const square = x * x + y * y;
  if (square > 1) {
    const length = Math.sqrt(square);
    x /= length;
    y /= length;
  }
  // -0 becomes 0, so that equal runs have equal records.
  GIVEN[0] = x + 0;
  GIVEN[1] = y + 0;
  return byKeys;
}

function sideOf(low: number, high: number, opposite: 'last' | 'neutral'): number {
  if (low > 0 && high > 0 && opposite === 'neutral') return 0;
  return high > low ? 1 : low > 0 ? -1 : 0;
}
