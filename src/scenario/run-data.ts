import type { Plan } from '../compile/plan.js';
import { isPlain } from '../moveset/read.js';
import { wantObject, wantPlan } from '../report/arguments.js';
import { Sink } from '../report/diagnostic.js';
import { playersOf } from './players-of.js';
import { readScenario } from './read-scenario.js';
import { type Keep, runScenario } from './run.js';

/**
 * Runs a scenario that is data, with a moveset that is compiled; its faults are diagnostics without a place.
 * @param plan What `compileMoveset`, a file or a module gives.
 * @param scenario The same keys as in a file, without `moveset`.
 * @param keep Which ticks the trace keeps. Default `story`.
 */
export function runScenarioData(
  plan: Plan,
  scenario: unknown,
  keep: Keep = 'story',
  /** Movesets of others and of those who may be called, by what the scenario calls their files. */
  movesets: Readonly<Record<string, Plan>> = {},
) {
  wantPlan('runScenarioData', plan);
  wantObject('runScenarioData', 'the movesets', movesets);
  const sink = new Sink();
  const known = isPlain(scenario) ? { loggia: 1, moveset: plan.name, ...scenario } : scenario;
  const players = playersOf(plan, isPlain(known) ? known : {}, movesets, sink);
  const parsed = readScenario(players, known, sink);
  const result = parsed && runScenario(players, parsed, sink, keep);
  return { result, diagnostics: sink.list };
}
