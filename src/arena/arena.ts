import { CHARACTER_OPTIONS, Character, type CharacterOptions, type RestoreOptions } from '../character/character.js';
import { checkSwap, type Swapped, swapCharacter } from '../character/swap.js';
import type { Plan } from '../compile/plan.js';
import type { NameTypes } from '../moveset/name-types.js';
import { X } from '../record/slots.js';
import { DECIDE, MOVE, TAKE_IN } from '../record/stages.js';
import { want, wantFunction, wantObject, wantOptions, wantPlan } from '../report/arguments.js';
import { indexOfName, UsageError } from '../report/usage-error.js';
import { checksumOf } from '../saved/checksum.js';
import { type Join, NOBODY, type Watcher, writerFor } from '../saved/watcher.js';
import { type Blow, type FindTargets, Gathering } from '../strikes/gather.js';
import type { Renamed } from '../tick/take-in/map-rows.js';
import { Cast, Hit, type World } from '../world/world.js';
import { applyBlow, applyTouch, OUTCOMES, type Outcome, tellCalled, tellClash, tellStriker } from './apply-blow.js';
import type { ArenaTape, Lists } from './arena-tape.js';
import { Company, type Revived, setOpponent } from './company.js';
import { type ArenaEvent, MEETING, readMeetings, writeMeetings } from './events.js';
import { Interned } from './interned.js';
import { lookAround, looks } from './look.js';
import type { Member } from './member.js';
import type { Opponent } from './opponent.js';
import { moveRiders, steerMounts } from './riders.js';
import { separateBodies } from './separate.js';
import {
  ENTRY,
  faultOfSnapshot,
  H_NEXT,
  H_TICK,
  HEADER,
  holdsSame,
  I_EXTRA,
  sizeOf,
  sizeOfAll,
  writeSnapshot,
} from './snapshot.js';

/** What an arena is made of. */
export interface ArenaOptions {
  /** What all of its characters move in. Left out: an engine moves their bodies. */
  world?: World | undefined;
  /**
   * Finds who is in the volume of a strike, in place of the arena's own test: an engine asks its own bodies. It is called for
   * each volume of each strike that lasts, and calls `found` for everybody in it.
   */
  finds?: FindTargets | undefined;
  /** Movesets of those who may be called, by the names of `summons`. */
  summons?: Readonly<Record<string, Plan>> | undefined;
}

/** How somebody joins. */
export interface MemberOptions extends Omit<CharacterOptions, 'world' | 'into'> {
  /** Its side. Default: none, so that all others are its foes. */
  team?: string | undefined;
  /** Words by which strikes find it. */
  tags?: string | readonly string[] | undefined;
  /** What plays it: its presses come in besides those of its door. */
  plays?: Opponent | undefined;
}

/** Several characters and things in one world: they tick together, stage by stage, and strike each other. */
export class Arena {
  /** @internal What all move in. */
  world: World | undefined;
  /** @internal */
  summons: Readonly<Record<string, Plan>>;
  private readonly gathering: Gathering;
  private readonly outcomes: (Outcome | 'touched')[] = [];
  private readonly company = new Company(this);
  private readonly list = this.company.list;
  private readonly leavers = this.company.leavers;
  /** @internal */
  readonly known = this.company.known;
  /** @internal What the words of meetings stand for. */
  readonly words = new Interned<string>();
  private met = new Float64Array(0);
  private ticks = 0;
  private ticking = false;
  /** @internal What comes in next was recorded: opponents do not play. */
  replaysTick = false;
  private recording: ArenaTape | null = null;
  private watchers: readonly Watcher[] = NOBODY;

  constructor(options: ArenaOptions = {}) {
    wantOptions('Arena', options, ['world', 'finds', 'summons']);
    wantFunction('Arena', 'finds', options.finds);
    if (options.summons !== undefined) wantObject('Arena', 'summons', options.summons);
    this.world = options.world;
    this.summons = options.summons ?? {};
    for (const plan of Object.values(this.summons)) plan?.live?.add(this);
    const asks = { cast: new Cast(), hit: new Hit() };
    this.gathering = new Gathering(options.world ?? null, asks, options.finds ?? null);
  }

  /** Everybody in it, in the order in which they joined. A view: it changes as they come and go. */
  get members(): readonly Member[] {
    return this.list;
  }

