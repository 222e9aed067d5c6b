import type { Command } from 'commander';
import { shortNumber } from '../report/reasons.js';
import { type Failure, loadAndRun, type ScenarioReport, type Trace, wordEvent } from '../scenario/index.js';
import { paintDiagnostic } from './check.js';
import type { ExitCode, Io } from './io.js';

/** Ticks shown before and after a failed expectation. */
const AROUND = 3;

export function addRun(program: Command, io: Io, done: (code: ExitCode) => void): void {
  program
    .command('run')
    .description('play scenarios without a screen and hold what happens against what they expect')
    .argument('<scenario...>', 'scenario files')
    .option('--story', 'tell what happened, also when several scenarios are given')
    .option('--json', 'print the results, with a row for each tick, as JSON')
    .addHelpText('after', '\nExample:\n  loggia run demo/boatyard/scenarios/second-dash-refused.yaml')
    .action(async (files: string[], options: { story?: boolean; json?: boolean }) =>
      done(await run(files, options, io)),
    );
}

async function run(files: string[], { story, json }: { story?: boolean; json?: boolean }, io: Io): Promise<ExitCode> {
  const reports: ScenarioReport[] = [];
  for (const file of files) {
    const report = await loadAndRun(file);
    reports.push(report);
    if (!json) print(report, story ?? files.length === 1, io);
  }
  const good = reports.filter((report) => report.result?.passed).length;
  if (json) {
    const rows = reports.map(({ file, scenario, result, diagnostics }) => ({ file, scenario, ...result, diagnostics }));
    io.out(JSON.stringify({ ok: good === files.length, scenarios: rows }, null, 2));
  } else if (files.length > 1) io.out(`${good} of ${files.length} scenarios went as expected`);
  return good === files.length ? 0 : 1;
}

function print(report: ScenarioReport, story: boolean, io: Io): void {
  const { file, scenario, result, diagnostics, plan, lines } = report;
  for (const d of diagnostics) io.out(paintDiagnostic(d, io));
  if (!result || !plan) {
    io.out(`${io.color.red('faulty')}  ${file}`);
    return;
  }
  const verdict = result.passed ? io.color.green('as expected') : io.color.red('not as expected');
  io.out(`${verdict}  ${scenario} ${io.color.dim(`(${file})`)}`);
  if (story) for (const row of result.trace) for (const line of tellTick(row, plan.rate, io)) io.out(line);
  for (const failure of result.failures) {
    io.out(`  ${file}:${lines[failure.index]} expected ${failure.expected}`);
    io.out(`    but at tick ${failure.tick}: ${failure.was}`);
    for (const line of showAround(failure, result.trace, plan.names.pool)) io.out(line);
  }
}

function tellTick({ tick, events }: Trace, rate: number, { color }: Io): string[] {
  return events.map((event, i) => {
    const time = i === 0 ? `${(tick / rate).toFixed(2)} s ${String(tick).padStart(4)}f` : ' '.repeat(12);
    const text = wordEvent(event);
    return `  ${color.dim(time)}  ${event.kind === 'refused' ? color.yellow(text) : text}`;
  });
}

function showAround({ tick }: Failure, trace: readonly Trace[], pools: readonly string[]): string[] {
  const rows = trace.slice(Math.max(0, tick - AROUND), tick + AROUND + 1);
  return rows.map((row) => {
    const lanes = row.lanes.filter(Boolean).join(', ') || '-';
    const place = `at ${shortNumber(row.x)}, ${shortNumber(row.y)}  going ${shortNumber(row.vx)}, ${shortNumber(row.vy)}`;
    const amounts = pools.map((pool, i) => `${pool} ${shortNumber(row.pools[i])}`).join('  ');
    const mark = row.tick === tick ? '>' : ' ';
    return `    ${mark}${String(row.tick).padStart(4)}f  ${row.stance.padEnd(8)} ${lanes.padEnd(18)} ${place}  ${amounts}`;
  });
}
