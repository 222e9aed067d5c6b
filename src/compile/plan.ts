import type { Aim } from '../moveset/directions/direction.js';
import type { Spot } from '../moveset/directions/point.js';
import type { ParsedFormula } from '../moveset/formula.js';
import type { Message } from '../moveset/messages.js';
import type { JoinedProbe } from '../moveset/probes/index.js';
import type { Names } from '../moveset/read.js';
import type { ParsedMoveset, ParsedStart } from '../moveset/schema.js';
import type { Moment, MomentTest, Wants } from '../moveset/starts/start.js';
import type { Facts, Moveset, NameTypes } from '../moveset/types.js';
import type { Guarding, HurtPlan, Insight, Striking, Summoning, TargetPlan } from '../record/combat.js';
import type { Frame, Operand, Test, Warping } from '../record/frame.js';
import type { Layout } from '../record/layout.js';
import type { PoolPlaces } from '../record/pool-line.js';
import type { Sink } from '../report/diagnostic.js';
import type { ShownVolume } from '../report/shown-volume.js';
import type { Guesser } from '../report/usage-error.js';
import type { AnswerProbe } from '../world/world.js';
import type { Condition, Reading } from './readings.js';

/** An effect at work: what it does, and the first of the numbers of the record that it owns. */
export interface Action {
  readonly run: (c: Frame, own: number) => void;
  readonly own: number;
  /** The effect, as it is written. */
  readonly key: string;
}

/** What is open while a stance, loadout, ability or phase lasts. */
export interface ScopePlan {
  readonly begins: readonly Action[];
  readonly eachs: readonly Action[];
  readonly folds: readonly Action[];
  readonly scales: readonly Action[];
  readonly ends: readonly Action[];
  /** What it begins with, if that is a warp. */
  readonly warp: Warping | null;
  /** Index of the summon that it begins with, or -1. */
  readonly summon: number;
  /** What strikes while it lasts, and the first of the numbers that the strike owns. */
  readonly strikes: readonly { readonly plan: Striking; readonly own: number }[];
  /** It forgets abilities as it begins. */
  readonly forgets: boolean;
  /** Numbers that its effects own: from where on, and how many. */
  readonly ownAt: number;
  readonly owns: number;
  /** The effects that own them, in their order: where these are others, the numbers mean something else. */
  readonly owners: string;
  readonly tags: readonly string[];
  /** By ability: 1 for those it lets follow. */
  readonly open: Uint8Array | null;
  /** By ability: 1 for those it keeps from starting. */
  readonly bars: Uint8Array | null;
  /** By layer: the index of its clip, or -1. */
  readonly clips: readonly number[];
  /** Actions at certain times of it, or places of its clip. */
  readonly beats: readonly BeatPlan[];
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
  /** How long it lasts at most besides, where a formula says that, in ticks. */
  readonly time: Operand | null;
  readonly until: readonly Test[];
  readonly when: Test | null;
  readonly scope: ScopePlan;
  /** Global index of the phase after it, or -1. */
  readonly next: number;
  readonly interrupt: readonly Test[];
  readonly charge: ChargePlan | null;
}

export interface ChargePlan {
  /** In ticks; NEVER where a formula says it, which is read as the phase begins and kept at `overAt`. */
  readonly over: number;
  readonly time: Operand | null;
  readonly overAt: number;
  /** It goes on by itself when it is full. */
  readonly goes: boolean;
  readonly curve: 'even' | 'late' | 'early' | 'smooth';
  /** Released before full, the ability is interrupted. */
  readonly cancels: boolean;
}

export interface BeatPlan {
  /** In ticks after the phase begins; 0 for a beat that recurs. */
  readonly at: number;
  /** In ticks; 0 for a beat that happens once. */
  readonly every: number;
  /** Layer and clip whose time counts, instead of that of its scope; -1 for none. */
  readonly layer: number;
  readonly clip: number;
  readonly begins: readonly Action[];
}

export interface LoadoutPlan {
  readonly name: string;
  /** Index of the body's shape in it, -1 where it says none. */
  readonly shape: number;
  readonly scope: ScopePlan;
}

