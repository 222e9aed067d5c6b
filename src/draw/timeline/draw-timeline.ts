import { scaleLinear } from 'd3-scale';
import { shortNumber } from '../../report/reasons.js';
import { abilityColor, type Palette } from '../palette.js';
import type { Pen } from '../pen.js';
import { fitText, textWidth } from '../text-width.js';
import { wordSeconds } from './ticks.js';
import type { Bar, CurveTrack, LaneTrack, MemberTracks, RefusalMark, Series, Span, Timeline, Track } from './tracks.js';

/** Height of the axis above the tracks. */
export const AXIS = 24;
/** Width of what tracks are called. */
export const LABELS = 116;
const HEIGHTS: Readonly<Record<Track['kind'], number>> = {
  input: 18,
  stick: 22,
  stance: 20,
  lane: 38,
  blows: 18,
  pool: 34,
  fact: 34,
};
const HEAD = 18;
const SMALL = 11;
/** What lies that near to a mark is meant to be on it. */
const NEAR = 6;

/** A row of a timeline: a track, or above the tracks of several members, whose they are. */
export interface TimelineRow {
  readonly member: MemberTracks;
  readonly track: Track | null;
  readonly y: number;
  readonly height: number;
}

/** Tracks without anything on them are left out. */
export function layOutRows({ members }: Timeline, first?: string): { rows: TimelineRow[]; height: number } {
  const rows: TimelineRow[] = [];
  let y = AXIS;
  const shown = [...members].sort((a, b) => Number(b.name === first) - Number(a.name === first));
  for (const member of shown) {
    if (shown.length > 1) {
      rows.push({ member, track: null, y, height: HEAD });
      y += HEAD;
    }
    for (const track of member.tracks) {
      if (isEmpty(track)) continue;
      rows.push({ member, track, y, height: HEIGHTS[track.kind] });
      y += HEIGHTS[track.kind];
    }
  }
  return { rows, height: y };
}

function isEmpty(track: Track): boolean {
  if (track.kind === 'blows') return track.blows.length === 0;
  if (track.kind === 'lane') return track.bars.length + track.refused.length === 0;
  if (track.kind === 'input')
    return track.held.length + track.presses.length + track.used.length + track.refused.length === 0;
  if (track.kind === 'stick') return ![...track.x.values, ...track.y.values].some((value) => value !== 0);
  return false;
}

/** Which part of a timeline is drawn, and where. */
export interface TimelineView {
  readonly rows: readonly TimelineRow[];
  /** Of all of it, labels included. */
  readonly width: number;
  readonly height: number;
  /** The ticks at the left and at the right edge; they may lie between two. */
  readonly from: number;
  readonly to: number;
  /** The tick that is looked at. */
  readonly playhead?: number;
  /** How far the rows are pushed up. */
  readonly scroll?: number;
  /** Ticks that are marked on the axis, such as those in which something failed. */
  readonly flags?: readonly number[];
  /** An ability that is lit. */
  readonly lit?: string;
  /** Another run of the same, drawn thin: its tracks by member and name. */
  readonly ghost?: Timeline;
  readonly palette: Palette;
}

/** Where a tick begins, in pixels from the left. */
export function timeScale({ from, to, width }: Pick<TimelineView, 'from' | 'to' | 'width'>) {
  return scaleLinear([from, to], [LABELS, width]);
}

