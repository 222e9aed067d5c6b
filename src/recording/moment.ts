import { type ArenaEvent, MEETING, readMeetings } from '../arena/events.js';
import { placeCalled } from '../arena/place-called.js';
import { ENTRY, I_EXTRA, I_ID, I_NAME, I_PLAN, I_TAGS, I_TEAM } from '../arena/snapshot.js';
import { Character, type Explanation, type Preview } from '../character/character.js';
import type { Readout } from '../character/readout.js';
import type { Plan } from '../compile/plan.js';
import type { Facts } from '../moveset/name-types.js';
import { Rows } from '../record/rows.js';
import type { LoggiaEvent } from '../report/events.js';
import { indexOfName } from '../report/usage-error.js';
import { initializeRecord } from '../tick/take-in/initialize.js';
import type { AnswerProbe, Place, World } from '../world/world.js';
import { F_COUNT, F_LEFT, F_TICK, FRAME, keptOf, TOLD } from './source.js';

/** What frames stand for: names, movesets, words. */
export interface Meanings {
  readonly plans: readonly Plan[];
  readonly names: readonly string[];
  readonly kinds: readonly string[];
  readonly teams: readonly string[];
  readonly tags: readonly (readonly string[])[];
  readonly words: readonly string[];
}

/** What characters of a recording are read in. */
export interface Surroundings {
  readonly world: World | null;
  readonly probes: AnswerProbe | undefined;
  readonly places: ((id: number, place: string) => Place | undefined) | undefined;
  readonly summons: Readonly<Record<string, Plan>>;
  /** Frames hold what probes answered. */
  readonly keepsProbes: boolean;
}

/** A refused request. */
export type Refusal = Extract<LoggiaEvent, { kind: 'refused' }>;

/** Somebody as they were after a tick: read like a live character. */
export interface SeenMember {
  /** In an arena, the number that nobody else ever has; of a character by itself 0. */
  readonly id: number;
  /** Of a character by itself, that of its moveset. */
  readonly name: string;
  /** Its side, or null. */
  readonly side: string | null;
  /** Words by which strikes find it. */
  readonly tags: readonly string[];
  /** Its moveset then. */
  readonly plan: Plan;
  /** The same as live, with the events of this tick. */
  readonly readout: Readout;
  /** Facts by name, as functions in a moveset read them. */
  readonly facts: Facts;
  /** Everything that changes from tick to tick. A view. */
  readonly record: Float64Array;
  /** The requests that were refused in this tick. */
  readonly refusals: readonly Refusal[];
  /** Why an ability could not have started after this tick. */
  explain(ability: string): Explanation;
  /** Whether it could have started after this tick. */
  may(ability: string): boolean;
  /** Where an ability would have put the body; null for one without a warp. */
  preview(ability: string): Preview | null;
}

/** @internal */
export class Seen implements SeenMember {
  constructor(
    readonly id: number,
    readonly name: string,
    readonly side: string | null,
    readonly tags: readonly string[],
    readonly c: Character,
  ) {}

  get plan(): Plan {
    return this.c.plan;
  }
  get readout(): Readout {
    return this.c.readout;
  }
  get facts(): Facts {
    return this.c.facts;
  }
  get record(): Float64Array {
    return this.c.record;
  }
  get refusals(): readonly Refusal[] {
    return this.readout.events.filter((event): event is Refusal => event.kind === 'refused');
  }
  explain(ability: string): Explanation {
    return this.c.explain(ability);
  }
  may(ability: string): boolean {
    return this.c.may(ability);
  }
  preview(ability: string): Preview | null {
    return this.c.preview(ability);
  }
}

/** Everybody as they were after a tick. A view: the next call of `at` moves it to another tick. */
export class Moment {
  /** After which tick, from 0 on; -1 is before the first. */
  tick = 0;
  /** Everybody who is there, in their order; a character by itself is the only one. */
  members: readonly SeenMember[] = [];
  /** Those who left by themselves in this tick. */
  departed: readonly SeenMember[] = [];
  private readonly known = new Map<string, Seen>();
  private meetings: readonly [data: Float64Array, from: number, count: number] = NONE;

  /** @internal */
  constructor(
    private readonly meanings: Meanings,
    /** What everybody moves in, as it was in this tick; null where an engine moves them. */
    readonly world: World | null,
    private readonly around: Surroundings,
  ) {}

  /**
   * Somebody by their name.
   * @param name Default: the first.
   * @throws {UsageError} for a name that nobody has.
   */
  of(name?: string): SeenMember {
    const all = [...this.members, ...this.departed];
    const names = all.map((one) => one.name);
    return name === undefined && all.length > 0 ? all[0] : all[indexOfName('of', 'member', String(name), names)];
  }

