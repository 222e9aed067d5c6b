import type { Plan } from '../compile/plan.js';
import { type Mover, moverOf } from '../motion/mover.js';
import { leaveRoom } from '../motion/rooms.js';
import { FOUND, NO_ROOM } from '../motion/warp.js';
import type { Facts, NameTypes } from '../moveset/name-types.js';
import type { Summoning } from '../record/combat.js';
import { EVENT } from '../record/event-codes.js';
import type { Warping } from '../record/frame.js';
import { PROBE, Q_MOMENT } from '../record/layout.js';
import { Incoming, Numbers, Rows } from '../record/rows.js';
import { A_KNOWN, HOST, LAYOUT_ID } from '../record/slots.js';
import { WHOLE } from '../record/stages.js';
import { want, wantFunction, wantOptions, wantPlan } from '../report/arguments.js';
import type { LoggiaEvent } from '../report/events.js';
import { mainReason, type Reason, wordRefusal } from '../report/reasons.js';
import { checkNumber, UsageError } from '../report/usage-error.js';
import { faultOfDevices, faultOfRecord } from '../saved/check-record.js';
import { checksumOf } from '../saved/checksum.js';
import type { Tape } from '../saved/tape.js';
import { NOBODY, type Watcher, writerFor } from '../saved/watcher.js';
import type { Others } from '../tick/actor.js';
import { wakeAll } from '../tick/awake.js';
import { countFromOwnEvent } from '../tick/cooldowns.js';
import { decodeReasons, writeReasons } from '../tick/judge/reasons.js';
import { refuseUnavailable } from '../tick/judge/unavailable.js';
import { gain } from '../tick/pools/pools.js';
import { isRosterOf, type Roster, rostersOf } from '../tick/roster.js';
import { initializeActor, initializeRecord } from '../tick/take-in/initialize.js';
import type { Renamed } from '../tick/take-in/map-rows.js';
import { type AnswerProbe, Cast, Hit, type Place, type World } from '../world/world.js';
import { decodeEvents } from './decode-events.js';
import { Door } from './door.js';
import { indexOf } from './names.js';
import { Readout } from './readout.js';

/** Where and how a character begins. */
export interface CharacterOptions {
  /** What it moves in. Left out: an engine moves the body by `readout.drive` and tells `door.contacts`. */
  world?: World | undefined;
  /** Without a world: answers its probes, with the same question and answer as a world's `ray`, `sweep` or `overlap` (`cast.kind`). */
  probes?: AnswerProbe | undefined;
  /** Without a world, or for places that the world does not know: where a named place is. */
  places?: (place: string) => Place | undefined;
  /** Which way it faces at the start: 1 (default) or -1. */
  facing?: 1 | -1 | undefined;
  /** Where its feet are at the start. Default [0, 0, 0]. */
  at?: readonly [x: number, y: number, z?: number] | undefined;
  /** Whether refused requests are told as events (default), or not: `explain` answers all the same. For servers that run many. */
  refusals?: boolean | undefined;
  /** Where its numbers live: at least `plan.arraySize()` of them. Default: an array of its own. */
  into?: Float64Array | undefined;
}

/** How a snapshot is restored. */
export interface RestoreOptions {
  /** Whether the devices hold what they hold now (default), or what they held then. */
  devices?: 'now' | 'then' | undefined;
}

/** Whether an ability may start now and why not, as data and as a sentence. */
export interface Explanation {
  /** Whether it may start. */
  readonly may: boolean;
  /** The one reason to show where there is room for one. */
  readonly main: Reason | null;
  /** Everything that stands against it. */
  readonly reasons: readonly Reason[];
  /** All of it as a sentence. */
  readonly text: string;
}

/** Where a warp would put the feet, or why it cannot; a new object in each call. */
export type Preview =
  | { readonly possible: true; readonly x: number; readonly y: number; readonly z: number }
  | { readonly possible: false; readonly reason: Reason };

const PREVIEW = new Float64Array(3);

