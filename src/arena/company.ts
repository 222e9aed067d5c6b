import { Character } from '../character/character.js';
import type { Plan } from '../compile/plan.js';
import type { Summoning } from '../record/combat.js';
import { FX, FZ, R_UNTIL, T, VX, VY, VZ } from '../record/slots.js';
import { UsageError } from '../report/usage-error.js';
import { noteRequest } from '../tick/presses/presses.js';
import type { World } from '../world/world.js';
import { Known } from './known.js';
import { Member } from './member.js';
import type { Opponent } from './opponent.js';
import { placeCalled } from './place-called.js';
import { ENTRY, H_COUNT, HEADER, I_CALLER, I_EXTRA, I_ID, I_NAME, I_PLAN, I_TAGS, I_TEAM, isSame } from './snapshot.js';

/** What somebody is in: it finds the others by their ids, and hears of what comes in. */
export interface Home {
  readonly world: World | undefined;
  /** Movesets of those who may be called. */
  readonly summons: Readonly<Record<string, Plan>>;
  byId(id: number): Member | undefined;
  /** Tells whoever listens to its doors of one more. */
  listen(member: Member): void;
}

/** Indexes of a plan, a name and tags in what is known; of who was called, -1 less that of its kind for a name. */
type Indexes = readonly [plan: number, name: number, tags: number];

/** Who is in an arena: those who join, are called, leave, and come back by a restore. */
export class Company {
  readonly list: Member[] = [];
  /** Those who left by themselves in the last tick. */
  readonly leavers: Member[] = [];
  readonly known = new Known();
  /** The id of who comes next. */
  nextId = 1;
  /** Members that are gone, for a restore that brings them back. */
  private readonly gone = new Map<number, Member>();

  constructor(private readonly home: Home) {}

  find(name: string): Member | undefined {
    const { list } = this;
    for (let i = 0; i < list.length; i++) if (list[i].name === name) return list[i];
    return undefined;
  }

  byId(id: number): Member | undefined {
    const { list } = this;
    for (let i = 0; i < list.length; i++) if (list[i].id === id) return list[i];
    return undefined;
  }

  make(id: number, indexes: Indexes, team: number, caller: number, character: Character): Member {
    const { known, home } = this;
    const [, name, tags] = indexes;
    const member = new Member(
      id,
      name >= 0 ? known.names.list[name] : `${known.kinds.list[-1 - name]} ${id}`,
      character,
      known.teams.list[team] ?? null,
      [...known.tagLists.list[tags], ...character.plan.tags],
      team,
      indexes,
      caller,
    );
    const { summons } = home;
    member.c.others = home;
    member.c.finds = (summoning) => {
      const called = summons[member.c.plan.names.summon[summoning.who]];
      return called === undefined || placeCalled(member.c, summoning, called, OUT);
    };
    home.listen(member);
    return member;
  }

  takeOut(at: number): void {
    const [left] = this.list.splice(at, 1);
    left.alive = false;
    this.keepGone(left);
  }

  /** Who was called comes, and who leaves goes. Somebody whose moveset is not known does not come, which is returned. */
  comeAndGo(): UsageError | null {
    const { list, leavers } = this;
    let changed = false;
    let unknown: UsageError | null = null;
    const count = list.length;
    for (let i = 0; i < count; i++) {
      const { calls, plan } = list[i].c;
      for (let k = 0; k < calls.length; k++) {
        const summoning = plan.summonings[calls[k]];
        const called = this.home.summons[plan.names.summon[summoning.who]];
        if (called) this.call(list[i], summoning, called);
        else unknown ??= unknownSummon(plan, summoning);
      }
      changed ||= calls.length > 0;
    }
    for (let i = list.length - 1; i >= 0; i--) {
      if (!list[i].c.leaving) continue;
      list[i].c.leaving = false;
      leavers.unshift(list[i]);
      this.takeOut(i);
      changed = true;
    }
    if (changed) this.countCalled();
    return unknown;
  }

