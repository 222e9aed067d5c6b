import type { Move } from './effects/move.js';
import type { Walk } from './effects/walk.js';

/** The names that a moveset declares. Each is a union of string literals, found by {@link defineMoveset}. */
export interface Names {
  pool: string;
  button: string;
  stick: string;
  probe: string;
  lane: string;
  stance: string;
  ability: string;
  event: string;
  shape: string;
  tag: string;
}

/** `0.2s`, `200ms` or `12f` (ticks). */
export type Time = `${number}s` | `${number}ms` | `${number}f`;

/** A side of a stick, used like a button. */
export type StickSide<N extends Names> = `${N['stick']}.${'left' | 'right' | 'up' | 'down'}`;
export type ButtonName<N extends Names> = N['button'] | StickSide<N>;

/** A number, a formula, or a function of the facts. */
export type NumberFormula<N extends Names = Names> = number | string | ((facts: Facts<N>) => number);
/** A number, a formula or a function replaces; a percentage such as `40%` multiplies. */
export type Amount<N extends Names = Names> = NumberFormula<N>;
/** A formula or a function of the facts that says whether something holds. */
export type Condition<N extends Names = Names> = string | boolean | ((facts: Facts<N>) => boolean);
export type OneOrMore<T> = T | readonly T[];

/** Facts as a function reads them. One object serves each character: do not keep it. Times are in seconds. */
export interface Facts<N extends Names = Names> {
  readonly grounded: boolean;
  readonly airborne: boolean;
  readonly landed: boolean;
  readonly moving: boolean;
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly vx: number;
  readonly vy: number;
  readonly vz: number;
  /** Level speed per second. */
  readonly speed: number;
  readonly facing: number;
  readonly headroom: boolean;
  pool(name: N['pool']): number;
  held(input: ButtonName<N>): boolean;
  pressed(input: ButtonName<N>): boolean;
  released(input: ButtonName<N>): boolean;
  running(ability: N['ability']): boolean;
  event(name: N['event']): boolean;
  /** Whether a probe hits something. */
  hits(probe: N['probe']): boolean;
  /** How far away it hits; 0 when it does not. */
  distance(probe: N['probe']): number;
  /** Any fact by the name it has in formulas; a truth reads as 0 or 1. */
  fact(name: string): number;
}

export interface Pool {
  /** Default 0. */
  min?: number;
  max: number;
  /** Value at birth. Default `max`. */
  start?: number;
  /** Regained per second. Default 0. */
  regen?: number;
  /** How long regeneration rests after spending. Default 0. */
  rest?: Time;
}

/** A W3C `code` of a key, `pad.south` and the like, or `pointer.primary` and the like. */
export type Source = string;

export interface ButtonInput {
  button: OneOrMore<Source>;
  /** How long a press too early is kept. Default 0. */
  buffer?: Time;
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
}

export interface Body<N extends Names> {
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
export interface Effects<N extends Names> {
  gravity?: Amount<N>;
  fall?: Amount<N>;
  steer?: Amount<N>;
  walk?: Walk<N>;
  body?: NoInfer<N['shape']>;
  face?: 'locked' | 'free';
  tags?: OneOrMore<N['tag']>;
}

/** Effects that begin with an ability or phase. */
export interface ActiveEffects<N extends Names> extends Effects<N> {
  move?: Move<{ [K in keyof N]: NoInfer<N[K]> } & Names>;
  gain?: Partial<Record<NoInfer<N['pool']>, NumberFormula<N>>>;
  emit?: OneOrMore<NoInfer<N['event']>>;
  /** Abilities or tags that may follow into this lane while it lasts. */
  open?: OneOrMore<NoInfer<N['ability'] | N['tag']>>;
  /** Abilities or tags that may not start in any lane while it lasts. */
  bars?: OneOrMore<NoInfer<N['ability'] | N['tag']>>;
}

export interface Stance<N extends Names> extends Effects<N> {
  when?: Condition<N>;
}

export interface Phase<N extends Names> extends ActiveEffects<N> {
  name?: string;
  for?: Time;
  /** It is over when any of these holds. */
  until?: OneOrMore<Condition<N>>;
  /** Skipped unless this holds as it would begin. */
  when?: Condition<N>;
}

export type Start<N extends Names> =
  | { press: NoInfer<ButtonName<N>> }
  | { hold: NoInfer<ButtonName<N>> }
  | { toggle: NoInfer<ButtonName<N>>; unlatch?: OneOrMore<Condition<N>> }
  | { rule: Condition<N> }
  | { event: NoInfer<N['event']> }
  | { code: 'only' };

export interface Ability<N extends Names> extends ActiveEffects<N> {
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
  cooldown?: Time | { for: Time /** Default `end`. */; from?: 'start' | 'end' };
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
}

/** The whole definition of one character, as YAML, JSON and TypeScript all write it. */
export interface Moveset<N extends Names = Names> {
  loggia: 1;
  name: string;
  /** Ticks per second, 10 to 240. Default 60. */
  rate?: number;
  /** `side` (default): the stick moves along x. `open`: over the ground, relative to the camera. */
  view?: 'side' | 'open';
  pools?: Record<N['pool'], Pool>;
  inputs?: Record<string, ButtonInput | StickInput>;
  /** Names of events that come in from the host or go out to it. */
  events?: readonly N['event'][];
  probes?: Record<N['probe'], Probe>;
  body?: Body<N>;
  /** Default `[body]`. */
  lanes?: readonly N['lane'][];
  stances: Record<N['stance'], Stance<N>>;
  abilities?: Record<N['ability'], Ability<N>>;
}