/** What a moveset asks of what is outside must be there. */
export function checkNeeds(
  call: string,
  plan: Plan,
  world: World | null,
  probes: AnswerProbe | null,
  places: CharacterOptions['places'],
): void {
  if (!world && !probes && plan.probesRead.length > 0)
    throw new UsageError(
      `${call}: ${plan.name} reads the probe ${plan.probesRead.join(', ')}, and nothing would answer it: give a "world", or a function "probes" that asks your engine.`,
      'missing',
    );
  if (world && !world.nearest && plan.asksNearest)
    throw new UsageError(
      `${call}: a probe of ${plan.name} asks for what is nearest, and this world does not answer that: give it a method "nearest".`,
      'missing',
    );
  if (!world && !probes && plan.warps)
    throw new UsageError(
      `${call}: an ability of ${plan.name} warps, and nothing would say where there is room: give a "world", or a function "probes" that asks your engine.`,
      'missing',
    );
  if (!world && !places && plan.names.place.length > 0)
    throw new UsageError(
      `${call}: ${plan.name} has the place ${plan.names.place[0]}, and nothing knows where that is: give a "world", or a function "places".`,
      'missing',
    );
}

/** Options of a character. */
export const CHARACTER_OPTIONS = ['world', 'at', 'facing', 'probes', 'places', 'refusals', 'into'] as const;

/** One character: its record, its door, and what it does in a tick. */
export class Character<N extends NameTypes = NameTypes> {
  /** Its moveset: `swapMoveset` puts another one in its place. */
  plan: Plan<N>;
  /** @internal */
  r: Float64Array;
  private readonly given: Float64Array | null;
  /** Everything from outside goes in here. */
  readonly door: Door<N>;
  /** What became of it: read it after each tick. */
  readonly readout: Readout<N>;
  /** @internal */
  readonly incoming = new Incoming();
  /** @internal */
  readonly events = new Rows();
  /** @internal */
  readonly reasons = new Rows();
  /** @internal */
  readonly values = new Numbers();
  /** @internal */
  mover: Mover | null;
  /** @internal */
  roster: Roster;
  private rosterChanged = false;
  /** @internal */
  answer: AnswerProbe | null;
  /** @internal */
  tellsRefusals: boolean;
  /** @internal */
  warpFailed = false;
  /** @internal */
  asked = false;
  /** @internal Where a named place is, as the host says; else its world does. */
  places: ((place: string) => Place | undefined) | undefined;
  private moment = 1;
  private view: Facts<NameTypes> | null = null;
  private own: Float64Array | null = null;
  private recording: Tape | null = null;
  /** @internal */
  writer: { write(tick: number, rows: Float64Array, at: number): void } | null = null;
  private watchers: readonly Watcher[] = NOBODY;

  /**
   *
   * @param plan What `compileMoveset`, a file or a module gives.
   * @param options Where it begins, its world, or what an engine answers in its place.
   * @throws {UsageError} for what is no plan or no place, and for a moveset that reads probes which nothing
   * would answer.
   */
  constructor(plan: Plan<N>, options?: CharacterOptions);
  /** @internal With `begun`, its numbers are those of one that has begun already. */
  constructor(plan: Plan<N>, options: CharacterOptions, begun: boolean);
  constructor(plan: Plan<N>, options: CharacterOptions = {}, begun = false) {
    wantPlan('Character', plan);
    this.plan = plan;
    wantOptions('Character', options, CHARACTER_OPTIONS);
    const { into, world, facing = 1, at = [0, 0, 0], probes, places, refusals = true } = options;
    want(world === undefined || typeof world?.sweep === 'function', 'Character', 'world', 'a World', world);
    wantFunction('Character', 'probes', probes);
    wantFunction('Character', 'places', places);
    const size = plan.arraySize();
    if (into !== undefined && !(into instanceof Float64Array && into.length >= size))
      throw new UsageError(
        `Character: "into" must be a Float64Array; it holds ${into?.length ?? 'no'} numbers, and ${plan.name} needs ${size}.`,
        'wrong-type',
      );
    if (!Array.isArray(at)) throw new UsageError('Character: "at" must be a list [x, y] or [x, y, z].', 'wrong-type');
    if (facing !== 1 && facing !== -1)
      throw new UsageError(`Character: facing must be 1 or -1, not ${String(facing)}.`, 'out-of-range');
    const start = {
      x: checkNumber('Character', 'x', at[0]),
      y: checkNumber('Character', 'y', at[1]),
      z: checkNumber('Character', 'z', at[2] ?? 0),
      facing,
    };
    checkNeeds('Character', plan, world ?? null, probes ?? null, places);
    if (typeof refusals !== 'boolean')
      throw new UsageError('Character: "refusals" must be true or false.', 'wrong-type');
    this.given = into ?? null;
    this.r = into ? into.subarray(0, size) : new Float64Array(size);
    this.mover = world ? moverOf(world) : null;
    this.answer = this.mover?.answer ?? probes ?? null;
    this.tellsRefusals = refusals;
    this.places = places;
    if (!begun) initializeRecord(plan, this.r, start);
    this.roster = rostersOf(plan).of(this.r);
    this.door = new Door(plan, this.r, this.incoming, this.mover === null);
    this.readout = new Readout(this);
    if (!begun) initializeActor(this);
    this.r[plan.rosterAt] = this.roster.id;
    // Those who have begun are looked at, or are one of a crowd, which is known itself.
    if (!begun) plan.live?.add(this);
  }

