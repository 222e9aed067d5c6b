import type { NameTypes } from '../name-types.js';
import { optional } from '../shape.js';
import { type BoxOrBody, boxOrBody, type ProbePlace, place, probeKind } from './probe.js';

/** A probe of what is there. */
export interface OverlapProbe<N extends NameTypes> extends ProbePlace<N> {
  /** Whether a box of this size, or the `body`, would be inside something where it begins. */
  overlap: BoxOrBody;
}

export const overlapProbe = probeKind('overlap', 'overlap', { overlap: optional(boxOrBody), ...place });