  /** Those who left by themselves in the last tick: what happened to them in it stands in their readouts. A view, as `members` is. */
  get departed(): readonly Member[] {
    return this.leavers;
  }

  /** How many ticks there were. */
  get tickCount(): number {
    return this.ticks;
  }

  /**
   * Adds a character, to take part from the next tick on.
   * @param name No other member has it.
   * @param plan What `compileMoveset`, a file or a module gives.
   * @param options Where it begins, its side, its tags, and what plays it.
   * @throws {UsageError} for a name that a member has, for another rate of ticks, and for what {@link Character} throws.
   */
  add<N extends NameTypes>(name: string, plan: Plan<N>, options: MemberOptions = {}): Member<N> {
    this.checkIdle('add');
    want(typeof name === 'string' && name !== '', 'add', 'the name of a member', 'a text', name);
    wantPlan('add: of its moveset', plan);
    wantOptions('add', options, MEMBER_OPTIONS);
    if (this.find(name))
      throw new UsageError(
        `add: there is a member ${JSON.stringify(name)} already; give this one another name.`,
        'name-taken',
      );
    const rate = this.list[0]?.character.plan.rate ?? plan.rate;
    if (plan.rate !== rate)
      throw new UsageError(
        `add: ${plan.name} has ${plan.rate} ticks per second, and this arena has ${rate}; all of its movesets need the same.`,
        'other-rate',
      );
    const { team, tags = [], plays, ...more } = options;
    want(team === undefined || typeof team === 'string', 'add', 'team', 'a text', team);
    want(typeof tags === 'string' || Array.isArray(tags), 'add', 'tags', 'a text or a list', tags);
    const kind = /^(.*) \d+$/.exec(name)?.[1];
    if (kind !== undefined && Object.hasOwn(this.summons, kind))
      throw new UsageError(
        `add: ${JSON.stringify(name)} could be the name of a ${kind} that is called; give this one another name.`,
        'name-taken',
      );
    if (plays && plays.plan !== (plan as unknown as Plan))
      throw new UsageError(`add: this opponent was made for another moveset than ${plan.name}.`, 'other-moveset');
    const words = typeof tags === 'string' ? [tags] : tags;
    for (const watcher of this.watchers) watcher.asking();
    // What may throw comes before anything is changed.
    const character = new Character(plan as unknown as Plan, { ...more, world: this.world });
    const id = this.company.nextId++;
    // Who is on nobody's side has one of its own, for itself and for whom it calls.
    const side = team === undefined ? -id : this.known.teams.index(team);
    const indexes = [
      this.known.plans.index(plan as unknown as Plan),
      this.known.names.index(name),
      this.known.tagLists.index([...words]),
    ] as const;
    const member = this.company.make(id, indexes, side, 0, character);
    if (plays) setOpponent(member, plays);
    this.list.push(member);
    const { at = [0, 0], facing = 1 }: MemberOptions = options;
    const join = { name, moveset: indexes[0], at: at.map((n) => n ?? 0), facing, team: team ?? null, tags: words };
    this.recording?.noteJoin(this, join);
    for (const watcher of this.watchers) watcher.changed(join);
    return member as unknown as Member<N>;
  }

  /**
   * Takes somebody out.
   * @param member A member, or its name.
   * @throws {UsageError} for a name that no member has.
   */
  remove(member: string | Member): void {
    this.checkIdle('remove');
    const at = typeof member === 'string' ? this.indexOf('remove', member) : this.list.indexOf(member);
    if (at < 0) throw new UsageError('remove: this is no member of this arena.', 'unknown-name');
    this.recording?.noteLeave(this.ticks + 1, this.list[at].id);
    for (const watcher of this.watchers) watcher.changed(this.list[at].id);
    this.company.takeOut(at);
    this.company.countCalled();
  }

  /**
   * The member of this name, or undefined.
   * @param name As it was given to `add`, or as who was called is named: `gull 5`.
   */
  find(name: string): Member | undefined {
    return this.company.find(name);
  }