  private call(caller: Member, summoning: Summoning, plan: Plan): void {
    const { c } = caller;
    const { r } = c;
    const { who, velocity, does } = summoning;
    // Since it was judged, the body may have moved to where there is no room any more.
    if (!placeCalled(c, summoning, plan, OUT)) return;
    const character = new Character(plan, {
      at: [OUT[0], OUT[1], OUT[2]],
      facing: r[FX] < 0 ? -1 : 1,
      world: this.home.world,
    });
    const kind = this.known.kinds.index(c.plan.names.summon[who]);
    const indexes = [this.known.plans.index(plan), -1 - kind, this.known.tagLists.index([])] as const;
    const member = this.make(this.nextId++, indexes, caller.team, caller.id, character);
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
      noteRequest(character, trigger, 1);
      // It is judged in the next tick, the first of whom was called.
      own[trigger.at + R_UNTIL] = Math.max(own[trigger.at + R_UNTIL], own[T] + 1);
    }
    this.list.push(member);
  }

  /** How many of each kind that somebody has called are there. */
  countCalled(): void {
    const { list } = this;
    for (let i = 0; i < list.length; i++) {
      const { plan, r } = list[i].c;
      if (plan.names.summon.length > 0) r.fill(0, plan.summonedAt, plan.summonedAt + plan.names.summon.length);
    }
    for (let i = 0; i < list.length; i++) {
      const { caller, indexes } = list[i];
      if (caller === 0) continue;
      const owner = this.byId(caller)?.c;
      const who = owner?.plan.indexes.summon.get(this.known.kinds.list[-1 - indexes[1]]);
      if (owner && who !== undefined) owner.r[owner.plan.summonedAt + who] += 1;
    }
  }

  /** Brings those together who were there at a snapshot: who has left is back, or made again. */
  regroup(snapshot: Float64Array): void {
    const { list } = this;
    const before = list.slice();
    list.length = 0;
    let at = HEADER;
    for (let i = 0; i < snapshot[H_COUNT]; i++) {
      const plan = this.known.plans.list[snapshot[at + I_PLAN]];
      const id = snapshot[at + I_ID];
      const known = [before.find((member) => member.id === id), this.gone.get(id)].find(
        (one) => one && isSame(one, snapshot, at),
      );
      const indexes = [snapshot[at + I_PLAN], snapshot[at + I_NAME], snapshot[at + I_TAGS]] as const;
      const member =
        known ??
        this.make(
          id,
          indexes,
          snapshot[at + I_TEAM],
          snapshot[at + I_CALLER],
          new Character(plan, { world: this.home.world }),
        );
      member.alive = true;
      this.gone.delete(id);
      list.push(member);
      at += ENTRY + plan.recordSize + snapshot[at + I_EXTRA];
    }
    for (const member of before)
      if (!list.includes(member)) {
        member.alive = false;
        this.keepGone(member);
      }
  }

  /** Those who were there after a tick of a recording, with their numbers, in the order of their ids. */
  revive(members: readonly Revived[]): void {
    for (const { id, indexes, team, caller, character, plays, state } of members) {
      const member = this.make(id, indexes, team, caller, character);
      if (plays) setOpponent(member, plays);
      if (plays && state.length === member.state.length) member.state.set(state);
      this.list.push(member);
    }
    this.countCalled();
  }

  private keepGone(member: Member): void {
    this.gone.delete(member.id);
    this.gone.set(member.id, member);
    if (this.gone.size > MOST_GONE) this.gone.delete(this.gone.keys().next().value as number);
  }
}

/** Somebody who was there in a recording. */
export interface Revived {
  readonly id: number;
  readonly indexes: Indexes;
  readonly team: number;
  readonly caller: number;
  readonly character: Character;
  readonly plays: Opponent | null;
  readonly state: Float64Array;
}

/** An opponent plays a member from the next tick on. */
export function setOpponent(member: Member, plays: Opponent): void {
  member.plays = plays;
  member.state = plays.begin(member.id);
}

/** Somebody calls who this arena does not know. */
function unknownSummon(plan: Plan, { who }: Summoning): UsageError {
  return new UsageError(
    `tick: ${plan.name} calls ${JSON.stringify(plan.names.summon[who])}, and this arena does not know its moveset: give it in the option "summons".`,
    'missing',
  );
}

const OUT = new Float64Array(3);
/** How many of those who have left are kept for a restore: whoever left before is made again. */
const MOST_GONE = 256;
