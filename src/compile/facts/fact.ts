import type { Spot, ValuePlace } from '../../moveset/directions/point.js';
import type { Message } from '../../moveset/messages.js';
import type { Names } from '../../moveset/read.js';
import { at, type Code, equal, hasBit, literal } from '../../record/code.js';
import type { Frame, Operand, Test } from '../../record/frame.js';
import type { Layout } from '../../record/layout.js';
import { T } from '../../record/slots.js';
import { written } from '../../record/written.js';
import { equals } from '../conditions.js';
import type { AbilityPlan, PhasePlan, PoolPlan } from '../plan.js';
import type { Wearers } from '../tags.js';

export type Fact = { type: 'truth'; test: Test } | { type: 'number' | 'time'; operand: Operand };

export interface FactTools {
  readonly messages: readonly Message[];
  /** Behind the record: the blow that is taken; see Plan. */
  readonly blowAt: number;
  /** Behind the record: what is seen of the foe or of a target; see SIGHT. */
  sightAt(name: string): number;
  /** Where a point is. */
  spot(source: string): Spot;
  /** Where a value of a message stands. */
  valueAt(source: string): ValuePlace | undefined;
  readonly names: Names;
  readonly layout: Layout;
  /** First slot of the probes' answers, behind the record. */
  readonly probesAt: number;
  /** Lane of an ability by index. */
  laneOf(ability: number): number;
  /** A scratch number that `write` fills. */
  scratch(write: (c: Frame, at: number) => void, code?: (at: number) => Code | undefined): Operand;
  /** A condition has the name of a fact. */
  clash(condition: string): void;
  /** What a named condition says. */
  named(condition: string): Test;
  /** Names of an ability's phases, of those that have one. */
  phasesOf(ability: string): readonly string[];
  /** Heights of the body's shapes, in their order. */
  readonly heights: readonly number[];
  /** Options of a choice, in their order. */
  optionsOf(choice: string): readonly string[];
  levelsOf(ability: string): readonly { name: string; from: number }[];
  /** Place behind the record of what a pool has. */
  poolAt(pool: number): number;
  /** First slot of an ability's cooldown, or -1. */
  cooldownAt(ability: number): number;
  /** What is compiled later than some formulas: to be read when a fact is, not before. */
  readonly plans: {
    readonly abilities: readonly AbilityPlan[];
    readonly phases: readonly PhasePlan[];
    readonly pools: readonly PoolPlan[];
  };
  /** Scopes that have a tag: by stance, loadout, ability and phase. */
  wearers(tag: string): Wearers;
}

export type Add = (key: string, make: () => Fact) => void;

export const AXES = ['x', 'y', 'z'] as const;

export const numberAt = (at: number): Fact => ({ type: 'number', operand: { at, run: null, constant: false } });

export const truthAt = (at: number, is = 1): Fact => ({ type: 'truth', test: equals(at, is) });

export const truth = (test: Test, code?: () => Code | undefined): Fact => ({
  type: 'truth',
  test: written(test, code),
});

/** Whether the tick that a number says is this one. */
export const nowAt = (slot: number): Fact =>
  truth(
    ({ r }) => r[slot] === r[T],
    () => equal(at(slot), at(T)),
  );

/** Whether a bit of a number is set. */
export const bitAt = (slot: number, bit: number): Fact =>
  truth(
    ({ r }) => (r[slot] & bit) !== 0,
    () => hasBit(slot, bit),
  );

/** A number that never changes, for what an ability does not have. */
export const fixed = (value: number, { scratch }: FactTools): Operand =>
  scratch(
    ({ r }, at) => {
      r[at] = value;
    },
    () => literal(value),
  );

/** What the reference says of facts, by family: how each is written (with `{kind}` where a name stands), what it gives and means, and its value while there is nothing to tell. */
export type FactRows = Readonly<
  Record<
    string,
    readonly (readonly [write: string, gives: 'condition' | 'number' | 'time', doc: string, otherwise?: string])[]
  >
>;
