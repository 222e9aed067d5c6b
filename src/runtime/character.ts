import type { FactFrame } from '../compile/formula.js';
import { PROBE, Q_DISTANCE, Q_HIT, Q_NORMAL, Q_POINT, Q_TICK } from '../compile/layout.js';
import { HAS, type Plan } from '../compile/plan.js';
import { Mover, moveBody, noteMotion, settleBody } from '../motion/slide.js';
import { aimBody, driveBody } from '../motion/velocity.js';
import {
  A_CHARGES,
  A_ENDED,
  A_FIT,
  A_JUDGED,
  A_KNOWN,
  A_READY,
  A_REFILL,
  ASKED_FROM,
  ASKED_TO,
  B_BEFORE,
  B_PRESSED,
  B_RELEASED,
  BASE_LOADOUT,
  BUTTON,
  CAMERA_Z,
  CLIP,
  CLIP_LASTS,
  DIRTY,
  DRY_DUE,
  FX,
  FZ,
  GROUND_CHANGED,
  GROUNDED,
  HEADROOM,
  HEARD,
  HOST,
  L_ABILITY,
  L_DUE,
  L_PHASE,
  LACKING,
  LANDED,
  LANE,
  LATCHES,
  LOADOUT,
  NEVER,
  NEXT_DUE,
  NEXT_WORK,
  P_MAX,
  P_SINCE,
  RESTING,
  RUNNING,
  SHAPE,
  STALE,
  STOP,
  T,
  UNAIMED,
  VERSION,
  WANT_SHAPE,
  X,
  Y,
  Z,
} from '../moveset/slots.js';
import type { World } from '../world/world.js';
import { Door } from './door.js';
import { indexOfName, UsageError } from './errors.js';
import { EVENT, EventRows, type LoggiaEvent } from './events.js';
import { FactView } from './fact-view.js';
import { deriveStance, foldEffects } from './fold.js';
import { takeDoor } from './intake.js';
import { fits, judge, ReasonRows } from './judge.js';
import { buildCharges, checkDue, checkEndings, playBeats } from './lanes.js';
import { beginLine, checkDry, gain, readLimits, readPool, varyPools } from './pools.js';
import { Readout } from './readout.js';
import { type Reason, wordRefusal } from './reasons.js';
import { checkLatches, hearRequests, noteStanding } from './requests.js';
import { planWork } from './restless.js';
import { Rows } from './rows.js';
import type { Tape } from './tape.js';

export interface CharacterOptions {
  /** What it moves in. Left out: an engine moves the body by `readout.drive` and tells `door.contacts`. */
  world?: World;
  /** Which way it faces at birth: 1 (default) or -1. */
  facing?: 1 | -1;
  /** Where its feet are at birth. Default [0, 0, 0]. */
  at?: readonly [x: number, y: number, z?: number];
  /** Where its numbers live: at least `plan.arraySize()` of them. Default: an array of its own. */
  into?: Float64Array;
}

/** Why an ability may not start now, as data and as a sentence. */
export interface Explanation {
  readonly may: boolean;
  readonly reasons: readonly Reason[];
  readonly text: string;
}

/** One character: its record, its door, and what it does in a tick. */
export class Character implements FactFrame {
  /** @internal */
  readonly r: Float64Array;
  /** Everything that changes from tick to tick. A view: copy it with `snapshot`. */
  readonly record: Float64Array;
  readonly door: Door;
  readonly readout: Readout;
  readonly facts: FactView;
  /** Writes down what comes through the door, if set. */
  tape: Tape | null = null;
  /** @internal */
  readonly events = new EventRows();
  /** @internal */
  readonly reasons = new ReasonRows();
  /** @internal */
  readonly refusals = new Rows();
  private readonly words: Uint32Array;
  private readonly mover: Mover | null;
  /** Counts the states in which probes can have answered. */
  private sensed = 0;

  constructor(
    readonly plan: Plan,
    private readonly options: CharacterOptions = {},
  ) {
    const { into } = options;
    if (into && into.length < plan.arraySize())
      throw new UsageError(
        `Character: "into" holds ${into.length} numbers, but ${plan.name} needs ${plan.arraySize()}.`,
        'wrong-record',
      );
    this.r = (into ?? new Float64Array(plan.arraySize())).subarray(0, plan.arraySize());
    this.record = this.r.subarray(0, plan.recordSize);
    this.words = new Uint32Array(this.r.buffer, this.r.byteOffset, plan.recordSize * 2);
    this.mover = options.world ? new Mover(options.world, plan) : null;
    this.door = new Door(plan);
    this.facts = new FactView(plan, this);
    this.readout = new Readout(this);
    this.beBorn();
  }

