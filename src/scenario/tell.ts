import { wordMeeting } from '../arena/index.js';
import { wantObject } from '../report/arguments.js';
import type { LoggiaEvent } from '../report/events.js';
import { shortNumber } from '../report/reasons.js';
import { wordEvent } from '../report/story.js';
import { count, escapeText } from '../report/words.js';
import type { ScenarioReport } from './load.js';
import { AROUND } from './run.js';
import type { Trace } from './trace.js';

/** How lines are painted; by default, they are not. */
export interface Paint {
  dim(text: string): string;
  yellow(text: string): string;
}

const PLAIN: Paint = { dim: (text) => text, yellow: (text) => text };

/**
 * The events of a run, a line each, with seconds and ticks.
 * @param report Of `runScenarioFile`.
 * @param paint How lines are painted. Default: not at all.
 */
export function tellStory(report: ScenarioReport, paint: Paint = PLAIN): string[] {
  wantObject('tellStory', 'a report', report);
  wantObject('tellStory', 'how it is painted', paint);
  const { result, rate } = report;
  const { dim, yellow } = paint;
  return shorten((result?.trace ?? []).map(linesOf)).flatMap(({ tick, lines }) =>
    lines.map(({ text, refused }, i) => {
      const time = i === 0 ? `${(tick / rate).toFixed(2)} s ${String(tick).padStart(4)}f` : ' '.repeat(12);
      const shown = escapeText(text);
      return `  ${dim(time.padStart(12))}  ${refused ? yellow(shown) : shown}`;
    }),
  );
}

/** What a tick tells, a line each. */
interface ToldTick {
  readonly tick: number;
  readonly lines: readonly { readonly text: string; readonly refused: boolean; readonly again: boolean }[];
}

function linesOf({ tick, events, others, meetings }: Trace): ToldTick {
  const line = (event: LoggiaEvent, whose = '') => ({
    text: whose + wordEvent(event),
    refused: event.kind === 'refused',
    again: event.kind === 'received',
  });
  const lines = [
    ...events.map((event) => line(event)),
    ...others.flatMap(({ name, events }) => events.map((event) => line(event, `${name}: `))),
    ...meetings.map((meeting) => ({ text: wordMeeting(meeting), refused: false, again: meeting.kind === 'touch' })),
  ];
  return { tick, lines };
}

/** Ticks between two that are told together, and how many of them are told one by one. */
const NEAR = 30;
const FEW = 3;

/** Touches and what is heard of them come again and again: of a row of them, the first says how many follow. */
function shorten(told: readonly ToldTick[]): ToldTick[] {
  const rows = new Map<string, { from: number; to: number; count: number }[]>();
  for (const { tick, lines } of told)
    for (const { text, again } of lines) {
      if (!again) continue;
      const all = rows.get(text) ?? [];
      rows.set(text, all);
      const last = all.at(-1);
      if (last && tick - last.to <= NEAR) Object.assign(last, { to: tick, count: last.count + 1 });
      else all.push({ from: tick, to: tick, count: 1 });
    }
  return told.map(({ tick, lines }) => ({
    tick,
    lines: lines.flatMap((line) => {
      const row = line.again ? rows.get(line.text)?.find(({ from, to }) => tick >= from && tick <= to) : undefined;
      if (!row || row.count <= FEW) return line;
      if (tick > row.from) return [];
      return { ...line, text: `${line.text} (and ${count(row.count - 1, 'time')} more up to ${row.to}f)` };
    }),
  }));
}

/**
 * Each expectation that was not met, what was there instead, and the ticks around it.
 * @param report Of `runScenarioFile`.
 */
export function tellFailures(report: ScenarioReport): string[] {
  wantObject('tellFailures', 'a report', report);
  const { file, lines, result } = report;
  return (result?.failures ?? []).flatMap(({ index, expected, was, instead, tick, of }) => [
    `  ${escapeText(file)}:${lines[index] ?? index + 1} expected ${escapeText(expected)}`,
    `    but ${escapeText(was)}${instead && `; ${escapeText(instead)}`}`,
    ...tellTicks(report, tick, of),
  ]);
}

function tellTicks({ result }: ScenarioReport, at: number, of: string): string[] {
  const rows = (result?.trace ?? []).filter(({ tick }) => Math.abs(tick - at) <= AROUND);
  const shownIn = (row: Trace) => [row, ...row.others].find(({ name }) => name === of);
  // Seen from the side, there is no depth to tell of.
  const deep = rows.some((row) => shownIn(row)?.z || shownIn(row)?.vz);
  const place = (...all: number[]) => (deep ? all : all.slice(0, 2)).map(shortNumber).join(', ');
  return rows.flatMap((row) => {
    const { tick } = row;
    const shown = shownIn(row);
    if (!shown) return [];
    const { stance, lanes, x, y, z, vx, vy, vz, pools: amounts, poolNames: pools } = shown;
    const running = lanes.filter(Boolean).join(', ') || '-';
    const motion = `at ${place(x, y, z)}  velocity ${place(vx, vy, vz)}`;
    const held = pools.map((pool, i) => `${pool} ${shortNumber(amounts[i])}`).join('  ');
    const mark = tick === at ? '>' : ' ';
    return `    ${mark}${String(tick).padStart(4)}f  ${stance.padEnd(8)} ${running.padEnd(18)} ${motion}  ${held}`.trimEnd();
  });
}