/** One way in which an ability is requested: see TriggerPiece for what the parts mean. */
export interface TriggerPlan {
  /** Its place in the order in which requests are judged. */
  readonly index: number;
  readonly ability: number;
  /** First slot of its part of the record, and of the numbers that it owns (-1 for none). */
  readonly at: number;
  readonly own: number;
  readonly rank: number;
  readonly on: Moment | null;
  readonly happens: MomentTest | null;
  readonly sustained: Test | null;
  readonly button: number;
  readonly input: string | null;
  readonly event: number;
  /** Index of the ability whose end it listens to, or -1. */
  readonly after: number;
  /** The key that makes it what it is, and what it wants of devices besides. */
  readonly kind: string;
  readonly wants: Wants | null;
  /** @internal As the moveset says it. */
  readonly start: ParsedStart;
  /** Equal for triggers that want the very same of an input. */
  readonly sign: string;
  /** Every ability can be requested by code, whether or not it says so. */
  readonly byCode: boolean;
  /** How long a moment is kept, in ticks. */
  readonly buffer: number;
  readonly latch: boolean;
  readonly unlatch: readonly Test[];
  readonly keepsFacing: boolean;
  /** While it does not request, only the press of its button makes it. */
  readonly wokenByPress: boolean;
}

export interface Cost {
  readonly pool: number;
  readonly amount: Operand;
  /** Place behind the record of the price that was judged. */
  readonly price: number;
}
export interface Upkeep {
  readonly pool: number;
  /** Infinite where a formula says how much it drains per second. */
  readonly perTick: number;
  readonly rate: Operand | null;
  readonly restart: number;
}

export interface Predecessor {
  readonly ability: number;
  /** Slot of the own tick at which it last ended. */
  readonly endedAt: number;
  /** How long after its end this may follow, in ticks; 0 only while it runs, NEVER where a formula says it. */
  readonly within: number;
  readonly time: Operand | null;
}

export interface AbilityPlan {
  readonly name: string;
  readonly index: number;
  /** First slot of its part of the record. */
  readonly at: number;
  readonly lane: number;
  readonly laneAt: number;
  /** Places that only some have, -1 for none: see AbilityPlaces. */
  readonly chargesAt: number;
  readonly eligibleAt: number;
  readonly ranOutAt: number;
  readonly latchedAt: number;
  readonly powerAt: number;
  /** Its charge stays when it is interrupted. */
  readonly keepsCharge: boolean;
  readonly waitsAt: number;
  /** Slot of the result of its strikes, or -1. */
  readonly resultAt: number;
  /** It or a phase of it strikes. */
  readonly strikes: boolean;
  /** Messages that start it: where the values of the last one are kept, behind the own tick in which it did. */
  readonly heard: readonly { readonly event: number; readonly at: number; readonly size: number }[];
  /** First slot of its cooldown, which it may share; -1 for none. */
  readonly cooldownAt: number;
  /** Global index of its first phase, or -1. */
  readonly firstPhase: number;
  readonly scope: ScopePlan;
  /** By stance: 1 where it may start; null for anywhere. */
  readonly from: Uint8Array | null;
  readonly fromNames: readonly string[];
  readonly follows: readonly Predecessor[] | null;
  readonly when: readonly Condition[];
  readonly grace: number;
  /** It moves the body upwards, so that it does not slip off an edge but leaves it. */
  readonly lifts: boolean;
  readonly costs: readonly Cost[];
  readonly upkeeps: readonly Upkeep[];
  readonly cooldown: number;
  /** The same where a formula says it; `cooldown` is 0 then. */
  readonly cooldownTime: Operand | null;
  /** `own` for an event that it emits itself. */
  readonly cooldownFrom: 'start' | 'end' | 'event' | 'own';
  /** Index of the event that a cooldown counts from. */
  readonly cooldownEvent: number;
  /** Events that shorten it, and by how much. */
  readonly cooldownLess: readonly { readonly event: number; readonly time: Operand }[];
  /** Global index of the phase at whose beginning it is paid, or -1 for its start. */
  readonly payPhase: number;
  readonly refund: Operand | null;
  readonly interrupt: readonly Test[];
  readonly locked: boolean;
  /** By loadout: 1 where it is there; null for everywhere. */
  readonly loadouts: Uint8Array | null;
  /** Index of the loadout in use while it runs, or -1. */
  readonly loadout: number;
  /** All its phases together, or NEVER. */
  readonly lasts: number;
  /** Names for what its charge reaches, the highest first. */
  readonly levels: readonly { name: string; from: number }[];
  /** The first warp that it does: judged before it starts. */
  readonly warp: Warping | null;
  /** Index of the first summon that it does, or -1: whether there is room is judged before it starts. */
  readonly summon: number;
  /** First slots of the marks that are unset as it ends. */
  readonly marks: readonly number[];
  /** How many uses there may be: 0 without a limit. */
  readonly charges: Operand | null;
  /** In ticks; null when charges do not come back by time. */
  readonly refillEvery: Operand | null;
  readonly refill: Test | null;
  readonly breaks: Uint8Array | null;
  readonly end: readonly Test[];
  readonly triggers: readonly TriggerPlan[];
  /** What holds it: it ends when none of these requests any more, if one of them started it. */
  readonly sustained: readonly TriggerPlan[];
  /** Index of the trigger by which code requests it. */
  readonly codeTrigger: number;
}

