import type { Code } from '../report/diagnostic.js';
import type { Move } from './effects/move.js';
import type { Walk } from './effects/walk.js';
import type { Amount, ButtonName, Condition, NameTypes, NumberFormula, OneOrMore, Time } from './name-types.js';

export type { Facts } from './name-types.js';

/** Warnings that are meant to be so: their code, and why they are allowed. */
export type Allow = Partial<Record<Code, string>>;

export interface Pool<N extends NameTypes = NameTypes> {
  /** Default 0. */
  min?: NumberFormula<N>;
  max: NumberFormula<N>;
  /** Value at birth. Default `max`. */
  start?: number;
  /** Regained per second. Default 0. */
  regen?: NumberFormula<N>;
  /** How long regeneration rests after spending. Default 0. */
  rest?: Time;
  allow?: Allow;
}

/** A W3C `code` of a key, `pad.south` and the like, or `pointer.primary` and the like. */
export type Source = string;

export interface ButtonInput {
  button: OneOrMore<Source>;
  /** How long a press too early is kept. Default 0. */
  buffer?: Time;
  /** Grace of abilities that it starts, unless they say otherwise. Default 0. */
  grace?: Time;
  allow?: Allow;
}
export interface StickInput {
  stick: {
    left?: OneOrMore<Source>;
    right?: OneOrMore<Source>;
    up?: OneOrMore<Source>;
    down?: OneOrMore<Source>;
    /** A stick of the W3C standard gamepad. */
    pad?: 'left' | 'right';
  };
  /** Radius in which an analog stick rests, 0 to 0.9. Default 0.2. */
  deadzone?: number;
  /** What two opposite sides held at once give. Default `last`: the one pressed last. */
  opposite?: 'last' | 'neutral';
  allow?: Allow;
}

export interface Body<N extends NameTypes> {
  /** Width and height, and depth where it differs from the width. The first is the usual one. */
  shapes?: Record<N['shape'], readonly [width: number, height: number, depth?: number]>;
  /** Downward acceleration, per second squared. Default 25. */
  gravity?: number;
  /** Fastest fall, per second. Default 20. */
  fall?: number;
  walk?: Omit<Walk<N>, 'speed' | 'accel' | 'brake'> & { speed?: number; accel?: number; brake?: number };
  /** The stick that walks. Default: the first one declared. */
  stick?: NoInfer<N['stick']>;
}

/** A question to the world, asked from the feet's middle; x points along facing. */
export interface Probe {
  ray: readonly [x: number, y: number, z?: number];
  at?: readonly [x: number, y: number, z?: number];
  /** Only surfaces with one of these tags count. Default: any. */
  on?: OneOrMore<string>;
}

/** Effects of a stance, an ability or a phase: they last exactly as long as it does. */
export interface Effects<N extends NameTypes> {
  gravity?: Amount<N>;
  fall?: Amount<N>;
  steer?: Amount<N>;
  walk?: Walk<N>;
  body?: NoInfer<N['shape']>;
  face?: 'locked' | 'free';
  tags?: OneOrMore<N['tag']>;
}

/** Effects that begin with an ability or phase. */
export interface ActiveEffects<N extends NameTypes> extends Effects<N> {
  move?: Move<{ [K in keyof N]: NoInfer<N[K]> } & NameTypes>;
  gain?: Partial<Record<NoInfer<N['pool']>, NumberFormula<N>>>;
  emit?: OneOrMore<NoInfer<N['event']>>;
  /** Abilities or tags that may follow into this lane while it lasts. */
  open?: OneOrMore<NoInfer<N['ability'] | N['tag']>>;
  /** Abilities or tags that may not start in any lane while it lasts. */
  bars?: OneOrMore<NoInfer<N['ability'] | N['tag']>>;
}

export interface Stance<N extends NameTypes> extends Effects<N> {
  when?: Condition<N>;
  clip?: string;
  allow?: Allow;
}

/** Deeds at certain ticks of a phase. */
export type Beat<N extends NameTypes> = (
  | { /** So long after the phase begins. */ at: Time }
  | { /** Again and again after so long, also as the phase is over. */ every: Time }
) & {
  gain?: Partial<Record<NoInfer<N['pool']>, NumberFormula<N>>>;
  emit?: OneOrMore<NoInfer<N['event']>>;
};

/** A charge of power, built while the input that started the ability is held. */
export interface Charge {
  /** From 0 to 1; full at exactly this tick. */
  over: Time;
  /** Default `even`. */
  curve?: 'even' | 'late' | 'early' | 'smooth';
  /** Names for what is reached: from which charge on. */
  levels?: Record<string, number>;
  /** At full it waits to be let go (default), or goes on by itself. */
  full?: 'wait' | 'go';
  /** Let go before full it goes on (default), or the ability is interrupted. */
  early?: 'release' | 'cancel';
  /** Whether the charge stays when the ability is interrupted; default false: it is 0 at once. */
  keep?: boolean;
}

