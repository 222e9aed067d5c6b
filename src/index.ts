export { advise } from './analysis/advice.js';
export type { Answer } from './character/answers.js';
export {
  Character,
  type CharacterOptions,
  type Explanation,
  type Preview,
  type RestoreOptions,
} from './character/character.js';
export { type CrowdOptions, characterIn, tickAll } from './character/crowd.js';
export type { Contacts, Door } from './character/door.js';
export { type Drawn, FixedSteps, type FixedStepsOptions } from './character/fixed-steps.js';
export { type LoadedProgress, loadProgress, type Progress, saveProgress } from './character/progress.js';
export type { Drive, Readout } from './character/readout.js';
export { type Named, type SwapOptions, type Swappable, type Swapped, swapMoveset } from './character/swap.js';
export type { Advise } from './compile/checked.js';
export {
  type AbilityDescription,
  type Description,
  describe,
  type PhaseDescription,
  type StartDescription,
} from './compile/describe.js';
export { type PackedMoveset, packMoveset } from './compile/pack.js';
export type { Plan } from './compile/plan.js';
export { PackingError } from './compile/version.js';
export { type Compiled, checkMoveset } from './interpret/check.js';
export { type CompileOptions, compileMoveset, MovesetError } from './interpret/compile-moveset.js';
export { unpackMoveset } from './interpret/unpack.js';
export type { Data } from './moveset/data.js';
export { defineMoveset } from './moveset/define.js';
export type { Facts, Moveset, NameTypes, Source } from './moveset/types.js';
export type { Code, Diagnostic } from './report/diagnostic.js';
export type { Ending, LoggiaEvent, Via } from './report/events.js';
export { mainReason, type Reason, type ReasonFact, wordReason, wordRefusal } from './report/reasons.js';
export { REASON_TEXTS, type ReasonText, type Says } from './report/says.js';
export type { ShownVolume } from './report/shown-volume.js';
export { type UsageCode, UsageError } from './report/usage-error.js';
export { wordDiagnostic, wordPath } from './report/wording.js';
export { type SavedTape, Tape, type TapeEntry } from './saved/tape.js';
export type { MessageInput } from './tick/presses/values.js';
export * from './world/index.js';
