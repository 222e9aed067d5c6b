export * from '../analysis/index.js';
export { MEASURES } from './measure.js';
export type { SweepRow } from './sweep.js';
export { type Sweep, type SweepOptions, sweepScenario } from './sweep-scenario.js';
export type { Varied } from './vary.js';
