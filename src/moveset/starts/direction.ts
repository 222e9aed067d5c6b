import type { Frame } from '../../record/frame.js';
import { CAMERA_X, CAMERA_Z, FX, FZ } from '../../record/slots.js';

/** Where a stick is pushed, relative to facing. */
export const DIRECTIONS = ['forward', 'back', 'up', 'down', 'neutral'] as const;
export type Direction = (typeof DIRECTIONS)[number];

/** Below this a stick counts as at rest. */
const REST = 0.3;

/** Where a stick is pushed now. Up and down go before forward and back, so that `up` can be meant while running. */
export function directionOf({ r }: Frame, stick: number, view: 'side' | 'open'): Direction {
  const x = r[stick];
  const y = r[stick + 1];
  if (x * x + y * y < REST * REST) return 'neutral';
  if (view === 'side') {
    if (Math.abs(y) >= Math.abs(x)) return y > 0 ? 'up' : 'down';
    return x * r[FX] > 0 ? 'forward' : 'back';
  }
  const ahead = (x * -r[CAMERA_Z] + y * r[CAMERA_X]) * r[FX] + (x * r[CAMERA_X] + y * r[CAMERA_Z]) * r[FZ];
  return ahead >= 0 ? 'forward' : 'back';
}
