import { Arena } from '../../arena/index.js';
import { Character } from '../../character/character.js';
import type { AbilityPlan, Plan } from '../../compile/plan.js';
import { ALL_KINDS, C_HITS, C_IMMUNE } from '../../record/combat.js';
import { updatePool } from '../../record/pool-line.js';
import {
  A_KNOWN,
  B_DOWN,
  BUTTON,
  C_READY,
  C_WAITING,
  FX,
  GROUNDED,
  L_ABILITY,
  L_PHASE,
  L_PHASE_SINCE,
  LANDED,
  LANE,
  LOADOUT,
  MARK,
  N_LEFT,
  P_MAX,
  P_MIN,
  RUNNING,
  STANCE,
  T,
  VX,
  VY,
  VZ,
  X,
  Y,
  Z,
} from '../../record/slots.js';
import type { SolidWorld } from '../../world/solid-world.js';
import { type Act, actsOf, begin, goOn } from './acts.js';

/** What the arena and scenarios call whom it stands against, and where all aims point. */
export const OTHER = 'other';
const AIM = [1, 0.5] as const;
const NONE: number[] = [];

/** Who is searched, in its world, alone or with another one. */
export interface StageOptions {
  readonly plan: Plan;
  readonly world: SolidWorld;
  readonly at: readonly [number, number, number];
  /** Somebody who stands before it and presses nothing. */
  readonly against?: {
    readonly plan: Plan;
    readonly at: readonly [number, number, number];
    readonly summons: Readonly<Record<string, Plan>>;
  };
}

/** Places and speeds that are nearer than this count as one. */
export const NEAR = 0.5;
const NEAR_SPEED = 4;
/** Fifths of a second after which the time in a phase counts as long, and into how many parts a pool is cut. */
const LONG = 6;
const PARTS = 4;
/** Places that are nearer than this are gone on from later. */
const REGION = 2;

/** What is so at the end of each tick of a step. */
export interface Kept {
  airborne: boolean;
  immune: boolean;
  /** The other one was stunned by blows. */
  stunned: boolean;
  /** Something ran in some lane. */
  busy: boolean;
}

/** A character that is played step by step, and taken back. */
export class Stage {
  readonly plan: Plan;
  readonly acts: readonly Act[];
  readonly c: Character;
  readonly other: Character | undefined;
  /** Ticks that were played. */
  ticks = 0;
  private readonly arena: Arena | undefined;
  private readonly places: readonly { readonly at: number; readonly since: number }[];

  constructor({ plan, world, at, against }: StageOptions) {
    this.plan = plan;
    if (against) {
      this.arena = new Arena({ world, summons: against.summons });
      this.c = this.arena.add(plan.name, plan, { at }).c;
      this.other = this.arena.add(OTHER, against.plan, { at: against.at, facing: -1 }).c;
    } else this.c = new Character(plan, { world, at, refusals: false });
    for (const { name, locked } of plan.abilities) if (locked) this.c.door.learn(name);
    for (const aim of plan.names.aim) this.c.door.aim(aim, AIM[0], AIM[1]);
    this.acts = actsOf(plan);
    this.places = plan.names.lane.map((_, i) => {
      const first = plan.lanesAt + i * LANE;
      return { at: first + L_ABILITY, since: first + L_PHASE_SINCE };
    });
  }

  snapshot(): Float64Array {
    return this.arena ? this.arena.snapshot() : this.c.snapshot();
  }

  restore(from: Float64Array): void {
    if (this.arena) this.arena.restore(from, { devices: 'then' });
    else this.c.takeBack(from, 0, this.plan.recordSize);
  }

  tick(): void {
    this.ticks++;
    if (this.arena) this.arena.tick();
    else this.c.tick();
  }

  /** Plays a step; `kept` is left true where it was so after each tick. Calls `each` after each of them. */
  play(act: Act, step: number, kept: Kept, each?: () => void): void {
    const { c } = this;
    const landed = c.r[LANDED];
    for (let i = 0; i < step * act.steps; i++) {
      if (i === 0) begin(c, act);
      else if (i === 1) goOn(c, act);
      this.tick();
      this.keep(kept);
      // Who lands and hops in the same tick was on the ground.
      if (c.r[LANDED] !== landed) kept.airborne = false;
      each?.();
    }
  }

  private keep(kept: Kept): void {
    const { r } = this.c;
    const { combatAt } = this.plan;
    if (r[GROUNDED] === 1) kept.airborne = false;
    if (combatAt < 0 || r[combatAt + C_IMMUNE] !== ALL_KINDS) kept.immune = false;
    if (r[RUNNING] === 0) kept.busy = false;
    const { other } = this;
    if (!other || other.plan.combatAt < 0 || !(other.r[other.plan.combatAt + C_HITS] > 0)) kept.stunned = false;
  }

  /** What runs, lane by lane. */
  running(): string[] {
    return this.places.flatMap(({ at }) => this.plan.names.ability[this.c.r[at]] ?? []);
  }

