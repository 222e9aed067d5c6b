export * from '../analysis/index.js';
export {
  type Exploration,
  type ExploreOptions,
  exploreMoveset,
  type Finding,
  type FindingKind,
  type Reach,
} from './explore/explore.js';
export { MEASURES } from './measure.js';
export type { SweepRow } from './sweep.js';
export { type Sweep, type SweepOptions, sweepScenario } from './sweep-scenario.js';
export type { Varied } from './vary.js';