  /**
   * One step of simulation for all: all take in, all decide, all move, then all strikes are found, and then applied.
   * @throws {UsageError} once the step is done, where somebody is called whose moveset it does not know.
   */
  tick(): void {
    const { list, gathering, watchers } = this;
    this.ticking = true;
    this.ticks++;
    for (let i = 0; i < watchers.length; i++) watchers[i].before();
    // Engines take long to shorten a list, also an empty one.
    if (this.leavers.length > 0) this.leavers.length = 0;
    // What few need is left out where nobody does.
    let anyLooks = false;
    let anyRides = false;
    for (let i = 0; i < list.length; i++) {
      list[i].steered = false;
      anyLooks ||= looks(list[i]);
      anyRides ||= list[i].c.plan.rideAt >= 0;
    }
    if (anyLooks) lookAround(list);
    if (anyRides) steerMounts(list, this.replaysTick);
    if (anyLooks && !this.replaysTick)
      for (let i = 0; i < list.length; i++) if (!list[i].steered) list[i].plays?.play(list[i].c, list[i].state);
    this.replaysTick = false;
    for (let i = 0; i < list.length; i++) {
      if (list[i].c.calls.length > 0) list[i].c.calls.length = 0;
      list[i].awake = list[i].c.plan.code.tick(list[i].c, TAKE_IN);
    }
    for (let i = 0; i < list.length; i++) if (list[i].awake) list[i].c.plan.code.tick(list[i].c, DECIDE);
    for (let i = 0; i < list.length; i++) for (let k = 0; k < 3; k++) list[i].way[k] = list[i].c.r[X + k];
    for (let i = 0; i < list.length; i++) if (list[i].awake) list[i].c.plan.code.tick(list[i].c, MOVE);
    if (anyRides) moveRiders(list);
    separateBodies(list);
    for (let i = 0; i < list.length; i++)
      for (let k = 0; k < 3; k++) list[i].way[k] = list[i].c.r[X + k] - list[i].way[k];
    gathering.gather(list);
    const { blows, clashes } = gathering;
    for (let i = 0; i < clashes.count; i++) {
      const clash = clashes.all[i];
      tellClash(clash, (clash.to as Member).c);
    }
    for (let i = 0; i < blows.count; i++) {
      const blow = blows.all[i];
      const by = (blow.by as Member).c;
      const to = (blow.to as Member).c;
      if (blow.plan.tells === null) this.strike(i, blow, by, to);
      else {
        applyTouch(blow, by, to);
        this.outcomes[i] = 'touched';
      }
    }
    let anyComes = false;
    for (let i = 0; i < list.length; i++) {
      const { c, awake } = list[i];
      if (awake) c.senseAgain();
      anyComes ||= c.calls.length > 0 || c.leaving;
    }
    this.ticking = false;
    let unknown: UsageError | null = null;
    try {
      if (anyComes) unknown = this.company.comeAndGo();
    } finally {
      this.recording?.noteTick(this);
      for (let i = 0; i < watchers.length; i++) watchers[i].after();
    }
    if (unknown !== null) throw unknown;
  }

  /** Writes down what comes in from now on, if set: through all doors, and who joins and leaves. */
  get tape(): ArenaTape | null {
    return this.recording;
  }
  set tape(tape: ArenaTape | null) {
    this.recording = tape;
    for (const member of this.list) this.listen(member);
    tape?.begin(this);
  }

  /** @internal Who is told of all that comes in and of each tick. */
  get watching(): readonly Watcher[] {
    return this.watchers;
  }
  set watching(watchers: readonly Watcher[]) {
    this.watchers = watchers;
    for (const member of this.list) this.listen(member);
  }

  /** @internal All move in this world from now on. */
  useWorld(world: World): void {
    this.world = world;
    this.gathering.world = world;
    for (const { c } of this.list) c.useWorld(world);
  }

  private strike(i: number, blow: Blow, by: Character, to: Character): void {
    const outcome = applyBlow(blow, by, to);
    this.outcomes[i] = outcome;
    if (outcome === 'struck' || outcome === 'guardBroken') {
      const { list } = this;
      for (let k = 0; k < list.length; k++) if (list[k].caller === blow.to.id) tellCalled(blow, list[k].c);
    }
    tellStriker(blow, by, OUTCOMES[outcome]);
  }

  /** @internal Finds who is in the volume of a strike, in place of the arena. */
  get finds(): FindTargets | null {
    return this.gathering.find;
  }
  set finds(finds: FindTargets | null) {
    this.gathering.find = finds;
  }

