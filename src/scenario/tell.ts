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
export function tellStory({ result, rate }: ScenarioReport, { dim, yellow }: Paint = PLAIN): string[] {
  return (result?.trace ?? []).flatMap(({ tick, events }) =>
    events.map((event, i) => {
      const time = i === 0 ? `${(tick / rate).toFixed(2)} s ${String(tick).padStart(4)}f` : ' '.repeat(12);
      const text = escapeText(wordEvent(event));
      return `  ${dim(time.padStart(12))}  ${event.kind === 'refused' ? yellow(text) : text}`;
    }),
  );
}

/** Each expectation that was not met, what was there instead, and the ticks around it. */
export function tellFailures(report: ScenarioReport): string[] {
  const { file, lines, result } = report;
  return (result?.failures ?? []).flatMap(({ index, expected, was, instead, tick }) => [
    `  ${escapeText(file)}:${lines[index] ?? index + 1} expected ${escapeText(expected)}`,
    `    but ${escapeText(was)}${instead && `; ${escapeText(instead)}`}`,
    ...tellTicks(report, tick),
  ]);
}

function tellTicks({ result, pools }: ScenarioReport, at: number): string[] {
  const rows = (result?.trace ?? []).filter(({ tick }) => Math.abs(tick - at) <= AROUND);
  return rows.map(({ tick, stance, lanes, x, y, vx, vy, pools: amounts }) => {
    const running = lanes.filter(Boolean).join(', ') || '-';
    const motion = `at ${shortNumber(x)}, ${shortNumber(y)}  velocity ${shortNumber(vx)}, ${shortNumber(vy)}`;
    const held = pools.map((pool, i) => `${pool} ${shortNumber(amounts[i])}`).join('  ');
    const mark = tick === at ? '>' : ' ';
    return `    ${mark}${String(tick).padStart(4)}f  ${stance.padEnd(8)} ${running.padEnd(18)} ${motion}  ${held}`.trimEnd();
  });
}
