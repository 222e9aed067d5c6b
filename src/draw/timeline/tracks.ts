import { type ChartKind, chartOf } from '../../analysis/chart.js';
import type { ArenaEvent } from '../../arena/events.js';
import type { Plan } from '../../compile/plan.js';
import { B_DOWN, BUTTON, C_READY, C_WAITING, L_ABILITY, L_PHASE, LANE, STICK, T } from '../../record/slots.js';
import type { Moment, Seen, SeenMember } from '../../recording/moment.js';
import type { LoggiaEvent } from '../../report/events.js';
import { shortNumber, wordReason } from '../../report/reasons.js';
import { ROW } from '../../tick/take-in/door-rows.js';
import type { Ticks } from './ticks.js';

/** A stretch of ticks: what was so after each tick from `from` on, and no longer after tick `to`. */
export interface Span {
  readonly from: number;
  /** Infinity while it lasts. */
  to: number;
}

/** A request that was refused. */
export interface RefusalMark {
  readonly tick: number;
  readonly ability: string;
  /** Every reason, in words. */
  readonly text: string;
  /** Up to which tick the press is kept; `tick` itself where it is not. */
  readonly kept: number;
}

/** A part of a bar. */
export interface PhaseSpan extends Span {
  /** Its name, or its place from 1 on. */
  readonly name: string;
  readonly kind: ChartKind;
  /** Abilities that it lets in. */
  readonly opens: readonly string[];
}

/** One run of an ability. */
export interface Bar extends Span {
  readonly ability: string;
  /** Index among the abilities of its moveset. */
  readonly index: number;
  readonly phases: PhaseSpan[];
  /** Abilities that it lets in all the time. */
  readonly opens: readonly string[];
  /** Why it ended, and what followed or broke it. */
  end: Extract<LoggiaEvent, { kind: 'ended' }> | null;
}

/** A number over time: its values from a first tick on, one for each. */
export interface Series {
  first: number;
  readonly values: number[];
}

export interface InputTrack {
  readonly kind: 'input';
  readonly name: string;
  readonly held: Span[];
  /** Presses, also such as were let go in the same tick; which ability used one, if any did in that tick. */
  readonly presses: { readonly tick: number }[];
  readonly used: { readonly tick: number; readonly ability: string; readonly index: number }[];
  readonly refused: RefusalMark[];
}
export interface StickTrack {
  readonly kind: 'stick';
  readonly name: string;
  readonly x: Series;
  readonly y: Series;
}
export interface StanceTrack {
  readonly kind: 'stance';
  readonly name: 'stance';
  readonly spans: (Span & { readonly name: string })[];
}
export interface LaneTrack {
  readonly kind: 'lane';
  readonly name: string;
  readonly bars: Bar[];
  /** Requests that no input made, and that were refused. */
  readonly refused: RefusalMark[];
  readonly cooldowns: (Span & { readonly ability: string; readonly index: number })[];
}
export interface BlowTrack {
  readonly kind: 'blows';
  readonly name: 'blows';
  readonly blows: {
    readonly tick: number;
    readonly text: string;
    /** It gave the blow; else it took it. */
    readonly gave: boolean;
    readonly outcome: string;
  }[];
}
export interface CurveTrack {
  readonly kind: 'pool' | 'fact';
  readonly name: string;
  readonly series: Series;
  /** What is drawn at the lower and at the upper edge. */
  low: number;
  high: number;
}
export type Track = InputTrack | StickTrack | StanceTrack | LaneTrack | BlowTrack | CurveTrack;

/** All tracks of one member. */
export interface MemberTracks {
  readonly id: number;
  readonly name: string;
  readonly tracks: readonly Track[];
}

/** What happened, as a timeline shows it. Plain data but for what is still added. */
export interface Timeline {
  readonly rate: number;
  first: number;
  last: number;
  readonly members: readonly MemberTracks[];
}

/** Which facts are drawn as curves, beside the pools. */
export interface TracksOptions {
  readonly facts?: readonly string[];
}

/** The tracks of all of it. */
export function tracksOf(ticks: Ticks, options: TracksOptions = {}): Timeline {
  const maker = new TimelineMaker(ticks, options);
  maker.catchUp();
  return maker.timeline;
}

/** Tracks of a recording that goes on: what has come since is added. */
export class TimelineMaker {
  readonly timeline: Timeline & { members: MemberTracks[] };
  private readonly makers = new Map<number, MemberMaker>();
  private next: number;

  constructor(
    private readonly ticks: Ticks,
    private readonly options: TracksOptions = {},
  ) {
    const { rate, first } = ticks;
    this.timeline = { rate, first, last: first - 1, members: [] };
    this.next = first;
  }

