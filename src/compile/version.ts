/** How this version packs; it changes whenever `ParsedMoveset` does. */
export const PACKING = 7;

/** How this version writes modules; it changes whenever what they take from the library does. */
export const MODULE = 11;

/** What to do where a module leaves out what is asked for, as a part of a sentence. */
export const WITH_FORMULAS =
  'generate it with "formulas" (loggia pack --formulas, or movesets({ formulas: true }) in Vite)';

/** Something cannot be packed, or was not packed by this version. */
export class PackingError extends Error {
  override readonly name = 'PackingError';
}
