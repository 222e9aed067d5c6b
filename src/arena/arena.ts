import type { Plan } from '../compile/plan.js';
import type { NameTypes } from '../moveset/name-types.js';
import { type Summoning, W_AT, W_DAMAGE, W_PUSH, W_STUN } from '../record/combat.js';
import { FX, FZ, R_UNTIL, T, VX, VY, VZ, X, Y, Z } from '../record/slots.js';
import type { Vector } from '../report/events.js';
import { indexOfName, UsageError } from '../report/usage-error.js';
import { Character, type CharacterOptions } from '../runtime/character.js';
import { checksumOf } from '../runtime/checksum.js';
import { noteRequest } from '../runtime/presses.js';
import { type Blow, type FindTargets, Gathering } from '../strikes/gather.js';
import { Cast, Hit, type World } from '../world/world.js';
import { applyBlow, applyTouch, OUTCOMES, type Outcome, tellCalled, tellClash, tellStriker } from './apply-blow.js';
import type { ArenaTape, Join, Lists } from './arena-tape.js';
import { lookForFoe } from './look-for-foe.js';
import { Member } from './member.js';
import type { Opponent } from './opponent.js';
import { separateBodies } from './separate.js';

/** What an arena is made of. */
export interface ArenaOptions {
  /** What all of its characters move in. Left out: an engine moves their bodies. */
  world?: World;
  /**
   * Finds who is in the volume of a strike, in place of the arena's own test: an engine asks its own bodies. It is called for
   * each volume of each strike that lasts, and calls `found` for everybody in it.
   */
  finds?: FindTargets;
  /** Movesets of those who may be called, by the names of `summons`. */
  summons?: Readonly<Record<string, Plan>>;
}

/** How somebody joins. */
export interface MemberOptions extends Omit<CharacterOptions, 'world' | 'into'> {
  /** Its side. Default: none, so that all others are its foes. */
  team?: string;
  /** Words by which strikes find it. */
  tags?: string | readonly string[];
  /** What plays it: its presses come in besides those of its door. */
  plays?: Opponent;
}

/** What happened between members in a tick. */
export type ArenaEvent =
  /** A strike met somebody: what became of it, and what was left of it. Times in seconds. */
  | {
      readonly kind: 'blow';
      readonly outcome: Outcome;
      readonly by: string;
      readonly to: string;
      readonly damage: number;
      readonly damageKind: string | null;
      readonly stun: number;
      readonly stop: number;
      readonly push: Vector;
      readonly at: Vector;
    }
  /** A touch told its event. */
  | { readonly kind: 'touch'; readonly event: string; readonly by: string; readonly to: string }
  /** A strike met another one, and was lost. */
  | { readonly kind: 'clash'; readonly by: string; readonly to: string };

const HEADER = 4;
const H_TICK = 0;
const H_NEXT = 1;
const H_COUNT = 2;
const H_SIZE = 3;
/** Per member, before its record: id, plan, name, tags, team, id of its caller, how many numbers of its opponent come after its record. */
const ENTRY = 7;

/** Several characters and things in one world: they tick together, stage by stage, and strike each other. */
export class Arena {
  private readonly list: Member[] = [];
  private readonly world: World | undefined;
  private readonly summons: Readonly<Record<string, Plan>>;
  private readonly gathering: Gathering;
  private readonly outcomes: (Outcome | 'touched')[] = [];
  private readonly plans: Plan[] = [];
  private readonly names: string[] = [];
  private readonly teams: string[] = [];
  private readonly tagLists: (readonly string[])[] = [];
  /** Members that are gone, for a restore that brings them back. */
  private readonly gone = new Map<number, Member>();
  private nextId = 1;
  private ticks = 0;
  private ticking = false;
  /** @internal What comes in next was recorded: opponents do not play. */
  fed = false;
  private recording: ArenaTape | null = null;

  constructor(options: ArenaOptions = {}) {
    this.world = options.world;
    this.summons = options.summons ?? {};
    const asks = { cast: new Cast(), hit: new Hit() };
    this.gathering = new Gathering(options.world ?? null, asks, options.finds ?? null);
  }

  /** Everybody in it, in the order in which they joined. A view: it changes as they come and go. */
  get members(): readonly Member[] {
    return this.list;
  }

  /** How many ticks there were. */
  get tickCount(): number {
    return this.ticks;
  }

