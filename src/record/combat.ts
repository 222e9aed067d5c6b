import type { Frame, Operand, Test } from './frame.js';

/** Places of the part of a record that only those have who fight: see `combat` in layout.ts. */
export const COMBAT = 13;
/** Folded: kinds of damage that go through it, a bit each, and those that do not make it flinch; see {@link ALL_KINDS}. */
export const C_IMMUNE = 0;
export const C_ARMOUR = 1;
/** Folded: the guard that is up, as its index plus 1, and the own tick up to which it parries. */
export const C_GUARD = 2;
export const C_PARRIES = 3;
/** Folded: how the body meets others. */
export const C_MEETS = 4;
/** How many blows it has taken since it was last free of their stun. */
export const C_HITS = 5;
/** 1 while a push waits for its own clock to go on, and its velocity. */
export const C_PUSHED = 6;
export const C_PUSH = 7;
/** The own tick in which a push last became the velocity, and in which its upright part did. */
export const C_TAKEN = 11;
export const C_TAKEN_UP = 12;
/** Folded: the share of its pace that the body keeps as it bounces off what it meets; below 0 where it does not. */
export const C_BOUNCE = 10;

/** The bit for kinds of damage that the moveset does not tell apart, and all bits. */
export const OTHER_KIND = 1 << 30;
export const ALL_KINDS = OTHER_KIND | (OTHER_KIND - 1);

/** How a body meets those of others. */
export const PASS = 0;
export const PUSH = 1;
export const BLOCK = 2;

/** Bits of the result of an ability's strikes: since its last start they have hit, were blocked, were parried; one is over. */
export const HAS_HIT = 1;
export const WAS_BLOCKED = 2;
export const WAS_PARRIED = 4;
export const IS_OVER = 8;

/** Values of a blow as messages carry them, and where they stand. */
export const BLOW = 14;
export const W_DAMAGE = 0;
export const W_KIND = 1;
export const W_PUSH = 2;
export const W_STUN = 5;
export const W_FROM = 6;
export const W_AT = 9;
export const W_BY = 12;
/** Which of the volumes of the strike met, from 1 on. */
export const W_VOLUME = 13;

/** Numbers that a strike owns: where its ray ends, whether that is known, whether it is spent, how many it has met. */
export const S_END = 0;
export const S_ENDS = 3;
export const S_SPENT = 4;
export const S_COUNT = 5;
export const S_TARGETS = 6;
/** Per target that it has met: its id, and the own tick in which it last did. */
export const TARGET_SIZE = 2;

/** A volume, relative to the feet's middle and turned with facing: x forward, y up, z to the side. */
export interface VolumePlan {
  readonly kind: 'box' | 'round' | 'ray';
  /** Middle of a box; one end of a capsule or ray; the middle of a sphere. */
  readonly at: readonly [number, number, number];
  /** Half sizes of a box. */
  readonly half: readonly [number, number, number];
  /** The other end of a capsule or ray. */
  readonly to: readonly [number, number, number];
  readonly radius: number;
  /** What it multiplies damage by. */
  readonly factor: number;
  /** A ray that is aimed, and how far it goes. */
  readonly aim: ((c: Frame, out: Float64Array) => boolean) | null;
  readonly reach: Operand | null;
}

/** A value that a strike or a touch says, by its name: a number, or a time in ticks. */
export interface FurtherValue {
  readonly name: string;
  readonly amount: Operand;
  readonly time: boolean;
}

/** A strike, compiled. */
export interface Striking {
  readonly volumes: readonly VolumePlan[];
  readonly damage: Operand;
  readonly kind: string | null;
  /** Writes the velocity that it gives to who is struck. */
  readonly push: ((c: Frame, out: Float64Array) => void) | null;
  readonly stun: Operand;
  readonly stop: Operand;
  /** Ticks after which it meets the same target again; 0 for once. */
  readonly again: number;
  /** Most targets that it meets. */
  readonly most: number;
  /** All of its volumes are rays: whom it may meet again counts no longer. */
  readonly beam: boolean;
  readonly hits: 'foes' | 'friends' | 'all';
  /** Only who has one of these tags; null for all. */
  readonly tagged: readonly string[] | null;
  readonly values: readonly FurtherValue[];
  readonly gains: readonly { readonly pool: number; readonly amount: Operand }[];
  /** Strikes that both have a level meet each other: the lower one is lost, equal ones both. -1 for none. */
  readonly clash: number;
  /** For a touch: the event that is told instead of a blow. */
  readonly tells: string | null;
  /** Slot of the result of its ability. */
  readonly result: number;
}

/** Who is called into an arena, compiled. */
export interface Summoning {
  readonly who: number;
  readonly at: readonly [number, number, number];
  readonly velocity: ((c: Frame, out: Float64Array) => void) | null;
  /** The ability that it is to perform. */
  readonly does: string | null;
}

/**
 * What a character knows of another one, behind the record: whether there is one, where, how far, what it does, and its number. First of its
 * nearest foe; where it has targets, then of whom it looks at to choose one, and of each target.
 */
export const SIGHT = 10;
export const E_THERE = 0;
export const E_AT = 1;
export const E_DISTANCE = 4;
export const E_STRIKING = 5;
export const E_GUARDING = 6;
export const E_STUNNED = 7;
export const E_AIRBORNE = 8;
export const E_ID = 9;
/** How far away a foe is that is not there: further than anything. */
export const NO_FOE = 1e6;

/** A target: whom of the others it is, compiled. */
export interface TargetPlan {
  readonly name: string;
  /** Which sight it is: 2 or more. */
  readonly sight: number;
  readonly among: 'foes' | 'friends' | 'all';
  /** Only who has one of these tags; null for all. */
  readonly tagged: readonly string[] | null;
  readonly reach: Operand;
  /** Only who is near this direction, and the cosine of how far off it that may be. */
  readonly aim: ((c: Frame, out: Float64Array) => boolean) | null;
  readonly cos: number;
  /** Read of whom it looks at; null for all. */
  readonly when: Test | null;
  /** Whoever has the least is it; null for the nearest. */
  readonly least: Operand | null;
}

/** What formulas read of others by a name of theirs: the place of it for the foe, behind which those of the other sights follow. */
export interface Insight {
  readonly what: 'pool' | 'tagged' | 'in';
  readonly name: string;
  readonly at: number;
}

/** A guard, compiled. */
export interface Guarding {
  /** Cosine of half its arc. */
  readonly cos: number;
  /** By kind, the last for those that are not told apart: the share of damage that it takes away. */
  readonly absorbs: readonly Operand[];
  readonly costs: readonly { readonly pool: number; readonly amount: Operand }[];
  readonly stun: Operand;
  /** Share of the push that it takes away. */
  readonly steady: Operand;
  /** What becomes of a blow that costs more than there is. */
  readonly unpaid: 'breaks' | 'leaks' | 'holds';
  /** Stun of who is parried, and of who guards when the guard breaks. */
  readonly parried: Operand;
  /** Null for that of the blow. */
  readonly broken: Operand | null;
}

/** What a moveset says about what it takes. */
export interface HurtPlan {
  /** Index of the pool that damage goes to, or -1. */
  readonly pool: number;
  /** It can be struck while this holds; null for always. */
  readonly when: Test | null;
  /** By kind, the last for those that are not told apart; they read the blow behind the record, as the next one does. */
  readonly factors: readonly Operand[];
  readonly damage: Operand | null;
  /** Fastest that a push makes it, and longest hitstop. */
  readonly push: number;
  readonly stop: number;
  /** By body shape; null where the body itself is the volume. */
  readonly volumes: readonly (readonly VolumePlan[] | null)[];
}
