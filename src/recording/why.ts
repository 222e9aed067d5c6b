import { indexOf } from '../character/names.js';
import { originOf, type TextPlace } from '../compile/origin.js';
import type { Plan } from '../compile/plan.js';
import type { Reading } from '../compile/readings.js';
import type { Path } from '../report/diagnostic.js';
import { mainReason, type Reason, wordReason, wordRefusal } from '../report/reasons.js';
import { wordPath } from '../report/wording.js';
import type { Moment, Seen } from './moment.js';

/** Something that a reason rests on, and what it was then. */
export interface OperandThen {
  readonly text: string;
  readonly value: number | boolean;
}

/** One reason, and where the moveset says it. */
export interface WhyReason {
  /** As data. */
  readonly reason: Reason;
  /** The same in words. */
  readonly text: string;
  /** What of the moveset says it, like `abilities.galeDash.cost.wind`. */
  readonly path: string;
  /** Where that is written, if the moveset comes from files. */
  readonly place?: TextPlace;
  /** That line. */
  readonly line?: string;
  /** What it rests on, as it was then. */
  readonly operands: readonly OperandThen[];
}

/** Why an ability did not start in a tick, or could not have. */
export interface Why {
  /** Which tick. */
  readonly tick: number;
  /** Which ability. */
  readonly ability: string;
  /** It was requested in that tick and refused: the reasons are those of then. Else it is asked as if it were requested after the tick. */
  readonly refused: boolean;
  /** Whether nothing stood against it. */
  readonly may: boolean;
  /** The one reason to show where there is room for one. */
  readonly main: Reason | null;
  /** All of them. */
  readonly reasons: readonly WhyReason[];
  /** All of it as a sentence. */
  readonly text: string;
}

/** `look` shows the tick. */
export function whyNot(look: () => Moment, ability: string, of: string | undefined): Why {
  const { plan } = look().of(of);
  const index = indexOf(plan, 'why', 'ability', ability);
  // What formulas read is asked for before anybody is read: it may need numbers of its own.
  for (const path of [['when'], ['cost'], ['upkeep'], ['cooldown'], ['charges']])
    for (const at of pathsUnder(plan, ['abilities', ability, ...path])) readingsAt(plan, at);
  const then = look();
  const one = then.of(of) as Seen;
  const event = one.refusals.find((refusal) => refusal.ability === ability);
  const reasons = event ? event.reasons : one.explain(ability).reasons;
  return {
    tick: then.tick,
    ability,
    refused: event !== undefined,
    may: reasons.length === 0,
    main: mainReason(reasons),
    reasons: reasons.map((reason) => explain(one, index, reason)),
    text: wordRefusal(ability, reasons),
  };
}

function explain(one: Seen, ability: number, reason: Reason): WhyReason {
  const { plan } = one;
  const path = pathOf(plan, ability, reason);
  const { placeOf, files = [], texts = [] } = originOf(plan);
  const place = placeOf?.(path);
  const line = place && texts[files.indexOf(place.file)]?.split('\n')[place.line - 1]?.trim();
  return {
    reason,
    text: wordReason(reason),
    path: wordPath(path),
    ...(place && { place }),
    ...(line !== undefined && { line }),
    operands: operandsOf(one, path, reason),
  };
}