export interface PoolPlan extends PoolPlaces {
  readonly name: string;
  readonly index: number;
  readonly min: Operand;
  readonly max: Operand;
  /** Per second. */
  readonly regen: Operand;
  /** Whether a limit or the rate is a formula. */
  readonly varies: boolean;
  /** Null for the upper limit. */
  readonly start: number | null;
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
  /** What it asks of a world: a way through it, an overlap at its beginning, or what is nearest to that; null for one that is made of others. */
  readonly asks: 'way' | 'overlap' | 'nearest' | null;
  /** How it is made of others. */
  readonly joins: JoinedProbe | null;
  /** Where it begins instead of at the feet. */
  readonly from: Spot | null;
  /** Indexes of the probes that it is made of. */
  readonly parts: readonly number[];
  /** Its whole way, x along facing; where `aim` is null. */
  readonly ray: readonly [number, number, number];
  readonly aim: Aim | null;
  readonly reach: Operand;
  /** Half sizes of the box that it casts; null for a ray, and what `ownBox` does not say otherwise. */
  readonly box: readonly [number, number, number] | null;
  /** It casts the body's own shape. */
  readonly ownBox: boolean;
  readonly at: readonly [number, number, number];
  /** Only surfaces with one of these tags count; null for all. */
  readonly on: readonly string[] | null;
}

export interface BodyShape {
  readonly name: string;
  readonly width: number;
  readonly height: number;
  readonly depth: number;
  /** Half of each. */
  readonly hx: number;
  readonly hy: number;
  readonly hz: number;
}

/** What warps take: see motion/warp.ts. */
export interface WarpCode {
  /** Where a warp leads; says what was found. */
  find(c: Frame, warp: Warping, out: Float64Array): number;
  /** Does it; says whether it led anywhere. */
  run(c: Frame, warp: Warping): boolean;
}

/** What messages take: see tick/presses/messages.ts. */
export interface MessageCode {
  /** Adds one without values. */
  add(c: Frame, event: number): number;
  /** Fills in three values of the last. */
  addValues(c: Frame, which: number, data: Float64Array, from: number): void;
  isFull(c: Frame): boolean;
  /** One that the character emits. */
  emit(c: Frame, event: number): void;
  /** Values as code gives them. */
  read(plan: Plan, event: string, given: object): number[];
}

/** What a plan does, beside what it says: interpreted (interpret/tick.ts), or as a generated module has it. */
export interface PlanCode extends Guesser {
  /** Those stages of a tick whose bits are given, see record/stages.ts. Says false while its clock stands still: then the tick is over. */
  tick(c: Frame, stages: number): boolean;
  /** Index of a button by its name, or -1, where that is quicker than to look it up. */
  buttonOf?(name: string): number;
  /** What the press of a button triggers. */
  notePress(c: Frame, button: number): void;
  /** Lays effects over the base values. */
  fold(c: Frame): void;
  /** Starts what a trigger requests, which was judged. */
  start(c: Frame, trigger: TriggerPlan): void;
  /** Ends what runs in a lane; `by` is the ability that breaks it or follows it, or -1. */
  end(c: Frame, lane: number, why: number, by: number): void;
  /** Ends the phase that runs in a lane, and goes on to the next. */
  leave(c: Frame, lane: number): void;
  /** 0 if an ability may start now, else a bit for every reason against it. */
  judge(c: Frame, ability: number): number;
  /** Facts by their names. */
  facts(plan: Plan, c: Frame): Facts<NameTypes>;
  /** What only some movesets need follows: a module brings it if its own does. */
  readonly warps?: WarpCode;
  readonly messages?: MessageCode;
  /** Asks a probe, unless it was asked at this moment. */
  probe?(c: Frame, plan: Plan, index: number, moment: number, answer: AnswerProbe | null): void;
  /** Volumes to draw. */
  volumes?(plan: Plan, r: Float64Array): ShownVolume[];
}

/** Who is made from a moveset, while a game is developed. */
export interface Living {
  add(one: object): void;
}

