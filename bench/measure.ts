/*
 * Speed and memory, as ratios within one run. Times are CPU time of this process. Each measure is the median of
 * many rounds that take turns, so that a busy machine bothers both sides alike.
 */

const ROUNDS = 21;
/** Seconds for which each runs before it is measured. */
const WARM = 1.5;

export const show = (label: string, value: string, limit = '') =>
  console.log(`${label.padEnd(52)} ${value.padStart(14)}   ${limit}`);

/** Nanoseconds of CPU time per call, of `count` calls inside `run`. */
function time(run: () => void, count: number): number {
  const start = process.cpuUsage();
  run();
  const { user, system } = process.cpuUsage(start);
  return ((user + system) * 1000) / count;
}

export function median(values: number[]): number {
  return values.toSorted((a, b) => a - b)[values.length >> 1];
}

/** What is seldom done is compiled late: seconds of running, or the compiler is what is measured. */
function warmUp(run: () => void): void {
  const start = process.cpuUsage();
  for (let i = 0; i < 3 || process.cpuUsage(start).user < WARM * 1e6; i++) run();
}

/** Median times of several runs that take turns. */
export function compare(runs: readonly (() => void)[], count: number, rounds = ROUNDS): number[] {
  for (const run of runs) warmUp(run);
  const times = runs.map((): number[] => []);
  for (let i = 0; i < rounds; i++) for (let k = 0; k < runs.length; k++) times[k].push(time(runs[k], count));
  return times.map(median);
}

/** Bytes that the heap grew by over so many calls of a warm run, less what looking at the heap itself takes. */
export function allocated(run: () => void): number {
  const gc = (globalThis as { gc?: () => void }).gc;
  const grown = (work: () => void) => {
    gc?.();
    const before = process.memoryUsage().heapUsed;
    work();
    return process.memoryUsage().heapUsed - before;
  };
  // What is seldom done is compiled late, and until then boxes its numbers.
  for (let i = 0; i < 30; i++) run();
  const nothing = () => {};
  grown(nothing);
  const looking = Math.min(...Array.from({ length: 5 }, () => grown(nothing)));
  return Math.max(0, Math.min(...Array.from({ length: 5 }, () => grown(run))) - looking);
}

export function repeat(run: () => void, times: number): void {
  for (let i = 0; i < times; i++) run();
}
