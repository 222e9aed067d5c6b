import type { Recording } from '../recording/index.js';
import type { ScenarioReport } from '../scenario/index.js';
import { diagnosticToJson } from './check.js';
import { type CommandSpec, rootOf, SCENARIO_ROOT_OPTION } from './command.js';
import { type ExitCode, type Io, safe, showDiagnostic } from './io.js';

/** Longest story that is printed of a scenario that failed among others. */
const STORY = 60;

export const run: CommandSpec = {
  name: 'run',
  summary: 'Run scenarios without a screen and compare what happens with what they expect.',
  args: '<scenario...>',
  argsDoc: 'scenario files',
  options: [
    ['--story', 'print what happened, also when several scenarios are given, or something is asked'],
    ['--jobs', 'use all cores'],
    ['--watch', 'run again whenever a scenario or a moveset changes, until stopped with Ctrl-C'],
    ['--ask <formula>', 'print the ticks after which a condition holds, as formulas are in a moveset'],
    ['--why <ability>', 'print why it was refused, each time: every reason, its line and what it rests on'],
    ['--record <file>', 'write what happened to a file, for "loggia compare" and for who is to look at it'],
    ['--report <folder>', 'write a page for each scenario that is not as expected, to be looked at'],
    SCENARIO_ROOT_OPTION,
    ['--json', 'print the results, with a row for each tick, as JSON'],
  ],
  example: 'loggia run demo/boatyard/scenarios/second-dash-refused.yaml',
  async run(files, given, io) {
    const looks = ['ask', 'why', 'record'].filter((option) => given[option] !== undefined);
    if (looks.length > 0 && (files.length > 1 || given.json)) {
      io.err(`loggia: --${looks[0]} takes one scenario${given.json ? ', and no --json' : ''}.`);
      return 2;
    }
    if (!given.watch) return (await runAll(files, given, io)).code;
    if (given.json) {
      io.err('loggia: --watch and --json do not go together; leave one of them out.');
      return 2;
    }
    const { onEachChange } = await import('./watch.js');
    let first = true;
    return onEachChange(async () => {
      if (!first) io.out(io.color.dim('\nchanged; running again'));
      first = false;
      return (await runAll(files, given, io)).read;
    });
  },
};

/** Runs all of them; says which files were read. */
async function runAll(
  files: readonly string[],
  given: Readonly<Record<string, string | true | undefined>>,
  io: Io,
): Promise<{ code: ExitCode; read: readonly string[] }> {
  const { story, jobs, json } = given;
  // Who asks something wants the answer, and not to look for it below a story.
  const isAsked = given.ask !== undefined || given.why !== undefined;
  const keep = json ? 'everything' : story || (files.length === 1 && !isAsked) ? 'story' : 'nothing';
  const workers = jobs ? (await import('node:os')).availableParallelism() : 1;
  const { runMany } = await import('./run-many.js');
  const tell = await import('../scenario/tell.js');
  const read = new Set<string>();
  if (json) io.out('{\n  "scenarios": [');
  const failed: string[] = [];
  let good = 0;
  let done = 0;
  let recording: Recording | undefined;
  const looks = given.ask ?? given.why ?? given.record;
  const keepIt = (one: Recording) => {
    recording = one;
  };
  const record = looks === undefined ? {} : { record: keepIt };
  await runMany(files, { keep, workers, ...rootOf(given), ...record }, (report) => {
    io.progress();
    for (const file of report.files) read.add(file);
    if (report.result?.passed) good++;
    else if (report.result) failed.push(report.file);
    // One by one, since an hour of ticks is more than one text can hold.
    if (json) printJson(report, done === 0, io);
    else print(report, keep === 'story', tell, io);
    if (++done < files.length) io.progress(`${done} of ${files.length}`);
  });
  if (json) io.out(`  ],\n  "ok": ${good === files.length}\n}`);
  else if (files.length > 1) io.out(`${good} of ${files.length} scenarios as expected`);
  if (given.report !== undefined && failed.length > 0) {
    const { writeReports } = await import('./report.js');
    // What machines read stays whole.
    const told = json ? { ...io, out: io.err } : io;
    await writeReports('run', failed, String(given.report), rootOf(given), told);
  }
  const looked = recording ? await (await import('./look-at.js')).lookAt(recording, given, [...read], io) : true;
  return { code: good === files.length && looked ? 0 : 1, read: [...read] };
}

type Tell = typeof import('../scenario/tell.js');

function print(report: ScenarioReport, whole: boolean, { tellFailures, tellStory }: Tell, io: Io): void {
  const { file, scenario, result, diagnostics } = report;
  for (const d of diagnostics) io.out(showDiagnostic(d, io.color));
  if (!result) {
    io.out(`${io.color.red('not run')}  ${safe(file)}`);
    return;
  }
  const verdict = result.passed ? io.color.green('as expected') : io.color.red('not as expected');
  io.out(`${verdict}  ${safe(scenario)} ${io.color.dim(`(${safe(file)})`)}`);
  const story = whole || !result.passed ? tellStory(report, io.color) : [];
  if (!whole && story.length > STORY)
    io.out(io.color.dim(`  (${story.length - STORY} lines before these; --story prints all)`));
  for (const line of whole ? story : story.slice(-STORY)) io.out(line);
  for (const line of tellFailures(report)) io.out(line);
}

/** A report as an entry of a list; a line for each tick. */
function printJson({ diagnostics, result, ...report }: ScenarioReport, first: boolean, io: Io): void {
  const linesOf = (indent: string, of: object) =>
    Object.entries(of)
      .filter(([, value]) => value !== undefined)
      .map(([key, value]) => `${indent}${JSON.stringify(key)}: ${JSON.stringify(value)}`)
      .join(',\n');
  io.out(`${first ? '    ' : '    ,'}{`);
  io.out(linesOf('      ', { ...report, diagnostics: diagnostics.map(diagnosticToJson) }));
  if (result) {
    const { trace, ...rest } = result;
    io.out(`      ,"result": {\n${linesOf('        ', rest)},\n        "trace": [`);
    for (const [i, row] of trace.entries()) io.out(`          ${i > 0 ? ',' : ''}${JSON.stringify(row)}`);
    io.out('        ]\n      }');
  }
  io.out('    }');
}
