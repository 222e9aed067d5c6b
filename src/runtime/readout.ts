import {
  A_CHARGE,
  A_CHARGES,
  A_KNOWN,
  A_LATCHED,
  A_READY,
  CLIP,
  CLIP_LASTS,
  CLIP_SINCE,
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
  LOADOUT,
  NEVER,
  P_MAX,
  P_MIN,
  SHAPE,
  STANCE,
  STANCE_SINCE,
  STOP,
  T,
  VX,
  VY,
  VZ,
  WANT_SHAPE,
  X,
  Y,
  Z,
} from '../moveset/slots.js';
import type { Character } from './character.js';
import { indexOfName } from './errors.js';
import type { LoggiaEvent } from './events.js';
import { readPool } from './pools.js';

/** What an engine is asked to do with a body that Loggia does not move itself. */
export interface Drive {
  /** Velocity wanted, per second, without this tick's gravity. */
  readonly vx: number;
  readonly vy: number;
  readonly vz: number;
  /** Downward acceleration to apply, per second squared. */
  readonly gravity: number;
  /** Name of the wanted body shape. */
  readonly shape: string;
}

/**
 * What the host reads after a tick. It shows the character as it is now and keeps nothing, so that reading
 * costs nothing but `events`, which builds its list anew. Names that the moveset does not have throw a UsageError.
 */
export class Readout {
  readonly drive: Drive;

  constructor(private readonly c: Character) {
    const { r, plan } = c;
    this.drive = {
      get vx() {
        return r[VX];
      },
      get vy() {
        return r[VY];
      },
      get vz() {
        return r[VZ];
      },
      get gravity() {
        return r[GRAVITY];
      },
      get shape() {
        return plan.shapes[r[WANT_SHAPE]].name;
      },
    };
  }

  /** The character's own tick, from 0 on. */
  get tick(): number {
    return this.c.r[T];
  }
  /** Whether its clock stands still. */
  get stopped(): boolean {
    return this.c.r[HOST] < this.c.r[STOP];
  }
  /** Middle of the feet. */
  get x(): number {
    return this.c.r[X];
  }
  get y(): number {
    return this.c.r[Y];
  }
  get z(): number {
    return this.c.r[Z];
  }
  /** Velocity per second. */
  get vx(): number {
    return this.c.r[VX];
  }
  get vy(): number {
    return this.c.r[VY];
  }
  get vz(): number {
    return this.c.r[VZ];
  }
  /** -1 or 1 seen from the side; in the open, the x of a unit vector. */
  get facing(): number {
    return this.c.r[FX];
  }
  get facingZ(): number {
    return this.c.r[FZ];
  }
  get grounded(): boolean {
    return this.c.r[GROUNDED] === 1;
  }
  get stance(): string {
    return this.c.plan.stances[this.c.r[STANCE]].name;
  }
  /** Seconds in this stance. */
  get stanceTime(): number {
    return (this.c.r[T] - this.c.r[STANCE_SINCE]) / this.c.plan.rate;
  }
  /** Name of the body shape. */
  get shape(): string {
    return this.c.plan.shapes[this.c.r[SHAPE]].name;
  }
  get width(): number {
    return this.c.plan.shapes[this.c.r[SHAPE]].width;
  }
  get height(): number {
    return this.c.plan.shapes[this.c.r[SHAPE]].height;
  }
  /** How many events this tick had; `events` need not be read when it is 0. */
  get eventCount(): number {
    return this.c.events.count;
  }
  /** What happened in this tick, in order. */
  get events(): LoggiaEvent[] {
    return this.c.readEvents();
  }

