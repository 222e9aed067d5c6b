/**
 * Places of the fixed head of a record. Ticks, indexes and switches are whole numbers in the same
 * Float64Array as positions; a switch is 0 or 1, "none" is -1, "never" is {@link NEVER}.
 */

/** The character's own tick: stands still during hitstop. */
export const T = 0;
/** The host's tick: counts every call of tick(). */
export const HOST = 1;
/** The host tick at which hitstop ends. */
export const STOP = 2;
/** VERSION and wake of the requests that ask, as they were last heard: until either comes, none can be granted. */
export const HEARD = 3;
export const HEAR_AGAIN = 55;
/** 1 when the set of active effects changed since the last fold. */
export const DIRTY = 4;
/** 1 while nothing moves the body and nothing will until a tick is worked through. */
export const RESTING = 5;
/** Position of the feet's middle, velocity per second. */
export const X = 6;
export const Y = 7;
export const Z = 8;
export const VX = 9;
export const VY = 10;
export const VZ = 11;
/** Facing, a unit vector on the ground; (±1, 0) seen from the side. */
export const FX = 12;
export const FZ = 13;
/** Index of the body shape the body has now; the folded {@link WANT_SHAPE} is what it should have. */
export const SHAPE = 14;
export const GROUNDED = 15;
/** Own tick at which `grounded` last changed. */
export const GROUND_CHANGED = 16;
/** Own tick at which the last landing is seen. */
export const LANDED = 17;
/** Normal of the wall touched in the last move, (0, 0) for none. */
export const WALL_X = 18;
export const WALL_Z = 19;
export const CEILING = 20;
export const STANCE = 21;
export const STANCE_SINCE = 22;
/** Where the camera looks on the ground, a unit vector; used by the open view. */
export const CAMERA_X = 23;
export const CAMERA_Z = 24;
/** Until this own tick nothing happens but motion, unless the door opens or STALE is set. */
export const NEXT_WORK = 25;

/** Folded effects: a value, and behind it the product of the factors laid over it, multiplied in at the end. */
export const GRAVITY = 26;
export const FALL = 28;
export const STEER = 30;
export const SPEED = 32;
export const ACCEL = 34;
export const BRAKE = 36;
export const WANT_SHAPE = 38;
export const FACE_LOCK = 39;
/** How many lanes run something. */
export const RUNNING = 40;
/** No phase is over before this own tick. */
export const NEXT_DUE = 41;
/** Counts what may lift a refusal: stances, starts, ends, phases, cooldowns, charges, pools off their line. */
export const VERSION = 42;
/** How many abilities lack charges. */
export const LACKING = 43;
/** No pool runs dry before this own tick. */
export const DRY_DUE = 44;
/** How many abilities are latched. */
export const LATCHES = 45;
/** Facts of motion, noted at a tick's end: vy > 0, level pace, room for the usual shape. */
export const RISING = 46;
export const MOVING = 47;
export const HEADROOM = 48;
/** 1 when something that a stance may depend on has changed. */
export const STALE = 49;
/** Index of the loadout worn, as the host set it and as effects have it; -1 for none. */
export const BASE_LOADOUT = 50;
export const LOADOUT = 51;
/** Index of the clip to show, -1 for none, the own tick since, and how long its part lasts (NEVER for open). */
export const CLIP = 52;
export const CLIP_SINCE = 53;
export const CLIP_LASTS = 54;
/** Level velocity that the stick wants, and what running moves hold: bits of parts (1 level, 2 upright), and x, y, z. */
export const WANT_X = 56;
export const WANT_Z = 57;
export const HELD = 58;
/** No request outside of these places asks. */
export const ASKED_FROM = 62;
export const ASKED_TO = 63;
/** 1 when sticks, folded values or moves have changed since the body was aimed. */
export const UNAIMED = 64;
export const HEAD = 65;

/** Per button. */
export const BUTTON = 4;
export const B_DOWN = 0;
export const B_PRESSED = 1;
export const B_RELEASED = 2;
/** The press before the last one. */
export const B_BEFORE = 3;

/** Per stick. */
export const STICK = 2;

/** Per pool: the straight line it is on. What it has now is read off it when someone asks, behind the record. */
export const POOL = 8;
export const P_BASE = 0;
/** Own tick at which the value was P_BASE. */
export const P_SINCE = 1;
/** Own tick from which it regenerates. */
export const P_REST = 2;
/** What running abilities drain per tick. */
export const P_DRAIN = 3;
/** It is not down at its lower limit before this own tick. */
export const P_DUE = 4;
export const P_MIN = 5;
export const P_MAX = 6;
/** Regained per tick. */
export const P_REGEN = 7;

/** Per lane. */
export const LANE = 14;
export const L_ABILITY = 0;
/** Global index of the phase. */
export const L_PHASE = 1;
export const L_SINCE = 2;
export const L_PHASE_SINCE = 3;
/** Own tick at which the phase is over, or NEVER. */
export const L_DUE = 4;
/** Index of the ask that was granted. */
export const L_ASK = 5;
/** Two moves, the ability's and the phase's: which parts they hold (1 level, 2 upright), and x, y, z. */
export const L_MOVE = 6;
export const MOVE = 4;

/** Per ability. */
export const ABILITY = 12;
/** Own tick at which the cooldown is over. */
export const A_READY = 0;
export const A_CHARGES = 1;
/** Own tick at which the next charge comes back. */
export const A_REFILL = 2;
/** Own tick at which it last ended. */
export const A_ENDED = 3;
/** Own tick at which its `from` and `when` last held, for grace. */
export const A_FIT = 4;
/** 1 after its upkeep ran dry, until the restart threshold is reached. */
export const A_DRY = 5;
/** Signature of the reasons last reported. */
export const A_REFUSED = 6;
export const A_LATCHED = 7;
/** VERSION at which it was last refused: it sleeps until that changes, or until A_WAKE. */
export const A_JUDGED = 8;
export const A_WAKE = 11;
/** 1 unless it is locked. */
export const A_KNOWN = 9;
/** Charge of power, 0 to 1; kept until its next start. */
export const A_CHARGE = 10;

/** A tick so long ago (negated: so far ahead) that no window reaches it. */
export const NEVER = 1e9;
