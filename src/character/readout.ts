import type { AbilityPlan, Plan } from '../compile/plan.js';
import { updatePower } from '../compile/power.js';
import type { AnyMark, NameTypes } from '../moveset/name-types.js';
import type { Frame } from '../record/frame.js';
import { updatePool } from '../record/pool-line.js';
import {
  A_KNOWN,
  C_LENGTH,
  C_READY,
  C_WAITING,
  CLIP,
  CLIP_LASTS,
  CLIP_SINCE,
  FALL,
  FORCED,
  FX,
  FZ,
  GRAVITY,
  GROUNDED,
  HOST,
  L_ABILITY,
  L_DUE,
  L_PHASE,
  L_PHASE_SINCE,
  L_SINCE,
  LANE,
  LAYER,
  LEVEL,
  LOADOUT,
  MARK,
  MARK_SET,
  MARK_X,
  N_LEFT,
  NEVER,
  P_MAX,
  P_MIN,
  SHAPE,
  STANCE,
  STANCE_SINCE,
  STOP,
  T,
  UPRIGHT,
  VX,
  VY,
  VZ,
  WARPED,
  X,
  Y,
  Z,
} from '../record/slots.js';
import type { LoggiaEvent } from '../report/events.js';
import type { ShownVolume } from '../report/shown-volume.js';
import { indexOfName } from '../report/usage-error.js';
import { type Answer, answersOf } from './answers.js';
import { indexOf } from './names.js';

/**
 * What an engine is asked to do with a body that Loggia does not move itself, in the step after a tick:
 *
 *     if (drive.warped) put the feet at (x, y, z)
 *     if (drive.stopped) leave the body where it is
 *     else {
 *       if (!drive.holdsUpright) vy = max(vy - gravity * dt, -fall)
 *       move by (vx, vy, vz) * dt, along what is in the way
 *     }
 *
 * and to tell `door.contacts` what became of it before the next tick.
 */
export interface Drive {
  /** Velocity wanted, per second, before this step's gravity. */
  readonly vx: number;
  /** Velocity wanted upwards, per second, before this step's gravity. */
  readonly vy: number;
  /** Velocity wanted, per second; 0 seen from the side. */
  readonly vz: number;
  /** A move holds the level part of the velocity: nothing but walls may change it. */
  readonly holdsLevel: boolean;
  /** A move holds the upright part of the velocity: no gravity, and nothing but floors and ceilings may change it. */
  readonly holdsUpright: boolean;
  /** Downward acceleration to apply, per second squared. */
  readonly gravity: number;
  /** Fastest fall, per second. */
  readonly fall: number;
  /** Name of the body shape; its feet stay where they are. */
  readonly shape: string;
  /** Width of the body, in the world's units. */
  readonly width: number;
  /** Height of the body, in the world's units. */
  readonly height: number;
  /** Its clock stands still, and so must the body. */
  readonly stopped: boolean;
  /** In this tick code put the feet at x, y, z. */
  readonly warped: boolean;
  /** Where the feet are. */
  readonly x: number;
  /** Where the feet are, upwards. */
  readonly y: number;
  /** Where the feet are; 0 seen from the side. */
  readonly z: number;
}

/** What a readout shows of a character. */
interface Shown {
  readonly r: Float64Array;
  readonly plan: Plan;
  readonly events: { readonly count: number };
  readEvents(): LoggiaEvent[];
}

/** What both the drive and the readout show of the body. */
class BodyView<N extends NameTypes = NameTypes> {
  constructor(protected readonly c: Shown) {}

  /** Whether its clock stands still. */
  get stopped(): boolean {
    return this.c.r[HOST] < this.c.r[STOP];
  }
  /** Middle of the feet. */
  get x(): number {
    return this.c.r[X];
  }
  /** Middle of the feet, upwards. */
  get y(): number {
    return this.c.r[Y];
  }
  /** Middle of the feet; 0 seen from the side. */
  get z(): number {
    return this.c.r[Z];
  }
  /** Velocity per second. */
  get vx(): number {
    return this.c.r[VX];
  }
  /** Velocity upwards, per second. */
  get vy(): number {
    return this.c.r[VY];
  }
  /** Velocity per second; 0 seen from the side. */
  get vz(): number {
    return this.c.r[VZ];
  }
  /** Name of the body shape. */
  get shape(): N['shape'] {
    return this.c.plan.shapes[this.c.r[SHAPE]].name;
  }
  /** Width of the body, in the world's units. */
  get width(): number {
    return this.c.plan.shapes[this.c.r[SHAPE]].width;
  }
  /** Height of the body, in the world's units. */
  get height(): number {
    return this.c.plan.shapes[this.c.r[SHAPE]].height;
  }
}