export interface Phase<N extends NameTypes> extends ActiveEffects<N> {
  name?: string;
  for?: Time;
  /** It is over when any of these holds. */
  until?: OneOrMore<Condition<N>>;
  /** Skipped unless this holds as it would begin. */
  when?: Condition<N>;
  /** The ability is interrupted when any of these holds. */
  interrupt?: OneOrMore<Condition<N>>;
  charge?: Charge;
  beats?: readonly Beat<N>[];
  clip?: string;
}

/** Relative to facing. */
export type Direction = 'forward' | 'back' | 'up' | 'down' | 'neutral';

export type Start<N extends NameTypes> =
  | {
      press: NoInfer<ButtonName<N>>;
      /** With the stick pushed this way, relative to facing. */
      toward?: Direction;
      /** While this other input is held. */
      with?: NoInfer<ButtonName<N>>;
    }
  | { release: NoInfer<ButtonName<N>> /** Held at least so long. */; after?: Time }
  | { tap: NoInfer<ButtonName<N>> /** Let go within this. Default 0.2s. */; within?: Time }
  | { double: NoInfer<ButtonName<N>> /** Between the two presses. Default 0.25s. */; within?: Time }
  | {
      sequence: readonly (Exclude<Direction, 'neutral'> | NoInfer<ButtonName<N>>)[];
      /** From the first to the last. Default 0.4s. */
      within?: Time;
    }
  | { hold: NoInfer<ButtonName<N>> }
  | { toggle: NoInfer<ButtonName<N>>; unlatch?: OneOrMore<Condition<N>> }
  | { rule: Condition<N> }
  | { event: NoInfer<N['event']> }
  | { code: 'only' };

export interface Ability<N extends NameTypes> extends ActiveEffects<N> {
  /** Default: the first lane. */
  lane?: NoInfer<N['lane']>;
  start: OneOrMore<Start<N>>;
  /** Stances or tags it may start in. Default: any. */
  from?: OneOrMore<NoInfer<N['stance'] | N['tag']>>;
  /** Abilities it must come out of; with a time, also that long after their end. */
  follows?: OneOrMore<NoInfer<N['ability']>> | Partial<Record<NoInfer<N['ability']>, Time>>;
  /** Must all hold for it to start. */
  when?: OneOrMore<Condition<N>>;
  /** How long after `from` and `when` last held it may still start. Default 0. */
  grace?: Time;
  /** How long its request is kept. Default: the input's. */
  buffer?: Time;
  cost?: Partial<Record<NoInfer<N['pool']>, NumberFormula<N>>>;
  /** Drained per second while it runs; it ends when one runs dry. */
  upkeep?: Partial<
    Record<NoInfer<N['pool']>, number | { rate: number /** Needed again after it ran dry. */; restart?: number }>
  >;
  /** The phase at whose beginning the cost is paid. Default: at the start. */
  pay?: string;
  /** Share of the cost that comes back when it is interrupted, broken or let go. Default 0. */
  refund?: Amount<N>;
  /** It is interrupted when any of these holds. */
  interrupt?: OneOrMore<Condition<N>>;
  cooldown?:
    | Time
    | {
        for: Time;
        /** Counted from its start, its end (default), or an event that comes after its start. */
        from?: 'start' | 'end' | NoInfer<N['event']>;
        /** Shared with all abilities of this group. */
        group?: string;
      };
  charges?: {
    max: number /** One comes back after each such time. */;
    every?: Time /** All come back when this holds. */;
    refill?: Condition<N>;
  };
  /** Abilities or tags that it interrupts, whatever they say. */
  breaks?: OneOrMore<NoInfer<N['ability'] | N['tag']>>;
  phases?: readonly Phase<N>[];
  /** It ends when any of these holds. */
  end?: OneOrMore<Condition<N>>;
  /** Not there until it is learnt. Default false. */
  locked?: boolean;
  /** The loadout worn while it lasts. */
  loadout?: NoInfer<N['loadout']>;
  clip?: string;
  allow?: Allow;
}

/** A set of abilities, a weapon or a form. What is in no loadout is always there. */
export interface Loadout<N extends NameTypes> extends Effects<N> {
  abilities: OneOrMore<NoInfer<N['ability'] | N['tag']>>;
  clip?: string;
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
  /** `side` (default): the stick moves along x. `open`: over the ground, relative to the camera. */
  view?: 'side' | 'open';
  pools?: Record<N['pool'], Pool<N>>;
  inputs?: Record<string, ButtonInput | StickInput>;
  /** Names of events that come in from the host or go out to it. */
  events?: readonly N['event'][];
  probes?: Record<N['probe'], Probe>;
  body?: Body<N>;
  /** Default `[body]`. */
  lanes?: readonly N['lane'][];
  stances: Record<N['stance'], Stance<N>>;
  abilities?: Record<N['ability'], Ability<N>>;
  /** The first is worn at birth. */
  loadouts?: Record<N['loadout'], Loadout<N>>;
  /** Files whose parts this one takes over; only in files. */
  include?: OneOrMore<string>;
  allow?: Allow;
}