export function drawTimeline(pen: Pen, timeline: Timeline, view: TimelineView): void {
  const { width, height, palette, rows, scroll = 0, flags = [], playhead } = view;
  const x = timeScale(view);
  pen.rect(0, 0, width, height, { fill: palette.page });
  const places = axisPlaces(timeline, view);
  pen.within(0, AXIS, width, height - AXIS, () => {
    rows.forEach((row, i) => {
      const y = row.y - scroll;
      if (i % 2 === 0) pen.rect(0, y, width, row.height, { fill: palette.band });
    });
    for (const place of places) {
      const at = x(place * timeline.rate) as number;
      pen.line([at, AXIS, at, height], { stroke: palette.line, alpha: 0.7 });
    }
    rows.forEach((row) => {
      const y = row.y - scroll;
      if (y + row.height < AXIS || y > height) return;
      if (row.track === null) {
        pen.text(6, y + 13, row.member.name, { fill: palette.ink, size: 12, bold: true });
        return;
      }
      pen.text(8, y + Math.min(row.height / 2 + 4, 17), fitText(labelOf(row.track), SMALL, LABELS - 14), {
        fill: palette.soft,
        size: SMALL,
      });
      const { track } = row;
      if (track.kind === 'pool' || track.kind === 'fact')
        pen.text(8, y + 30, `${shortNumber(track.low)} to ${shortNumber(track.high)}`, { fill: palette.soft, size: 9 });
      pen.within(LABELS, y, width - LABELS, row.height, () => {
        const ghost = ghostOf(view.ghost, row);
        drawTrack(pen, track, y, row.height, view, x, ghost, timeline.last + 1);
      });
    });
  });
  drawAxis(pen, timeline, view, x, places);
  pen.line([LABELS, 0, LABELS, height], { stroke: palette.line });
  for (const flag of flags) {
    const at = x(flag) as number;
    if (at < LABELS || at > width) continue;
    pen.line([at, 2, at + 9, 6, at, 10], { fill: palette.alarm }, true);
    pen.line([at, 2, at, height], { stroke: palette.alarm, dash: [2, 3] });
  }
  if (playhead === undefined) return;
  // After a tick is at its end.
  const at = x(playhead + 1) as number;
  if (at >= LABELS && at <= width + 1) {
    pen.line([at, 0, at, height], { stroke: palette.now, width: 2 });
    pen.line([at - 6, 0, at + 6, 0, at, 8], { fill: palette.now }, true);
  }
}

function labelOf(track: Track): string {
  return track.kind === 'lane' ? `lane ${track.name}` : track.name;
}

function ghostOf(ghost: Timeline | undefined, { member, track }: TimelineRow): Track | undefined {
  return ghost?.members
    .find(({ name }) => name === member.name)
    ?.tracks.find((one) => one.kind === track?.kind && one.name === track.name);
}

type Scale = ReturnType<typeof timeScale>;

/** The seconds that are written on the axis; none where it shows single ticks. */
function axisPlaces({ rate }: Timeline, { from, to, width }: TimelineView): number[] {
  const places = scaleLinear([from / rate, to / rate], [LABELS, width]).ticks(
    Math.max(2, Math.floor((width - LABELS) / 90)),
  );
  return (places[1] ?? 1) - (places[0] ?? 0) < 1 / rate ? [] : places;
}

function drawAxis(pen: Pen, timeline: Timeline, view: TimelineView, x: Scale, places: readonly number[]): void {
  const { first, last, rate } = timeline;
  const { width, palette } = view;
  pen.rect(0, 0, width, AXIS, { fill: palette.page });
  for (const place of places) {
    const at = x(place * rate) as number;
    const text = `${Math.round(place * 1000) / 1000} s`;
    pen.line([at, AXIS - 6, at, AXIS], { stroke: palette.line });
    if (at + 3 + textWidth(text, SMALL) < width) pen.text(at + 3, AXIS - 8, text, { fill: palette.soft, size: SMALL });
  }
  const isFine = places.length === 0;
  // Where ticks are wide enough, each has its mark.
  const wide = (x(1) as number) - (x(0) as number);
  if (wide >= 5)
    for (let tick = Math.ceil(Math.max(view.from, first)); tick <= Math.min(view.to, last + 1); tick++) {
      const at = x(tick) as number;
      pen.line([at, AXIS - (tick % 10 === 0 ? 6 : 3), at, AXIS], { stroke: palette.soft });
      if (isFine && tick % 10 === 0) pen.text(at + 3, AXIS - 8, `${tick}f`, { fill: palette.soft, size: SMALL });
    }
  pen.line([0, AXIS, width, AXIS], { stroke: palette.line });
}

function isSeen({ from, to }: Span, view: TimelineView): boolean {
  return to >= view.from && from <= view.to;
}