  /** @internal The id of who comes next. */
  get comingId(): number {
    return this.company.nextId;
  }

  /** @internal */
  byId(id: number): Member | undefined {
    return this.company.byId(id);
  }

  /** @internal */
  listen({ id, c }: Member): void {
    const { recording, watchers } = this;
    const tape = recording && {
      write: (_: number, data: Float64Array, at: number) => recording.write(id, this.ticks, data, at),
    };
    c.writer = writerFor(tape, watchers, id);
  }

  /** How many events this tick had; `events` need not be read when it is 0. */
  get eventCount(): number {
    return this.gathering.blows.count + this.gathering.clashes.count;
  }

  /** What happened between members in this tick, as data that anyone may keep; a new list in each call. */
  get events(): ArenaEvent[] {
    return readMeetings(this.meetings(), 0, this.eventCount, this.words.list, (id) => this.nameOf(id));
  }

  /** @internal The same as numbers; the next call changes them. */
  meetings(): Float64Array {
    const size = this.eventCount * MEETING;
    if (this.met.length < size) this.met = new Float64Array(2 * size);
    writeMeetings(this.gathering, this.outcomes, this.words, this.met);
    return this.met;
  }

  /** Of somebody who is there, or met somebody in this tick. */
  private nameOf(id: number): string {
    const { blows, clashes } = this.gathering;
    for (const { all, count } of [blows, clashes])
      for (let i = 0; i < count; i++)
        for (const one of [all[i].by, all[i].to]) if (one.id === id) return (one as Member).name;
    return '';
  }

  /** How many numbers a snapshot of it takes now. */
  get snapshotSize(): number {
    return sizeOfAll(this.list);
  }

  /**
   * Copies all that changes from tick to tick: who is there, and every record, with what its devices hold. Into `out`
   * if given and large enough; the caller owns it. It is good for this arena, and for one to which the same members
   * were added in the same order.
   * @param out Where to, of at least `snapshotSize` numbers; a new array where it is shorter.
   */
  snapshot(out?: Float64Array): Float64Array {
    const size = this.snapshotSize;
    const to = out !== undefined && out.length >= size ? out : new Float64Array(size);
    writeSnapshot(to, size, this.ticks, this.company.nextId, this.list);
    return to;
  }

  /**
   * Makes the arena what it was at a snapshot: who has left is back, who has joined since is gone. The devices of its
   * members stay as they are now, but those of opponents; with `devices: 'then'` they hold what they held at the
   * snapshot, so that the same calls of the doors bring about the same run: for rollback.
   * @param snapshot What `snapshot` gave.
   * @param options What the devices hold afterwards.
   * @throws {UsageError} for what is no such snapshot; nothing has changed then.
   */
  restore(snapshot: Float64Array, options?: RestoreOptions): void {
    this.checkIdle('restore');
    wantOptions('restore', options, ['devices']);
    const { devices = 'now' } = options ?? {};
    const fault = faultOfSnapshot(this.known, snapshot, devices);
    if (fault) throw new UsageError(`restore: ${fault}`, 'wrong-record');
    if (!holdsSame(this.list, snapshot)) this.company.regroup(snapshot);
    const { list } = this;
    let at = HEADER;
    for (let i = 0; i < list.length; i++) {
      const member = list[i];
      const { recordSize, snapshotSize } = member.c.plan;
      const from = at + ENTRY;
      const plays = member.plays !== null && snapshot[at + I_EXTRA] === sizeOf(member) - ENTRY - recordSize;
      if (plays) for (let k = 0; k < member.state.length; k++) member.state[k] = snapshot[from + snapshotSize + k];
      member.c.takeBack(snapshot, from, plays || devices === 'then' ? from + recordSize : -1);
      at = from + recordSize + snapshot[at + I_EXTRA];
    }
    if (this.leavers.length > 0) this.leavers.length = 0;
    this.ticks = snapshot[H_TICK];
    this.company.nextId = snapshot[H_NEXT];
    this.gathering.blows.count = 0;
    this.gathering.clashes.count = 0;
    this.recording?.rewind(this);
    for (const watcher of this.watchers) watcher.rewound();
  }