  /**
   * Adds a character, to take part from the next tick on. Its name must be no other member's. Throws a UsageError for that, for
   * another rate of ticks, and for what {@link Character} throws.
   */
  add<N extends NameTypes>(name: string, plan: Plan<N>, options: MemberOptions = {}): Member<N> {
    this.checkIdle('add');
    if (this.find(name))
      throw new UsageError(
        `add: there is a member ${JSON.stringify(name)} already; give this one another name.`,
        'out-of-range',
      );
    const rate = this.list[0]?.character.plan.rate ?? plan.rate;
    if (plan.rate !== rate)
      throw new UsageError(
        `add: ${plan.name} has ${plan.rate} ticks per second, and this arena has ${rate}; all of its movesets need the same.`,
        'out-of-range',
      );
    const { team, tags = [], plays, ...more } = options;
    if (plays && plays.plan !== (plan as unknown as Plan))
      throw new UsageError(`add: this opponent was made for another moveset than ${plan.name}.`, 'wrong-record');
    const indexes = [
      intern(this.plans, plan as unknown as Plan),
      intern(this.names, name),
      this.internTags(typeof tags === 'string' ? [tags] : tags),
    ] as const;
    const id = this.nextId++;
    // Who is on nobody's side has one of its own, for itself and for whom it calls.
    const side = team === undefined ? -id : intern(this.teams, team);
    const member = this.make(id, indexes, side, 0, more);
    if (plays) setOpponent(member, plays);
    this.list.push(member);
    const { at = [0, 0], facing = 1 }: MemberOptions = options;
    this.recording?.noteJoin(this.ticks + 1, {
      name,
      moveset: indexes[0],
      at: at.map((n) => n ?? 0),
      facing,
      team: team ?? null,
      tags: this.tagLists[indexes[2]],
    });
    return member as unknown as Member<N>;
  }

  /** Takes somebody out. Throws a UsageError for a name that no member has. */
  remove(member: string | Member): void {
    this.checkIdle('remove');
    const at = typeof member === 'string' ? this.indexOf('remove', member) : this.list.indexOf(member);
    if (at < 0) throw new UsageError('remove: this is no member of this arena.', 'unknown-name');
    this.recording?.noteLeave(this.ticks + 1, this.list[at].id);
    this.takeOut(at);
    this.countCalled();
  }

  /** The member of this name, or undefined. */
  find(name: string): Member | undefined {
    const { list } = this;
    for (let i = 0; i < list.length; i++) if (list[i].name === name) return list[i];
    return undefined;
  }

