/** How this version packs; it changes whenever `Parsed` does. */
export const PACKING = 7;

/** How this version writes modules; it changes whenever what they take from the library does. */
export const MODULE = 8;

/** Something cannot be packed, or was not packed by this version. */
export class PackingError extends Error {
  override readonly name = 'PackingError';
}
