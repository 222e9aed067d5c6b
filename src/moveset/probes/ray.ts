import type { NameTypes } from '../name-types.js';
import { optional } from '../shape.js';
import { type BoxOrBody, cast, type ProbePlace, probeKind, spot } from './probe.js';

/** A probe along a fixed way. */
export interface RayProbe<N extends NameTypes> extends ProbePlace<N> {
  /** Where it looks and how far: [x along facing, y up], and z in the open view. */
  ray: readonly [x: number, y: number, z?: number];
  /**
   * Casts a box of this width and height (and depth) instead of a ray, or the `body` in its present shape. Default:
   * a ray.
   */
  box?: BoxOrBody;
}

export const rayProbe = probeKind('ray', 'way', { ray: optional(spot), ...cast });