function drawTrack(
  pen: Pen,
  track: Track,
  y: number,
  height: number,
  view: TimelineView,
  x: Scale,
  ghost: Track | undefined,
  end: number,
): void {
  const { palette } = view;
  // What still lasts is drawn up to the last tick that there is.
  const edge = (tick: number) => x(Math.max(view.from - 1, Math.min(tick, end, view.to + 1))) as number;
  const middle = y + height / 2;
  switch (track.kind) {
    case 'input': {
      for (const span of track.held)
        if (isSeen(span, view))
          pen.rect(edge(span.from), middle - 4, Math.max(2, edge(span.to) - edge(span.from)), 8, {
            fill: palette.held,
          });
      for (const { tick } of track.presses)
        if (isSeen({ from: tick, to: tick }, view))
          pen.line([edge(tick), y + 2, edge(tick), y + height - 2], { stroke: palette.ink, width: 1.5 });
      for (const { tick, index } of track.used)
        if (isSeen({ from: tick, to: tick }, view))
          pen.circle(edge(tick + 0.5), middle, 4, {
            fill: abilityColor(index, palette),
            stroke: palette.ink,
          });
      drawRefusals(pen, track.refused, middle, view, edge);
      return;
    }
    case 'stick': {
      pen.line([edge(view.from), middle, edge(view.to), middle], { stroke: palette.line });
      drawSeries(pen, track.x, -1, 1, y + 2, height - 4, view, x, { stroke: palette.curve, width: 1.5 });
      drawSeries(pen, track.y, -1, 1, y + 2, height - 4, view, x, { stroke: palette.ray, width: 1.5, dash: [4, 2] });
      return;
    }
    case 'stance':
      for (const span of track.spans) {
        if (!isSeen(span, view)) continue;
        const from = edge(span.from);
        const wide = edge(span.to) - from;
        pen.line([from, y + 2, from, y + height - 2], { stroke: palette.soft });
        if (wide > 14)
          pen.text(Math.max(from, LABELS) + 4, middle + 4, fitText(span.name, SMALL, wide - 6), {
            fill: palette.ink,
            size: SMALL,
          });
      }
      return;
    case 'lane':
      if (ghost?.kind === 'lane')
        for (const bar of ghost.bars)
          if (isSeen(bar, view))
            pen.rect(edge(bar.from), y + 1, Math.max(1, edge(bar.to) - edge(bar.from)), 4, {
              stroke: palette.soft,
              dash: [3, 2],
            });
      drawLane(pen, track, y, view, edge);
      return;
    case 'blows':
      for (const { tick, gave } of track.blows) {
        if (!isSeen({ from: tick, to: tick }, view)) continue;
        const at = edge(tick + 0.5);
        const points = gave
          ? [at - 5, middle - 5, at + 5, middle, at - 5, middle + 5]
          : [at + 5, middle - 5, at - 5, middle, at + 5, middle + 5];
        pen.line(points, { fill: gave ? palette.hurt : palette.hit, stroke: palette.ink, width: 0.8 }, true);
      }
      return;
    default: {
      if (ghost && (ghost.kind === 'pool' || ghost.kind === 'fact'))
        drawSeries(pen, ghost.series, track.low, track.high, y + 4, height - 8, view, x, {
          stroke: palette.soft,
          dash: [3, 2],
        });
      drawSeries(pen, track.series, track.low, track.high, y + 4, height - 8, view, x, {
        stroke: palette.curve,
        width: 1.5,
      });
      const value = view.playhead === undefined ? undefined : valueAt(track.series, view.playhead);
      if (value !== undefined && view.playhead !== undefined) {
        const at = Math.min(edge(view.playhead + 1) + 5, view.width - 60);
        pen.text(at, y + 14, `${Math.round(value * 100) / 100}`, { fill: palette.ink, size: SMALL, bold: true });
      }
    }
  }
}

/** The number of a tick, or undefined where there is none. */
export function valueAt({ first, values }: Series, tick: number): number | undefined {
  const value = values[tick - first];
  return value === undefined || Number.isNaN(value) ? undefined : value;
}