  /** What happened between members in this tick; a new list in each call. */
  get events(): ArenaEvent[] {
    const [data, from, count] = this.meetings;
    return readMeetings(data, from, count, this.meanings.words, (id) => this.nameOf(id));
  }

  private nameOf(id: number): string {
    return [...this.members, ...this.departed].find((one) => one.id === id)?.name ?? `member ${id}`;
  }

  /** @internal Shows another tick: its frame, and what was told of it. Returns the place behind the members. */
  show(frame: Float64Array, told: Float64Array, from: number, to: number): number {
    const { around } = this;
    this.tick = frame[F_TICK];
    const all: Seen[] = [];
    let at = FRAME;
    for (let i = 0; i < frame[F_COUNT] + frame[F_LEFT]; i++) {
      const one = this.find(frame, at);
      const { plan } = one;
      const { size } = keptOf(plan, around.keepsProbes);
      setTo(one.c, frame, at + ENTRY, size, around.keepsProbes);
      all.push(one);
      at += ENTRY + size + frame[at + I_EXTRA];
    }
    this.members = all.slice(0, frame[F_COUNT]);
    this.departed = all.slice(frame[F_COUNT]);
    this.meetings = NONE;
    for (let next = from; next < to; next += 2 + told[next + 1]) {
      if (told[next] === TOLD.events) takeEvents(all[told[next + 2]].c, told, next + 3);
      if (told[next] === TOLD.meetings) this.meetings = [told, next + 2, told[next + 1] / MEETING];
    }
    return at;
  }

  /** Whose frame begins at a place. */
  private find(frame: Float64Array, at: number): Seen {
    const { plans, names, kinds, teams, tags } = this.meanings;
    const id = frame[at + I_ID];
    const name = frame[at + I_NAME];
    const called = name >= 0 ? names[name] : `${kinds[-1 - name]} ${id}`;
    const key = `${id} ${frame[at + I_PLAN]} ${called}`;
    let seen = this.known.get(key);
    // A formula that was asked for since may need numbers of its own.
    if (seen === undefined || seen.plan !== plans[frame[at + I_PLAN]] || seen.c.r.length < seen.plan.arraySize()) {
      const plan = plans[frame[at + I_PLAN]];
      const c = this.reader(plan, id);
      const words = [...(tags[frame[at + I_TAGS]] ?? []), ...plan.tags];
      seen = new Seen(id, called, teams[frame[at + I_TEAM]] ?? null, words, c);
      if (this.known.size >= MOST_KNOWN) this.known.clear();
      this.known.set(key, seen);
    }
    return seen;
  }

  /** A character whose numbers are those of a frame. */
  private reader(plan: Plan, id: number): Character {
    const { world, probes, places, summons } = this.around;
    const find = places && ((place: string) => places(id, place));
    const c = new Character(plan, { world: world ?? undefined, probes, places: find }, true);
    initializeRecord(plan, c.r, { x: 0, y: 0, z: 0, facing: 1 });
    c.others = { byId: (other) => ([...this.members, ...this.departed] as Seen[]).find((one) => one.id === other) };
    c.finds = (summoning) => {
      const called = summons[plan.names.summon[summoning.who]];
      return called === undefined || placeCalled(c, summoning, called, OUT);
    };
    return c;
  }
}

const OUT = new Float64Array(3);
const NONE = [new Float64Array(0), 0, 0] as const;
/** So many members are kept to be read again: a shot is another one each time. */
const MOST_KNOWN = 1000;

/** Makes the numbers of a character those that were kept, from a place on. */
export function setTo(c: Character, from: Float64Array, at: number, size: number, probes: boolean): void {
  const { plan, r } = c;
  c.takeBack(from, at, at + plan.recordSize);
  c.incoming.clear();
  const { ranges } = keptOf(plan, probes);
  let next = at;
  for (let i = 0; i < ranges.length; i += 2) {
    const length = ranges[i + 1] - ranges[i];
    // The record and what devices hold are there already.
    if (i >= 4) for (let k = 0; k < length; k++) r[ranges[i] + k] = from[next + k];
    next += length;
  }
  if (probes) c.knowProbes();
  if (next !== at + size) throw new Error('a frame has another size than its moveset');
}

function takeEvents(c: Character, told: Float64Array, at: number): void {
  const events = told[at];
  const reasons = told[at + 1];
  const values = told[at + 2];
  const from = at + 3;
  c.events.data = told.slice(from, from + events);
  c.events.count = events / Rows.WIDTH;
  c.reasons.data = told.slice(from + events, from + events + reasons);
  c.reasons.count = reasons / Rows.WIDTH;
  c.values.data = told.slice(from + events + reasons, from + events + reasons + values);
  c.values.count = values;
}
