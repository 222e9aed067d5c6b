import type { Sink } from '../moveset/diagnostic.js';
import type { Frame, Operand, Piece, Test } from '../moveset/effects/effect.js';
import type { Names, WrittenFormula } from '../moveset/read.js';
import type { Moment } from '../moveset/starts/start.js';
import type { Moveset } from '../moveset/types.js';
import type { Written } from './compile.js';
import type { Condition, Reading } from './formula.js';
import type { Layout } from './layout.js';

/** What is open while a stance, ability or phase lasts. */
export interface ScopePlan {
  readonly folds: readonly NonNullable<Piece['fold']>[];
  readonly begins: readonly NonNullable<Piece['begin']>[];
  readonly ends: readonly NonNullable<Piece['end']>[];
  /** Whether there is anything to fold, so that opening and closing it makes the folded values stale. */
  readonly shows: boolean;
  /** Folded every tick, since its numbers follow facts. */
  readonly live: boolean;
  /** By ability: 1 for those it lets follow. */
  readonly open: Uint8Array | null;
  /** By ability: 1 for those it keeps from starting. */
  readonly bars: Uint8Array | null;
  /** Index of its clip, or -1. */
  readonly clip: number;
}

export interface StancePlan {
  readonly name: string;
  readonly when: Test | null;
  readonly scope: ScopePlan;
}

export interface PhasePlan {
  /** Its name, or its place from 1 on. */
  readonly name: string;
  readonly ability: number;
  /** In ticks, or NEVER. */
  readonly lasts: number;
  readonly until: readonly Test[];
  readonly when: Test | null;
  readonly scope: ScopePlan;
  /** Global index of the phase after it, or -1. */
  readonly next: number;
  readonly interrupt: readonly Test[];
  readonly charge: ChargePlan | null;
  readonly beats: readonly BeatPlan[];
  /** While any of these holds, every tick is worked through. */
  readonly restless: readonly Test[];
}

export interface ChargePlan {
  /** In ticks. */
  readonly over: number;
  readonly curve: 'even' | 'late' | 'early' | 'smooth';
  /** Let go before full, the ability is interrupted. */
  readonly cancels: boolean;
}

export interface BeatPlan {
  /** In ticks after the phase begins; 0 for a beat that recurs. */
  readonly at: number;
  /** In ticks; 0 for a beat that happens once. */
  readonly every: number;
  readonly begins: readonly NonNullable<Piece['begin']>[];
}

export interface LoadoutPlan {
  readonly name: string;
  readonly scope: ScopePlan;
}

export interface Ask {
  readonly ability: number;
  /** First slot of that ability's part of the record. */
  readonly abilityAt: number;
  /** Slot of the last tick in which it asks. */
  readonly at: number;
  readonly turn: 0 | 1 | 2;
  readonly rank: number;
  readonly moment: Moment | null;
  readonly happens: Test | null;
  readonly stands: Test | null;
  readonly button: number;
  readonly input: string | null;
  /** Equal for asks that want the very same of an input. */
  readonly sign: string;
  /** Every ability may be asked for by code, whether or not it says so. */
  readonly byCode: boolean;
  /** How long a moment is kept, in ticks. */
  readonly buffer: number;
  readonly latch: boolean;
  readonly unlatch: readonly Test[];
  /** While it is latched and any of these holds, every tick is worked through. */
  readonly restless: readonly Test[];
}

export interface Cost {
  readonly pool: number;
  readonly amount: Operand;
}
export interface Upkeep {
  readonly pool: number;
  readonly perTick: number;
  readonly restart: number;
}

export interface AbilityPlan {
  readonly name: string;
  readonly index: number;
  /** First slot of its part of the record. */
  readonly at: number;
  readonly lane: number;
  readonly laneAt: number;
  /** Global index of its first phase, or -1. */
  readonly firstPhase: number;
  readonly scope: ScopePlan;
  /** By stance: 1 where it may start; null for anywhere. */
  readonly from: Uint8Array | null;
  readonly fromNames: readonly string[];
  /** By ability: how long after its end this may follow, in ticks; 0 only while it runs, -1 not at all. */
  readonly follows: Float64Array | null;
  readonly when: readonly Condition[];
  readonly grace: number;
  readonly costs: readonly Cost[];
  /** Whether no cost is a formula. */
  readonly steadyCosts: boolean;
  readonly upkeeps: readonly Upkeep[];
  readonly cooldown: number;
  readonly cooldownFrom: 'start' | 'end' | 'event';
  /** Index of the event that a cooldown counts from. */
  readonly cooldownEvent: number;
  /** Abilities that share its cooldown, itself among them. */
  readonly group: readonly number[];
  /** Global index of the phase at whose beginning it is paid, or -1 for its start. */
  readonly payPhase: number;
  readonly refund: Operand | null;
  readonly interrupt: readonly Test[];
  readonly locked: boolean;
  /** By loadout: 1 where it is there; null for everywhere. */
  readonly loadouts: Uint8Array | null;
  /** Index of the loadout worn while it runs, or -1. */
  readonly loadout: number;
  /** All its phases together, or NEVER. */
  readonly lasts: number;
  /** Names for what its charge reaches, the highest first. */
  readonly levels: readonly { name: string; from: number }[];
  readonly charges: number;
  /** In ticks; 0 when charges do not come back by time. */
  readonly refillEvery: number;
  readonly refill: Test | null;
  readonly breaks: Uint8Array | null;
  readonly end: readonly Test[];
  /** While it runs and any of these holds, every tick is worked through. */
  readonly restless: readonly Test[];
  /** The same, while it lacks charges. */
  readonly restlessRefill: readonly Test[];
  /** Its standing asks: it ends when none of them stands any more. */
  readonly standing: readonly Ask[];
}