  /** Adds the ticks that came since, and leaves out those that are gone. */
  catchUp(): void {
    const { ticks, timeline } = this;
    if (ticks.first > this.next) this.next = ticks.first;
    while (this.next <= ticks.last) this.add(ticks.at(this.next++));
    timeline.last = ticks.last;
    if (ticks.first > timeline.first) {
      timeline.first = ticks.first;
      for (const maker of this.makers.values()) maker.forget(ticks.first);
    }
  }

  private add(then: Moment): void {
    const rows = this.ticks.rows(then.tick);
    const events = then.events;
    for (const one of [...then.members, ...then.departed] as Seen[]) {
      let maker = this.makers.get(one.id);
      if (!maker || maker.plan !== one.plan) {
        const before = maker;
        maker = new MemberMaker(one, then.tick, this.options.facts ?? [], before);
        this.makers.set(one.id, maker);
        const at = this.timeline.members.findIndex(({ id }) => id === one.id);
        if (at >= 0) this.timeline.members[at] = maker.member;
        else this.timeline.members.push(maker.member);
      }
      const own = rows.find(({ id }) => id === one.id)?.rows ?? [];
      maker.add(one, then.tick, own, events);
    }
    for (const [id, maker] of this.makers)
      if (!then.members.some((one) => one.id === id) && !maker.ended) maker.end(then.tick);
  }
}

type TrackOf<K extends Track['kind']> = Extract<Track, { kind: K }>;

class MemberMaker {
  readonly plan: Plan;
  readonly member: MemberTracks;
  ended = false;
  private readonly tracks: Track[] = [];
  private readonly inputs: TrackOf<'input'>[];
  private readonly sticks: TrackOf<'stick'>[];
  private readonly stance: TrackOf<'stance'>;
  private readonly lanes: TrackOf<'lane'>[];
  private readonly blows: TrackOf<'blows'>;
  private readonly pools: CurveTrack[];
  private readonly facts: CurveTrack[];
  private readonly kinds: readonly ChartKind[];

  /** @param before What another moveset of the same member has left: it goes on under the same names. */
  constructor({ id, name, plan }: SeenMember, tick: number, facts: readonly string[], before: MemberMaker | undefined) {
    this.plan = plan;
    const known = <K extends Track['kind']>(made: TrackOf<K>): TrackOf<K> => {
      const same = before?.tracks.find((one) => one.kind === made.kind && one.name === made.name);
      const track = (same ?? made) as TrackOf<K>;
      this.tracks.push(track);
      return track;
    };
    // Sides of sticks and options of choices are buttons, too: the stick's own track, and what is chosen, say the same.
    this.inputs = plan.names.button.map((input) => {
      const track: InputTrack = { kind: 'input', name: input, held: [], presses: [], used: [], refused: [] };
      return input.includes('.') ? track : known<'input'>(track);
    });
    this.sticks = plan.names.stick.map((stick) =>
      known<'stick'>({ kind: 'stick', name: stick, x: { first: 0, values: [] }, y: { first: 0, values: [] } }),
    );
    this.stance = known<'stance'>({ kind: 'stance', name: 'stance', spans: [] });
    this.lanes = plan.names.lane.map((lane) =>
      known<'lane'>({ kind: 'lane', name: lane, bars: [], refused: [], cooldowns: [] }),
    );
    this.blows = known<'blows'>({ kind: 'blows', name: 'blows', blows: [] });
    const curve = (kind: 'pool' | 'fact', name: string) =>
      known<'pool' | 'fact'>({ kind, name, series: { first: 0, values: [] }, low: 0, high: 0 } as CurveTrack);
    this.pools = plan.names.pool.map((pool) => curve('pool', pool));
    this.facts = facts.filter((fact) => plan.reading(fact) !== undefined).map((fact) => curve('fact', fact));
    for (const track of before?.tracks ?? []) {
      if (this.tracks.includes(track)) continue;
      closeTrack(track, tick);
      this.tracks.push(track);
    }
    // What another moveset had and this one has not is over.
    for (const { cooldowns } of this.lanes)
      for (const span of cooldowns) if (!plan.indexes.ability.has(span.ability)) span.to = Math.min(span.to, tick);
    const { abilities } = chartOf(plan);
    this.kinds = plan.phases.map(
      ({ ability }, i) => abilities[ability].phases[i - plan.abilities[ability].firstPhase]?.kind ?? 'other',
    );
    this.member = { id, name, tracks: this.tracks };
  }

