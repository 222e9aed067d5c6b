import type { Allow } from './allow.js';
import type { Data } from './data.js';
import type { Heading } from './directions/direction.js';
import type { Emitting } from './effects/actions.js';
import type { Meets } from './effects/guard.js';
import type { AbilityEffects, Effects } from './effects/index.js';
import type { Marking } from './effects/mark.js';
import type { StillVolume } from './effects/strike.js';
import type { Input } from './inputs/index.js';
import type {
  Amount,
  Condition,
  NameTypes,
  NumberFormula,
  OneOrMore,
  Share,
  Time,
  TimeFormula,
  Uses,
} from './name-types.js';
import type { Probe } from './probes/index.js';
import type { Start, Starts } from './starts/index.js';

export type { Facts, NameTypes } from './name-types.js';
export type { Source } from './sources.js';

/** A part that is like another one of its kind. */
interface Like<Name extends string> {
  /** Another one of its kind: this one is as that, but for what it says itself. Maps are merged, all else is replaced. */
  like: NoInfer<Name>;
  /** What it goes without of that other one, as in `cost` or `phases.windup`. */
  without?: OneOrMore<string>;
}
interface LikeNone {
  like?: never;
  without?: never;
}

/** A number with limits that is spent and regained. */
export type Pool<N extends NameTypes = NameTypes> = PoolFields<N> &
  ((MaxOf<N> & LikeNone) | (Partial<MaxOf<N>> & Like<N['pool']>));
interface MaxOf<N extends NameTypes> {
  /** Upper limit. */
  max: NumberFormula<N>;
}
interface PoolFields<N extends NameTypes> {
  /** Lower limit. Default 0. */
  min?: NumberFormula<N>;
  /** Value at the start. Default `max`. */
  start?: number;
  /** Regained per second. Default 0. */
  regen?: NumberFormula<N>;
  /** How long regeneration rests after spending. Default 0f. */
  rest?: Time;
  /** What a player reads of it, in a reason and in what `describe` tells. */
  says?: string;
  /** Whatever the host wants to know of it, such as a label or an icon; `describe` hands it on. */
  data?: Data;
  /** Warnings that are right here, each with the reason. */
  allow?: Allow;
}

/** Shapes of the body, and how it falls and walks. */
export interface Body<N extends NameTypes> {
  /** Width and height (and depth, where it is not the width) by name; the first is the usual one. Default tall: [0.6, 1.8]. */
  shapes?: Record<N['shape'], readonly [width: number, height: number, depth?: number]>;
  /** Downward acceleration, per second squared, 0 to 10,000. Default 25. */
  gravity?: number;
  /** Fastest fall, per second, 0 to 10,000. Default 20. */
  fall?: number;
  /** Speed (5), acceleration (60) and braking (60) by the stick. */
  walk?: {
    /** Fastest pace, per second. Default 5. */
    speed?: number;
    /** Acceleration towards the stick, per second squared. Default 60. */
    accel?: number;
    /**
     * Slowing down when the stick rests, does not steer or is turned round, per second squared; of a body without a stick, on the
     * ground. Default 60.
     */
    brake?: number;
  };
  /** The stick that walks. Default: the first one declared. */
  stick?: NoInfer<N['stick']>;
  /**
   * Steepest ground that it walks on, as its rise per length, 0 to 10: it slides down what is steeper. Default 1, so 45
   * degrees.
   */
  slope?: number;
  /** Height of steps that it walks up without a jump. Default 0. */
  step?: number;
  /** How it meets the bodies of others in an arena: passes (default), pushes them and is pushed, or gives no way. */
  meets?: Meets;
}