  /** One step of simulation. */
  tick(): void {
    const { r, plan, mover } = this;
    this.events.count = 0;
    r[HOST] += 1;
    r[T] += 1;
    if (this.door.changed) takeDoor(this);
    if (r[HOST] < r[STOP]) {
      // Its clock stands still; what came in belongs to the tick in which it goes on.
      r[T] -= 1;
      return;
    }
    if (r[STALE] === 1 || r[T] >= r[NEXT_WORK]) this.work();
    else if (r[RESTING] === 1) return;

    this.sensed++;
    if (mover === null) {
      driveBody(plan, r, false);
      noteMotion(r);
    } else if (moveBody(plan, r, mover)) this.events.add(r[GROUNDED] === 1 ? EVENT.landed : EVENT.left);
  }

  /**
   * What a tick does besides moving the body, in the order of these lines. Between two such ticks nothing
   * happens but motion, so that they are left out: see {@link planWork}.
   */
  private work(): void {
    const { r, plan } = this;
    this.sensed++;
    const { has } = plan;
    if (has & HAS.varyingPools) varyPools(this);
    if (r[T] >= r[DRY_DUE]) checkDry(this);
    if (has & HAS.charges && r[RUNNING] > 0) buildCharges(this);
    if (has & HAS.beats && r[RUNNING] > 0) playBeats(this);
    if (r[T] >= r[NEXT_DUE]) checkDue(this);
    if (r[LACKING] > 0) this.refillCharges();

    if (r[STALE] === 1 || has & HAS.varyingStances) deriveStance(this);
    if (has & HAS.rules) noteStanding(this, plan.ruleAsks);
    if (r[LATCHES] > 0) checkLatches(this);
    if (r[RUNNING] > 0) checkEndings(this);
    if (has & HAS.watched) this.noteFits();
    hearRequests(this);

    if (r[DIRTY] === 1) foldEffects(this);
    if (this.mover !== null && r[WANT_SHAPE] !== r[SHAPE]) this.mover.inside = false;
    r[RESTING] = 0;
    if (r[UNAIMED] === 1) aimBody(plan, r);
    planWork(this);
  }

  /**
   * Why an ability may not start now: the same judgement that a request gets, without asking.
   * Throws a UsageError for an unknown name.
   */
  explain(ability: string): Explanation {
    const a = this.plan.abilities[indexOfName('explain', 'ability', ability, this.plan.names.ability)];
    const rows = new ReasonRows();
    judge(this, a, rows);
    rows.addReadings(this, a, 0);
    const reasons = rows.decode(this, a, 0, rows.count);
    return { may: reasons.length === 0, reasons, text: wordRefusal(ability, reasons) };
  }

  /** Copies the record, into `out` if given (of at least `plan.recordSize` numbers); the caller owns it. */
  snapshot(out: Float64Array = new Float64Array(this.plan.recordSize)): Float64Array {
    out.set(this.record);
    return out;
  }

  /**
   * Makes everything as it was at a snapshot of the same moveset in the same world; into another world, `door.place`
   * it as well. Throws a UsageError for a snapshot of another size.
   */
  restore(snapshot: Float64Array): void {
    if (snapshot.length !== this.plan.recordSize)
      throw new UsageError(
        `restore: this snapshot has ${snapshot.length} numbers, but a record of ${this.plan.name} has ${this.plan.recordSize}.`,
        'wrong-record',
      );
    this.record.set(snapshot);
    this.sensed++;
    if (this.mover) this.mover.inside = false;
  }

  /** 32 bits of the record, from 0 to 4294967295: equal records have equal checksums (FNV-1a, over words). */
  checksum(): number {
    const { words } = this;
    let hash = 0x811c9dc5;
    for (let i = 0; i < words.length; i++) hash = Math.imul(hash ^ words[i], 0x01000193);
    return hash >>> 0;
  }

  /** How many times tick() was called, less one. */
  get hostTick(): number {
    return this.r[HOST];
  }

  /** @internal */
  readEvents(): LoggiaEvent[] {
    return this.events.decode(this, this.reasons);
  }

  /** @internal The body was put somewhere else; on the ground there, if `down`. */
  settle(down: boolean): void {
    this.sensed++;
    if (this.mover === null) return;
    this.mover.inside = false;
    if (down) settleBody(this.plan, this.r, this.mover);
  }

  /** @internal */
  readPool(pool: number): void {
    readPool(this.r, this.plan.pools[pool]);
  }

  /** @internal */
  gain(pool: number, at: number): void {
    gain(this, pool, at);
  }

  /** @internal */
  emit(event: number): void {
    this.events.add(EVENT.emitted, event);
  }

