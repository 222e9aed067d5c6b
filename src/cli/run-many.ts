import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';
import type { Recording } from '../recording/index.js';
import { type Keep, Movesets, runScenarioFile, type ScenarioReport } from '../scenario/index.js';

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
  const work = async () => {
    // A variable, so that the build leaves the worker the file of its own that it is.
    const script = join(dirname(fileURLToPath(import.meta.url)), 'run-worker.js');
    const worker = new Worker(script, { workerData: options });
    while (next < files.length) {
      const index = next++;
      worker.postMessage(files[index]);
      finished[index] = await new Promise<ScenarioReport>((resolve, reject) => {
        worker.once('message', resolve).once('error', reject);
      });
      worker.removeAllListeners('error');
      for (let ready = finished[told]; ready; ready = finished[told]) {
        report(ready);
        finished[told++] = undefined;
      }
    }
    await worker.terminate();
  };
  await Promise.all(Array.from({ length: Math.min(workers, files.length) }, work));
}
