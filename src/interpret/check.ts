import { withoutAllowed } from '../compile/allow.js';
import type { Advise } from '../compile/checked.js';
import { compilePlan } from '../compile/compile.js';
import { checkWhole } from '../compile/faults.js';
import { noteOrigin } from '../compile/origin.js';
import type { Tuning } from '../compile/places.js';
import type { Plan } from '../compile/plan.js';
import { checkClashes, collectNames } from '../moveset/collect-names.js';
import { placeFaults, writeOutLikes } from '../moveset/like.js';
import { isPlain, type Names, read } from '../moveset/read.js';
import { FORMAT, MOVESET, PART } from '../moveset/schema.js';
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
 * Checks a moveset whole and compiles it. It never throws for what is wrong in the moveset: every fault is a
 * diagnostic. The moveset is kept by reference and must not be changed afterwards. `advise` adds what is only unwise:
 * the loaders of `loggia/text` and `loggia/files` pass it, a game need not carry it.
 * @param given Anything; a moveset, or what JSON.parse gave.
 * @param advise Adds warnings to errors; `advise` of `loggia/analysis`. Default: no advice.
 */
export function checkMoveset(given: unknown, advise?: Advise): Compiled {
  wantFunction('checkMoveset', 'the second argument', advise);
  return checkTuned(given, advise);
}

/** The same of a moveset some of whose numbers are to be changed once it is compiled. */
export function checkTuned(given: unknown, advise?: Advise, tuning?: Tuning): Compiled {
  const sink = new Sink();
  if (!isPlain(given)) {
    sink.add('wrong-type', [], { expected: 'a moveset', found: describe(given) });
    return { diagnostics: sink.list, omitted: 0 };
  }
  if (nestsTooDeep(given)) {
    sink.add('too-deep', [], { limit: DEEPEST });
    return { diagnostics: sink.list, omitted: 0 };
  }
  if (given.loggia !== undefined && given.loggia !== FORMAT) {
    sink.add('unknown-version', ['loggia'], { value: given.loggia, known: FORMAT });
    return { diagnostics: sink.list, omitted: 0 };
  }
  if (given.include !== undefined) sink.add('include-unread', ['include'], {}, { on: 'key' });
  const rate = Number.isInteger(given.rate) && (given.rate as number) >= 10 ? (given.rate as number) : 60;
  const derived = writeOutLikes(given, sink);
  const { source } = derived;
  const names = collectNames(source);
  checkClashes(source, names, sink);
  if (source.part === true) {
    read(PART, source, [], names, rate, sink, true);
    if (!sink.failed) sink.add('is-part', ['part'], {});
    return { diagnostics: placeFaults(sink.list, derived), omitted: sink.omitted, names };
  }
  const parsed = read(MOVESET, source, [], names, rate, sink) ?? {};
  const { plan, facts } = compilePlan(parsed, names, rate, sink, interpreter(), undefined, tuning);
  noteOrigin(plan, { source: given });
  checkWhole(parsed, plan, faultyAbilities(sink.list), sink);
  const { failed, omitted } = sink;
  const told = () => placeFaults(withoutAllowed(sink.list, source), derived);
  if (failed) return { diagnostics: told(), omitted, names, factNames: plan.factNames };
  advise?.({ plan, source: source as unknown as Moveset, parsed, read: facts, sink });
  return {
    plan,
    diagnostics: told(),
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