function drawLane(pen: Pen, track: LaneTrack, y: number, view: TimelineView, edge: (tick: number) => number): void {
  const { palette } = view;
  const top = y + 5;
  const tall = 20;
  for (const span of track.cooldowns) {
    if (!isSeen(span, view)) continue;
    const from = edge(span.from);
    pen.rect(from, top + tall + 6, Math.max(1, edge(span.to) - from), 3, { fill: abilityColor(span.index, palette) });
    pen.line([edge(span.to), top + tall + 4, edge(span.to), top + tall + 11], { stroke: palette.soft });
  }
  for (const bar of track.bars) {
    if (!isSeen(bar, view)) continue;
    const from = edge(bar.from);
    const wide = Math.max(1.5, edge(bar.to) - from);
    const lit = view.lit === bar.ability;
    pen.rect(from, top, wide, tall, { fill: abilityColor(bar.index, palette) });
    for (const phase of bar.phases) drawPhase(pen, bar, phase, top, tall, palette, edge);
    if (bar.opens.length > 0) pen.rect(from, top + tall + 1, wide, 3, { fill: palette.open });
    pen.rect(from, top, wide, tall, { stroke: palette.ink, width: lit ? 2.5 : 1 });
    if (bar.end?.why === 'broken' || bar.end?.why === 'interrupted')
      pen.line([from + wide - 4, top, from + wide, top + tall / 2, from + wide - 4, top + tall], {
        stroke: palette.alarm,
        width: 2,
      });
    const at = Math.max(from, LABELS);
    const room = from + wide - at - 8;
    if (room > 12)
      pen.text(at + 4, top + 14, fitText(bar.ability, 12, room, true), { fill: palette.ink, size: 12, bold: true });
  }
  drawRefusals(pen, track.refused, top + tall / 2, view, edge);
}

/** What strikes is darker and has a thick lower edge; a windup is dotted, a recovery hatched. */
function drawPhase(
  pen: Pen,
  bar: Bar,
  phase: Bar['phases'][number],
  top: number,
  tall: number,
  palette: Palette,
  edge: (tick: number) => number,
): void {
  const from = edge(phase.from);
  const to = edge(phase.to);
  if (phase.kind === 'active') pen.rect(from, top + tall - 5, to - from, 5, { fill: palette.ink, alpha: 0.75 });
  if (phase.kind === 'recovery')
    for (let at = from + 3; at < to - 1 && at < from + 2000; at += 6)
      pen.line([at, top + tall, Math.min(at + 5, to), top + tall - 5], { stroke: palette.ink, alpha: 0.5 });
  if (phase.kind === 'windup' || phase.kind === 'charge')
    for (let at = from + 4; at < to - 1 && at < from + 2000; at += 6)
      pen.circle(at, top + tall - 3, 1, { fill: palette.ink, alpha: 0.6 });
  if (phase.from > bar.from) pen.line([from, top, from, top + tall], { stroke: palette.ink, alpha: 0.6 });
  if (phase.opens.length > 0) pen.rect(from, top + tall + 1, Math.max(1, to - from), 3, { fill: palette.open });
}

function drawRefusals(
  pen: Pen,
  marks: readonly RefusalMark[],
  middle: number,
  view: TimelineView,
  edge: (tick: number) => number,
): void {
  const { palette } = view;
  for (const { tick, kept } of marks) {
    if (!isSeen({ from: tick, to: kept }, view)) continue;
    const at = edge(tick + 0.5);
    if (kept > tick) pen.line([at, middle, edge(kept), middle], { stroke: palette.alarm, dash: [2, 2] });
    pen.line([at - 4, middle - 4, at + 4, middle + 4, Number.NaN, Number.NaN, at - 4, middle + 4, at + 4, middle - 4], {
      stroke: palette.alarm,
      width: 2.2,
    });
  }
}

function drawSeries(
  pen: Pen,
  series: Series,
  low: number,
  high: number,
  top: number,
  tall: number,
  view: TimelineView,
  x: Scale,
  ink: Parameters<Pen['line']>[1],
): void {
  const from = Math.max(0, Math.floor(view.from) - series.first - 1);
  const to = Math.min(series.values.length, Math.ceil(view.to) - series.first + 2);
  const range = high > low ? high - low : 1;
  const points: number[] = [];
  // A point for a pixel is enough.
  const stride = Math.max(1, Math.floor((view.to - view.from) / Math.max(1, view.width)));
  const at = (i: number, value: number) =>
    points.push(x(series.first + i + 1) as number, top + tall - ((value - low) / range) * tall);
  let before = Number.NaN;
  for (let i = from; i < to; i += stride) {
    let [least, most] = [series.values[i], series.values[i]];
    // Of the ticks of a pixel, the lowest and the highest are seen: what lasts a tick must not be lost.
    for (let k = i + 1; k < i + stride && k < to; k++) {
      if (series.values[k] < least) least = series.values[k];
      if (series.values[k] > most) most = series.values[k];
    }
    // What stays the same is one line.
    if (least === before && most === before && series.values[i + stride] === before && i + stride < to) continue;
    before = most;
    at(i, least);
    if (most !== least) at(i, most);
  }
  if (points.length > 0) pen.line(points, ink);
}

