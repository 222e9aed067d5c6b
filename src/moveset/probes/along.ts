import { type Heading, headings } from '../directions/direction.js';
import type { NameTypes, NumberFormula, OneOrMore } from '../name-types.js';
import { formula, optional, truth } from '../shape.js';
import { type BoxOrBody, cast, type ProbePlace, probeKind } from './probe.js';

/** A probe along a direction. */
export interface AlongProbe<N extends NameTypes> extends ProbePlace<N> {
  /** The direction in which it looks: the first of these that there is; without one, it misses. */
  along: OneOrMore<NoInfer<Heading<N>>>;
  /** How far it looks, 0 to 10,000. Default 1. */
  reach?: NumberFormula<N>;
  /** Takes only the level part of the direction. Default false. */
  flat?: boolean;
  /**
   * Casts a box of this width and height (and depth) instead of a ray, or the `body` in its present shape. Default:
   * a ray.
   */
  box?: BoxOrBody;
}

export const alongProbe = probeKind('along', 'way', {
  along: optional(headings),
  reach: optional(formula('number', { min: 0, max: 10_000 })),
  flat: optional(truth()),
  ...cast,
});