  /**
   * One step of simulation for all: all take in, all decide, all move, then all strikes are found, and then applied. Throws a
   * UsageError, once the step is done, where somebody is called whose moveset it does not know.
   */
  tick(): void {
    const { list, gathering } = this;
    this.ticking = true;
    this.ticks++;
    for (let i = 0; i < list.length; i++) if (list[i].c.plan.readsFoe || list[i].plays) lookForFoe(list[i], list);
    if (!this.fed) for (let i = 0; i < list.length; i++) list[i].plays?.play(list[i].c, list[i].state);
    this.fed = false;
    for (let i = 0; i < list.length; i++) {
      if (list[i].c.calls.length > 0) list[i].c.calls.length = 0;
      list[i].awake = list[i].c.plan.code.takeIn(list[i].c);
    }
    for (let i = 0; i < list.length; i++) if (list[i].awake) list[i].c.plan.code.decide(list[i].c);
    for (let i = 0; i < list.length; i++) if (list[i].awake) list[i].c.plan.code.move(list[i].c);
    separateBodies(list);
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
    for (let i = 0; i < list.length; i++) if (list[i].awake) list[i].c.senseAgain();
    this.ticking = false;
    this.comeAndGo();
    this.recording?.noteTick(this);
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

  private strike(i: number, blow: Blow, by: Character, to: Character): void {
    const outcome = applyBlow(blow, by, to);
    this.outcomes[i] = outcome;
    if (outcome === 'struck' || outcome === 'guardBroken') {
      const { list } = this;
      for (let k = 0; k < list.length; k++) if (list[k].caller === blow.to.id) tellCalled(blow, list[k].c);
    }
    tellStriker(blow, by, OUTCOMES[outcome]);
  }

  /** Who was called comes, and who leaves goes. */
  private comeAndGo(): void {
    const { list } = this;
    let changed = false;
    const count = list.length;
    for (let i = 0; i < count; i++) {
      const { calls, plan } = list[i].c;
      for (let k = 0; k < calls.length; k++) this.call(list[i], plan.summonings[calls[k]]);
      changed ||= calls.length > 0;
    }
    for (let i = list.length - 1; i >= 0; i--) {
      if (!list[i].c.leaving) continue;
      list[i].c.leaving = false;
      this.takeOut(i);
      changed = true;
    }
    if (changed) this.countCalled();
  }

  private call(caller: Member, { who, at, velocity, does }: Summoning): void {
    const { c } = caller;
    const { r } = c;
    const name = c.plan.names.summon[who];
    const plan = this.findSummon(c.plan, name);
    const id = this.nextId++;
    const place = [r[X] + at[0] * r[FX] - at[2] * r[FZ], r[Y] + at[1], r[Z] + at[0] * r[FZ] + at[2] * r[FX]] as const;
    const indexes = [intern(this.plans, plan), intern(this.names, `${name} ${id}`), this.internTags([])] as const;
    const member = this.make(id, indexes, caller.team, caller.id, { at: place, facing: r[FX] < 0 ? -1 : 1 });
    const own = member.c.r;
    own[FX] = r[FX];
    own[FZ] = r[FZ];
    if (velocity !== null) {
      velocity(c, OUT);
      own[VX] = OUT[0];
      own[VY] = OUT[1];
      own[VZ] = OUT[2];
    }
    const ability = does === null ? undefined : plan.abilities[plan.indexes.ability.get(does) ?? -1];
    if (ability) {
      const trigger = plan.triggers[ability.codeTrigger];
      noteRequest(own, trigger, 1);
      // It is judged in the next tick, the first of whom was called.
      own[trigger.at + R_UNTIL] = Math.max(own[trigger.at + R_UNTIL], own[T] + 1);
    }
    this.list.push(member);
  }

  /** How many of each kind that somebody has called are there. */
  private countCalled(): void {
    const { list } = this;
    for (let i = 0; i < list.length; i++) {
      const { plan, r } = list[i].c;
      if (plan.names.summon.length > 0) r.fill(0, plan.summonedAt, plan.summonedAt + plan.names.summon.length);
    }
    for (let i = 0; i < list.length; i++) {
      const { caller, character } = list[i];
      const owner = caller === 0 ? undefined : list.find((member) => member.id === caller)?.c;
      if (!owner) continue;
      const who = owner.plan.names.summon.findIndex((name) => this.summons[name] === character.plan);
      if (who >= 0) owner.r[owner.plan.summonedAt + who] += 1;
    }
  }

  private takeOut(at: number): void {
    const [left] = this.list.splice(at, 1);
    left.alive = false;
    this.gone.set(left.id, left);
    if (this.gone.size > MOST_GONE) this.gone.delete(this.gone.keys().next().value as number);
  }

  private findSummon(plan: Plan, who: string): Plan {
    const known = this.summons[who];
    if (!known)
      throw new UsageError(
        `tick: ${plan.name} calls ${JSON.stringify(who)}, and this arena does not know its moveset: give it in the option "summons".`,
        'unknown-name',
      );
    return known;
  }

  private listen({ id, c }: Member): void {
    const { recording } = this;
    c.writer = recording && { write: (_, data, at) => recording.write(id, this.ticks, data, at) };
  }

  /** How many events this tick had; `events` need not be read when it is 0. */
  get eventCount(): number {
    return this.gathering.blows.count + this.gathering.clashes.count;
  }

  /** What happened between members in this tick, as data that anyone may keep; a new list in each call. */
  get events(): ArenaEvent[] {
    const { blows, clashes } = this.gathering;
    const nameOf = (fighter: unknown) => (fighter as Member).name;
    return [
      ...clashes.all
        .slice(0, clashes.count)
        .map(({ by, to }): ArenaEvent => ({ kind: 'clash', by: nameOf(to), to: nameOf(by) })),
      ...blows.all.slice(0, blows.count).map(({ by, to, plan, values, stop }, i): ArenaEvent => {
        const { rate } = to.c.plan;
        const outcome = this.outcomes[i];
        if (outcome === 'touched') return { kind: 'touch', event: plan.tells ?? '', by: nameOf(by), to: nameOf(to) };
        const vector = (at: number): Vector => ({ x: values[at], y: values[at + 1], z: values[at + 2] });
        return {
          kind: 'blow',
          outcome,
          by: nameOf(by),
          to: nameOf(to),
          damage: values[W_DAMAGE],
          damageKind: plan.kind,
          stun: values[W_STUN] / rate,
          stop: stop / rate,
          push: vector(W_PUSH),
          at: vector(W_AT),
        };
      }),
    ];
  }

  /** How many numbers a snapshot of it takes now. */
  get snapshotSize(): number {
    let size = HEADER;
    for (let i = 0; i < this.list.length; i++)
      size += ENTRY + this.list[i].character.plan.recordSize + extraOf(this.list[i]);
    return size;
  }

  /**
   * Copies all that changes from tick to tick: who is there, and every record. Into `out` if given and large enough; the
   * caller owns it. It is good for this arena, and for one to which the same members were added in the same order.
   */
  snapshot(out?: Float64Array): Float64Array {
    const size = this.snapshotSize;
    const to = out !== undefined && out.length >= size ? out : new Float64Array(size);
    const { list } = this;
    to[H_TICK] = this.ticks;
    to[H_NEXT] = this.nextId;
    to[H_COUNT] = list.length;
    to[H_SIZE] = size;
    let at = HEADER;
    for (let i = 0; i < list.length; i++) {
      const { id, indexes, team, caller, character } = list[i];
      to[at] = id;
      to[at + 1] = indexes[0];
      to[at + 2] = indexes[1];
      to[at + 3] = indexes[2];
      to[at + 4] = team;
      to[at + 5] = caller;
      to[at + 6] = extraOf(list[i]);
      to.set(character.record, at + ENTRY);
      at += ENTRY + character.plan.recordSize;
      if (list[i].plays) at = saveOpponent(list[i], to, at);
    }
    return to;
  }

  /** Makes the arena what it was at a snapshot: who has left is back, who has joined since is gone. Throws a UsageError, and changes nothing, for what is no such snapshot. */
  restore(snapshot: Float64Array): void {
    this.checkIdle('restore');
    this.checkSnapshot(snapshot);
    if (!this.holdsSame(snapshot)) this.regroup(snapshot);
    const { list } = this;
    let at = HEADER;
    for (let i = 0; i < list.length; i++) {
      const member = list[i];
      const end = at + ENTRY + member.character.plan.recordSize;
      const extra = snapshot[at + 6];
      if (extra > 0 && extra === extraOf(member)) restoreOpponent(member, snapshot, end);
      member.character.restore(snapshot.subarray(at + ENTRY, end));
      at = end + extra;
    }
    this.ticks = snapshot[H_TICK];
    this.nextId = snapshot[H_NEXT];
    this.gathering.blows.count = 0;
    this.gathering.clashes.count = 0;
    this.recording?.rewind(this);
  }

  /** Whether a snapshot is of those who are there now, in their order. */
  private holdsSame(snapshot: Float64Array): boolean {
    const { list } = this;
    if (snapshot[H_COUNT] !== list.length) return false;
    let at = HEADER;
    for (let i = 0; i < list.length; i++) {
      if (snapshot[at] !== list[i].id) return false;
      at += ENTRY + list[i].character.plan.recordSize + snapshot[at + 6];
    }
    return true;
  }

  /** Brings those together who were there at a snapshot: who has left is back, or made anew. */
  private regroup(snapshot: Float64Array): void {
    const { list } = this;
    const before = list.slice();
    list.length = 0;
    let at = HEADER;
    for (let i = 0; i < snapshot[H_COUNT]; i++) {
      const plan = this.plans[snapshot[at + 1]];
      const id = snapshot[at];
      const known = before.find((member) => member.id === id) ?? this.gone.get(id);
      const member =
        known ??
        this.make(id, [snapshot[at + 1], snapshot[at + 2], snapshot[at + 3]], snapshot[at + 4], snapshot[at + 5], {});
      member.alive = true;
      this.gone.delete(id);
      list.push(member);
      at += ENTRY + plan.recordSize + snapshot[at + 6];
    }
    for (const member of before)
      if (!list.includes(member)) {
        member.alive = false;
        this.gone.set(member.id, member);
      }
  }

  /** 32 bits of all records and who they belong to: equal arenas have equal checksums. */
  checksum(): number {
    let hash = Math.imul(this.ticks ^ 0x811c9dc5, 0x01000193);
    for (const { id, character } of this.list) {
      hash = Math.imul(hash ^ id, 0x01000193);
      hash = Math.imul(hash ^ checksumOf(character.r, character.plan.recordSize), 0x01000193);
    }
    return hash >>> 0;
  }

  /** @internal What the numbers of snapshots stand for: it grows, and nothing in it changes. */
  get lists(): Lists {
    const { names, teams, plans } = this;
    return {
      names,
      teams,
      tags: this.tagLists,
      movesets: plans.map((plan) => ({ name: plan.name, layout: plan.layout.fingerprint })),
    };
  }

  /** @internal Takes over what the numbers of another arena's snapshots stand for. */
  adopt({ names, teams, tags, movesets }: Lists, plans: readonly Plan[]): void {
    const own = movesets.map(({ name, layout }, i) => {
      const plan = [...this.plans.slice(i, i + 1), ...plans].find(
        (one) => one.name === name && one.layout.fingerprint === layout,
      );
      if (!plan)
        throw new UsageError(
          `ArenaTape: it was recorded with ${name}, which is not among these movesets as it was.`,
          'wrong-record',
        );
      return plan;
    });
    const isOther = names !== this.names && this.list.length > 0;
    if (isOther) throw new UsageError('ArenaTape: this arena has members already; take a new one.', 'wrong-record');
    this.plans.splice(0, own.length, ...own);
    this.names.splice(0, names.length, ...names);
    this.teams.splice(0, teams.length, ...teams);
    this.tagLists.splice(0, tags.length, ...tags);
  }

  /** @internal */
  join({ name, moveset, at, facing, team, tags }: Join): void {
    const [x, y, z = 0] = at;
    this.add(name, this.plans[moveset], { at: [x, y, z], facing, team: team ?? undefined, tags });
  }

  /** @internal */
  leave(id: number): void {
    const member = this.list.find((one) => one.id === id);
    if (member) this.remove(member);
  }

  /** @internal */
  characterOf(id: number): Character | undefined {
    return this.list.find((one) => one.id === id)?.c;
  }

  /** @internal */
  get ids(): readonly number[] {
    return this.list.map(({ id }) => id);
  }

  private make(
    id: number,
    indexes: readonly [plan: number, name: number, tags: number],
    team: number,
    caller: number,
    options: CharacterOptions,
  ): Member {
    const character = new Character(this.plans[indexes[0]], { ...options, world: this.world });
    const member = new Member(
      id,
      this.names[indexes[1]],
      character,
      this.teams[team] ?? null,
      [...this.tagLists[indexes[2]], ...this.plans[indexes[0]].tags],
      team,
      indexes,
      caller,
    );
    this.listen(member);
    return member;
  }

  private internTags(tags: readonly string[]): number {
    const text = tags.join();
    const known = this.tagLists.findIndex((list) => list.join() === text);
    return known >= 0 ? known : this.tagLists.push([...tags]) - 1;
  }

  private indexOf(call: string, name: string): number {
    return indexOfName(
      call,
      'member',
      name,
      this.list.map((member) => member.name),
    );
  }

  private checkIdle(call: string): void {
    if (this.ticking)
      throw new UsageError(`${call}: not while the arena ticks; do it between two ticks.`, 'out-of-range');
  }

  private checkSnapshot(snapshot: Float64Array): void {
    const fail = (why: string) => new UsageError(`restore: ${why}`, 'wrong-record');
    if (!(snapshot instanceof Float64Array) || !(snapshot.length >= snapshot[H_SIZE]))
      throw fail('this is no snapshot of an arena.');
    if (!Number.isSafeInteger(snapshot[H_TICK])) throw fail('its tick is no whole number.');
    let at = HEADER;
    for (let i = 0; i < snapshot[H_COUNT]; i++) {
      const plan = this.plans[snapshot[at + 1]];
      if (!plan || !(snapshot[at + 2] in this.names) || !(snapshot[at + 3] in this.tagLists))
        throw fail('it has a member that this arena never had; add the same members in the same order first.');
      at += ENTRY + plan.recordSize + snapshot[at + 6];
    }
    if (at !== snapshot[H_SIZE]) throw fail('this is no snapshot of an arena with these movesets.');
  }
}

const OUT = new Float64Array(3);
/** How many of those who have left are kept for a restore: whoever left before is made anew. */
const MOST_GONE = 256;

/** An opponent plays a member from the next tick on. */
function setOpponent(member: Member, plays: Opponent): void {
  member.plays = plays;
  member.state = plays.begin(member.id);
}

/** Numbers of a snapshot that only who is played by an opponent has: those of the opponent, and what it holds. */
function extraOf({ plays, c }: Member): number {
  return plays ? plays.size + c.plan.outAt - c.plan.devicesAt : 0;
}

function saveOpponent({ state, c }: Member, to: Float64Array, at: number): number {
  to.set(state, at);
  const devices = c.r.subarray(c.plan.devicesAt, c.plan.outAt);
  to.set(devices, at + state.length);
  return at + state.length + devices.length;
}

function restoreOpponent({ state, c }: Member, from: Float64Array, at: number): void {
  state.set(from.subarray(at, at + state.length));
  const devices = c.plan.outAt - c.plan.devicesAt;
  c.r.set(from.subarray(at + state.length, at + state.length + devices), c.plan.devicesAt);
}

/** The place of something in a list, to which it is added if it is not there. */
function intern<T>(list: T[], item: T): number {
  const at = list.indexOf(item);
  return at >= 0 ? at : list.push(item) - 1;
}
