export { Moment, type Refusal, type SeenMember } from './moment.js';
export type { Player, PlayOptions, PlayTick } from './play.js';
export { Recording, type RecordingOptions } from './recording.js';
