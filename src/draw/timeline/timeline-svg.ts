import { DARK, LIGHT } from '../palette.js';
import { SvgPen } from '../svg-pen.js';
import { drawLegend, drawTimeline, layOutRows } from './draw-timeline.js';
import type { Timeline } from './tracks.js';

/** How the picture of a timeline is made. */
export interface TimelineOptions {
  /** Pixels. Default 1280. */
  readonly width?: number;
  /** What stands above it. */
  readonly title: string;
  /** Said beneath the title. */
  readonly note?: string;
  /** Ticks that are marked, such as those in which something failed. */
  readonly flags?: readonly number[];
  /** From which tick up to which. Default all. */
  readonly from?: number;
  readonly to?: number;
  /** For a dark page. */
  readonly dark?: boolean;
}

const EDGE = 16;

/** A timeline with its legend as SVG; it is as high as its tracks. */
export function timelineSvg(timeline: Timeline, options: TimelineOptions): string {
  const { width = 1280, title, note, flags, dark = false } = options;
  const { from = Math.max(0, timeline.first), to = timeline.last + 1 } = options;
  const palette = dark ? DARK : LIGHT;
  const { rows, height } = layOutRows(timeline);
  const top = note === undefined ? 36 : 54;
  const inner = width - 2 * EDGE;
  const legend = drawLegend(new SvgPen(), 0, 0, inner, palette);
  const total = top + height + 10 + legend + EDGE;
  const pen = new SvgPen();
  pen.rect(0, 0, width, total, { fill: palette.page });
  pen.text(EDGE, 26, title, { fill: palette.ink, size: 18, bold: true });
  if (note !== undefined) pen.text(EDGE, 44, note, { fill: palette.soft, size: 13 });
  pen.translate(EDGE, top, () =>
    drawTimeline(pen, timeline, { rows, width: inner, height, from, to, palette, ...(flags && { flags }) }),
  );
  drawLegend(pen, EDGE, top + height + 10, inner, palette);
  return pen.toString(width, total, title);
}
