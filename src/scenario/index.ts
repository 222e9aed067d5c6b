export { wordEvent } from '../report/story.js';
export { loadAndRun, type ScenarioReport } from './load.js';
export type { Failure, RunResult, Trace } from './run.js';
export { scenarioSchema } from './schema.js';
