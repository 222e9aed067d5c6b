import type { Plan } from '../compile/plan.js';
import type { Condition } from '../compile/readings.js';
import { read } from '../moveset/read.js';
import { condition } from '../moveset/shape.js';
import { want, wantOptions, wantText } from '../report/arguments.js';
import { Sink } from '../report/diagnostic.js';
import type { LoggiaEvent } from '../report/events.js';
import { indexOfName, UsageError } from '../report/usage-error.js';
import { wordDiagnostic } from '../report/wording.js';
import type { Moment, Seen, SeenMember } from './moment.js';
import type { Run } from './run.js';

/** What is looked for in a recording; of several words, all must be so in the same tick. */
export interface Sought {
  /** A formula holds after the tick, as formulas are in a moveset: `vy > 0 and running(galeDash)`. */
  holds?: string | undefined;
  /** An ability runs after the tick. */
  running?: string | undefined;
  /** An ability starts. */
  started?: string | undefined;
  /** An ability ends. */
  ended?: string | undefined;
  /** A request for an ability is refused. */
  refused?: string | undefined;
  /** Something of this kind happens: `landed`, `stance`, `received`, ... */
  event?: LoggiaEvent['kind'] | undefined;
  /** Of whom it is asked. Default: the first member. */
  of?: string | undefined;
}

const WORDS = ['holds', 'running', 'started', 'ended', 'refused', 'event', 'of'] as const;

/** What is looked through: a recording. */
export interface Searched {
  readonly run: Run;
  forEach(look: (then: Moment) => void): void;
}

export function findTicks(recording: Searched, sought: string | Sought): number[] {
  const asked: Sought = typeof sought === 'string' ? { holds: sought } : sought;
  wantOptions('find', asked, WORDS);
  want(typeof asked === 'object' && asked !== null, 'find', 'its argument', 'a formula, or what is sought', sought);
  for (const word of WORDS) if (asked[word] !== undefined) wantText('find', word, asked[word]);
  if (!WORDS.some((word) => word !== 'of' && asked[word] !== undefined))
    throw new UsageError(
      'find: say what is sought: a formula, or "started", "refused", "event" and the like.',
      'missing',
    );
  const looks = new Map<Plan, (one: SeenMember) => boolean>();
  const { plans } = recording.run;
  // Before anybody is read: a formula may need numbers of its own.
  for (const plan of plans) {
    const look = lookFor(plan, asked);
    if (look) looks.set(plan, look);
  }
  if (looks.size === 0) throw unknown(plans, asked);
  const found: number[] = [];
  recording.forEach((then) => {
    const one = ofMember(then, asked.of);
    if (one && looks.get(one.plan)?.(one)) found.push(then.tick);
  });
  return found;
}

function ofMember({ members, departed }: Moment, name: string | undefined): SeenMember | undefined {
  if (name === undefined) return members[0] ?? departed[0];
  return members.find((one) => one.name === name) ?? departed.find((one) => one.name === name);
}

/** How somebody with a moveset is looked at; undefined where it does not have what is asked for. */
function lookFor(plan: Plan, asked: Sought): ((one: SeenMember) => boolean) | undefined {
  const { running, started, ended, refused, event, holds } = asked;
  const has = (name: string | undefined) => name === undefined || plan.indexes.ability.has(name);
  if (![running, started, ended, refused].every(has)) return undefined;
  const conditions = holds === undefined ? [] : compileCondition(plan, holds);
  if (typeof conditions === 'string') return undefined;
  const happens = [
    ...(started === undefined ? [] : [(e: LoggiaEvent) => e.kind === 'started' && e.ability === started]),
    ...(ended === undefined ? [] : [(e: LoggiaEvent) => e.kind === 'ended' && e.ability === ended]),
    ...(refused === undefined ? [] : [(e: LoggiaEvent) => e.kind === 'refused' && e.ability === refused]),
    ...(event === undefined ? [] : [(e: LoggiaEvent) => e.kind === event]),
  ];
  return (one) => {
    if (running !== undefined && !one.readout.isRunning(running)) return false;
    if (happens.length > 0) {
      const { events } = one.readout;
      if (!happens.every((test) => events.some(test))) return false;
    }
    return conditions.every(({ test }) => test((one as Seen).c));
  };
}

/** A formula as conditions, or what is wrong with it. */
export function compileCondition(plan: Plan, text: string): Condition[] | string {
  const sink = new Sink();
  const parsed = read(condition(), text, [], plan.names, plan.rate, sink);
  const conditions = parsed ? plan.conditions(parsed, sink) : [];
  return sink.failed ? sink.list.map(wordDiagnostic).join(' ') : conditions;
}

/** None of the movesets has what is asked for. */
function unknown(plans: readonly Plan[], asked: Sought): UsageError {
  const [plan] = plans;
  if (!plan) return new UsageError('find: nobody is on this recording.', 'missing');
  for (const word of ['running', 'started', 'ended', 'refused'] as const) {
    const name = asked[word];
    if (name !== undefined && !plan.indexes.ability.has(name))
      try {
        indexOfName('find', 'ability', name, plan.names.ability, plan.code);
      } catch (error) {
        return error as UsageError;
      }
  }
  const why = compileCondition(plan, asked.holds ?? 'true');
  return new UsageError(`find: ${JSON.stringify(asked.holds)} is no condition here: ${String(why)}`, 'out-of-range');
}
