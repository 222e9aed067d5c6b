import { dirname, isAbsolute, join } from 'node:path';
import type { Plan } from '../compile/plan.js';
import { loadMoveset, type PlacedDiagnostic } from '../format/index.js';
import { readText } from '../format/read-text.js';
import { place } from '../format/text.js';
import { YamlFile } from '../format/yaml-file.js';
import { isPlain, noNames, read } from '../moveset/read.js';
import { Sink } from '../report/diagnostic.js';
import { type RunResult, runScenario } from './run.js';
import { SCENARIO } from './shape.js';

/** A scenario that was read and, unless there were faults, run. */
export interface ScenarioReport {
  readonly file: string;
  /** Its sentence. */
  readonly scenario: string;
  readonly plan?: Plan;
  readonly result?: RunResult;
  /** Faults of the scenario's file or of the moveset's. */
  readonly diagnostics: readonly PlacedDiagnostic[];
  /** For each expectation, its line in the file. */
  readonly lines: readonly number[];
}

/** Reads a scenario file and its moveset, and runs it. Never throws for what is wrong with the files. */
export async function loadAndRun(file: string): Promise<ScenarioReport> {
  const text = readText(file);
  if ('fault' in text) return { file, scenario: '', diagnostics: [text.fault], lines: [] };
  const source = new YamlFile(text.text, file, 'begin with "loggia: 1" and a scenario');
  const data = source.data;
  if (!isPlain(data) || typeof data.moveset !== 'string') {
    const sink = new Sink();
    if (source.diagnostics.length === 0) read(SCENARIO, data, [], noNames(), 60, sink);
    source.add(sink.list);
    return { file, scenario: '', diagnostics: place(source), lines: [] };
  }
  const scenario = typeof data.scenario === 'string' ? data.scenario : '';
  const { plan, diagnostics } = await loadMoveset(
    isAbsolute(data.moveset) ? data.moveset : join(dirname(file), data.moveset),
  );
  if (!plan) return { file, scenario, diagnostics, lines: [] };

  const sink = new Sink();
  const parsed = read(SCENARIO, data, [], plan.names, plan.rate, sink) as Record<string, unknown>;
  const result = sink.failed ? undefined : runScenario(plan, parsed, sink);
  source.add(sink.list);
  const lines = Array.isArray(data.expect)
    ? data.expect.map((_, i) => source.position(source.rangeAt(['expect', i])[0]).line)
    : [];
  return { file, scenario, plan, result, diagnostics: place(source), lines };
}