/** What is at a place of a timeline. */
export type TimelineHit =
  | {
      readonly kind: 'refusal';
      readonly member: string;
      readonly mark: RefusalMark;
      /** All of the same tick: a press may ask for several abilities. */
      readonly marks: readonly RefusalMark[];
    }
  | { readonly kind: 'blow'; readonly member: string; readonly tick: number; readonly text: string }
  | { readonly kind: 'used'; readonly member: string; readonly tick: number; readonly ability: string }
  | {
      readonly kind: 'bar';
      readonly member: string;
      readonly tick: number;
      readonly bar: Bar;
      readonly phase: string | null;
    }
  | {
      readonly kind: 'cooldown';
      readonly member: string;
      readonly tick: number;
      readonly ability: string;
      readonly left: number;
    }
  | { readonly kind: 'curve'; readonly member: string; readonly tick: number; readonly track: CurveTrack }
  | { readonly kind: 'time'; readonly tick: number };

/** What is drawn at a place; marks come before what they lie on. */
export function timelineAt(view: TimelineView, px: number, py: number): TimelineHit {
  const x = timeScale(view);
  const tick = Math.floor(x.invert(px));
  const row = view.rows.find(({ y, height }) => {
    const at = y - (view.scroll ?? 0);
    return py >= Math.max(AXIS, at) && py < at + height;
  });
  if (!row?.track || px < LABELS) return { kind: 'time', tick };
  const member = row.member.name;
  const { track } = row;
  const isNear = (at: number) => Math.abs((x(at + 0.5) as number) - px) <= NEAR;
  if (track.kind === 'input' || track.kind === 'lane') {
    const mark = track.refused.findLast((one) => isNear(one.tick) || (one.tick <= tick && tick < one.kept));
    if (mark)
      return { kind: 'refusal', member, mark, marks: track.refused.filter(({ tick: other }) => other === mark.tick) };
  }
  if (track.kind === 'input') {
    const used = track.used.findLast((one) => isNear(one.tick));
    if (used) return { kind: 'used', member, tick: used.tick, ability: used.ability };
  }
  if (track.kind === 'blows') {
    const blow = track.blows.findLast((one) => isNear(one.tick));
    if (blow) return { kind: 'blow', member, tick: blow.tick, text: blow.text };
  }
  if (track.kind === 'lane') {
    const bar = track.bars.findLast(({ from, to }) => (from <= tick && tick < to) || (from === to && isNear(from)));
    const below = py - (row.y - (view.scroll ?? 0)) > 30;
    const cooldown = track.cooldowns.findLast(({ from, to }) => from <= tick && tick < to);
    if (cooldown && (below || !bar))
      return { kind: 'cooldown', member, tick, ability: cooldown.ability, left: cooldown.to - tick };
    if (bar) {
      const phase = bar.phases.findLast(({ from }) => from <= tick);
      return { kind: 'bar', member, tick, bar, phase: phase?.name ?? null };
    }
  }
  if (track.kind === 'pool' || track.kind === 'fact') return { kind: 'curve', member, tick, track };
  return { kind: 'time', tick };
}