  /** One step of simulation. */
  tick(): void {
    const { watchers } = this;
    if (this.calls.length > 0) this.calls.length = 0;
    for (let i = 0; i < watchers.length; i++) watchers[i].before();
    this.plan.code.tick(this, WHOLE);
    this.recording?.noteTick(this);
    for (let i = 0; i < watchers.length; i++) watchers[i].after();
  }

  /**
   * Why an ability may not start now: the same judgement that a request gets, without requesting it.
   * @param ability Its name.
   * @throws {UsageError} for an unknown name.
   */
  explain(ability: N['ability']): Explanation {
    const { plan } = this;
    const a = plan.abilities[indexOf(plan, 'explain', 'ability', ability)];
    const rows = new Rows();
    this.asked = true;
    try {
      writeReasons(this, a, plan.code.judge(this, a.index), rows);
    } finally {
      this.asked = false;
    }
    const reasons = decodeReasons(plan, a, rows, 0, rows.count);
    return { may: reasons.length === 0, main: mainReason(reasons), reasons, text: wordRefusal(ability, reasons) };
  }

  /**
   * Whether an ability may start now; for interfaces that ask in every frame, since it allocates nothing.
   * @param ability Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  may(ability: N['ability']): boolean {
    const { plan } = this;
    this.asked = true;
    try {
      return plan.code.judge(this, indexOf(plan, 'may', 'ability', ability)) === 0;
    } finally {
      this.asked = false;
    }
  }

  /**
   * Where an ability would put the body, if it started now: null for one without a warp. It does nothing, and may be
   * asked in every frame.
   * @param ability Its name.
   * @throws {UsageError} for an unknown name.
   */
  preview(ability: N['ability']): Preview | null {
    const { plan } = this;
    const { warp } = plan.abilities[indexOf(plan, 'preview', 'ability', ability)];
    const { warps } = plan.code;
    if (warp === null || !warps) return null;
    const found = warps.find(this, warp, PREVIEW);
    if (found !== FOUND)
      return {
        possible: false,
        reason: found === NO_ROOM ? { code: 'room' } : { code: 'target', wants: warp.wants },
      };
    return { possible: true, x: PREVIEW[0], y: PREVIEW[1], z: PREVIEW[2] };
  }

  /** Everything that changes from tick to tick. A view: copy it with `snapshot`. */
  get record(): Float64Array {
    this.own ??= this.r.subarray(0, this.plan.recordSize);
    return this.own;
  }

  /**
   * Copies the record, into `out` if given (of at least `plan.recordSize` numbers); the caller owns it. Behind the
   * record stands what the devices hold, if there is room for `plan.snapshotSize` numbers.
   * @param out Where to, of at least `plan.recordSize` numbers. Default: a new array.
   * @throws {UsageError} for an array that is too short.
   */
  snapshot(out: Float64Array = new Float64Array(this.plan.snapshotSize)): Float64Array {
    const { recordSize, snapshotSize, devicesAt } = this.plan;
    if (!(out instanceof Float64Array && out.length >= recordSize))
      throw new UsageError(`snapshot: "out" must be a Float64Array of at least ${recordSize} numbers.`, 'wrong-type');
    out.set(this.record);
    if (out.length < snapshotSize) return out;
    for (let i = recordSize; i < snapshotSize; i++) out[i] = this.r[devicesAt + i - recordSize];
    return out;
  }