  add(one: Seen, tick: number, rows: readonly number[][], meetings: readonly ArenaEvent[]): void {
    const { plan } = this;
    const { r } = one.c;
    for (const [kind, about] of rows) if (kind === ROW.press) this.inputs[about]?.presses.push({ tick });
    for (const [i, track] of this.inputs.entries()) {
      const down = r[plan.layout.buttons + i * BUTTON + B_DOWN] !== 0;
      keepSpan(track.held, down, tick, () => ({ from: tick, to: Number.POSITIVE_INFINITY }));
    }
    for (const [i, { x, y }] of this.sticks.entries()) {
      push(x, tick, r[plan.layout.sticks + i * STICK]);
      push(y, tick, r[plan.layout.sticks + i * STICK + 1]);
    }
    const stance = one.readout.stance;
    const held = this.stance.spans.at(-1);
    if (held?.name !== stance || held.to !== Number.POSITIVE_INFINITY) {
      if (held && held.to === Number.POSITIVE_INFINITY) held.to = tick;
      this.stance.spans.push({ name: stance, from: tick, to: Number.POSITIVE_INFINITY });
    }
    for (const event of one.readout.events) this.hear(event, tick);
    for (let i = 0; i < this.lanes.length; i++)
      this.settle(this.lanes[i], r[plan.lanesAt + i * LANE + L_ABILITY], r[plan.lanesAt + i * LANE + L_PHASE], tick);
    for (const a of plan.abilities) {
      if (a.cooldownAt < 0) continue;
      const cools = r[T] < r[a.cooldownAt + C_READY] || r[a.cooldownAt + C_WAITING] > 0;
      const { cooldowns } = this.lanes[a.lane];
      const last = cooldowns.findLast(({ ability }) => ability === a.name);
      const lasts = last?.to === Number.POSITIVE_INFINITY;
      if (cools && !lasts)
        cooldowns.push({ ability: a.name, index: a.index, from: tick, to: Number.POSITIVE_INFINITY });
      else if (!cools && last && lasts) last.to = tick;
    }
    for (const meeting of meetings) {
      if (meeting.kind === 'touch' || (meeting.by !== one.name && meeting.to !== one.name)) continue;
      const gave = meeting.by === one.name;
      const other = gave ? meeting.to : meeting.by;
      if (meeting.kind === 'clash')
        this.blows.blows.push({ tick, gave, outcome: 'clash', text: `clashes with ${other}` });
      else {
        const { outcome, damage } = meeting;
        const text = `${gave ? `strikes ${other}` : `struck by ${other}`}: ${outcome}, damage ${shortNumber(damage)}`;
        this.blows.blows.push({ tick, gave, outcome, text });
      }
    }
    for (const [i, track] of this.pools.entries()) {
      const { min, max } = one.readout.poolLimits(plan.names.pool[i]);
      track.low = Math.min(track.low, min);
      track.high = Math.max(track.high, max);
      push(track.series, tick, one.readout.pool(plan.names.pool[i]));
    }
    for (const track of this.facts) {
      const reading = plan.reading(track.name);
      if (!reading) continue;
      reading.run?.(one.c);
      const value = reading.type === 'time' ? one.c.r[reading.at] / plan.rate : one.c.r[reading.at];
      push(track.series, tick, value);
      if (!Number.isFinite(value)) continue;
      track.low = Math.min(track.low, value);
      track.high = Math.max(track.high, value);
    }
  }

  /** What an event says of lanes and inputs. */
  private hear(event: LoggiaEvent, tick: number): void {
    const { plan } = this;
    if (event.kind === 'started') {
      const index = plan.indexes.ability.get(event.ability) ?? -1;
      const a = plan.abilities[index];
      if (!a) return;
      const { bars } = this.lanes[a.lane];
      closeBar(bars.at(-1), tick, null);
      bars.push(this.barOf(index, tick));
      const input = this.inputs.find(({ name }) => name === event.input);
      input?.used.push({ tick, ability: event.ability, index });
    } else if (event.kind === 'phase') {
      const a = plan.abilities[plan.indexes.ability.get(event.ability) ?? -1];
      const bar = a && this.lanes[a.lane].bars.at(-1);
      const index = plan.phases.findIndex(({ name, ability }) => ability === a?.index && name === event.phase);
      if (bar && bar.ability === event.ability && index >= 0) this.beginPhase(bar, index, tick);
    } else if (event.kind === 'ended') {
      const a = plan.abilities[plan.indexes.ability.get(event.ability) ?? -1];
      const bar = a && this.lanes[a.lane].bars.findLast(({ ability }) => ability === event.ability);
      closeBar(bar, tick, event);
    } else if (event.kind === 'refused') {
      const mark: RefusalMark = {
        tick,
        ability: event.ability,
        text: event.reasons.map(wordReason).join('; '),
        kept: tick + Math.round(event.kept * plan.rate),
      };
      const input = this.tracks.find((track) => track.kind === 'input' && track.name === event.input);
      const a = plan.abilities[plan.indexes.ability.get(event.ability) ?? -1];
      if (input?.kind === 'input') input.refused.push(mark);
      else if (a) this.lanes[a.lane].refused.push(mark);
    }
  }

