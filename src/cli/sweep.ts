import type { Sweeper, SweepRow } from '../study/sweep.js';
import { type CommandSpec, rootOf, SCENARIO_ROOT_OPTION } from './command.js';
import { type Io, refuse, safe } from './io.js';
import { presentSweep, type SweepResult } from './present-sweep.js';

/** So many runs are not worth the start of another worker. */
const FEW = 200;
/** Runs that a worker is sent at once. */
const CHUNK = 25;

export const sweep: CommandSpec = {
  name: 'sweep',
  summary: 'Run a scenario again and again with other numbers, and tell what each comes to.',
  args: '<scenario>',
  argsDoc: 'a scenario file',
  options: [
    [
      '--vary <what...>',
      'a path of the moveset or the scenario and its values: a range 10..30/21, a list 10,12, or percent; once or twice',
    ],
    [
      '--measure <what...>',
      'distance, height, damage, damagePerSecond, hits, combo; "time to landed"; "max vx"; any formula (default: distance)',
    ],
    ['--aim <goal>', 'find the value with which a measure comes to a number: "distance == 12"'],
    ['--write', 'with --aim: write the value into the file of the moveset or the scenario'],
    ['--shard <part>', 'only a part of the runs, 1/4 is the first of four; put them together by "loggia merge"'],
    ['--workers <count>', 'how many runs go at once (default: one for each core)'],
    ['--csv', 'print the table as CSV'],
    ['--json', 'print the runs as JSON, as "loggia merge" takes them'],
    ['--out <file>', 'write them to a file: .svg, .png or .html for a plot, .csv, .json'],
    SCENARIO_ROOT_OPTION,
  ],
  example:
    'loggia sweep demo/boatyard/scenarios/dash-neutral.yaml --vary abilities.galeDash.phases.go.move.speed=10..30/21',
  async run([file], given, io) {
    const vary = [given.vary ?? []].flat().map(String);
    const goal = given.aim === undefined ? undefined : /^(.+?)\s*==\s*(-?[\d.]+)$/s.exec(String(given.aim).trim());
    if (vary.length < 1 || vary.length > 2) {
      io.err('loggia sweep: --vary takes one or two paths with their values, like "pools.wind.max=10..30/5".');
      return 2;
    }
    if (goal === null || (goal !== undefined && vary.length > 1)) {
      io.err('loggia sweep: --aim takes a measure and a number, like "distance == 12", and one --vary.');
      return 2;
    }
    if (given.write && !goal) {
      io.err('loggia sweep: --write goes with --aim, which finds what is to be written.');
      return 2;
    }
    const measures = [
      ...new Set([...(goal ? [goal[1]] : []), ...[given.measure ?? (goal ? [] : ['distance'])].flat().map(String)]),
    ];
    const { root } = rootOf(given);
    const { loadSwept } = await import('./load-swept.js');
    const loaded = await loadSwept(file, vary, measures, root);
    const { sweeper, fault } = loaded;
    if (fault !== undefined) {
      io.err(`loggia sweep: ${safe(fault)}`);
      return 2;
    }
    if (!sweeper) return refuse(io, loaded.diagnostics, `loggia sweep: ${safe(file)} cannot be run; see above.`);
    const part = partOf(given.shard, sweeper.count);
    const workers = countOf(given.workers);
    if (part === undefined || workers === undefined) {
      io.err(
        part === undefined
          ? `loggia sweep: --shard takes a part like 2/4, not ${safe(String(given.shard))}.`
          : `loggia sweep: --workers takes a whole number from 1 to 64, not ${safe(String(given.workers))}.`,
      );
      return 2;
    }
    const { rows, stopped } = await runAll(sweeper, { file, vary, measures, root }, part, workers, io);
    const result: SweepResult = {
      loggia: 1,
      sweep: {
        id: loaded.id,
        scenario: loaded.scenario,
        vary: sweeper.varied.map(({ path, of, values, numbers, unit, text }) => ({
          title: `${of === 'scenario' ? 'scenario ' : ''}${text.slice(0, text.indexOf('=')).trim()}`,
          path,
          labels: values.map(String),
          numbers,
          unit,
        })),
        measures,
        count: sweeper.count,
      },
      rows,
    };
    const code = await presentSweep(result, given, loaded.files, io);
    if (stopped) {
      io.err(`loggia sweep: stopped; ${rows.length} of ${part[1] - part[0]} runs are done.`);
      return 1;
    }
    if (!goal || code !== 0) return code;
    const { aim } = await import('./aim.js');
    return aim(sweeper, rows, Number(goal[2]), goal[1], { write: given.write === true, scenario: file }, io);
  },
};

/** First and last run of a part, half open; undefined for what is no part. */
function partOf(shard: unknown, count: number): [number, number] | undefined {
  if (shard === undefined) return [0, count];
  const [, part, of] = /^(\d{1,4})\/(\d{1,4})$/.exec(String(shard)) ?? [];
  const [i, n] = [Number(part), Number(of)];
  if (!(i >= 1 && i <= n)) return undefined;
  return [Math.floor(((i - 1) * count) / n), Math.floor((i * count) / n)];
}

function countOf(workers: unknown): number | undefined {
  if (workers === undefined) return 0;
  const count = Number(workers);
  return Number.isInteger(count) && count >= 1 && count <= 64 ? count : undefined;
}

interface Task {
  readonly file: string;
  readonly vary: readonly string[];
  readonly measures: readonly string[];
  readonly root: string | undefined;
}

/** Runs a part of the grid, on all cores where that is worth it; Ctrl-C keeps what is done. */
async function runAll(
  sweeper: Sweeper,
  task: Task,
  [from, to]: readonly [number, number],
  workers: number,
  io: Io,
): Promise<{ rows: SweepRow[]; stopped: boolean }> {
  const rows: SweepRow[] = [];
  let stopped = false;
  const stop = () => {
    stopped = true;
  };
  process.once('SIGINT', stop);
  const done = (more: readonly SweepRow[]) => {
    rows.push(...more);
    io.progress(rows.length < to - from ? `${rows.length} of ${to - from} runs` : undefined);
  };
  const count = workers || (to - from < FEW ? 1 : (await import('node:os')).availableParallelism());
  try {
    if (count === 1)
      for (let index = from; index < to && !stopped; index++) {
        done([sweeper.run(index)]);
        // Now and then, so that Ctrl-C is heard.
        if (index % CHUNK === 0) await new Promise((resolve) => setImmediate(resolve));
      }
    else {
      const { shareOut } = await import('./share-out.js');
      let next = from;
      await shareOut<readonly [from: number, to: number], SweepRow[]>(
        'sweep-worker.js',
        task,
        Math.min(count, Math.ceil((to - from) / CHUNK)),
        () => {
          if (next >= to || stopped) return undefined;
          const first = next;
          next = Math.min(to, next + CHUNK);
          return [first, next];
        },
        done,
      );
    }
  } finally {
    process.off('SIGINT', stop);
    io.progress();
  }
  return { rows: rows.sort((a, b) => a.index - b.index), stopped };
}
