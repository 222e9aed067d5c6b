// One of several that run scenarios at once: it is sent a file and answers with its report.
import { parentPort, workerData } from 'node:worker_threads';
import { Movesets, runScenarioFile } from '../scenario/index.js';
import { diagnosticToJson } from './check.js';

const movesets = new Movesets();
parentPort?.on('message', async ([, file]: readonly [index: number, file: string]) => {
  const report = await runScenarioFile(file, { ...workerData, movesets });
  parentPort?.postMessage({ ...report, diagnostics: report.diagnostics.map(diagnosticToJson) });
});
