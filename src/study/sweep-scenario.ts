import type { Plan } from '../compile/plan.js';
import { isPlain } from '../moveset/read.js';
import { want, wantObject, wantOptions, wantPlan } from '../report/arguments.js';
import { Sink } from '../report/diagnostic.js';
import { UsageError } from '../report/usage-error.js';
import { wordPlaced } from '../report/wording.js';
import { playersOf } from '../scenario/players-of.js';
import { readScenario } from '../scenario/read-scenario.js';
import { MeasureFault } from './measure.js';
import { Sweeper, type SweepRow } from './sweep.js';
import { type Varied, VaryFault } from './vary.js';

/** What is varied in a sweep, and what is measured. */
export interface SweepOptions {
  /** A path and its values, or two: `abilities.galeDash.phases.go.move.speed=10..30/21`. */
  readonly vary: string | readonly string[];
  /** What is measured, as `loggia sweep --measure` takes it. Default `distance`. */
  readonly measure?: string | readonly string[] | undefined;
  /** Movesets of others and of those who may be called, by what the scenario calls their files. */
  readonly movesets?: Readonly<Record<string, Plan>> | undefined;
}

/** What came of a sweep. Plain data. */
export interface Sweep {
  readonly varied: readonly Varied[];
  readonly measures: readonly string[];
  /** All runs, the last varied number going first. */
  readonly rows: readonly SweepRow[];
}

/**
 * Runs a scenario again and again with other numbers, and measures each run: the same as `loggia sweep`, on one core.
 * @param plan What `compileMoveset` or a file gives; a packed moveset or a module cannot be varied.
 * @param scenario The same keys as in a file, without `moveset`.
 * @param options What is varied and what is measured.
 * @throws {UsageError} for a path that is not there, values or measures that cannot be understood, and a faulty scenario.
 */
export function sweepScenario(plan: Plan, scenario: unknown, options: SweepOptions): Sweep {
  const call = 'sweepScenario';
  wantPlan(call, plan);
  wantObject(call, 'the options', options);
  wantOptions(call, options, ['vary', 'measure', 'movesets']);
  const vary = [options.vary].flat() as string[];
  const measures = [options.measure ?? 'distance'].flat() as string[];
  const areTexts = (list: readonly unknown[]) => list.every((one) => typeof one === 'string');
  want(areTexts(vary) && vary.length >= 1 && vary.length <= 2, call, 'vary', 'one or two texts', options.vary);
  want(areTexts(measures), call, 'measure', 'texts', options.measure);
  const sink = new Sink();
  const data = isPlain(scenario) ? { loggia: 1, moveset: plan.name, ...scenario } : {};
  const players = playersOf(plan, data, options.movesets ?? {}, sink);
  readScenario(players, data, sink);
  if (sink.failed)
    throw new UsageError(`${call}: the scenario is faulty: ${sink.list.map(wordPlaced).join(' ')}`, 'out-of-range');
  try {
    const sweeper = new Sweeper({ players, data }, vary, measures);
    const rows = Array.from({ length: sweeper.count }, (_, index) => sweeper.run(index));
    return { varied: sweeper.varied, measures, rows };
  } catch (error) {
    if (!(error instanceof VaryFault) && !(error instanceof MeasureFault)) throw error;
    throw new UsageError(`${call}: ${error.message}`, 'out-of-range');
  }
}
