import type { NameTypes } from '../name-types.js';
import { number, optional } from '../shape.js';
import { type ProbePlace, place, probeKind } from './probe.js';

/** A probe into all directions. */
export interface NearestProbe<N extends NameTypes> extends ProbePlace<N> {
  /** What is nearest to where it begins, in whatever direction, up to this far: for climbing round corners and curves. */
  nearest: number;
}

export const nearestProbe = probeKind('nearest', 'nearest', { nearest: optional(number(0.001, 1000)), ...place });