  /** Indexes of the abilities that have started in this tick. */
  started(): number[] {
    const { readout } = this.c;
    if (readout.eventCount === 0) return NONE;
    return readout.events.flatMap((event) =>
      event.kind === 'started' ? (this.plan.indexes.ability.get(event.ability) ?? []) : [],
    );
  }

  pool(index: number): number {
    const { r } = this.c;
    updatePool(r, this.plan.pools[index]);
    return r[this.plan.pools[index].value];
  }

  /** What it is doing: the stance, and what runs in which phase. The same for all places, pools and moments. */
  doing(): number {
    const { r } = this.c;
    let key = r[STANCE] + 2;
    for (const { at } of this.places) key = key * 131 + r[at + L_PHASE - L_ABILITY] * 7 + r[at] * 31 + 40;
    return key % 9007199254740881;
  }

  /** Roughly where it is, and in which stance. */
  region(): number {
    const { r } = this.c;
    const part = (value: number) => Math.round(value / REGION) & 0x3ff;
    return ((part(r[X]) * 1024 + part(r[Y])) * 1024 + part(r[Z])) * 256 + r[STANCE];
  }

  /** Its state, with what is near enough to be one: a number that is the same for the same state. */
  state(): number {
    const { r } = this.c;
    const { plan } = this;
    let low = 0x811c9dc5;
    let high = 0x1b873593;
    const add = (value: number) => {
      low = Math.imul(low ^ (value | 0), 0x01000193);
      high = Math.imul(high ^ (value | 0), 0x85ebca6b) ^ (high >>> 13);
    };
    add(r[STANCE]);
    add(r[LOADOUT]);
    add(r[GROUNDED] * 2 + (r[FX] < 0 ? 1 : 0));
    for (const { at, since } of this.places) {
      add(r[at]);
      if (r[at] < 0) continue;
      add(r[at + L_PHASE - L_ABILITY]);
      add(Math.min(LONG, Math.round(((r[T] - r[since]) / plan.rate) * 5)));
    }
    add(Math.round(r[X] / NEAR));
    add(Math.round(r[Y] / NEAR));
    if (plan.view === 'open') {
      add(Math.round(r[Z] / NEAR));
      add(Math.round(r[VZ] / NEAR_SPEED));
    }
    add(Math.round(r[VX] / NEAR_SPEED));
    add(Math.round(r[VY] / NEAR_SPEED));
    for (let i = 0; i < plan.pools.length; i++) {
      const value = this.pool(i);
      const { at } = plan.pools[i];
      const range = r[at + P_MAX] - r[at + P_MIN];
      add(range > 0 ? Math.ceil(((value - r[at + P_MIN]) / range) * PARTS) : 0);
    }
    for (let i = 0; i < plan.abilities.length; i++) add(this.readiness(plan.abilities[i]));
    for (let i = 0; i < plan.names.button.length; i++) add(r[plan.layout.buttons + i * BUTTON + B_DOWN]);
    for (let i = 0; i < plan.names.mark.length; i++) add(r[plan.marksAt + i * MARK]);
    const { other } = this;
    if (other) {
      add(other.r[STANCE]);
      add(Math.round((other.r[X] - r[X]) / NEAR));
      add(Math.round(other.r[Y] / NEAR));
      if (other.plan.combatAt >= 0) add(Math.min(2, other.r[other.plan.combatAt + C_HITS]));
      for (let lane = other.plan.lanesAt; lane < other.plan.lanesEnd; lane += LANE) add(other.r[lane + L_ABILITY]);
    }
    return (high >>> 0) * 2097152 + ((low >>> 0) & 0x1fffff);
  }

  private readiness(a: AbilityPlan): number {
    const { r } = this.c;
    let bits = r[a.at + A_KNOWN];
    if (a.cooldownAt >= 0 && (r[T] < r[a.cooldownAt + C_READY] || r[a.cooldownAt + C_WAITING] > 0)) bits |= 2;
    if (a.latchedAt >= 0 && r[a.latchedAt] > 0) bits |= 4;
    if (a.chargesAt >= 0) bits |= Math.min(15, r[a.chargesAt + N_LEFT]) << 3;
    return bits;
  }

  /** Nothing runs, in the stance in which it stood at the start. */
  rests(stance: number): boolean {
    const { r } = this.c;
    return r[RUNNING] === 0 && r[STANCE] === stance;
  }

  get stance(): number {
    return this.c.r[STANCE];
  }

  /** Where it is. */
  get place(): readonly [number, number, number] {
    const { r } = this.c;
    return [r[X], r[Y], r[Z]];
  }
}

/** Nothing is lost yet. */
export const allKept = (): Kept => ({ airborne: true, immune: true, stunned: true, busy: true });

/** What a scenario says of the start of somebody who is searched, besides its place: `aim` and `learn`. */
export function startRows(plan: Plan): Record<string, unknown>[] {
  const locked = plan.abilities.filter((ability) => ability.locked).map(({ name }) => name);
  return [
    ...(locked.length > 0 ? [{ at: '0f', learn: locked }] : []),
    ...(plan.names.aim.length > 0
      ? [{ at: '0f', aim: Object.fromEntries(plan.names.aim.map((aim) => [aim, [...AIM]])) }]
      : []),
  ];
}