/** What being struck does. */
export interface Hurt<N extends NameTypes> {
  /** The pool that damage goes to. Default: none. */
  pool?: NoInfer<N['pool']>;
  /** While this does not hold, strikes go past it and nobody takes it for a foe: `pool.grit > 0`. Default: always. */
  when?: Condition<N>;
  /** What damage of a kind is multiplied by, as a number or a percentage. Default 1. */
  factors?: Partial<Record<NoInfer<N['kind']>, Amount<N>>>;
  /**
   * How much a blow hurts: a formula that may read `blow.damage`, `blow.kind(...)`, `hitsTaken` and so on. Default
   * `blow.damage`.
   */
  damage?: NumberFormula<N>;
  /** How much a blow can do at most, besides damage. */
  limits?: {
    /** Fastest that a push makes it, per second. Default 50. */
    push?: number;
    /** Longest that a blow stops its clock and that of the striker. Default: as long as the strike says. */
    stop?: Time;
  };
  /** Where it can be struck, by body shape. Default: the whole body. */
  volumes?: Partial<Record<NoInfer<N['shape']>, readonly HurtVolume[]>>;
}

/** A part of the body that can be struck. */
export type HurtVolume = StillVolume;

/** A point that is remembered until it is set again or unset. */
export interface Mark {
  /** Kept with the progress of the character. Default false. */
  saved?: boolean;
}

/** One of the others in its arena: a point that is chosen again before each tick, and what formulas read of who it is. */
export interface Target<N extends NameTypes = NameTypes> {
  /** Whom it is chosen from, by their teams; `foes` are those that can be struck. Default `foes`. */
  among?: 'foes' | 'friends' | 'all';
  /** Only who has one of these tags. */
  tagged?: OneOrMore<string>;
  /** How far away it may be, from middle to middle. Default: any distance. */
  reach?: NumberFormula<N>;
  /** Only who is seen about the first of these directions that there is; without one, nobody is. */
  along?: OneOrMore<NoInfer<Heading<N>>>;
  /** How wide that is in degrees, 1 to 360, its middle in that direction. Default 90. */
  arc?: number;
  /** Only for whom this holds: it reads `other.distance`, `other.pool(grit)`, `other.tagged(boss)` and so on. */
  when?: Condition<N>;
  /** Of several, it is the one with the least of this, which reads the same. Default: the nearest. */
  least?: NumberFormula<N>;
}

/** Abilities by their names and tags, all others than itself, and exceptions. */
type Others<N extends NameTypes> = N['ability'] | N['tag'] | 'all' | `not(${N['ability'] | N['tag']})`;

/** Effects of an ability or phase, and what it lets follow. */
export interface ActiveEffects<N extends NameTypes> extends AbilityEffects<N> {
  /** Abilities or tags that may follow into this lane while it lasts. */
  open?: OneOrMore<NoInfer<N['ability'] | N['tag']>>;
  /** Abilities or tags that may not start, in any lane, while it lasts; `all` means all others, `not(hop)` all but that. */
  bars?: OneOrMore<NoInfer<Others<N>>>;
}

/** What the body is doing by itself: the first whose `when` holds. */
export type Stance<N extends NameTypes> = StanceFields<N> & (LikeNone | Like<N['stance']>);
export interface StanceFields<N extends NameTypes> extends Effects<N> {
  /** When it holds; the last stance has none. */
  when?: Condition<N>;
  /** The animation clip to show while it lasts, or a map from layers to clips. */
  clip?: string | Readonly<Record<string, string>>;
  /** Actions at certain times of it, or at places of its clip. */
  beats?: readonly Beat<N>[];
  /** What a player reads of it, in a reason and in what `describe` tells. */
  says?: string;
  /** Whatever the host wants to know of it, such as a label or an icon; `describe` hands it on. */
  data?: Data;
  /** Warnings that are right here, each with the reason. */
  allow?: Allow;
}

/** An event that comes in or goes out. */
export interface MessageDeclaration {
  /**
   * What it carries, by name: a `number`, a `time`, a `point`, a `direction`, or one of a list of words; at most 8.
   * `struck`, `armoured`, `blocked`, `parried`, `guardBroken`, `hit`, `hitBlocked`, `hitParried`, `clashed`, `touched`
   * and `callerStruck`, which an arena tells, carry besides: `damage`, `kind`, `push`, `stun`, `from`, `at`,
   * `by` (the number of the other one, see `foe.id`) and `volume` (which of the strike's volumes met, from 1 on).
   */
  values?: Readonly<Record<string, 'number' | 'time' | 'point' | 'direction' | readonly string[]>>;
  /** `own`: the character hears it, in the next tick, when it emits it itself. Default: only the host does. */
  hears?: 'own';
  /** Whatever the host wants to know of it, such as a label or an icon; `describe` hands it on. */
  data?: Data;
}

