/**
 * Places of the fixed head of a record. Ticks, indexes and switches are whole numbers in the same
 * Float64Array as positions; a switch is 0 or 1, "none" is -1, "never" is {@link NEVER}. What comes after the
 * head depends on the moveset: see layout.ts.
 */

/** A tick that never comes; negated, a tick so long ago that no window reaches it. */
export const NEVER = Number.POSITIVE_INFINITY;

/** The character's own tick: stands still during hitstop. */
export const T = 0;
/** The host's tick: counts every call of tick(). */
export const HOST = 1;
/** The host tick at which hitstop ends. */
export const STOP = 2;
/** Tells the layout of one moveset from that of another: see compile/fingerprint.ts. */
export const LAYOUT_ID = 3;

/** Position of the feet's middle, velocity per second. */
export const X = 4;
export const Y = 5;
export const Z = 6;
export const VX = 7;
export const VY = 8;
export const VZ = 9;
/** Facing, a unit vector on the ground; (±1, 0) seen from the side. */
export const FX = 10;
export const FZ = 11;
/** Index of the body shape the body has now; the folded {@link WANT_SHAPE} is what it should have. */
export const SHAPE = 12;
export const GROUNDED = 13;
/** Own tick at which `grounded` last changed. */
export const GROUND_CHANGED = 14;
/** Own tick at which the last landing is seen. */
export const LANDED = 15;
/** Level normal of the wall touched in the last move. */
export const WALL_X = 16;
export const WALL_Z = 17;
/** What the last move touched: bits below. */
export const TOUCHES = 18;
/** Whether the first body shape has room where the body is. */
export const HEADROOM = 19;
/** 1 while the body is inside something solid and could not be pushed out. */
export const STUCK = 20;
/** Normal of the ground and velocity of what the body stands on; (0, 1, 0) and 0 in the air. */
export const GROUND_NORMAL = 21;
export const GROUND_VELOCITY = 24;
/** 1 once the place of the body is known: from its start in a world, from the first contacts of an engine. */
export const PLACED = 27;

export const STANCE = 28;
export const STANCE_SINCE = 29;
/** Where the camera looks on the ground, a unit vector; used by the open view. */
export const CAMERA_X = 30;
export const CAMERA_Z = 31;
/** Index of the loadout in use, as the host set it and as effects have it; -1 for none. */
export const BASE_LOADOUT = 32;
export const LOADOUT = 33;
/** Own tick since which that loadout is in use. */
export const LOADOUT_SINCE = 34;
/** Surfaces that the body stands on, a bit each in the order of their declaration; 0 in the air. */
export const GROUND_SURFACES = 35;
/** 1 once the body has fallen out of the world. */
export const FELL = 36;

/** Folded effects: what the active stance, loadout, abilities and phases make of the base values together. */
export const GRAVITY = 37;
export const FALL = 38;
export const STEER = 39;
export const SPEED = 40;
export const ACCEL = 41;
export const BRAKE = 42;
export const WANT_SHAPE = 43;
export const FACE_LOCK = 44;
/** Which parts of the velocity moves force (1 level, 2 upright), and what they force them to: x, y, z. */
export const FORCED = 45;
export const FORCED_VELOCITY = 46;
/** The host tick in which code last put the body somewhere else. */
export const WARPED = 49;
/** Surfaces that the body passes through: a bit each, as folded. */
export const PASSES = 53;
/** How many lanes run something, how many triggers have requests that wait, how many abilities lack charges. */
export const RUNNING = 50;
export const PENDING = 51;
export const LACKING = 52;

export const HEAD = 54;

/** Bits of {@link TOUCHES}: a wall; a ceiling; ground that is not level, moves or has a surface; something that it passes through; ground too steep to walk on. */
export const WALL = 1;
export const CEILING = 2;
export const UNEVEN = 4;
export const PASSING = 8;
export const STEEP = 16;

/** Bits of {@link FORCED}. */
export const LEVEL = 1;
export const UPRIGHT = 2;