  /** 32 bits of all records and who they belong to: equal arenas have equal checksums. */
  checksum(): number {
    let hash = Math.imul(this.ticks ^ 0x811c9dc5, 0x01000193);
    for (const { id, character, team, caller } of this.list) {
      for (const part of [id, team, caller, checksumOf(character.plan, character.r)])
        hash = Math.imul(hash ^ part, 0x01000193);
    }
    return hash >>> 0;
  }

  /** @internal Another moveset takes the place of that of all who have it: see swapMoveset. */
  swapFrom(next: Plan, of: Plan | undefined, renamed: Renamed): Swapped[] {
    this.checkIdle('swapMoveset');
    const isIt = (plan: Plan) => (of === undefined ? plan.name === next.name : plan === of);
    const whose = this.list.filter(({ c }) => isIt(c.plan));
    const called = Object.entries(this.summons).filter(([, plan]) => isIt(plan));
    if (whose.length === 0 && called.length === 0)
      throw new UsageError(
        `swapMoveset: nobody here has the moveset ${of?.name ?? next.name}; say in "of" whose place ${next.name} takes.`,
        'unknown-name',
      );
    for (const { c } of whose) checkSwap(c, next);
    // What comes in from here on means something else.
    if (this.recording !== null) this.tape = null;
    // Snapshots of before are still understood where only numbers are others; and a day of edits leaves no heap of movesets.
    for (const old of new Set([...whose.map(({ c }) => c.plan), ...called.map(([, plan]) => plan)]))
      this.known.plans.replace(old, next);
    const swapped = whose.map((member) => this.swapOne(member, next, renamed));
    if (called.length > 0)
      this.summons = { ...this.summons, ...Object.fromEntries(called.map(([name]) => [name, next])) };
    this.company.countCalled();
    return swapped;
  }

  /** @internal The same of one member, which was checked. */
  swapOne(member: Member, next: Plan, renamed: Renamed): Swapped {
    const { c, plays } = member;
    const [, name, tags] = member.indexes;
    for (const watcher of this.watchers) watcher.asking();
    const swapped = swapCharacter(c, member.name, next, renamed);
    member.indexes = [this.known.plans.index(next), name, tags];
    member.tags = [...this.known.tagLists.list[tags], ...next.tags];
    const opponent = plays?.for(next) ?? null;
    if (plays && opponent) {
      const { state } = member;
      setOpponent(member, opponent);
      if (state.length === member.state.length) member.state.set(state);
    } else if (plays) member.plays = null;
    for (const watcher of this.watchers) watcher.swapped(member.id, next, renamed);
    return swapped;
  }

  /** @internal Those who were there after a tick of a recording, with their numbers, in the order of their ids. */
  revive(tick: number, nextId: number, members: readonly Revived[]): void {
    this.ticks = tick;
    this.company.nextId = nextId;
    this.company.revive(members);
  }

  /** @internal What the numbers of snapshots stand for: it grows, and nothing in it changes. */
  get lists(): Lists {
    return this.known.lists;
  }

  /** @internal Takes over what the numbers of another arena's snapshots stand for. */
  adopt(lists: Lists, plans: readonly Plan[]): void {
    this.known.adopt(lists, plans, this.list.length === 0);
  }

  /** @internal */
  join({ name, moveset, at, facing, team, tags }: Join): void {
    const [x, y, z = 0] = at;
    this.add(name, this.known.plans.list[moveset], { at: [x, y, z], facing, team: team ?? undefined, tags });
  }

  /** @internal */
  leave(id: number): void {
    const member = this.byId(id);
    if (member) this.remove(member);
  }

  /** @internal */
  characterOf(id: number): Character | undefined {
    return this.byId(id)?.c;
  }

  /** @internal */
  get ids(): readonly number[] {
    return this.list.map(({ id }) => id);
  }

  private indexOf(call: string, name: string): number {
    return indexOfName(
      call,
      'member',
      name,
      this.list.map((member) => member.name),
      this.list[0]?.c.plan.code,
    );
  }

  private checkIdle(call: string): void {
    if (this.ticking) throw new UsageError(`${call}: not while the arena ticks; do it between two ticks.`, 'not-now');
  }
}

const MEMBER_OPTIONS = [
  ...CHARACTER_OPTIONS.filter((key) => key !== 'world' && key !== 'into'),
  'team',
  'tags',
  'plays',
];
