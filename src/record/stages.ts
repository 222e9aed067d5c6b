/*
 * The stages of a tick, a bit each. Whoever has several characters in one world asks for one stage of all of them before the next;
 * a character by itself does all at once.
 */
export const TAKE_IN = 1;
export const DECIDE = 2;
export const MOVE = 4;
export const WHOLE = TAKE_IN | DECIDE | MOVE;