/** A line that says what a mark, a bar or a curve is. */
export function wordHit(hit: TimelineHit, { rate }: Pick<Timeline, 'rate'>): string {
  const seconds = (tick: number) => wordSeconds(tick, rate);
  switch (hit.kind) {
    case 'refusal':
      return `${seconds(hit.mark.tick)}: ${hit.marks.map(({ ability, text }) => `${ability} refused: ${text}`).join('; ')}`;
    case 'blow':
      return `${seconds(hit.tick)}: ${hit.text}`;
    case 'used':
      return `${seconds(hit.tick)}: used by ${hit.ability}`;
    case 'bar': {
      const { ability, from, to, phases, end, opens } = hit.bar;
      const open = [...new Set([...opens, ...(phases.findLast((one) => one.from <= hit.tick)?.opens ?? [])])];
      const lasts = Number.isFinite(to) ? `${to - from} ticks` : 'still runs';
      const over = end ? `, ${endText(end)}` : '';
      return `${ability}${hit.phase ? `, ${hit.phase}` : ''}: from ${seconds(from)}, ${lasts}${over}${open.length > 0 ? `; open to ${open.join(', ')}` : ''}`;
    }
    case 'cooldown':
      return `${hit.ability} cools down${Number.isFinite(hit.left) ? `, ${seconds(hit.left)} more` : ''}`;
    case 'curve': {
      const value = valueAt(hit.track.series, hit.tick);
      return `${seconds(hit.tick)}: ${hit.track.name} ${value === undefined ? '-' : Math.round(value * 1000) / 1000}`;
    }
    case 'time':
      return `${seconds(hit.tick)}, tick ${hit.tick}`;
  }
}

function endText({ why, by }: NonNullable<Bar['end']>): string {
  if (why === 'followed') return `followed by ${by}`;
  return why === 'broken' ? `broken by ${by}` : `ended: ${why}`;
}

/** What the signs of a timeline mean, from left to right; returns how high it is. */
export function drawLegend(pen: Pen, x: number, y: number, width: number, palette: Palette): number {
  const signs: readonly [text: string, draw: (x: number, y: number) => void][] = [
    ['held', (at, mid) => pen.rect(at, mid - 4, 16, 8, { fill: palette.held })],
    ['pressed', (at, mid) => pen.line([at + 8, mid - 6, at + 8, mid + 6], { stroke: palette.ink, width: 1.5 })],
    ['press used', (at, mid) => pen.circle(at + 8, mid, 4, { fill: abilityColor(0, palette), stroke: palette.ink })],
    [
      'refused (dashes: the press is kept)',
      (at, mid) => {
        pen.line([at, mid - 4, at + 8, mid + 4, Number.NaN, Number.NaN, at, mid + 4, at + 8, mid - 4], {
          stroke: palette.alarm,
          width: 2.2,
        });
        pen.line([at + 8, mid, at + 16, mid], { stroke: palette.alarm, dash: [2, 2] });
      },
    ],
    ['lets others in', (at, mid) => pen.rect(at, mid - 1, 16, 3, { fill: palette.open })],
    [
      'cools down',
      (at, mid) => {
        pen.rect(at, mid - 1, 16, 3, { fill: abilityColor(0, palette) });
        pen.line([at + 16, mid - 4, at + 16, mid + 4], { stroke: palette.soft });
      },
    ],
    [
      'winds up',
      (at, mid) => {
        for (let i = 0; i < 3; i++) pen.circle(at + 2 + i * 6, mid, 1, { fill: palette.ink });
      },
    ],
    ['strikes', (at, mid) => pen.rect(at, mid - 2, 16, 5, { fill: palette.ink, alpha: 0.75 })],
    [
      'recovers',
      (at, mid) => {
        for (let i = 0; i < 3; i++) pen.line([at + i * 6, mid + 3, at + 5 + i * 6, mid - 3], { stroke: palette.ink });
      },
    ],
    [
      'gives a blow',
      (at, mid) =>
        pen.line([at + 3, mid - 5, at + 13, mid, at + 3, mid + 5], { fill: palette.hurt, stroke: palette.ink }, true),
    ],
    [
      'takes one',
      (at, mid) =>
        pen.line([at + 13, mid - 5, at + 3, mid, at + 13, mid + 5], { fill: palette.hit, stroke: palette.ink }, true),
    ],
  ];
  let [at, line] = [x, y];
  for (const [text, draw] of signs) {
    const wide = 24 + textWidth(text, SMALL) + 18;
    if (at + wide > x + width && at > x) [at, line] = [x, line + 18];
    draw(at, line + 8);
    pen.text(at + 22, line + 12, text, { fill: palette.soft, size: SMALL });
    at += wide;
  }
  return line + 18 - y;
}