/** Actions at certain times. */
export type Beat<N extends NameTypes> = (
  | {
      /** This long after it begins. */
      at: Time;
      every?: never;
      place?: never;
      moment?: never;
    }
  | {
      /** Again and again after this long, also as it is over. */
      every: Time;
      at?: never;
      place?: never;
      moment?: never;
    }
  | {
      /**
       * Where in its clip, 0 to 1, while that is shown: again in each round where it lasts without end. `clips` says
       * how long the clip is.
       */
      place: number;
      at?: never;
      every?: never;
      moment?: never;
    }
  | {
      /** As it begins, or as it ends in whatever way. */
      moment: 'begin' | 'end';
      at?: never;
      every?: never;
      place?: never;
    }
) & {
  /** Adds to pools. */
  gain?: Partial<Record<NoInfer<N['pool']>, NumberFormula<N>>>;
  /** Emits these events. */
  emit?: Emitting<N>;
  /** Sets marks. */
  mark?: Marking<{ [K in keyof N]: NoInfer<N[K]> } & NameTypes>;
};

/** A charge of power, built while the input that started the ability is held. */
export interface Charge<N extends NameTypes = NameTypes> {
  /** How long it builds from 0 to 1; full at exactly this tick. */
  over: TimeFormula<N>;
  /** How it builds: even, slowly at first, quickly at first, or smoothly. Default even. */
  curve?: 'even' | 'late' | 'early' | 'smooth';
  /** Names for what is reached: from which charge on. */
  levels?: Record<string, number>;
  /** At full it waits to be released, or goes on by itself. Default wait. */
  full?: 'wait' | 'go';
  /** Released before full it goes on, or is interrupted. Default release. */
  early?: 'release' | 'cancel';
  /** Whether the charge stays when the ability is interrupted; else it is 0 at once. Default false. */
  keep?: boolean;
}

/** A part of an ability, in order. */
export interface Phase<N extends NameTypes> extends ActiveEffects<N> {
  /** windup, active, recovery, charge, or a name of your own. Default: its place, from 1 on. */
  name?: N['phase'];
  /** How long it lasts; a formula is read as it begins. Default: until something ends it. */
  for?: TimeFormula<N>;
  /** It is over when any of these holds. */
  until?: OneOrMore<Condition<N>>;
  /** The phase is skipped unless this holds as it would begin. */
  when?: Condition<N>;
  /** The ability is interrupted when any of these holds. */
  interrupt?: OneOrMore<Condition<N>>;
  /** Builds a charge until the input that started the ability is released. */
  charge?: Charge<N>;
  /** The animation clip to show while it lasts, or a map from layers to clips. */
  clip?: string | Readonly<Record<string, string>>;
  /** Actions at certain times of it, or at places of its clip. */
  beats?: readonly Beat<N>[];
}

/** A timed or held action in a lane. */
export type Ability<N extends NameTypes> = AbilityFields<N> &
  ((StartOf<N> & LikeNone) | (Partial<StartOf<N>> & Like<N['ability']>));
