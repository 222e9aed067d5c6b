import { withoutAllowed } from '../compile/allow.js';
import type { Advise } from '../compile/checked.js';
import { compilePlan } from '../compile/compile.js';
import { checkWhole } from '../compile/faults.js';
import type { Plan } from '../compile/plan.js';
import { checkClashes, collectNames } from '../moveset/collect-names.js';
import { isPlain, type Names, type Parsed, read } from '../moveset/read.js';
import { FORMAT, MOVESET } from '../moveset/schema.js';
import type { Moveset } from '../moveset/types.js';
import { wantFunction } from '../report/arguments.js';
import { type Diagnostic, Sink } from '../report/diagnostic.js';
import { DEEPEST, nestsTooDeep } from '../report/nesting.js';
import { describe } from '../report/words.js';
import { interpreter } from './interpreter.js';

/** The compiled moveset, unless there are errors; and everything that was found, in no certain order. */
export interface Compiled {
  readonly plan?: Plan;
  readonly diagnostics: readonly Diagnostic[];
  /** The names it declares, also where there are errors; undefined for what is no moveset at all. */
  readonly names?: Names;
  /** Every fact that its formulas can read, also where there are errors. */
  readonly factNames?: () => readonly string[];
  /** How many more diagnostics there are than are listed: of a thousand, all are. */
  readonly omitted: number;
}

/**
 * Checks a moveset whole and compiles it. It never throws for what is wrong in the moveset: every
 * fault is a diagnostic. The moveset is kept by reference and must not be changed afterwards.
 * `advise` adds what is only unwise: the loaders of `loggia/text` and `loggia/files` pass it, a game need not carry it.
 */
export function checkMoveset(source: unknown, advise?: Advise): Compiled {
  wantFunction('checkMoveset', 'the second argument', advise);
  const sink = new Sink();
  if (!isPlain(source)) {
    sink.add('wrong-type', [], { expected: 'a moveset', found: describe(source) });
    return { diagnostics: sink.list, omitted: 0 };
  }
  if (nestsTooDeep(source)) {
    sink.add('too-deep', [], { limit: DEEPEST });
    return { diagnostics: sink.list, omitted: 0 };
  }
  if (source.loggia !== undefined && source.loggia !== FORMAT) {
    sink.add('unknown-version', ['loggia'], { value: source.loggia, known: FORMAT });
    return { diagnostics: sink.list, omitted: 0 };
  }
  if (source.include !== undefined) sink.add('include-unread', ['include'], {}, { on: 'key' });
  const rate = Number.isInteger(source.rate) && (source.rate as number) >= 10 ? (source.rate as number) : 60;
  const names = collectNames(source);
  checkClashes(source, names, sink);
  const parsed = read(MOVESET, source, [], names, rate, sink) as Parsed;
  const { plan, facts } = compilePlan(parsed, names, rate, sink, interpreter());
  checkWhole(parsed, plan, faultyAbilities(sink.list), sink);
  const { failed, omitted } = sink;
  if (failed) return { diagnostics: withoutAllowed(sink.list, source), omitted, names, factNames: plan.factNames };
  advise?.({ plan, source: source as unknown as Moveset, parsed, read: facts, sink });
  return {
    plan,
    diagnostics: withoutAllowed(sink.list, source),
    omitted: sink.omitted,
    names,
    factNames: plan.factNames,
  };
}

/** Abilities in which something is wrong already: what is missing in them may only be what could not be read. */
function faultyAbilities(list: readonly Diagnostic[]): ReadonlySet<string | number> {
  return new Set(
    list.flatMap(({ severity, path }) => (severity === 'error' && path[0] === 'abilities' ? path[1] : [])),
  );
}
