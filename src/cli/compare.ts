import { basename } from 'node:path';
import type { Comparison, Recording } from '../recording/index.js';
import { type CommandSpec, rootOf, SCENARIO_ROOT_OPTION } from './command.js';
import { safe, wordTick } from './io.js';

/** How many numbers that differ are listed. */
const FEW = 8;
/** How many times of the drift. */
const TIMES = 6;

export const compare: CommandSpec = {
  name: 'compare',
  summary: 'Tell where two runs begin to differ, and how far they go apart.',
  args: '<run...>',
  argsDoc: 'two recordings or scenarios; or one scenario, to be run with each of two movesets',
  options: [
    ['--with <moveset...>', 'run the scenarios with these movesets, in place of the first one that they name'],
    ['--within <number>', 'numbers that differ by no more are equal (default: 0; between tick rates 0.05)'],
    SCENARIO_ROOT_OPTION,
    ['--json', 'print the comparison as JSON'],
  ],
  example:
    'loggia compare demo/boatyard/scenarios/dash-neutral.yaml --with demo/boatyard/pell.yaml --with demo/boatyard/pell-basics.yaml',
  async run(files, given, io) {
    const movesets = [given.with ?? []].flat().map(String);
    if (!(files.length === 2 && movesets.length <= 2) && !(files.length === 1 && movesets.length === 2)) {
      io.err('loggia: compare takes two runs, or one scenario and two movesets by --with.');
      return 2;
    }
    const within = given.within === undefined ? undefined : Number(given.within);
    if (within !== undefined && !(within >= 0)) {
      io.err(`loggia: --within takes a number from 0 on, not ${safe(String(given.within))}.`);
      return 2;
    }
    const runs: Recording[] = [];
    const names: string[] = [];
    for (const i of [0, 1]) {
      const file = files[i] ?? files[0];
      const moveset = movesets[i] ?? movesets[0];
      const { loadRun } = await import('./load-run.js');
      const run = await loadRun(file, moveset, rootOf(given), io);
      if (run === undefined) return 1;
      runs.push(run.recording);
      names.push(basename(files.length === 1 ? moveset : file));
    }
    if (names[0] === names[1]) names.splice(0, 2, 'the first', 'the second');
    const { compare: find } = await import('../recording/index.js');
    const { UsageError } = await import('../report/usage-error.js');
    try {
      const found = find(runs[0], runs[1], { within, names: [names[0], names[1]] });
      if (given.json) io.out(JSON.stringify(found, null, 2));
      else for (const line of tell(found, names)) io.out(safe(line));
      return found.same ? 0 : 1;
    } catch (error) {
      if (!(error instanceof UsageError)) throw error;
      io.err(safe(`loggia: ${error.message}`));
      return 1;
    }
  },
};

function tell(
  { same, from, until, rates, first, drift, furthest, common, only }: Comparison,
  [a, b]: string[],
): string[] {
  const time = (tick: number) => wordTick(tick, rates[0]);
  const span = `from ${from < 0 ? 'the start' : time(from)} to ${time(until)}${rates[0] === rates[1] ? '' : `, ${rates[0]} and ${rates[1]} ticks per second`}`;
  const names = [
    ...(only.a.length > 0 ? [`  only ${a} has ${only.a.join(', ')}`] : []),
    ...(only.b.length > 0 ? [`  only ${b} has ${only.b.join(', ')}`] : []),
  ];
  if (same || first === null) return [`no difference ${span}`, ...names];
  const told = first.differences.filter(({ kind }) => kind !== 'number');
  const numbers = first.differences.filter(({ kind }) => kind === 'number');
  const several = common.members.length > 1;
  const line = ({ of, text }: (typeof told)[number]) => `  ${several && of !== '' ? `${of}: ` : ''}${text}`;
  const every = Math.max(1, Math.ceil(drift.length / TIMES));
  return [
    `first difference at ${first.tick < 0 ? 'the start' : time(first.tick)}, compared ${span}`,
    ...told.map(line),
    ...numbers.slice(0, FEW).map(line),
    ...(numbers.length > FEW ? [`  and ${numbers.length - FEW} more numbers`] : []),
    `  the same before: ${common.ticks} ticks, ${common.events} events`,
    ...(furthest > 0
      ? [
          `  distance between them: ${drift
            .filter((_, i) => i % every === 0 || i === drift.length - 1)
            .map(({ tick, distance }) => `${Math.max(0, ...Object.values(distance)).toFixed(2)} at ${tick}f`)
            .join(', ')}; at most ${furthest.toFixed(2)}`,
        ]
      : []),
    ...names,
  ];
}
