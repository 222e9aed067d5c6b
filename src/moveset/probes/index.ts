import type { NameTypes } from '../name-types.js';
import { type AlongProbe, alongProbe } from './along.js';
import { type AverageProbe, averageProbe } from './average.js';
import { type FirstProbe, firstProbe } from './first.js';
import { type NearestProbe, nearestProbe } from './nearest.js';
import { type OverlapProbe, overlapProbe } from './overlap.js';
import type { ProbeKind } from './probe.js';
import { type RayProbe, rayProbe } from './ray.js';

/** Every kind of probe, by the key that makes it one: a new one is a file beside these, and a line in the two lists here. */
interface ProbeFields<N extends NameTypes> {
  ray: RayProbe<N>;
  along: AlongProbe<N>;
  overlap: OverlapProbe<N>;
  nearest: NearestProbe<N>;
  first: FirstProbe<N>;
  average: AverageProbe<N>;
}
type ProbeKey = keyof ProbeFields<NameTypes>;

const BY_KEY = {
  ray: rayProbe,
  along: alongProbe,
  overlap: overlapProbe,
  nearest: nearestProbe,
  first: firstProbe,
  average: averageProbe,
} satisfies Readonly<Record<ProbeKey, ProbeKind>>;

/** @internal */
export const PROBES = Object.values(BY_KEY);

/** Kinds that are made of other probes. */
export type JoinedProbe = Extract<(typeof BY_KEY)[ProbeKey], { readonly asks: null }>['key'];

/** A question to the world, asked from the middle of the feet; x points along facing. */
export type Probe<N extends NameTypes = NameTypes> = {
  [K in ProbeKey]: ProbeFields<N>[K] & { [Other in Exclude<ProbeKey, K>]?: never };
}[ProbeKey];