  /**
   * Makes the record what it was at a snapshot of the same moveset, of this or another character, in the same world;
   * into another world, `door.place` it as well. The devices stay as they are now: what is held now and was not then
   * is pressed in the next tick, and the other way round. With `devices: 'then'` they hold what they held at the
   * snapshot, so that the same calls of the door bring about the same run: for rollback. What waits in the door is
   * dropped, and so are the events of the last tick.
   * @param snapshot What `snapshot` gave: it is copied, and stays the caller's.
   * @param options What the devices hold afterwards.
   * @throws {UsageError} for what is no such snapshot; nothing has changed then.
   */
  restore(snapshot: Float64Array, options?: RestoreOptions): void {
    const { plan } = this;
    wantOptions('restore', options, ['devices']);
    const { devices = 'now' } = options ?? {};
    const fault = faultOfRecord(plan, snapshot) ?? faultOfDevices(plan, snapshot, devices);
    if (fault) throw new UsageError(`restore: ${fault}`, 'wrong-record');
    this.takeBack(snapshot, 0, devices === 'then' ? plan.recordSize : -1);
    this.recording?.rewind(this);
    for (const watcher of this.watchers) watcher.rewound();
  }

  /** @internal The same of a snapshot that was checked, from one place of it on; what the devices held from another, or -1. */
  takeBack(from: Float64Array, at: number, devicesFrom: number): void {
    const { plan, r } = this;
    r.set(from.subarray(at, at + plan.recordSize));
    r[LAYOUT_ID] = plan.fingerprint;
    if (devicesFrom >= 0)
      for (let i = plan.recordSize; i < plan.snapshotSize; i++)
        r[plan.devicesAt + i - plan.recordSize] = from[devicesFrom + i - plan.recordSize];
    leaveRoom(plan, r);
    r[plan.foldedAt] = 0;
    wakeAll(r, plan);
    this.changeRoster();
    this.updateRoster();
    this.events.count = 0;
    this.reasons.count = 0;
    this.senseAgain();
    this.door.resync();
  }

  /** 32 bits of the record, from 0 to 4294967295: equal records have equal checksums. 0 and -0 are equal, and what was told of refusals is left out. */
  checksum(): number {
    return checksumOf(this.plan, this.r);
  }

  /** How many times tick() was called, less one. */
  get hostTick(): number {
    return this.r[HOST];
  }

  /** Facts by name, as functions in a moveset read them. */
  get facts(): Facts<N> {
    const { plan } = this;
    this.view ??= plan.code.facts(plan, this);
    return this.view as Facts<N>;
  }

  /** Writes down what comes through the door from now on, if set. */
  get tape(): Tape | null {
    return this.recording;
  }
  set tape(tape: Tape | null) {
    this.recording = tape;
    this.listen();
    tape?.begin(this);
  }

  /** @internal Who is told of all that comes in and of each tick. */
  get watching(): readonly Watcher[] {
    return this.watchers;
  }
  set watching(watchers: readonly Watcher[]) {
    this.watchers = watchers;
    this.listen();
  }

  private listen(): void {
    const { recording, watchers } = this;
    this.writer = writerFor(recording, watchers, 0);
  }

  /** @internal Moves in this world from now on. */
  useWorld(world: World): void {
    this.mover = moverOf(world);
    this.answer = this.mover.answer;
  }

  /** @internal Takes over another moveset: its numbers are moved by `move`, which is given those of before. */
  takeOver(next: Plan<N>, renamed: Renamed, move: (old: Plan, was: Float64Array) => void): void {
    const { plan: old, r: was, given } = this;
    const size = next.arraySize();
    this.r = given ? given.subarray(0, size) : new Float64Array(size);
    const before = given ? was.slice() : was;
    this.plan = next;
    this.own = null;
    this.view = null;
    if (this.recording !== null) this.tape = null;
    move(old, before);
    leaveRoom(next, this.r);
    this.r[next.foldedAt] = 0;
    wakeAll(this.r, next);
    this.changeRoster();
    this.updateRoster();
    this.events.count = this.reasons.count = this.values.count = 0;
    this.senseAgain();
    this.door.takeOver(old, next, this.r, renamed);
  }

