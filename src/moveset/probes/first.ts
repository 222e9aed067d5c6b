import type { NameTypes } from '../name-types.js';
import { others, probeKind } from './probe.js';

/** A probe that is one of several others. */
export interface FirstProbe<N extends NameTypes> {
  /** The first of these probes that hits. */
  first: readonly NoInfer<N['probe']>[];
}

export const firstProbe = probeKind('first', null, { first: others });
