import { originOf } from '../compile/origin.js';
import type { Tuning } from '../compile/places.js';
import type { Plan } from '../compile/plan.js';
import { checkTuned } from '../interpret/check.js';
import { type Path, Sink } from '../report/diagnostic.js';
import { wordDiagnostic, wordPlaced } from '../report/wording.js';
import type { Players } from '../scenario/players.js';
import { readScenario } from '../scenario/read-scenario.js';
import { type Prepared, playThrough, prepareRun } from '../scenario/run.js';
import { type Measure, makeMeasure } from './measure.js';
import { readVaried, type Varied, VaryFault, withValue } from './vary.js';

/** A scenario whose runs are swept: who takes part, and its text as data. */
export interface Swept {
  readonly players: Players;
  readonly data: Readonly<Record<string, unknown>>;
}

/** One run of a sweep. Plain data. */
export interface SweepRow {
  /** Its place in the grid: the last varied number goes first. */
  readonly index: number;
  /** What each varied number was. */
  readonly values: readonly (number | string)[];
  /** What was measured, in the order in which it was asked for; null where what is waited for has not come. */
  readonly measured: readonly (number | null)[];
  /** Why nothing ran, if nothing did. */
  readonly fault?: string;
}

/** From so many runs on, it is worth while to see what can be tuned. */
const WORTH = 16;
/** How many compiled movesets and read scenarios are kept. */
const KEPT = 64;
/** Most runs of one sweep. */
export const MOST_RUNS = 1_000_000;

/**
 * Runs a scenario again and again with other numbers, and measures each run. A number of the moveset that stands where a formula could is changed in the
 * compiled moveset, which is checked against compiling it anew; others are compiled anew.
 */
export class Sweeper {
  readonly varied: readonly Varied[];
  /** How many runs there are. */
  readonly count: number;
  private readonly source: unknown;
  private readonly plans = new Map<string, Made>();
  private readonly scenarios = new Map<string, Prepared>();
  /** By what is varied: whether its numbers are changed in what is compiled. */
  private tuned: readonly boolean[] = [];

  /**
   * @param swept The scenario.
   * @param vary What is varied, as {@link readVaried} takes it: one or two.
   * @param measures What is measured, as `makeMeasure` takes it.
   * @throws {VaryFault} and {MeasureFault} for what cannot be understood.
   */
  constructor(
    private readonly swept: Swept,
    vary: readonly string[],
    readonly measures: readonly string[],
  ) {
    const { source } = originOf(swept.players.plan);
    if (source === undefined)
      throw new VaryFault('The moveset of this scenario is packed; vary the one that it was packed from.');
    this.source = source;
    this.varied = vary.map((text) => readVaried(text, source, swept.data));
    this.count = this.varied.reduce((product, { values }) => product * values.length, 1);
    if (this.count > MOST_RUNS) throw new VaryFault(`These are ${this.count} runs; a sweep has at most ${MOST_RUNS}.`);
    // What cannot be measured is a fault before anything runs.
    for (const measure of measures) makeMeasure(measure, swept.players.plan);
    this.tuned = this.findTuned();
  }

  /** The moveset as it is. */
  get plan(): Plan {
    return this.swept.players.plan;
  }

  /** What each varied number is in a run. */
  valuesAt(index: number): (number | string)[] {
    let rest = index;
    return this.varied
      .toReversed()
      .map(({ values }) => {
        const value = values[rest % values.length];
        rest = Math.floor(rest / values.length);
        return value;
      })
      .reverse();
  }

  /** One run of the grid. */
  run(index: number): SweepRow {
    return { index, ...this.runWith(this.valuesAt(index)) };
  }

  /** A run with any values. */
  runWith(values: readonly (number | string)[]): Omit<SweepRow, 'index'> {
    return this.runWhere(values, this.tuned);
  }

  private runWhere(values: readonly (number | string)[], tuned: readonly boolean[]): Omit<SweepRow, 'index'> {
    const made = this.made(values, tuned);
    if (typeof made === 'string') return { values, measured: this.measures.map(() => null), fault: made };
    for (const [i, { path }] of this.varied.entries()) {
      const value = values[i];
      for (const place of tuned[i] ? (made.tuning.get(keyOf(path)) ?? []) : []) {
        // What its place does not allow is a fault, which compiling it tells.
        if (typeof value !== 'number' || value < place.min || value > place.max)
          return this.runWhere(
            values,
            this.varied.map(() => false),
          );
        place.value = value;
      }
    }
    return this.play(values, made.plan, made.measures);
  }