/** What of a moveset says a reason. */
function pathOf(plan: Plan, ability: number, reason: Reason): Path {
  const { name } = plan.abilities[ability];
  const own = (...keys: Path): Path => ['abilities', name, ...keys];
  switch (reason.code) {
    case 'busy':
      return scopeOf(plan, reason.by, 'open', (of) => reason.phase === null || of === reason.phase, true);
    case 'barred':
      return scopeOf(plan, reason.by, 'bars', (_, scope) => scope.bars?.[ability] === 1, false);
    case 'outranked':
      return ['abilities', reason.by];
    case 'loadout':
      return reason.active === null ? own() : ['loadouts', reason.active];
    case 'locked':
      return own('locked');
    case 'running':
      return own('open');
    case 'pool':
      return own(
        plan.abilities[ability].costs.some(({ pool }) => plan.names.pool[pool] === reason.pool) ? 'cost' : 'upkeep',
        reason.pool,
      );
    case 'restart':
      return own('upkeep', reason.pool);
    case 'cost':
      return own('cost', reason.pool);
    case 'room':
    case 'target':
      return own('warp');
    case 'when': {
      // A formula joined by "and" is several conditions.
      const given = valueAt(plan, own('when'));
      const at = Array.isArray(given)
        ? given.findIndex((one: { source?: unknown } | undefined) => String(one?.source).includes(reason.text))
        : -1;
      return at >= 0 && (given as unknown[]).length > 1 ? own('when', at) : own('when');
    }
    default:
      return own(reason.code);
  }
}

/** The ability or the phase of it that says a word. */
function scopeOf(
  plan: Plan,
  name: string,
  key: 'open' | 'bars',
  isIt: (phase: string, scope: Plan['phases'][number]['scope']) => boolean,
  phasesOnly: boolean,
): Path {
  const a = plan.abilities[plan.indexes.ability.get(name) ?? -1];
  if (!a) return ['abilities', name];
  if (!phasesOnly && isIt('', a.scope)) return ['abilities', name, key];
  for (let i = a.firstPhase; i >= 0 && plan.phases[i]?.ability === a.index; i++)
    if (isIt(plan.phases[i].name, plan.phases[i].scope)) return ['abilities', name, 'phases', i - a.firstPhase, key];
  return ['abilities', name, key];
}

/** What the reason itself tells, and what the formula reads that it comes from. */
function operandsOf(one: Seen, path: Path, reason: Reason): OperandThen[] {
  const told: OperandThen[] =
    reason.code === 'when'
      ? reason.facts.map(({ text, value }) => ({ text, value }))
      : reason.code === 'pool' || reason.code === 'restart'
        ? [{ text: `pool.${reason.pool}`, value: reason.have }]
        : [];
  for (const reading of readingsAt(one.plan, path)) {
    const { text } = reading;
    if (!told.some((known) => known.text === text)) told.push({ text, value: readNow(one, reading) });
  }
  return told;
}

/** What the formula at a path reads. */
function readingsAt(plan: Plan, path: Path): Reading[] {
  return readingsIn(plan, formulaAt(plan, path));
}

/** @internal A fact as it is written in a formula. */
export const FACT = /[A-Za-z_][\w.]*(?:\([\w.]*\))?/g;

/** @internal What a formula reads, each once. */
export function readingsIn(plan: Plan, formula: string): Reading[] {
  return [...new Set(formula.match(FACT) ?? [])].flatMap((name) => plan.reading(name) ?? []);
}

/** @internal What a fact is for somebody; a time in seconds. */
export function readNow(one: Seen, { type, run, at }: Reading): number | boolean {
  run?.(one.c);
  const value = one.c.r[at];
  return type === 'truth' ? value === 1 : type === 'time' ? value / one.plan.rate : value;
}

/** A path, and those of its parts. */
function pathsUnder(plan: Plan, path: Path): Path[] {
  const at = valueAt(plan, path);
  if (typeof at !== 'object' || at === null || 'source' in at) return [path];
  return [path, ...Object.keys(at).map((key) => [...path, Array.isArray(at) ? Number(key) : key])];
}

/** The text of a formula at a path, or nothing: a module has none. */
function formulaAt(plan: Plan, path: Path): string {
  const { source } = (valueAt(plan, path) ?? {}) as { source?: unknown };
  return typeof source === 'string' ? source : '';
}

function valueAt(plan: Plan, path: Path): unknown {
  if (originOf(plan).source === undefined) return undefined;
  return path.reduce<unknown>(
    (value, key) => (value as Record<string | number, unknown> | undefined)?.[key],
    plan.parsed,
  );
}
