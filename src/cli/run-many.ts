import type { Recording } from '../recording/index.js';
import { type Keep, Movesets, runScenarioFile, type ScenarioReport } from '../scenario/index.js';
import { shareOut } from './share-out.js';

export interface ManyOptions {
  keep: Keep;
  root?: string;
  /** Is given the recording of a run in this process. */
  record?: (recording: Recording) => void;
  /** How many processes run at once; one runs in this process. */
  workers: number;
}

/** Runs scenarios and passes on their reports in the order of the files. */
export async function runMany(
  files: readonly string[],
  { workers, ...options }: ManyOptions,
  report: (report: ScenarioReport) => void,
): Promise<void> {
  if (workers === 1 || files.length === 1) {
    const movesets = new Movesets();
    for (const file of files) report(await runScenarioFile(file, { ...options, movesets }));
    return;
  }
  const finished: (ScenarioReport | undefined)[] = files.map(() => undefined);
  let next = 0;
  let told = 0;
  await shareOut<readonly [index: number, file: string], ScenarioReport>(
    'run-worker.js',
    options,
    Math.min(workers, files.length),
    () => (next < files.length ? [next, files[next++]] : undefined),
    (answer, [index]) => {
      finished[index] = answer;
      for (let ready = finished[told]; ready; ready = finished[told]) {
        report(ready);
        finished[told++] = undefined;
      }
    },
  );
}