interface StartOf<N extends NameTypes> {
  /** How it is requested. */
  start: Start<N> | Starts<N>;
}
export interface AbilityFields<N extends NameTypes> extends ActiveEffects<N> {
  /** The lane it runs in. Default: the first. */
  lane?: NoInfer<N['lane']>;
  /** Stances or tags it may start in. Default: any. */
  from?: OneOrMore<NoInfer<N['stance'] | N['tag']>>;
  /** Abilities it must come out of; with a time, also that long after their end. */
  follows?: OneOrMore<NoInfer<N['ability']>> | Partial<Record<NoInfer<N['ability']>, TimeFormula<N>>>;
  /** Must all hold for it to start. */
  when?: OneOrMore<Condition<N>>;
  /** How long after `from` and `when` last held it may still start. Default 0f. */
  grace?: Time;
  /** How long its request is kept. Default: the input's. */
  buffer?: Time;
  /** Paid at its start, all or nothing. */
  cost?: Partial<Record<NoInfer<N['pool']>, NumberFormula<N>>>;
  /** Drained per second while it runs; it ends when one of the pools is empty. A formula is read in every tick. */
  upkeep?: Partial<
    Record<
      NoInfer<N['pool']>,
      | NumberFormula<N>
      | {
          /** How much it drains per second. */
          rate: NumberFormula<N>;
          /** How much is needed to start again after the pool ran out. Default 0. */
          restart?: number;
        }
    >
  >;
  /** The phase at whose beginning the cost is paid, instead of the start. */
  pay?: NoInfer<N['phase']> | `${number}`;
  /** Share of the cost that comes back when it is interrupted, broken or released, like 50%. Default 0%. */
  refund?: Share<N>;
  /** It is interrupted when any of these holds. */
  interrupt?: OneOrMore<Condition<N>>;
  /** How long it may not start again, counted from its end; a formula is read as it begins to count. */
  cooldown?:
    | TimeFormula<N>
    | {
        /** How long. */
        for: TimeFormula<N>;
        /** Counted from its start, its end (default), or an event that comes after its start. */
        from?: 'start' | 'end' | NoInfer<N['event']>;
        /** By how much these events shorten it as they are received, while it counts: `{ hit: 1s }`. */
        less?: Partial<Record<NoInfer<N['event']>, TimeFormula<N>>>;
        /** Shared with all abilities of this group. Default: its own. */
        group?: string;
      };
  /** Limited uses that come back. */
  charges?: {
    /** How many uses, 1 to 99; a formula is read as one is used and as one comes back. */
    max: NumberFormula<N>;
    /** One comes back after each such time; a formula is read as that begins. */
    every?: TimeFormula<N>;
    /** All come back when this holds. */
    refill?: Condition<N>;
  };
  /** Abilities or tags that it interrupts, in any lane, whatever they say; `all` means all others, `not(hop)` all but that. */
  breaks?: OneOrMore<NoInfer<Others<N>>>;
  /**
   * Its parts, in order. Of what is `like` another, or over what is included, a map says what changes of those there are, by their
   * names, or by their places from 1 on: `phases: { active: { for: 8f } }`.
   */
  phases?: readonly Phase<N>[] | Readonly<Record<string, Phase<Uses<N>>>>;
  /** It ends when any of these holds. */
  end?: OneOrMore<Condition<N>>;
  /** Not available until it is learnt. Default false. */
  locked?: boolean;
  /** The loadout that is active while it runs. One with a `body` of its own comes, and goes, once there is room for the body then. */
  loadout?: NoInfer<N['loadout']>;
  /** Points that it remembers while it runs: they are unset as it ends. */
  marks?: readonly N['ownMark'][];
  /** The animation clip to show while it lasts, or a map from layers to clips. */
  clip?: string | Readonly<Record<string, string>>;
  /** Actions at certain times of it, or at places of its clip. */
  beats?: readonly Beat<N>[];
  /** What a player reads of it, in a reason and in what `describe` tells. */
  says?: string;
  /** Whatever the host wants to know of it, such as a label or an icon; `describe` hands it on. */
  data?: Data;
  /** Warnings that are right here, each with the reason. */
  allow?: Allow;
}

/** A set of abilities, a weapon or a form. What is in no loadout is always there. */
export interface Loadout<N extends NameTypes> extends Effects<N> {
  /** The abilities or tags that come with it. */
  abilities: OneOrMore<NoInfer<N['ability'] | N['tag']>>;
  /** The animation clip to show while it lasts, or a map from layers to clips. */
  clip?: string | Readonly<Record<string, string>>;
  /** Actions at certain times of it, or at places of its clip. */
  beats?: readonly Beat<N>[];
  /** What a player reads of it, in a reason and in what `describe` tells. */
  says?: string;
  /** Whatever the host wants to know of it, such as a label or an icon; `describe` hands it on. */
  data?: Data;
}

