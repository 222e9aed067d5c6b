import type { ArenaEvent } from '../arena/events.js';
import { wordMeeting } from '../arena/word-meeting.js';
import { L_ABILITY, L_PHASE, LANE, R_TOLD } from '../record/slots.js';
import { want, wantOptions } from '../report/arguments.js';
import type { LoggiaEvent } from '../report/events.js';
import { wordReason } from '../report/reasons.js';
import { wordEvent } from '../report/story.js';
import { checkNumber, UsageError } from '../report/usage-error.js';
import type { Moment, SeenMember } from './moment.js';
import type { Run } from './run.js';

/** How two recordings are compared. */
export interface CompareOptions {
  /** Numbers that differ by no more are equal. Default 0; between different tick rates 0.05. */
  within?: number | undefined;
  /** What the two are called. Default `a` and `b`. */
  names?: readonly [a: string, b: string] | undefined;
}

/** One thing that differs. */
export interface Difference {
  /** Whose; empty for what is between members. */
  readonly of: string;
  readonly kind: 'number' | 'event' | 'reason' | 'member';
  /** What: `x`, `pool.wind`, an ability. */
  readonly name: string;
  readonly a: string | number | boolean | null;
  readonly b: string | number | boolean | null;
  /** The same as a sentence. */
  readonly text: string;
}

/** How far apart somebody is in the two. */
export interface Drift {
  /** From tick 0 on. */
  readonly seconds: number;
  readonly tick: number;
  /** In the world's units, by member. */
  readonly distance: Readonly<Record<string, number>>;
}

/** What differs between two recordings. Plain data. */
export interface Comparison {
  /** Whether nothing differs in the ticks that both have. */
  readonly same: boolean;
  /** Ticks of the first that were compared: those that both have. */
  readonly from: number;
  /** The last of them. */
  readonly until: number;
  /** Ticks per second of each. */
  readonly rates: readonly [a: number, b: number];
  /** The first tick with a difference, and all that differs in it; null where none does. */
  readonly first: {
    readonly tick: number;
    readonly seconds: number;
    readonly differences: readonly Difference[];
  } | null;
  /** How far apart they are, over time: from the first difference on, at most 200 of these. */
  readonly drift: readonly Drift[];
  /** The furthest that anybody is apart. */
  readonly furthest: number;
  /** What both have in common: ticks before the first difference, members, and how many events there are in both. */
  readonly common: { readonly ticks: number; readonly members: readonly string[]; readonly events: number };
  /** Names that only one of the movesets has, by kind and name. */
  readonly only: { readonly a: readonly string[]; readonly b: readonly string[] };
}

/** What is compared: a recording. */
export interface Compared {
  /** @internal */
  readonly run: Run;
  readonly rate: number;
  readonly first: number;
  readonly last: number;
  at(tick: number): Moment;
}

const MOST_DRIFT = 200;

/**
 * What differs between two recordings: the first tick, all that differs in it by name, and how far they go apart. Their movesets may differ:
 * what only one of them has is told apart. With different tick rates, they are compared by time.
 * @param a The first.
 * @param b The second.
 * @param options How near is equal.
 * @throws {UsageError} where they have no time in common.
 */
export function compare(a: Compared, b: Compared, options: CompareOptions = {}): Comparison {
  for (const [which, one] of [
    ['first', a],
    ['second', b],
  ] as const)
    want(
      typeof one?.at === 'function' && typeof one.run === 'object',
      'compare',
      `the ${which} argument`,
      'a Recording',
      one,
    );
  wantOptions('compare', options, ['within', 'names']);
  const { within = a.rate === b.rate ? 0 : 0.05, names = ['a', 'b'] } = options;
  checkNumber('compare', 'within', within, 0);
  want(Array.isArray(names) && names.length === 2, 'compare', 'names', 'a list of two', names);
  return new Comparing(a, b, within, names).compare();
}

class Comparing {
  /** So many ticks of each make one step of both. */
  private readonly steps: readonly [number, number];

  constructor(
    private readonly a: Compared,
    private readonly b: Compared,
    private readonly within: number,
    private readonly names: readonly [string, string],
  ) {
    const slow = greatest(a.rate, b.rate);
    this.steps = [a.rate / slow, b.rate / slow];
  }