/** A compiled moveset: everything a character needs, built once and shared by all of its kind. It never changes. */
export interface Plan<N extends NameTypes = NameTypes> {
  /** Never set: it carries the names that the moveset declares, so that characters of it know them. */
  readonly nameTypes?: N;
  /** The moveset's name. */
  readonly name: string;
  /** Names of now by those of before. */
  readonly renamed: Readonly<Record<string, string>>;
  /** @internal Is told of who is made from it, while a game is developed. */
  live?: Living | undefined;
  /** @internal What it does. */
  readonly code: PlanCode;
  /** @internal What it was compiled from. */
  readonly parsed: ParsedMoveset;
  /** Inputs by name, with what they are bound to by default; `describe` has their `data`. */
  readonly inputs: NonNullable<Moveset['inputs']>;
  /** Ticks per second. */
  readonly rate: number;
  /** Seconds in a tick. */
  readonly dt: number;
  /** @internal What parts of the moveset have for the host and the player, as JSON: see describe.ts. */
  readonly told: string;
  /** How it is seen. */
  readonly view: 'side' | 'open';
  /** All names that it declares, by kind, in their order. */
  readonly names: Names;
  /** @internal */
  readonly layout: Layout;
  /**
   * A number of all that a record's meaning rests on: equal where snapshots and tapes can be exchanged. Servers and clients may compare it.
   * Whole, from 1 to 4294967295.
   */
  readonly fingerprint: number;
  /** @internal That of the names of before, see `renamed`: what was kept then is still understood. */
  readonly former: number;
  /** Numbers in a record: what a snapshot copies. */
  readonly recordSize: number;
  /** How many numbers a snapshot takes: those of a record, and what the devices hold. */
  readonly snapshotSize: number;
  /** Numbers a character needs: the record, and behind it what is derived from it. */
  arraySize(): number;
  /** @internal First place of the lanes, and the place behind them; each takes LANE numbers. */
  readonly lanesAt: number;
  /** @internal */
  readonly lanesEnd: number;
  /** @internal By lane: 1 where only the presses of the last button wait. */
  readonly waitsLast: Uint8Array;
  /** @internal By lane: 1 where presses that wait go in the order in which they came. */
  readonly waitsTurn: Uint8Array;
  /** @internal */
  readonly probesAt: number;
  /** @internal Behind the record: what the devices hold now. per button two numbers, per stick x and y as pushed, up to `outAt`; see the door. */
  readonly devicesAt: number;
  /** @internal Behind the record: the room that the body was last known to be in. */
  readonly roomAt: number;
  /** @internal Place of the number of its roster. */
  readonly rosterAt: number;
  /** @internal Place of 1 while the folded numbers are what they would be if they were folded again; only modules look. */
  readonly foldedAt: number;
  /** @internal Place of what is known of the body's way, see motion/rooms.ts; only modules look. */
  readonly freeAt: number;
  /** @internal First place of the bits of triggers that may request, AWAKE_BITS in a number; others need not be looked at. Only modules look. */
  readonly awakeAt: number;
  /** @internal Behind the record: values of a message that goes out. */
  readonly outAt: number;
  /** @internal Behind the record: the blow that is taken, behind 0 while there is one (else -NEVER); only where `combatAt` is not -1. */
  readonly blowAt: number;
  /** @internal First place of the part of the record that only those have who fight, or -1. */
  readonly combatAt: number;
  /** @internal First place of the part of the record that only those have who ride, or -1. */
  readonly rideAt: number;
  /** @internal */
  readonly summonings: readonly Summoning[];
  /** @internal First place of how many of each kind that it has called are there. */
  readonly summonedAt: number;
  /** @internal Behind the record: what it sees of the nearest foe; see SIGHT. */
  readonly foeAt: number;
  /** @internal Whether something reads that. */
  readonly readsFoe: boolean;
  /** @internal */
  readonly targets: readonly TargetPlan[];
  /** @internal */
  readonly insights: readonly Insight[];
  /** @internal Whether some effect forgets abilities. */
  readonly forgets: boolean;
  /** @internal Words by which others find it. */
  readonly tags: readonly string[];
  /** @internal Whether something active has a tag; null for one that nothing has. */
  testOfTag(tag: string): Test | null;
  /** @internal */
  readonly guards: readonly Guarding[];
  /** @internal What it takes; null for what cannot be struck. */
  readonly hurt: HurtPlan | null;
  /** @internal How its body meets others: PASS, PUSH or BLOCK. */
  readonly meets: number;
  /** @internal Whether any ability strikes. */
  readonly strikes: boolean;
  /** @internal By event: 1 for what a blow tells who is struck. */
  readonly stuns: Uint8Array;
  /** @internal By event: the values that it carries. */
  readonly messages: readonly Message[];
  /** @internal A free number behind the record. */
  readonly scratchAt: number;
  /** @internal */
  readonly constants: readonly { at: number; value: number }[];
  /** @internal */
  readonly body: {
    readonly gravity: number;
    readonly fall: number;
    readonly speed: number;
    readonly accel: number;
    readonly brake: number;
    /** Least upward part of the normal of what counts as ground. */
    readonly steepest: number;
    /** Steepest rise per length of the ground that a body walks on. */
    readonly slope: number;
    /** How high a step it walks up. */
    readonly step: number;
    /** How far below the feet ground still carries a body that stood on it and does not fall. */
    readonly reach: number;
    /** How far at most a body that walks is put down in one tick, to stay on the ground. */
    readonly drop: number;
  };
  /** @internal By the bits of surfaces: their names; null for none. */
  surfaces(bits: number): readonly string[] | null;
  /** @internal */
  readonly shapes: readonly BodyShape[];
  /** @internal */
  readonly pools: readonly PoolPlan[];
  /** @internal */
  readonly varyingPools: readonly PoolPlan[];
  /** @internal What something drains is a formula. */
  readonly varyingDrains: boolean;
  /** @internal */
  readonly sticks: readonly StickPlan[];
  /** @internal First slots of aims, choices and marks in the record. */
  readonly aimsAt: number;
  /** @internal */
  readonly choicesAt: number;
  /** @internal */
  readonly marksAt: number;
  /** @internal First slots of marks that some effect sets on what may move. */
  readonly following: readonly number[];
  /** @internal By button: the slot of the choice of which it is an option, or -1, and which option. */
  readonly choiceOf: readonly { readonly at: number; readonly option: number }[];
  /** @internal Marks that are saved with progress. */
  readonly savedMarks: readonly string[];
  /** @internal By button: the stick of which it is a side, or -1. */
  readonly stickOf: readonly number[];
  /** @internal The stick that walks, or -1 for none: first slot of it in the record. */
  readonly walkStick: number;
  /** @internal */
  readonly probes: readonly ProbePlan[];
  /** @internal */
  readonly stances: readonly StancePlan[];
  /** @internal Index of the first stance that holds. */
  readonly pickStance: (c: Frame) => number;
  /** @internal */
  readonly abilities: readonly AbilityPlan[];
  /** @internal By ability: 1 for those that anything bars at any time. */
  readonly barred: Uint8Array;
  /** @internal */
  readonly phases: readonly PhasePlan[];
  /** @internal */
  readonly loadouts: readonly LoadoutPlan[];
  /** Every clip that it names. */
  readonly clips: readonly string[];
  /** @internal By clip: how long it lasts, in ticks; 0 where that is not known. */
  readonly clipTicks: readonly number[];
  /** Layers of clips; the first one, `base`, is that of clips which name none. */
  readonly layers: readonly string[];
  /** @internal Whether any stance or loadout has beats. */
  readonly restingBeats: boolean;
  /** @internal Whether any effect is a percentage. */
  readonly hasFactors: boolean;
  /** @internal In the order in which requests are judged. */
  readonly triggers: readonly TriggerPlan[];
  /** @internal Whether a probe that is read asks for what is nearest. */
  readonly asksNearest: boolean;
  /** @internal Whether any ability warps. */
  readonly warps: boolean;
  /** @internal Probes that some formula or direction reads, or all if a function may. */
  readonly probesRead: readonly string[];
  /** @internal By kind: the index of each name. */
  readonly indexes: Readonly<Record<keyof Names, ReadonlyMap<string, number>>>;
  /** @internal Any fact by its name in formulas, or undefined. */
  reading(fact: string): Reading | undefined;
  /** Every fact that formulas can read. */
  factNames(): string[];
  /** @internal Named conditions that a module has as functions, by their names. */
  readonly longConditions: ReadonlyMap<string, Test>;
  /**
   * Compiles a further condition, for characters created from now on.
   * @internal
   */
  conditions(parsed: ParsedFormula, sink: Sink): Condition[];
  /**
   * The same of a further number; `time` is whether it is one, in ticks.
   * @internal
   */
  amountOf(parsed: ParsedFormula, sink: Sink): { readonly amount: Operand; readonly time: boolean };
}