export interface PoolPlan {
  readonly name: string;
  readonly index: number;
  readonly at: number;
  /** Place behind the record of what it has now, once that is read. */
  readonly value: number;
  readonly min: Operand;
  readonly max: Operand;
  /** Per second. */
  readonly regen: Operand;
  /** Whether a limit or the rate is a formula. */
  readonly varies: boolean;
  /** Null for the upper limit. */
  readonly start: number | null;
  readonly rest: number;
}

export interface StickPlan {
  readonly name: string;
  readonly at: number;
  readonly deadzone: number;
  readonly opposite: 'last' | 'neutral';
  /** Index of its left side among the buttons; right, up and down follow. */
  readonly sides: number;
}

export interface ProbePlan {
  readonly name: string;
  readonly ray: readonly [number, number, number];
  readonly at: readonly [number, number, number];
  readonly on: readonly string[];
}

export interface ShapePlan {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly depth: number;
  /** Half of each. */
  readonly hx: number;
  readonly hy: number;
  readonly hz: number;
}

/** Bits of a plan's `has`: one number spares the tick a look at each of them. */
export const HAS = {
  varyingPools: 1,
  charges: 2,
  beats: 4,
  rules: 8,
  watched: 16,
  varyingStances: 32,
  bars: 64,
  /** Something may happen in any tick, whatever runs. */
  restless: 128,
  /** Something may happen in any tick while something certain runs. */
  restlessLanes: 256,
} as const;

/** A compiled moveset: everything a character needs, built once and shared by all of its kind. Nobody changes it. */
export interface Plan {
  readonly name: string;
  /** @internal What it was compiled from. */
  readonly written: Written;
  /** Inputs by name, with what they are bound to by default. */
  readonly inputs: NonNullable<Moveset['inputs']>;
  readonly rate: number;
  /** Seconds in a tick. */
  readonly dt: number;
  readonly view: 'side' | 'open';
  readonly names: Names;
  readonly layout: Layout;
  /** Numbers in a record: what a snapshot copies. */
  readonly recordSize: number;
  /** Numbers a character needs: the record, probes' answers, constants and scratch. */
  arraySize(): number;
  readonly probesAt: number;
  /** A free number behind the record. */
  readonly scratchAt: number;
  readonly constants: readonly { at: number; value: number }[];
  readonly body: {
    readonly gravity: number;
    readonly fall: number;
    readonly speed: number;
    readonly accel: number;
    readonly brake: number;
  };
  readonly shapes: readonly ShapePlan[];
  readonly pools: readonly PoolPlan[];
  readonly sticks: readonly StickPlan[];
  /** The stick that walks, or -1 for none: first slot of it in the record. */
  readonly walkStick: number;
  readonly probes: readonly ProbePlan[];
  readonly stances: readonly StancePlan[];
  /** By button, and for all sticks at the end: 1 where a stance depends on it. */
  readonly heeded: Uint8Array;
  /** Index of the first stance that holds. */
  readonly pickStance: (c: Frame) => number;
  readonly abilities: readonly AbilityPlan[];
  readonly phases: readonly PhasePlan[];
  readonly loadouts: readonly LoadoutPlan[];
  readonly clips: readonly string[];
  /** Which of the rarer things it has: bits of {@link HAS}. */
  readonly has: number;
  readonly varyingPools: readonly PoolPlan[];
  readonly eventCooldowns: readonly AbilityPlan[];
  /** In the order in which they are heard. */
  readonly asks: readonly Ask[];
  readonly momentAsks: readonly Ask[];
  /** The same, by what brings their moments about: by button where that is one. */
  readonly momentsBy: {
    readonly press: readonly (readonly Ask[])[];
    readonly release: readonly (readonly Ask[])[];
    readonly edges: readonly Ask[];
    readonly queue: readonly Ask[];
  };
  /** Asks by holding: those of each button. */
  readonly heldBy: readonly (readonly Ask[])[];
  readonly ruleAsks: readonly Ask[];
  readonly graced: readonly AbilityPlan[];
  /** Those with grace and conditions, which want a look every tick. */
  readonly watched: readonly AbilityPlan[];
  readonly charged: readonly AbilityPlan[];
  readonly latched: readonly Ask[];
  /** Any fact by its name in formulas, or undefined. */
  reading(fact: string): Reading | undefined;
  factNames(): string[];
  /**
   * Compiles a further condition, for characters born from now on.
   * @internal
   */
  conditions(written: WrittenFormula, sink: Sink): Condition[];
}
