import { wordMeeting } from '../arena/index.js';
import { wantObject } from '../report/arguments.js';
import { shortNumber } from '../report/reasons.js';
import { wordEvent } from '../report/story.js';
import { escapeText } from '../report/words.js';
import type { ScenarioReport } from './load.js';
import { AROUND } from './run.js';

/** How lines are painted; by default, they are not. */
export interface Paint {
  dim(text: string): string;
  yellow(text: string): string;
}

const PLAIN: Paint = { dim: (text) => text, yellow: (text) => text };

/** The events of a run, a line each, with seconds and ticks. */
export function tellStory(report: ScenarioReport, paint: Paint = PLAIN): string[] {
  wantObject('tellStory', 'a report', report);
  wantObject('tellStory', 'how it is painted', paint);
  const { result, rate } = report;
  const { dim, yellow } = paint;
  return (result?.trace ?? []).flatMap(({ tick, events, others, meetings }) => {
    const lines = [
      ...events.map((event) => ({ text: wordEvent(event), refused: event.kind === 'refused' })),
      ...others.flatMap(({ name, events }) =>
        events.map((event) => ({ text: `${name}: ${wordEvent(event)}`, refused: event.kind === 'refused' })),
      ),
      ...meetings.map((meeting) => ({ text: wordMeeting(meeting), refused: false })),
    ];
    return lines.map(({ text, refused }, i) => {
      const time = i === 0 ? `${(tick / rate).toFixed(2)} s ${String(tick).padStart(4)}f` : ' '.repeat(12);
      const shown = escapeText(text);
      return `  ${dim(time.padStart(12))}  ${refused ? yellow(shown) : shown}`;
    });
  });
}

/** Each expectation that was not met, what was there instead, and the ticks around it. */
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
  return rows.flatMap((row) => {
    const { tick } = row;
    const shown = [row, ...row.others].find(({ name }) => name === of);
    if (!shown) return [];
    const { stance, lanes, x, y, vx, vy, pools: amounts, poolNames: pools } = shown;
    const running = lanes.filter(Boolean).join(', ') || '-';
    const motion = `at ${shortNumber(x)}, ${shortNumber(y)}  velocity ${shortNumber(vx)}, ${shortNumber(vy)}`;
    const held = pools.map((pool, i) => `${pool} ${shortNumber(amounts[i])}`).join('  ');
    const mark = tick === at ? '>' : ' ';
    return `    ${mark}${String(tick).padStart(4)}f  ${stance.padEnd(8)} ${running.padEnd(18)} ${motion}  ${held}`.trimEnd();
  });
}
