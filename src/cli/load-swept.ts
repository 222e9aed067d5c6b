import type { PlacedDiagnostic } from '../format/index.js';
import { hashText } from '../record/layout.js';
import { readScenarioFile } from '../scenario/load.js';
import { MeasureFault } from '../study/measure.js';
import { Sweeper } from '../study/sweep.js';
import { VaryFault } from '../study/vary.js';

export interface LoadedSweep {
  readonly sweeper?: Sweeper;
  /** What is wrong with what was asked for, in a sentence. */
  readonly fault?: string;
  /** What is wrong with the files. */
  readonly diagnostics: readonly PlacedDiagnostic[];
  readonly files: readonly string[];
  readonly scenario: string;
  /** The same where files, what is varied and what is measured are the same: parts of a sweep with one id can be put together. */
  readonly id: number;
}

/** Reads a scenario and prepares a sweep of it. */
export async function loadSwept(
  file: string,
  vary: readonly string[],
  measures: readonly string[],
  root: string | undefined,
): Promise<LoadedSweep> {
  const { ready, report } = await readScenarioFile(file, root === undefined ? {} : { root });
  const { diagnostics, scenario } = report;
  if (!ready) return { diagnostics, files: report.files, scenario, id: 0 };
  const { files } = ready;
  try {
    const sweeper = new Sweeper({ players: ready.players, data: ready.data }, vary, measures);
    const told = JSON.stringify([
      ready.data,
      sweeper.varied.map(({ text }) => text),
      measures,
      ready.players.plan.told,
    ]);
    return {
      sweeper,
      diagnostics: [],
      files,
      scenario,
      id: hashText(told + JSON.stringify(ready.players.plan.parsed)),
    };
  } catch (error) {
    if (!(error instanceof VaryFault) && !(error instanceof MeasureFault)) throw error;
    return { fault: error.message, diagnostics: [], files, scenario, id: 0 };
  }
}
