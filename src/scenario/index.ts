export { wordEvent } from '../report/story.js';
export type { Failure } from './expect.js';
export { Movesets, type RunOptions, runScenarioData, runScenarioFile, type ScenarioReport } from './load.js';
export { type Replay, replayFile } from './replay.js';
export { AROUND, type Keep, type RunResult } from './run.js';
export { scenarioSchema } from './schema.js';
export { tellFailures, tellStory } from './tell.js';
export { type ToScenarioOptions, toScenario } from './to-scenario.js';
export type { Trace } from './trace.js';