/** Per button, sides of sticks among them. */
export const BUTTON = 4;
export const B_DOWN = 0;
export const B_PRESSED = 1;
export const B_RELEASED = 2;
/** Index of the ability that used its last press, plus 1; 0 as long as none has. */
export const B_USED = 3;

/** Per stick: x and y behind its dead zone. */
export const STICK = 2;

/** Per layer of clips: index of the clip to show, -1 for none, the own tick since, and how long its part lasts (NEVER for open). */
export const LAYER = 3;
export const CLIP = 0;
export const CLIP_SINCE = 1;
export const CLIP_LASTS = 2;

/** Per aim: what it is, and its unit direction or its point. */
export const AIM = 4;
/** 0 for none, or one of the two below. */
export const AIM_KIND = 0;
export const AIM_X = 1;
export const AIM_DIRECTION = 1;
export const AIM_POINT = 2;

/** Per choice: the index of what is chosen among its options. */
export const CHOICE = 1;

/** Per mark: 1 while it is set, and where; then what it is on, and where on that. */
export const MARK = 9;
export const MARK_SET = 0;
export const MARK_X = 1;
/** 0 for nothing, or one of the two below; which of them; and its point, as who moves it knows it. */
export const MARK_KIND = 4;
export const MARK_ON = 5;
export const MARK_POINT = 6;
export const ON_MEMBER = 1;
export const ON_SOLID = 2;

/** Per pool: the straight line it is on. What it has now is read off it when it is read, behind the record. */
export const POOL = 9;
export const P_BASE = 0;
/** Own tick at which the value was P_BASE. */
export const P_SINCE = 1;
/** Own tick from which it regenerates. */
export const P_REST = 2;
/** What running abilities drain per tick. */
export const P_DRAIN = 3;
/** 1 while it is down at its lower limit. */
export const P_EMPTY = 4;
export const P_MIN = 5;
export const P_MAX = 6;
/** Regained per tick. */
export const P_REGEN = 7;
/** 1 while it may become empty, or is. */
export const P_WATCHED = 8;

/** Per lane. */
export const LANE = 6;
export const L_ABILITY = 0;
/** Global index of the phase. */
export const L_PHASE = 1;
export const L_SINCE = 2;
export const L_PHASE_SINCE = 3;
/** Own tick at which the phase is over, or NEVER. */
export const L_DUE = 4;
/** Index of the trigger that started it. */
export const L_TRIGGER = 5;

/** Per ability. Those that few abilities need have places of their own: see layout.ts. */
export const ABILITY = 3;
/** 1 unless it is locked. */
export const A_KNOWN = 0;
/** Own tick at which it last ended. */
export const A_ENDED = 1;
/** Own tick at which another one or code last ended it: what is held or latched asks again only after that. */
export const A_BROKEN = 2;

/** Per cooldown: one for each ability that has one, or one for its group. */
export const COOLDOWN = 3;
/** Own tick at which it is over. */
export const C_READY = 0;
/** How many abilities wait for the event from which theirs counts. */
export const C_WAITING = 1;
/** Ticks that it lasts from where it was last set, for interfaces. */
export const C_LENGTH = 2;

/** Per ability with charges. */
export const CHARGES = 3;
export const N_LEFT = 0;
/** Own tick at which the next one comes back. */
export const N_REFILL = 1;
/** How many there may be, as it was last read. */
export const N_MAX = 2;

/** Per trigger. */
export const TRIGGER = 3;
/** Own tick up to which it requests. */
export const R_UNTIL = 0;
/** How many occurrences wait. */
export const R_COUNT = 1;
/** Signature of the reasons last told; 0 before any. */
export const R_TOLD = 2;

/** How many messages there can be in a tick, and how many where they carry values. */
export const MESSAGES = 16;
export const VALUED_MESSAGES = 12;
/** How many there are, how many of them are handled; then, for each, the index of the event and its values. */
export const M_COUNT = 0;
export const M_HANDLED = 1;
export const M_FIRST = 2;