class DriveView extends BodyView implements Drive {
  get holdsLevel(): boolean {
    return (this.c.r[FORCED] & LEVEL) !== 0;
  }
  get holdsUpright(): boolean {
    return (this.c.r[FORCED] & UPRIGHT) !== 0;
  }
  get gravity(): number {
    return this.c.r[GRAVITY];
  }
  get fall(): number {
    return this.c.r[FALL];
  }
  get warped(): boolean {
    return this.c.r[WARPED] === this.c.r[HOST];
  }
}

/**
 * What the host reads after a tick. It shows the character as it is now and keeps nothing, so that reading
 * costs nothing but `events`, which builds its list on each call. Names that the moveset does not have throw a UsageError.
 */
export class Readout<N extends NameTypes = NameTypes> extends BodyView<N> {
  private driven: Drive | null = null;

  /** What an engine that moves the body is asked to do. */
  get drive(): Drive {
    this.driven ??= new DriveView(this.c);
    return this.driven;
  }

  /** The character's own tick, from 0 on. */
  get tick(): number {
    return this.c.r[T];
  }
  /** -1 or 1 seen from the side; in the open, the x of a unit vector. */
  get facing(): number {
    return this.c.r[FX];
  }
  /** 0 seen from the side; in the open, the z of a unit vector. */
  get facingZ(): number {
    return this.c.r[FZ];
  }
  /** Whether the feet stand on something. */
  get grounded(): boolean {
    return this.c.r[GROUNDED] === 1;
  }
  /** The present stance. */
  get stance(): N['stance'] {
    return this.c.plan.stances[this.c.r[STANCE]].name;
  }
  /** Seconds in this stance. */
  get stanceTime(): number {
    return (this.c.r[T] - this.c.r[STANCE_SINCE]) / this.c.plan.rate;
  }
  /** How many events this tick had; `events` need not be read when it is 0. */
  get eventCount(): number {
    return this.c.events.count;
  }
  /** What happened in this tick, in order. */
  get events(): LoggiaEvent<N>[] {
    return this.c.readEvents() as LoggiaEvent<N>[];
  }

  /**
   * One answer for each press and release of this tick that an ability listens to: what it started, or why it started nothing, of the
   * ability that was most likely meant. A button that is held is answered once. A new list in each call.
   */
  get answers(): Answer<N>[] {
    const { plan, r } = this.c;
    return answersOf(plan, r, this.c.readEvents()) as Answer<N>[];
  }