  /** @internal */
  ask(probe: number): void {
    const { r, mover, plan } = this;
    const out = plan.probesAt + probe * PROBE;
    if (r[out + Q_TICK] === this.sensed) return;
    r[out + Q_TICK] = this.sensed;
    r[out + Q_HIT] = 0;
    if (!mover) return;
    const { world, cast, hit } = mover;
    const { at, ray, on } = plan.probes[probe];
    const fx = r[FX];
    const fz = r[FZ];
    cast.x = r[X] + at[0] * fx - at[2] * fz;
    cast.y = r[Y] + at[1];
    cast.z = r[Z] + at[0] * fz + at[2] * fx;
    cast.hx = 0;
    cast.hy = 0;
    cast.hz = 0;
    cast.dx = ray[0] * fx - ray[2] * fz;
    cast.dy = ray[1];
    cast.dz = ray[0] * fz + ray[2] * fx;
    if (!world.ray(cast, hit) || (on.length > 0 && !on.some((tag) => hit.tags.includes(tag)))) return;
    r[out + Q_HIT] = 1;
    r[out + Q_DISTANCE] = hit.part * Math.sqrt(ray[0] * ray[0] + ray[1] * ray[1] + ray[2] * ray[2]);
    r[out + Q_POINT] = cast.x + cast.dx * hit.part;
    r[out + Q_POINT + 1] = cast.y + cast.dy * hit.part;
    r[out + Q_POINT + 2] = cast.z + cast.dz * hit.part;
    r[out + Q_NORMAL] = hit.nx;
    r[out + Q_NORMAL + 1] = hit.ny;
    r[out + Q_NORMAL + 2] = hit.nz;
  }

  private refillCharges(): void {
    const { r, plan } = this;
    for (let i = 0; i < plan.charged.length; i++) {
      const { at, charges, refill, refillEvery } = plan.charged[i];
      if (r[at + A_CHARGES] >= charges) continue;
      if (refill?.(this)) r[at + A_CHARGES] = charges;
      else if (refillEvery > 0 && r[T] >= r[at + A_REFILL]) {
        r[at + A_CHARGES] += 1;
        r[at + A_REFILL] += refillEvery;
      } else continue;
      r[VERSION] += 1;
      if (r[at + A_CHARGES] === charges) r[LACKING] -= 1;
    }
  }

  private noteFits(): void {
    const { r, plan } = this;
    for (let i = 0; i < plan.watched.length; i++) if (fits(this, plan.watched[i])) r[plan.watched[i].at + A_FIT] = r[T];
  }

  private beBorn(): void {
    const { r, plan, options } = this;
    const { layout, names } = plan;
    r.fill(0);
    for (const { at, value } of plan.constants) r[at] = value;
    r[T] = -1;
    r[HOST] = -1;
    r[HEARD] = -1;
    r[DIRTY] = 1;
    r[FX] = options.facing ?? 1;
    r[CAMERA_Z] = -1;
    r[DRY_DUE] = NEVER;
    r[STALE] = 1;
    r[HEADROOM] = 1;
    r[NEXT_DUE] = NEVER;
    r[ASKED_FROM] = NEVER;
    r[ASKED_TO] = -1;
    r[LANDED] = -NEVER;
    r[GROUND_CHANGED] = 0;
    const [x, y, z = 0] = options.at ?? [0, 0, 0];
    r[X] = x;
    r[Y] = y;
    r[Z] = z;
    for (let i = 0; i < names.button.length; i++)
      for (const slot of [B_PRESSED, B_RELEASED, B_BEFORE]) r[layout.buttons + i * BUTTON + slot] = -NEVER;
    r[BASE_LOADOUT] = plan.loadouts.length > 0 ? 0 : -1;
    r[LOADOUT] = r[BASE_LOADOUT];
    r[CLIP] = -1;
    r[CLIP_LASTS] = NEVER;
    for (let i = 0; i < names.lane.length; i++) {
      r[layout.lanes + i * LANE + L_ABILITY] = -1;
      r[layout.lanes + i * LANE + L_PHASE] = -1;
      r[layout.lanes + i * LANE + L_DUE] = NEVER;
    }
    for (const { at, charges, locked } of plan.abilities) {
      r[at + A_KNOWN] = locked ? 0 : 1;
      r[at + A_READY] = -NEVER;
      r[at + A_CHARGES] = charges;
      r[at + A_REFILL] = NEVER;
      r[at + A_ENDED] = -NEVER;
      r[at + A_FIT] = -NEVER;
      r[at + A_JUDGED] = -1;
    }
    r.fill(-NEVER, layout.requests, layout.tags);
    r.fill(-NEVER, layout.asks, layout.end);
    this.settle(true);
    for (const pool of plan.pools) {
      readLimits(this, pool);
      r[pool.value] = pool.start ?? r[pool.at + P_MAX];
      beginLine(this, pool);
      r[pool.at + P_SINCE] = 0;
    }
    deriveStance(this);
    foldEffects(this);
  }
}
