export { type CompareOptions, type Comparison, compare, type Difference, type Drift } from './compare.js';
export type { Sought } from './find.js';
export type { Moment, Refusal, SeenMember } from './moment.js';
export type { Player, PlayOptions, PlayTick } from './play.js';
export { Recording, type RecordingOptions } from './recording.js';
export type { OperandThen, Why, WhyReason } from './why.js';
