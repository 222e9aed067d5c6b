/** The names that a moveset declares. Each is a union of string literals, found by {@link defineMoveset}. */
export interface NameTypes {
  pool: string;
  button: string;
  stick: string;
  aim: string;
  choice: string;
  place: string;
  mark: string;
  /** Marks that abilities declare, where these are typed apart. */
  ownMark: string;
  surface: string;
  probe: string;
  lane: string;
  stance: string;
  ability: string;
  event: string;
  shape: string;
  tag: string;
  loadout: string;
  phase: string;
  condition: string;
  /** Kinds of damage. */
  kind: string;
  /** Who may be called into an arena. */
  summon: string;
  /** Whom of the others in an arena it looks at. */
  target: string;
  /** Values of messages: `rung.loud` for numbers and times, and points and directions apart. */
  value: string;
  'point value': string;
  'direction value': string;
  /** Options of choices: `berth.slip`. */
  option: string;
  /** Buttons, and the sides of sticks and options of choices, which are used like buttons: `move.left`. */
  input: string;
  /** Texts that may be facts though no type knows them: `string` where the names are not known, else `never`. */
  untyped: string;
}

/** The same names for what only uses them: it declares none. */
export type Uses<N extends NameTypes> = { [K in keyof N]: NoInfer<N[K]> } & NameTypes;

/** Names of the values that an event carries. */
export type ValueName<N extends NameTypes, E extends string> = string extends N['event']
  ? string
  : Tail<N['value'] | N['point value'] | N['direction value'], E>;
type Tail<All extends string, E extends string> = All extends `${E}.${infer Value}` ? Value : never;

/** A mark of the moveset, or of one of its abilities. */
export type AnyMark<N extends NameTypes> = N['mark'] | N['ownMark'];

/** `0.2s`, `200ms` or `12f` (ticks). */
export type Time = `${number}s` | `${number}ms` | `${number}f`;

/** The sides of a stick. */
export type Side = 'left' | 'right' | 'up' | 'down';

/** Facts that are conditions by themselves. */
export type TruthFact<N extends NameTypes> =
  | 'true'
  | 'false'
  | 'grounded'
  | 'airborne'
  | 'landed'
  | 'moving'
  | 'atWall'
  | 'atCeiling'
  | 'headroom'
  | `in(${N['stance']})`
  | `tagged(${N['tag']})`
  | `${'held' | 'pressed' | 'released'}(${N['input']})`
  | `${'running' | 'latched'}(${N['ability']})`
  | `level(${string})`
  | `event(${N['event']})`
  | `wearing(${N['loadout']})`
  | `shape(${N['shape']})`
  | `phase(${N['ability']}.${N['phase']})`
  | N['condition']
  | `known(${AnyMark<N> | N['aim']})`
  | `blow.kind(${N['kind']})`
  | `${'foe' | N['target']}.${'there' | 'striking' | 'guarding' | 'stunned' | 'airborne' | `${'tagged' | 'in'}(${string})`}`
  | `${'hit' | 'blocked' | 'parried' | 'missed'}(${N['ability']})`
  | `ahead(${'foe' | N['target'] | AnyMark<N> | N['aim'] | N['probe'] | N['point value']})`
  | `${N['value']}(${string})`
  | `chosen(${N['option']})`
  | `ground.on(${N['surface']})`
  | `${N['probe']}.hit`
  | `${N['probe']}.on(${N['surface']})`;

/** Facts that are numbers by themselves. */
export type NumberFact<N extends NameTypes> =
  | `${number}`
  | 'x'
  | 'y'
  | 'z'
  | 'vx'
  | 'vy'
  | 'vz'
  | 'speed'
  | 'facing'
  | `facing.${'x' | 'z'}`
  | 'height'
  | 'gravity'
  | 'steer'
  | `ground.normal.${'x' | 'y' | 'z'}`
  | `ground.${'vx' | 'vy' | 'vz'}`
  | `${N['stick']}.${'x' | 'y' | 'amount'}`
  | `${N['aim'] | AnyMark<N>}.${'x' | 'y' | 'z'}`
  | `distance(${AnyMark<N>})`
  | 'hitsTaken'
  | `summoned(${N['summon']})`
  | `${'foe' | N['target']}.${'distance' | 'x' | 'y' | 'z' | 'id' | `pool(${string})`}`
  | 'blow.damage'
  | `blow.${'push' | 'from' | 'at'}.${'x' | 'y' | 'z'}`
  | N['value']
  | `${N['point value'] | N['direction value']}.${'x' | 'y' | 'z'}`
  | `pool.${N['pool']}`
  | `pool.${N['pool']}.${'max' | 'min'}`
  | 'charge'
  | `${'charge' | 'charges'}(${N['ability']})`
  | `${N['probe']}.${'distance' | 'x' | 'y' | 'z'}`
  | `${N['probe']}.normal.${'x' | 'y' | 'z'}`
  | `${N['probe']}.${'vx' | 'vy' | 'vz'}`;

/** Facts that are times by themselves. */
export type TimeFact<N extends NameTypes> =
  | N['value']
  | 'blow.stun'
  | `${'stance' | 'air' | 'ground'}.time`
  | `heldFor(${N['input']})`
  | `${'timeIn' | 'since' | 'cooldown'}(${N['ability']})`;