  /** @internal How many numbers it has room for. */
  get room(): number {
    return this.given?.length ?? Number.POSITIVE_INFINITY;
  }

  /** @internal */
  readEvents(): LoggiaEvent[] {
    return decodeEvents(this);
  }

  /** @internal */
  changeRoster(): void {
    this.rosterChanged = true;
    this.r[this.plan.rosterAt] = -1;
  }
  /** @internal */
  updateRoster(): void {
    if (!this.rosterChanged) return;
    this.rosterChanged = false;
    if (!isRosterOf(this.roster, this.plan, this.r)) this.roster = rostersOf(this.plan).of(this.r);
    this.r[this.plan.rosterAt] = this.roster.id;
  }
  /** @internal */
  get world(): World | null {
    return this.mover?.world ?? null;
  }
  /** @internal */
  get cast(): Cast {
    return this.mover?.cast ?? CAST;
  }
  /** @internal */
  get hit(): Hit {
    return this.mover?.hit ?? HIT;
  }
  /** @internal */
  probe(index: number): void {
    this.plan.code.probe?.(this, this.plan, index, this.moment, this.answer);
  }
  /** @internal */
  warp(warp: Warping): void {
    if (!this.plan.code.warps?.run(this, warp)) this.warpFailed = true;
  }
  /** @internal */
  place(place: number, out: Float64Array): boolean {
    const name = this.plan.names.place[place];
    const found = this.places?.(name) ?? this.world?.find?.(name);
    if (!found) return false;
    out[0] = found.x;
    out[1] = found.y;
    out[2] = found.z ?? 0;
    return true;
  }
  /** @internal */
  senseAgain(): void {
    this.moment++;
  }
  /** @internal What stands behind the record of its probes is what they answer now. */
  knowProbes(): void {
    const { probes, probesAt } = this.plan;
    for (let i = 0; i < probes.length; i++) this.r[probesAt + i * PROBE + Q_MOMENT] = this.moment;
  }
  /** @internal Stands for another one from now on, whose numbers these are; nothing that is only its own may wait. */
  lend(r: Float64Array, roster: Roster): void {
    this.r = r;
    this.events.count = 0;
    this.reasons.count = 0;
    if (this.calls.length > 0) this.calls.length = 0;
    if (this.own !== null) this.own = null;
    if (this.view !== null) this.view = null;
    this.door.lend(r);
    if (this.roster !== roster) this.roster = roster;
  }
  /** @internal Calls of this tick: the index of each summon. */
  readonly calls: number[] = [];
  /** @internal It leaves the arena after this tick. */
  leaving = false;
  /** @internal */
  others: Others | null = null;
  /** @internal */
  finds: ((summoning: Summoning) => boolean) | null = null;
  /** @internal */
  fits(index: number): boolean {
    return this.finds === null || this.finds(this.plan.summonings[index]);
  }
  /** @internal */
  summon(index: number): void {
    if (!this.fits(index)) {
      this.warpFailed = true;
      return;
    }
    this.calls.push(index);
    this.events.add(EVENT.summoned, this.plan.summonings[index].who);
  }
  /** @internal */
  leave(): void {
    this.leaving = true;
    this.events.add(EVENT.gone);
  }
  /** @internal */
  learn(ability: number, known: number): void {
    this.r[this.plan.abilities[ability].at + A_KNOWN] = known;
    this.changeRoster();
    if (known === 0) refuseUnavailable(this);
  }
  /** @internal */
  gain(pool: number, at: number): void {
    gain(this, pool, at);
  }
  /** @internal */
  emit(event: number): void {
    this.plan.code.messages?.emit(this, event);
    countFromOwnEvent(this, event);
  }
}

/** What engines that answer probes themselves are asked by. */
const CAST = new Cast();
const HIT = new Hit();
