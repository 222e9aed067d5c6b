/** Places of the part of a record that only those have who ride: see `ride` in layout.ts. */
export const RIDE = 6;
/** Folded: first slot of the mark that the body is kept at, 0 for none; where its feet are from that; 1 where it steers whom it rides. */
export const R_MARK = 0;
export const R_AT = 1;
export const R_STEERS = 4;
/** The number of whom it steers, 0 for nobody: who is let go must be told that nothing is held any more. */
export const R_STEERED = 5;