/** A formula of more than one word: `loggia check` and `compileMoveset` read it whole. */
export type Composed =
  | `${string} ${string}`
  | `${string}${'<' | '>' | '=' | '+' | '-' | '*' | '/' | '%'}${string}`
  | `${'abs' | 'floor' | 'ceil' | 'round' | 'sign' | 'sqrt' | 'min' | 'max' | 'clamp' | 'pick'}(${string})`
  | `(${string})`;

/** A time, a formula, or a function of the facts that gives seconds. */
export type TimeFormula<N extends NameTypes = NameTypes> =
  | Time
  | NoInfer<TimeFact<N> | Composed | N['untyped']>
  | ((facts: Facts<N>) => number);
/** A number, a formula, or a function of the facts. A function that gives no number changes nothing. */
export type NumberFormula<N extends NameTypes = NameTypes> =
  | number
  | NoInfer<NumberFact<N> | Composed | N['untyped']>
  | ((facts: Facts<N>) => number);
/** A number, a formula or a function replaces; a percentage such as `40%` multiplies. */
export type Amount<N extends NameTypes = NameTypes> = NumberFormula<N> | `${number}%`;
/** A share: a number from 0 to 1, a percentage, a formula or a function. */
export type Share<N extends NameTypes = NameTypes> = Amount<N>;
/** A formula or a function of the facts that says whether something holds. What is truthy holds. */
export type Condition<N extends NameTypes = NameTypes> =
  | boolean
  | NoInfer<TruthFact<N> | Composed | N['untyped']>
  | ((facts: Facts<N>) => boolean);
export type OneOrMore<T> = T | readonly T[];

/** Facts as a function reads them, by the names that formulas use. One object serves each character: do not keep it. Times are in seconds. */
export interface Facts<N extends NameTypes = NameTypes> {
  /** The feet stand on something. */
  readonly grounded: boolean;
  /** The feet stand on nothing. */
  readonly airborne: boolean;
  /** The feet touched the ground in this tick. */
  readonly landed: boolean;
  /** The level speed is above 0.05 per second. */
  readonly moving: boolean;
  /** The body touches a wall. */
  readonly atWall: boolean;
  /** The body touches a ceiling. */
  readonly atCeiling: boolean;
  /** The first body shape fits here. */
  readonly headroom: boolean;
  /** Height of the body as it is now. */
  readonly height: number;
  /** Position of the feet. */
  readonly x: number;
  /** Position of the feet, upwards. */
  readonly y: number;
  /** Position of the feet; 0 seen from the side. */
  readonly z: number;
  /** Velocity per second. */
  readonly vx: number;
  /** Velocity per second, upwards. */
  readonly vy: number;
  /** Velocity per second. */
  readonly vz: number;
  /** Level speed per second. */
  readonly speed: number;
  /** 1 or -1 seen from the side; in the open view the x of a unit vector. */
  readonly facing: number;
  /** The amount in a pool. */
  pool(name: N['pool']): number;
  /** An input is held. */
  held(input: N['input']): boolean;
  /** An input was pressed in this tick. */
  pressed(input: N['input']): boolean;
  /** An input was released in this tick. */
  released(input: N['input']): boolean;
  /** Seconds that an input has been held; 0 while it is not. */
  heldFor(input: N['input']): number;
  /** This is the present stance. */
  in(stance: N['stance']): boolean;
  /** The body has this shape. */
  shape(name: N['shape']): boolean;
  /** An ability is running, and in this phase. */
  phase(ability: N['ability'], phase: N['phase']): boolean;
  /** A condition that the moveset names. */
  condition(name: N['condition']): boolean;
  /** Something active has this tag. */
  tagged(tag: N['tag']): boolean;
  /** An ability is running. */
  running(ability: N['ability']): boolean;
  /** Seconds that an ability has been running; 0 while it is not. */
  timeIn(ability: N['ability']): number;
  /** Seconds since an ability last ended; Infinity before its first end. */
  since(ability: N['ability']): number;
  /** Seconds until a cooldown is over; 0 without one, Infinity while it waits for its event. */
  cooldown(ability: N['ability']): number;
  /** The charge of an ability, 0 to 1. */
  charge(ability: N['ability']): number;
  /** Uses that are left of an ability with charges; 0 for others. */
  charges(ability: N['ability']): number;
  /** The toggle of an ability is latched. */
  latched(ability: N['ability']): boolean;
  /** An event was received in this tick. */
  event(name: N['event']): boolean;
  /** This is the active loadout. */
  wearing(loadout: N['loadout']): boolean;
  /** A mark is set, or an aim is there. */
  known(name: AnyMark<N> | N['aim']): boolean;
  /** From the middle of the body to a mark; a million while it is not set. */
  distanceTo(mark: AnyMark<N>): number;
  /** This option is chosen: `berth.slip`. */
  chosen(option: N['option']): boolean;
  /** What a probe hits has this surface; without a probe, what the feet stand on. */
  on(surface: N['surface'], probe?: N['probe']): boolean;
  /** A probe hits something. */
  hit(probe: N['probe']): boolean;
  /** How far away a probe hits; its reach when it does not. */
  distance(probe: N['probe']): number;
  /** Any fact by the name it has in formulas; a condition reads as 0 or 1. */
  fact(name: TruthFact<N> | NumberFact<N> | TimeFact<N> | N['untyped']): number;
}
