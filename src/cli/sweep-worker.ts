// One of several that sweep a scenario at once: it is sent runs by their places in the grid, and answers with what was measured.
import { parentPort, workerData } from 'node:worker_threads';
import { loadSwept } from './load-swept.js';

const { file, vary, measures, root } = workerData;
const loaded = await loadSwept(file, vary, measures, root);
parentPort?.on('message', ([from, to]: [number, number]) => {
  const rows = [];
  for (let index = from; index < to && loaded.sweeper; index++) rows.push(loaded.sweeper.run(index));
  parentPort?.postMessage(rows);
});
