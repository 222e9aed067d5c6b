import { originOf } from '../../src/compile/origin.js';
import type { Plan } from '../../src/compile/plan.js';
import type { Condition, Reading } from '../../src/compile/readings.js';
import type { ParsedFormula } from '../../src/moveset/formula.js';
import type { Operand } from '../../src/record/frame.js';
import type { Seen } from '../../src/recording/moment.js';
import { readingsIn, readNow } from '../../src/recording/why.js';
import { type Path, Sink } from '../../src/report/diagnostic.js';

/** A formula as it is written, and what is needed to read it for anybody. */
export interface Formula {
  readonly file: string;
  readonly line: number;
  readonly conditions: readonly Condition[] | null;
  readonly amount: { readonly amount: Operand; readonly time: boolean } | null;
  readonly reads: readonly Reading[];
}

/** Formulas by the moveset and what they are part of. */
const KNOWN = new WeakMap<Plan, Map<string, readonly Formula[]>>();

/**
 * The formulas of an ability, or of anything else that has a name. Whoever is read before they are asked for the first time may lack numbers
 * that they need: look again after it.
 */
export function formulasIn(plan: Plan, path: Path): readonly Formula[] {
  const known = KNOWN.get(plan) ?? new Map<string, readonly Formula[]>();
  KNOWN.set(plan, known);
  const key = JSON.stringify(path);
  let found = known.get(key);
  if (!found) {
    found = originOf(plan).source === undefined ? [] : gather(plan, path);
    known.set(key, found);
  }
  return found;
}

function gather(plan: Plan, path: Path): Formula[] {
  const { placeOf } = originOf(plan);
  const found: Formula[] = [];
  const visit = (value: unknown, at: Path) => {
    if (typeof value !== 'object' || value === null) return;
    const { source } = value as { source?: unknown };
    const place = typeof source === 'string' ? placeOf?.(at) : undefined;
    if (place) {
      const made = make(plan, value as ParsedFormula);
      if (made) found.push({ file: place.file, line: place.line, ...made });
    } else if (source === undefined)
      for (const [k, part] of Object.entries(value)) visit(part, [...at, Array.isArray(value) ? Number(k) : k]);
  };
  const start = path.reduce<unknown>((value, k) => (value as Record<string, unknown> | undefined)?.[k], plan.parsed);
  visit(start, path);
  return found;
}

/** A formula says by itself whether it is a condition or a number. */
function make(plan: Plan, parsed: ParsedFormula): Pick<Formula, 'conditions' | 'amount' | 'reads'> | undefined {
  const truth = new Sink();
  const conditions = plan.conditions(parsed, truth);
  if (!truth.failed) return { conditions, amount: null, reads: conditions.flatMap(({ readings }) => readings) };
  const number = new Sink();
  const amount = plan.amountOf(parsed, number);
  if (number.failed) return undefined;
  return { conditions: null, amount, reads: readingsIn(plan, String(parsed.source)) };
}

/** What a formula is now, and what it reads: `= 6 · facing 1`, `holds · vy -3.2`. */
export function wordFormula(one: Seen, { conditions, amount, reads }: Formula): string {
  const values = [...new Map(reads.map((reading) => [reading.text, reading])).values()].map(
    (reading) => `${reading.text} ${wordReading(one, reading)}`,
  );
  if (conditions) {
    // Of a fact alone, its value says whether it holds.
    if (conditions.length === 1 && reads.length === 1 && conditions[0].text === reads[0].text) return values[0];
    const failing = conditions.filter(({ test }) => !test(one.c));
    const which = conditions.length > 1 ? failing.map(({ text }) => text).join(', ') : '';
    return [failing.length === 0 ? 'holds' : which === '' ? 'does not hold' : `not: ${which}`, ...values].join(' · ');
  }
  if (!amount) return '';
  amount.amount.run?.(one.c);
  const value = one.c.r[amount.amount.at];
  return [`= ${amount.time ? `${shown(value / one.plan.rate)} s` : shown(value)}`, ...values].join(' · ');
}

/** What a fact is now, in words. */
export function wordReading(one: Seen, reading: Reading): string {
  const value = readNow(one, reading);
  return reading.type === 'time' ? `${shown(value)} s` : shown(value);
}

export function shown(value: number | boolean): string {
  return typeof value === 'number' ? String(Math.round(value * 1000) / 1000) : String(value);
}
