import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Worker } from 'node:worker_threads';

/**
 * Has several workers do tasks, each one after the other, as long as there are any.
 * @param script The worker's file, beside this one once it is built: it answers each message with one.
 * @param workerData What each worker is given at its start.
 * @param count How many there are.
 * @param next The next task; undefined once there is none left.
 * @param done Is given each answer, and what was asked.
 */
export async function shareOut<Task, Answer>(
  script: string,
  workerData: object,
  count: number,
  next: () => Task | undefined,
  done: (answer: Answer, task: Task) => void,
): Promise<void> {
  // A variable, so that the build leaves the worker the file of its own that it is.
  const file = join(dirname(fileURLToPath(import.meta.url)), script);
  const work = async () => {
    const worker = new Worker(file, { workerData });
    for (let task = next(); task !== undefined; task = next()) {
      worker.postMessage(task);
      const answer = await new Promise<Answer>((resolve, reject) => {
        worker.once('message', resolve).once('error', reject);
      });
      worker.removeAllListeners('error');
      done(answer, task);
    }
    await worker.terminate();
  };
  await Promise.all(Array.from({ length: count }, work));
}
