/** The names that a moveset declares. Each is a union of string literals, found by {@link defineMoveset}. */
export interface NameTypes {
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
  loadout: string;
}

/** `0.2s`, `200ms` or `12f` (ticks). */
export type Time = `${number}s` | `${number}ms` | `${number}f`;

/** A side of a stick, used like a button. */
export type StickSide<N extends NameTypes> = `${N['stick']}.${'left' | 'right' | 'up' | 'down'}`;
export type ButtonName<N extends NameTypes> = N['button'] | StickSide<N>;

/** A number, a formula, or a function of the facts. */
export type NumberFormula<N extends NameTypes = NameTypes> = number | string | ((facts: Facts<N>) => number);
/** A number, a formula or a function replaces; a percentage such as `40%` multiplies. */
export type Amount<N extends NameTypes = NameTypes> = NumberFormula<N>;
/** A formula or a function of the facts that says whether something holds. */
export type Condition<N extends NameTypes = NameTypes> = string | boolean | ((facts: Facts<N>) => boolean);
export type OneOrMore<T> = T | readonly T[];

/** Facts as a function reads them. One object serves each character: do not keep it. Times are in seconds. */
export interface Facts<N extends NameTypes = NameTypes> {
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
  /** How far away it hits; its reach when it does not. */
  distance(probe: N['probe']): number;
  /** Any fact by the name it has in formulas; a truth reads as 0 or 1. */
  fact(name: string): number;
}