/** A condition with words for a player. */
export interface WordedCondition<N extends NameTypes> {
  /** The condition. */
  when: Condition<N>;
  /** What a player reads where it is the reason: that it does not hold, and what to do. */
  says: string;
}

/** A clip of which more is known than its length. */
export interface Clip {
  /** How long it lasts. */
  for?: Time;
  /** Whatever the host wants to know of it, such as a label or an icon; `describe` hands it on. */
  data?: Data;
}

/** What runs one ability at a time. */
export interface Lane {
  /**
   * Which presses wait for it while something keeps them out, as long as their `buffer` says: `all` (default), in the order of what they start; or only
   * the `last` one, so that a later press takes the place of an earlier one; or all in `turn`: of those that may start, the earliest goes first.
   */
  waits?: 'all' | 'last' | 'turn';
}

/** The whole definition of one character, as YAML, JSON and TypeScript all write it. */
export interface Moveset<N extends NameTypes = NameTypes> {
  /** Where the JSON Schema of this format is, for editors; `loggia schema moveset` prints it. */
  $schema?: string;
  /** The format. */
  loggia: 1;
  /** Who it is. */
  name: string;
  /** Ticks per second, 10 to 240. Default 60. */
  rate?: number;
  /** What had another name before, of whatever kind: its new name by its old one. Saves, tapes, scenarios and recordings of then are still understood. */
  renamed?: Record<string, string>;
  /** Seen from the side, or in the open with a camera. Default side. */
  view?: 'side' | 'open';
  /** Numbers with limits that are spent and regained. */
  pools?: Record<N['pool'], Pool<N>>;
  /** Named buttons, sticks, aims and choices. */
  inputs?: Record<string, Input>;
  /** Events that come in or go out: a list of names, or each with the values that it carries. */
  events?: readonly N['event'][] | Record<N['event'], MessageDeclaration>;
  /** Kinds of damage that it deals or tells apart, at most 30. */
  kinds?: readonly N['kind'][];
  /** Named places of the world; the world knows where they are. */
  places?: readonly N['place'][];
  /** Words for surfaces of the world, at most 30: probes look for them, and bodies pass through them. */
  surfaces?: readonly N['surface'][];
  /** Points that are remembered until they are set again. */
  marks?: Record<N['mark'], Mark>;
  /** Named questions to the world. */
  probes?: Record<N['probe'], Probe<N>>;
  /** Whom of the others in an arena it looks at, by name; at most 8. `foe` is the nearest foe without a word. */
  targets?: Record<N['target'], Target<N>>;
  /** Named conditions: formulas use them like facts, and refusals show their names. */
  conditions?: Record<N['condition'], Condition<N> | WordedCondition<N>>;
  /** Who may be called into an arena, by name: the arena knows their movesets. */
  summons?: readonly N['summon'][];
  /** Words by which the strikes and touches of others find it. */
  tags?: OneOrMore<string>;
  /** What being struck does; without it, it cannot be struck. */
  hurt?: Hurt<N>;
  /** Its shapes and how it falls and walks. */
  body?: Body<N>;
  /** What the character can do in parallel; each runs one ability at a time: a list of names, or each with what is said of it. Default [body]. */
  lanes?: readonly N['lane'][] | Record<N['lane'], Lane>;
  /** What the body is doing by itself; the last has no `when`. */
  stances: Record<N['stance'], Stance<N>>;
  /** What it can do. */
  abilities?: Record<N['ability'], Ability<N>>;
  /** Sets of abilities, for a weapon or a form; the first is active at the start. */
  loadouts?: Record<N['loadout'], Loadout<N>>;
  /** How long clips last, by their names: for beats at places of them, and for how far they are. */
  clips?: Readonly<Record<string, Time | Clip>>;
  /** It is no whole moveset, but a part for others to include: checked by itself, as far as that goes. Default false. */
  part?: boolean;
  /** Files, relative to this one, whose parts it takes over and may override. */
  include?: OneOrMore<string>;
  /** Parts of those files that it goes without, as in `abilities.hop` or `events.splash`. */
  without?: OneOrMore<string>;
  /** Warnings that are right here, each with the reason. */
  allow?: Allow;
}