  compare(): Comparison {
    const { a, b, steps } = this;
    // The tick n of each step is over at the same time in both: (n + 1) / rate.
    const from = Math.max(Math.ceil((a.first + 1) / steps[0]), Math.ceil((b.first + 1) / steps[1]));
    const until = Math.min(Math.floor((a.last + 1) / steps[0]), Math.floor((b.last + 1) / steps[1]));
    if (from > until)
      throw new UsageError(
        `compare: they have no time in common: one goes from ${seconds(a.first, a)} s to ${seconds(a.last, a)} s, the other from ${seconds(b.first, b)} s to ${seconds(b.last, b)} s.`,
        'out-of-range',
      );
    let first: Comparison['first'] = null;
    const drift: Drift[] = [];
    let furthest = 0;
    let ticks = 0;
    let events = 0;
    const members = new Set<string>();
    const every = Math.max(1, Math.ceil((until - from) / MOST_DRIFT));
    for (let step = from; step <= until; step++) {
      // Where a recording begins, nothing is known of what led there.
      const known = step > from;
      const ours = known ? this.eventsOf(a, step, 0) : [];
      const theirs = known ? this.eventsOf(b, step, 1) : [];
      const tick = step * steps[0] - 1;
      const then = [a.at(tick), b.at(step * steps[1] - 1)] as const;
      for (const { name } of then[0].members) if (then[1].members.some((one) => one.name === name)) members.add(name);
      if (first === null) {
        const differences = this.differences(then, ours, theirs);
        if (differences.length > 0) first = { tick, seconds: Math.max(0, tick) / a.rate, differences };
        else {
          ticks++;
          events += ours.reduce((sum, { list }) => sum + list.length, 0);
        }
      }
      if (first !== null) {
        const distance = distances(then);
        furthest = Math.max(furthest, ...Object.values(distance));
        if ((step - from) % every === 0 || step === until)
          drift.push({ seconds: Math.max(0, tick) / a.rate, tick, distance });
      }
    }
    return {
      same: first === null,
      from: from * steps[0] - 1,
      until: until * steps[0] - 1,
      rates: [a.rate, b.rate],
      first,
      drift,
      furthest,
      common: { ticks, members: [...members], events },
      only: { a: onlyIn(a.run, b.run), b: onlyIn(b.run, a.run) },
    };
  }

  /** What happened in a step, by member. */
  private eventsOf(of: Compared, step: number, which: 0 | 1): Happened[] {
    const count = this.steps[which];
    const last = step * count - 1;
    const happened = new Map<string, LoggiaEvent[]>();
    const meetings: ArenaEvent[] = [];
    for (let tick = Math.max(of.first, last - count + 1); tick <= last; tick++) {
      const then = of.at(tick);
      for (const { name, readout } of [...then.members, ...then.departed]) {
        const list = happened.get(name) ?? [];
        happened.set(name, list);
        if (readout.eventCount > 0) list.push(...readout.events);
      }
      meetings.push(...then.events);
    }
    return [...[...happened].map(([of, list]) => ({ of, list })), { of: '', list: meetings }];
  }

  private differences(then: readonly [Moment, Moment], ours: Happened[], theirs: Happened[]): Difference[] {
    const [one, other] = then;
    const found: Difference[] = [];
    const names = new Set([...one.members, ...other.members].map(({ name }) => name));
    for (const name of names) {
      const [x, y] = [one, other].map((moment) => moment.members.find((member) => member.name === name));
      if (x && y) {
        found.push(...this.eventDifferences(name, listOf(ours, name), listOf(theirs, name)));
        found.push(...this.numberDifferences(x, y));
      } else {
        const where = x ? this.names[0] : this.names[1];
        const text = `${name} is there in ${where} only.`;
        found.push({ of: name, kind: 'member', name, a: x !== undefined, b: y !== undefined, text });
      }
    }
    found.push(...this.eventDifferences('', listOf(ours, ''), listOf(theirs, '')));
    return found;
  }

  private eventDifferences(of: string, ours: readonly AnyEvent[], theirs: readonly AnyEvent[]): Difference[] {
    const [a, b] = this.names;
    const mine = left(ours, theirs);
    const yours = left(theirs, ours);
    const found: Difference[] = [];
    const paired = new Set<AnyEvent>();
    for (const x of mine) {
      const y = yours.find((one) => !paired.has(one) && aboutOf(one) !== '' && aboutOf(one) === aboutOf(x));
      if (y) paired.add(y);
      const name = aboutOf(x) || x.kind;
      const same = y && x.kind === 'refused' && y.kind === 'refused';
      found.push({
        of,
        kind: same ? 'reason' : 'event',
        name,
        a: word(x),
        b: y ? word(y) : null,
        text: y ? `${name} ${became(x)} in ${a}, ${became(y)} in ${b}.` : `Only in ${a}: ${word(x)}.`,
      });
    }
    for (const y of yours)
      if (!paired.has(y))
        found.push({
          of,
          kind: 'event',
          name: aboutOf(y) || y.kind,
          a: null,
          b: word(y),
          text: `Only in ${b}: ${word(y)}.`,
        });
    return found;
  }

  private numberDifferences(x: SeenMember, y: SeenMember): Difference[] {
    const found: Difference[] = [];
    const [mine, yours] = [numbersOf(x), numbersOf(y)];
    const add = (name: string, a: Value, b: Value) =>
      found.push({
        of: x.name,
        kind: 'number',
        name,
        a,
        b,
        text: `${name} is ${shown(a)} in ${this.names[0]}, ${shown(b)} in ${this.names[1]}.`,
      });
    for (const [name, a] of mine) {
      const b = yours.get(name);
      if (b === undefined || a === b) continue;
      if (typeof a === 'number' && typeof b === 'number' && Math.abs(a - b) <= this.within) continue;
      add(name, a, b);
    }
    if (found.length > 0 || this.within > 0 || x.plan.fingerprint !== y.plan.fingerprint) return found;
    // What no name of a readout shows: by what stands at that place of the record.
    const { layout, recordSize, triggers } = x.plan;
    const ranges = layout.ranges.length > 0 ? layout.ranges : [{ label: 'number', at: 0, count: recordSize }];
    // Whether a host hears of refusals changes nothing that happens.
    const told = new Set(triggers.map(({ at }) => at + R_TOLD));
    for (const { label, at, count } of ranges)
      for (let i = at; i < at + count; i++)
        if (x.record[i] !== y.record[i] && !told.has(i))
          add(count === 1 ? label : `${label} [${i - at}]`, x.record[i], y.record[i]);
    return found;
  }
}

