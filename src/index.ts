export { advise } from './analysis/advice.js';
export type { Advise } from './compile/given.js';
export { type PackedMoveset, packMoveset } from './compile/pack.js';
export type { Plan } from './compile/plan.js';
export { PackingError } from './compile/version.js';
export { type Compiled, checkMoveset } from './interpret/check.js';
export { type CompileOptions, compileMoveset, MovesetError } from './interpret/compile-moveset.js';
export { unpackMoveset } from './interpret/unpack.js';
export { defineMoveset } from './moveset/define.js';
export type { Facts, Moveset, NameTypes, Source } from './moveset/types.js';
export type { Code, Diagnostic } from './report/diagnostic.js';
export type { Ending, LoggiaEvent, Via } from './report/events.js';
export { mainReason, type Reason, type ReasonFact, wordReason, wordRefusal } from './report/reasons.js';
export type { ShownVolume } from './report/shown-volume.js';
export { UsageError } from './report/usage-error.js';
export { wordDiagnostic, wordPath } from './report/wording.js';
export {
  Character,
  type CharacterOptions,
  type Explanation,
  type Preview,
  type RestoreOptions,
} from './runtime/character.js';
export { type CrowdOptions, characterIn, tickAll } from './runtime/crowd.js';
export type { Contacts, Door } from './runtime/door.js';
export { type LoadedProgress, loadProgress, type Progress, saveProgress } from './runtime/progress.js';
export type { Drive, Readout } from './runtime/readout.js';
export { type SavedTape, Tape, type TapeEntry } from './runtime/tape.js';
export type { MessageInput } from './runtime/values.js';
export * from './world/index.js';