  private play(
    values: readonly (number | string)[],
    plan: Plan,
    measures: readonly Measure[],
  ): Omit<SweepRow, 'index'> {
    const nothing = (fault: string) => ({ values, measured: this.measures.map(() => null), fault });
    const prepared = this.prepared(values, plan);
    if (typeof prepared === 'string') return nothing(prepared);
    const sink = new Sink();
    const arena = playThrough(prepared, sink, {
      begin: (arena) => {
        for (const measure of measures) measure.begin?.(arena);
      },
      look: (arena, tick) => {
        for (const measure of measures) measure.look(arena, tick);
      },
    });
    if (!arena) return nothing(sink.list.map(wordDiagnostic).join(' '));
    return { values, measured: measures.map((measure) => measure.value()) };
  }

  /** The plan of some values, with what measures its runs; whatever is tuned in it is set afterwards. */
  private made(values: readonly (number | string)[], tuned: readonly boolean[]): Made {
    const own = this.varied.flatMap(({ of }, i) => (of === 'moveset' ? (tuned[i] ? ['tuned'] : [values[i]]) : []));
    const key = JSON.stringify(own);
    const known = this.plans.get(key);
    if (known) return known;
    const tuning: Tuning = new Map(this.varied.flatMap(({ path }, i) => (tuned[i] ? [[keyOf(path), []]] : [])));
    let made: Made;
    if (own.length === 0) made = this.measuring(this.swept.players.plan, tuning);
    else {
      const source = this.varied.reduce(
        (data, { of, path }, i) => (of === 'moveset' && !tuned[i] ? withValue(data, path, values[i]) : data),
        this.source,
      );
      const { plan, diagnostics } = checkTuned(source, undefined, tuning);
      const faults = diagnostics.filter(({ severity }) => severity === 'error');
      made = plan ? this.measuring(plan, tuning) : faults.map(wordPlaced).join(' ');
    }
    if (this.plans.size >= KEPT) this.plans.delete(this.plans.keys().next().value as string);
    this.plans.set(key, made);
    return made;
  }

  private measuring(plan: Plan, tuning: Tuning): Exclude<Made, string> {
    return { plan, measures: this.measures.map((text) => makeMeasure(text, plan)), tuning };
  }

  /** The scenario of some values, with everybody who has the moveset of the first character having this one. */
  private prepared(values: readonly (number | string)[], plan: Plan): Prepared | string {
    const { players, data } = this.swept;
    const now = playersWith(players, plan);
    const own = this.varied.flatMap(({ of }, i) => (of === 'scenario' ? values[i] : []));
    // Times of a scenario are ticks of its moveset.
    const key = JSON.stringify([plan.rate, ...own]);
    const known = this.scenarios.get(key);
    if (known) return { ...known, players: now };
    const changed = this.varied.reduce<unknown>(
      (all, { of, path }, i) => (of === 'scenario' ? withValue(all, path, values[i]) : all),
      data,
    );
    const sink = new Sink();
    const parsed = readScenario(now, changed, sink);
    const prepared = parsed && prepareRun(now, parsed, sink);
    if (!prepared)
      return sink.list
        .filter(({ severity }) => severity === 'error')
        .map(wordPlaced)
        .join(' ');
    if (this.scenarios.size >= KEPT) this.scenarios.delete(this.scenarios.keys().next().value as string);
    this.scenarios.set(key, prepared);
    return prepared;
  }

  /** Which numbers can be changed in what is compiled: those that have a place there, if three runs of the grid come to the same as compiled anew. */
  private findTuned(): boolean[] {
    const none = this.varied.map(() => false);
    // What is like another part has its numbers in several places.
    if (this.count < WORTH || /"like":/.test(JSON.stringify(this.source))) return none;
    const asked = this.varied.map(({ of }) => of === 'moveset');
    const made = this.made(this.valuesAt(0), asked);
    if (typeof made === 'string') return none;
    const tuned = this.varied.map(({ path }, i) => asked[i] && (made.tuning.get(keyOf(path)) ?? []).length > 0);
    const isEqual = [0, this.count >> 1, this.count - 1].every((index) => {
      const values = this.valuesAt(index);
      return JSON.stringify(this.runWhere(values, tuned)) === JSON.stringify(this.runWhere(values, none));
    });
    return isEqual ? tuned : none;
  }
}

function keyOf(path: Path): string {
  return JSON.stringify(path);
}

/** What a moveset came to, or why it cannot be compiled. */
type Made = { readonly plan: Plan; readonly measures: readonly Measure[]; readonly tuning: Tuning } | string;

function playersWith(players: Players, plan: Plan): Players {
  const { plan: old } = players;
  const now = (one: Plan) => (one === old ? plan : one);
  return {
    ...players,
    plan,
    others: new Map([...players.others].map(([name, one]) => [name, now(one)])),
    summons: Object.fromEntries(Object.entries(players.summons).map(([name, one]) => [name, now(one)])),
  };
}