type AnyEvent = LoggiaEvent | ArenaEvent;
type Value = number | string | boolean | null;
interface Happened {
  readonly of: string;
  readonly list: readonly AnyEvent[];
}

function listOf(happened: readonly Happened[], name: string): readonly AnyEvent[] {
  return happened.find(({ of }) => of === name)?.list ?? [];
}

/** What is in one list and not in the other; each as often. */
function left(list: readonly AnyEvent[], others: readonly AnyEvent[]): AnyEvent[] {
  const rest = others.map((one) => JSON.stringify(one));
  return list.filter((one) => {
    const at = rest.indexOf(JSON.stringify(one));
    if (at >= 0) rest.splice(at, 1);
    return at < 0;
  });
}

function aboutOf(event: AnyEvent): string {
  return 'ability' in event ? event.ability : '';
}

function word(event: AnyEvent): string {
  return event.kind === 'blow' || event.kind === 'touch' || event.kind === 'clash'
    ? wordMeeting(event)
    : wordEvent(event);
}

/** What became of an ability, after its name. */
function became(event: AnyEvent): string {
  if (event.kind === 'started') return 'started';
  if (event.kind === 'ended') return `ended (${event.why})`;
  if (event.kind === 'phase') return `went on to ${event.phase}`;
  if (event.kind === 'refused') return `was refused: ${event.reasons.map((reason) => wordReason(reason)).join('; ')}`;
  return event.kind;
}

/** Everything with a name that a readout shows as a number or a word. */
function numbersOf({ plan, readout, record: r }: SeenMember): Map<string, Value> {
  const all = new Map<string, Value>();
  for (const key of [
    'x',
    'y',
    'z',
    'vx',
    'vy',
    'vz',
    'facing',
    'facingZ',
    'grounded',
    'stance',
    'shape',
    'loadout',
  ] as const)
    all.set(key, readout[key]);
  const { names } = plan;
  names.lane.forEach((lane, i) => {
    const at = plan.lanesAt + i * LANE;
    const phase = plan.phases[r[at + L_PHASE]];
    const running = names.ability[r[at + L_ABILITY]];
    all.set(`running in ${lane}`, running === undefined ? null : phase ? `${running}.${phase.name}` : running);
  });
  for (const pool of names.pool) {
    all.set(`pool.${pool}`, readout.pool(pool));
    all.set(`pool.${pool}.max`, readout.poolLimits(pool).max);
  }
  for (const ability of names.ability) {
    all.set(`cooldown(${ability})`, readout.cooldown(ability));
    all.set(`charges(${ability})`, readout.charges(ability));
    all.set(`charge(${ability})`, readout.charge(ability));
    all.set(`latched(${ability})`, readout.isLatched(ability));
    all.set(`known(${ability})`, readout.isKnown(ability));
  }
  for (const mark of names.mark) {
    const at = readout.mark(mark);
    all.set(`mark ${mark}`, at && [at.x, at.y, at.z].join(', '));
  }
  for (const choice of names.choice) all.set(`choice ${choice}`, readout.choice(choice));
  return all;
}

function shown(value: Value): string {
  if (value === null) return 'nothing';
  return typeof value === 'number' ? String(Number(value.toPrecision(12))) : String(value);
}

function distances([one, other]: readonly [Moment, Moment]): Record<string, number> {
  return Object.fromEntries(
    one.members.flatMap(({ name, readout: p }) => {
      const q = other.members.find((member) => member.name === name)?.readout;
      return q ? [[name, Math.sqrt((p.x - q.x) ** 2 + (p.y - q.y) ** 2 + (p.z - q.z) ** 2)]] : [];
    }),
  );
}

const KINDS = ['ability', 'pool', 'stance', 'loadout', 'lane', 'mark', 'event'] as const;

function onlyIn(a: Run, b: Run): string[] {
  return KINDS.flatMap((kind) => {
    const known = new Set(b.plans.flatMap(({ names }) => names[kind]));
    return [...new Set(a.plans.flatMap(({ names }) => names[kind]))].flatMap((name) =>
      known.has(name) ? [] : `${kind} ${name}`,
    );
  });
}

function greatest(a: number, b: number): number {
  return b === 0 ? a : greatest(b, a % b);
}

function seconds(tick: number, { rate }: Compared): number {
  return Math.round((tick / rate) * 1000) / 1000;
}