  /** The ability that runs in a lane (default: the first), or null. */
  ability(lane?: string): string | null {
    const index = this.c.r[this.lane('ability', lane) + L_ABILITY];
    return index < 0 ? null : this.c.plan.names.ability[index];
  }
  /** The phase of what runs in a lane, or null. */
  phase(lane?: string): string | null {
    const index = this.c.r[this.lane('phase', lane) + L_PHASE];
    return index < 0 ? null : this.c.plan.phases[index].name;
  }
  /** Seconds that the ability in a lane has run; 0 for none. */
  time(lane?: string): number {
    const at = this.lane('time', lane);
    return this.c.r[at + L_ABILITY] < 0 ? 0 : (this.c.r[T] - this.c.r[at + L_SINCE]) / this.c.plan.rate;
  }
  /** How far through its phase a lane is, 0 to 1; 0 for a phase without a time. */
  progress(lane?: string): number {
    const { r } = this.c;
    const at = this.lane('progress', lane);
    if (r[at + L_ABILITY] < 0 || r[at + L_DUE] === NEVER) return 0;
    return (r[T] - r[at + L_PHASE_SINCE]) / (r[at + L_DUE] - r[at + L_PHASE_SINCE]);
  }
  isRunning(ability: string): boolean {
    const a = this.c.plan.abilities[this.index('isRunning', ability)];
    return this.c.r[a.laneAt + L_ABILITY] === a.index;
  }
  /** Limits of a pool now. */
  poolLimits(name: string): { min: number; max: number } {
    const { plan, r } = this.c;
    const { at } = plan.pools[indexOfName('poolLimits', 'pool', name, plan.names.pool)];
    return { min: r[at + P_MIN], max: r[at + P_MAX] };
  }
  pool(name: string): number {
    const { plan, r } = this.c;
    const pool = plan.pools[indexOfName('pool', 'pool', name, plan.names.pool)];
    readPool(r, pool);
    return r[pool.value];
  }
  /** Seconds until an ability's cooldown is over; 0 when it is, Infinity while it waits for its event. */
  cooldown(ability: string): number {
    const { plan, r } = this.c;
    const ready = r[plan.abilities[this.index('cooldown', ability)].at + A_READY];
    return ready === NEVER ? Number.POSITIVE_INFINITY : Math.max(0, ready - r[T]) / plan.rate;
  }
  /** How much of its cooldown is left, 1 to 0; for a cooldown that waits for its event, 1. */
  cooldownPart(ability: string): number {
    const { cooldown } = this.c.plan.abilities[this.index('cooldownPart', ability)];
    return cooldown === 0 ? 0 : Math.min(1, (this.cooldown(ability) * this.c.plan.rate) / cooldown);
  }
  /** Charge of power of an ability, 0 to 1; kept until its next start. */
  charge(ability: string): number {
    return this.c.r[this.c.plan.abilities[this.index('charge', ability)].at + A_CHARGE];
  }
  /** The highest level that its charge reaches, or null. */
  level(ability: string): string | null {
    const { levels } = this.c.plan.abilities[this.index('level', ability)];
    const charge = this.charge(ability);
    for (let i = 0; i < levels.length; i++) if (charge >= levels[i].from) return levels[i].name;
    return null;
  }
  isKnown(ability: string): boolean {
    return this.c.r[this.c.plan.abilities[this.index('isKnown', ability)].at + A_KNOWN] === 1;
  }
  /** The loadout that is worn, or null. */
  get loadout(): string | null {
    return this.c.plan.names.loadout[this.c.r[LOADOUT]] ?? null;
  }
  /** The clip to show, or null. Mirror it by `facing`. */
  get clip(): string | null {
    return this.c.plan.clips[this.c.r[CLIP]] ?? null;
  }
  /** Own tick in which the clip began. */
  get clipSince(): number {
    return this.c.r[CLIP_SINCE];
  }
  /** Seconds that the clip has been shown. */
  get clipTime(): number {
    return (this.c.r[T] - this.c.r[CLIP_SINCE]) / this.c.plan.rate;
  }
  /** How far through its part the clip is, 0 to 1; null for a part without a time, such as a stance. */
  get clipProgress(): number | null {
    const { r } = this.c;
    return r[CLIP_LASTS] >= NEVER ? null : Math.min(1, (r[T] - r[CLIP_SINCE]) / r[CLIP_LASTS]);
  }
  charges(ability: string): number {
    return this.c.r[this.c.plan.abilities[this.index('charges', ability)].at + A_CHARGES];
  }
  isLatched(ability: string): boolean {
    return this.c.r[this.c.plan.abilities[this.index('isLatched', ability)].at + A_LATCHED] === 1;
  }

  private index(call: string, ability: string): number {
    return indexOfName(call, 'ability', ability, this.c.plan.names.ability);
  }
  private lane(call: string, lane: string | undefined): number {
    const { plan } = this.c;
    const index = lane === undefined ? 0 : indexOfName(call, 'lane', lane, plan.names.lane);
    return plan.layout.lanes + index * LANE;
  }
}
