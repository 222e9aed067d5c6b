import type { NameTypes } from '../name-types.js';
import { others, probeKind } from './probe.js';

/** A probe between several others. */
export interface AverageProbe<N extends NameTypes> {
  /** What those of these probes that hit find on average: for edges and corners. */
  average: readonly NoInfer<N['probe']>[];
}

export const averageProbe = probeKind('average', null, { average: others });