  /** Makes a lane what the record says: at the beginning of a recording, and after a swap, no event has told it. */
  private settle({ bars }: LaneTrack, ability: number, phase: number, tick: number): void {
    const last = bars.at(-1);
    const running = last?.to === Number.POSITIVE_INFINITY ? last : undefined;
    if (running && running.ability !== this.plan.names.ability[ability]) closeBar(running, tick, null);
    if (ability < 0) return;
    let bar = running?.ability === this.plan.names.ability[ability] ? running : undefined;
    if (!bar) {
      bar = this.barOf(ability, tick);
      bars.push(bar);
    }
    const shown = bar.phases.at(-1);
    if (phase >= 0 && (shown?.name !== this.plan.phases[phase].name || shown.to !== Number.POSITIVE_INFINITY))
      this.beginPhase(bar, phase, tick);
  }

  private barOf(index: number, tick: number): Bar {
    const { name, scope } = this.plan.abilities[index];
    const opens = this.namesIn(scope.open);
    return { ability: name, index, from: tick, to: Number.POSITIVE_INFINITY, phases: [], opens, end: null };
  }

  private beginPhase(bar: Bar, index: number, tick: number): void {
    const { name, scope } = this.plan.phases[index];
    const last = bar.phases.at(-1);
    if (last && last.to === Number.POSITIVE_INFINITY) last.to = tick;
    bar.phases.push({
      name,
      kind: this.kinds[index],
      from: tick,
      to: Number.POSITIVE_INFINITY,
      opens: this.namesIn(scope.open),
    });
  }

  private namesIn(flags: ArrayLike<number> | null | undefined): string[] {
    return flags ? this.plan.names.ability.filter((_, i) => flags[i] === 1) : [];
  }

  /** It has left: nothing of it lasts any longer. */
  end(tick: number): void {
    this.ended = true;
    for (const track of this.tracks) closeTrack(track, tick);
  }

  /** Leaves out what was over before a tick. */
  forget(first: number): void {
    for (const track of this.tracks) {
      for (const list of listsOf(track)) {
        let gone = 0;
        while (gone < list.length && endOf(list[gone]) < first) gone++;
        if (gone > 0) list.splice(0, gone);
      }
      for (const series of seriesOf(track)) {
        const gone = Math.min(series.values.length, first - series.first);
        // A thousand at once: each shift moves all that follow.
        if (gone < 1024) continue;
        series.values.splice(0, gone);
        series.first += gone;
      }
    }
  }
}

function closeTrack(track: Track, tick: number): void {
  if (track.kind === 'lane') for (const bar of track.bars) closeBar(bar, tick, null);
  for (const span of spansOf(track)) if (span.to === Number.POSITIVE_INFINITY) span.to = tick;
}

type Listed = { readonly tick: number } | Span;

function endOf(one: Listed): number {
  return 'to' in one ? one.to : one.tick;
}

function spansOf(track: Track): readonly Span[] {
  if (track.kind === 'input') return track.held;
  if (track.kind === 'stance') return track.spans;
  return track.kind === 'lane' ? track.cooldowns : [];
}

function listsOf(track: Track): Listed[][] {
  switch (track.kind) {
    case 'input':
      return [track.held, track.presses, track.used, track.refused];
    case 'stance':
      return [track.spans];
    case 'lane':
      return [track.bars, track.refused, track.cooldowns];
    case 'blows':
      return [track.blows];
    default:
      return [];
  }
}

export function seriesOf(track: Track): readonly Series[] {
  if (track.kind === 'stick') return [track.x, track.y];
  return track.kind === 'pool' || track.kind === 'fact' ? [track.series] : [];
}

function keepSpan(spans: Span[], is: boolean, tick: number, make: () => Span): void {
  const last = spans.at(-1);
  const lasts = last?.to === Number.POSITIVE_INFINITY;
  if (is && !lasts) spans.push(make());
  else if (!is && last && lasts) last.to = tick;
}

function closeBar(bar: Bar | undefined, tick: number, end: Bar['end']): void {
  if (!bar || bar.to !== Number.POSITIVE_INFINITY) return;
  bar.to = tick;
  bar.end = end;
  const phase = bar.phases.at(-1);
  if (phase && phase.to === Number.POSITIVE_INFINITY) phase.to = tick;
}

/** Ticks in which somebody was not there have no number. */
function push(series: Series, tick: number, value: number): void {
  if (series.values.length === 0) series.first = tick;
  while (series.first + series.values.length < tick) series.values.push(Number.NaN);
  series.values.push(value);
}