  /**
   * The ability that runs in a lane (default: the first), or null.
   * @param lane Its name. Default: the first.
   * @throws {UsageError} for a lane that the moveset does not have.
   */
  ability(lane?: N['lane']): N['ability'] | null {
    const index = this.c.r[this.lane('ability', lane) + L_ABILITY];
    return index < 0 ? null : this.c.plan.names.ability[index];
  }
  /**
   * The phase of what runs in a lane, or null.
   * @param lane Its name. Default: the first.
   * @throws {UsageError} for a lane that the moveset does not have.
   */
  phase(lane?: N['lane']): string | null {
    const index = this.c.r[this.lane('phase', lane) + L_PHASE];
    return index < 0 ? null : this.c.plan.phases[index].name;
  }
  /**
   * Seconds that the ability in a lane has run; 0 for none.
   * @param lane Its name. Default: the first.
   * @throws {UsageError} for a lane that the moveset does not have.
   */
  time(lane?: N['lane']): number {
    const at = this.lane('time', lane);
    return this.c.r[at + L_ABILITY] < 0 ? 0 : (this.c.r[T] - this.c.r[at + L_SINCE]) / this.c.plan.rate;
  }
  /**
   * How far through its phase a lane is, 0 to 1; 0 for a phase without a time.
   * @param lane Its name. Default: the first.
   * @throws {UsageError} for a lane that the moveset does not have.
   */
  progress(lane?: N['lane']): number {
    const { r } = this.c;
    const at = this.lane('progress', lane);
    if (r[at + L_ABILITY] < 0 || r[at + L_DUE] === NEVER) return 0;
    return (r[T] - r[at + L_PHASE_SINCE]) / (r[at + L_DUE] - r[at + L_PHASE_SINCE]);
  }
  /**
   * Whether an ability is running.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  isRunning(ability: N['ability']): boolean {
    const { laneAt, index } = this.find('isRunning', ability);
    return this.c.r[laneAt + L_ABILITY] === index;
  }
  /**
   * Limits of a pool now.
   * @param name Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  poolLimits(name: N['pool']): { min: number; max: number } {
    const { plan, r } = this.c;
    const { at } = plan.pools[indexOf(plan, 'poolLimits', 'pool', name)];
    return { min: r[at + P_MIN], max: r[at + P_MAX] };
  }
  /**
   * The amount in a pool.
   * @param name Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  pool(name: N['pool']): number {
    const { plan, r } = this.c;
    const pool = plan.pools[indexOf(plan, 'pool', 'pool', name)];
    updatePool(r, pool);
    return r[pool.value];
  }
  /**
   * Seconds until an ability's cooldown is over; 0 when it is, Infinity while it waits for its event.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  cooldown(ability: N['ability']): number {
    const { r, plan } = this.c;
    const { cooldownAt: at } = this.find('cooldown', ability);
    if (at < 0) return 0;
    return r[at + C_WAITING] > 0 ? NEVER : Math.max(0, r[at + C_READY] - r[T]) / plan.rate;
  }
  /**
   * How much of its cooldown is left, 1 to 0; for a cooldown that waits for its event, 1.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  cooldownPart(ability: N['ability']): number {
    const left = this.cooldown(ability) * this.c.plan.rate;
    return left === 0 ? 0 : Math.min(1, left / this.c.r[this.find('cooldownPart', ability).cooldownAt + C_LENGTH]);
  }
  /**
   * The charge of an ability, 0 to 1: kept until its next start, 0 at once when it is interrupted.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  charge(ability: N['ability']): number {
    const { r, plan } = this.c;
    const a = this.find('charge', ability);
    if (a.powerAt < 0) return 0;
    updatePower(r, a, plan.phases, plan.scratchAt);
    return r[plan.scratchAt];
  }
  /**
   * The highest level that its charge reaches, or null.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  level(ability: N['ability']): string | null {
    const { levels } = this.find('level', ability);
    const charge = this.charge(ability);
    for (let i = 0; i < levels.length; i++) if (charge >= levels[i].from) return levels[i].name;
    return null;
  }
  /**
   * Whether an ability is learnt, or was never locked.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  isKnown(ability: N['ability']): boolean {
    return this.c.r[this.find('isKnown', ability).at + A_KNOWN] === 1;
  }
  /** The active loadout, or null. */
  get loadout(): N['loadout'] | null {
    return this.c.plan.names.loadout[this.c.r[LOADOUT]] ?? null;
  }
  /** The clip to show, or null. Mirror it by `facing`. */
  get clip(): string | null {
    const { plan, r } = this.c;
    return plan.layers.length > 0 ? (plan.clips[r[plan.layout.layers + CLIP]] ?? null) : null;
  }
  /** Own tick in which the clip began. */
  get clipSince(): number {
    const { plan, r } = this.c;
    return plan.layers.length > 0 ? r[plan.layout.layers + CLIP_SINCE] : 0;
  }
  /** Seconds that the clip has been shown. */
  get clipTime(): number {
    return (this.c.r[T] - this.clipSince) / this.c.plan.rate;
  }
  /**
   * How far through its part the clip is, 0 to 1; in a part without a time, such as a stance, how far through its own
   * length, again and again; null where that is not known.
   */
  get clipProgress(): number | null {
    const { plan } = this.c;
    return plan.layers.length > 0 ? this.progressOf(plan.layout.layers) : null;
  }
  /**
   * The same of any layer; a new object in each call.
   * @param name Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  layer(name: string): { clip: string | null; since: number; time: number; progress: number | null } {
    const { plan, r } = this.c;
    const at = plan.layout.layers + indexOfName('layer', 'layer', name, plan.layers, plan.code) * LAYER;
    const since = r[at + CLIP_SINCE];
    return {
      clip: plan.clips[r[at + CLIP]] ?? null,
      since,
      time: (r[T] - since) / plan.rate,
      progress: this.progressOf(at),
    };
  }

  private progressOf(at: number): number | null {
    const { r, plan } = this.c;
    const passed = r[T] - r[at + CLIP_SINCE];
    if (r[at + CLIP_LASTS] < NEVER) return Math.min(1, passed / r[at + CLIP_LASTS]);
    const length = plan.clipTicks[r[at + CLIP]] ?? 0;
    return length > 0 ? (passed % length) / length : null;
  }
  /**
   * Uses that are left of an ability with charges; 0 for others.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  charges(ability: N['ability']): number {
    const { chargesAt } = this.find('charges', ability);
    return chargesAt < 0 ? 0 : this.c.r[chargesAt + N_LEFT];
  }
  /**
   * Whether the toggle of an ability is latched.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  isLatched(ability: N['ability']): boolean {
    const { latchedAt } = this.find('isLatched', ability);
    return latchedAt >= 0 && this.c.r[latchedAt] === 1;
  }

  /**
   * Where a mark is, or null while it is not set; a new object in each call.
   * @param name Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  mark(name: AnyMark<N>): { x: number; y: number; z: number } | null {
    const { r, plan } = this.c;
    const at = plan.marksAt + indexOf(plan, 'mark', 'mark', name) * MARK;
    if (r[at + MARK_SET] === 0) return null;
    return { x: r[at + MARK_X], y: r[at + MARK_X + 1], z: r[at + MARK_X + 2] };
  }
  /**
   * What a choice is set to.
   * @param name Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  choice(name: N['choice']): string {
    const { r, plan } = this.c;
    const at = plan.choicesAt + indexOf(plan, 'choice', 'choice', name);
    const button = plan.choiceOf.findIndex((one) => one.at === at && one.option === r[at]);
    return plan.names.button[button].slice(name.length + 1);
  }

  /** Every volume of it, for drawing: what it strikes and touches with, and where it can be struck while `hurt.when` holds; a new list in each call. */
  get volumes(): ShownVolume[] {
    const { plan, r } = this.c;
    return plan.code.volumes?.(plan, r) ?? [];
  }
  /**
   * Abilities that may cancel what runs in a lane (default: the first) now, by `open`; a new list in each call.
   * @param lane Its name. Default: the first.
   * @throws {UsageError} for a lane that the moveset does not have.
   */
  opens(lane?: N['lane']): N['ability'][] {
    const { plan, r } = this.c;
    const at = this.lane('opens', lane);
    const parts = [plan.abilities[r[at + L_ABILITY]], plan.phases[r[at + L_PHASE]]];
    return plan.names.ability.filter((_, i) => parts.some((part) => part?.scope.open?.[i] === 1));
  }

  /**
   * Abilities that may follow what runs or has just ended, as their `follows` says: after which one, and for how many
   * seconds yet, unless a condition ends that sooner; Infinity where no time ends it. Costs, cooldowns and what else
   * `explain` tells do not count. A new list in each call.
   */
  follows(): { ability: N['ability']; after: N['ability']; remaining: number }[] {
    const { plan, r } = this.c;
    return plan.abilities.flatMap((a) =>
      (a.follows ?? []).flatMap(({ ability, endedAt, within: longest, time }) => {
        time?.run?.(this.c as Shown & Frame);
        const within = time === null ? longest : r[time.at];
        const open = r[a.laneAt + L_ABILITY] === ability ? this.openUntil(a, within) : -NEVER;
        const left = Math.max(open, within > 0 ? r[endedAt] + within : -NEVER) - r[T];
        return left > 0 ? { ability: a.name, after: plan.names.ability[ability], remaining: left / plan.rate } : [];
      }),
    );
  }

  /** The last own tick in which `a` may follow what runs in its lane, or `within` after that. */
  private openUntil(a: AbilityPlan, within: number): number {
    const { plan, r } = this.c;
    const running = r[a.laneAt + L_ABILITY];
    const always = a.breaks?.[running] === 1 || plan.abilities[running].scope.open?.[a.index] === 1;
    let phase = r[a.laneAt + L_PHASE];
    let over = r[a.laneAt + L_DUE];
    let last = always && phase < 0 ? NEVER : -NEVER;
    // A phase that is over in the next tick lets nothing in any more, and keeps nothing out.
    while (phase >= 0 && (always || over <= r[T] + 1 || plan.phases[phase].scope.open?.[a.index] === 1)) {
      const { next } = plan.phases[phase];
      last = next < 0 && within > 0 ? over + within : over - 1;
      phase = next;
      over += next < 0 ? 0 : plan.phases[next].lasts;
    }
    return last;
  }

  private find(call: string, ability: string): AbilityPlan {
    return this.c.plan.abilities[indexOf(this.c.plan, call, 'ability', ability)];
  }
  private lane(call: string, lane: string | undefined): number {
    const { plan } = this.c;
    return plan.layout.lanes + (lane === undefined ? 0 : indexOf(plan, call, 'lane', lane)) * LANE;
  }
}
