import type { AbilityPlan, Plan } from '../compile/plan.js';
import { Rows } from '../record/rows.js';
import type { Reason, ReasonFact } from '../report/reasons.js';
import type { Actor } from './actor.js';
import { REASON, type ReasonRows } from './reason-rows.js';

/** Writes what the failed conditions among the rows from `from` on read, as it is now. */
export function addReadings(c: Actor, a: AbilityPlan, rows: ReasonRows, from: number): void {
  const to = rows.count;
  for (let i = from; i < to; i++) {
    if (rows.data[i * Rows.WIDTH] !== REASON.when) continue;
    const which = rows.data[i * Rows.WIDTH + 1];
    const { readings } = a.when[which];
    for (let k = 0; k < readings.length; k++) {
      const { run, at } = readings[k];
      run?.(c);
      const row = rows.add(REASON.reading, which, k);
      rows.data[row + 3] = c.r[at];
    }
  }
}

/** Rows as data that anyone may keep. */
export function decodeReasons(plan: Plan, a: AbilityPlan, rows: ReasonRows, from: number, to: number): Reason[] {
  const reasons: Reason[] = [];
  for (let i = from; i < to; i++)
    if (rows.data[i * Rows.WIDTH] !== REASON.reading) reasons.push(decodeRow(plan, a, rows, i, from, to));
  return reasons;
}

function decodeRow(plan: Plan, a: AbilityPlan, rows: ReasonRows, index: number, from: number, to: number): Reason {
  const { data } = rows;
  const row = index * Rows.WIDTH;
  const what = data[row + 1];
  const have = data[row + 2];
  const need = data[row + 3];
  const { names } = plan;
  switch (data[row]) {
    case REASON.running:
      return { code: 'running' };
    case REASON.busy:
      return { code: 'busy', by: names.ability[what], phase: have < 0 ? null : plan.phases[have].name };
    case REASON.contested:
      return { code: 'contested', by: names.ability[what] };
    case REASON.from:
      return { code: 'from', stance: names.stance[what], allowed: a.fromNames };
    case REASON.follows:
      return { code: 'follows', allowed: (a.follows ?? []).map(({ ability }) => names.ability[ability]) };
    case REASON.barred:
      return { code: 'barred', by: names.ability[what] };
    case REASON.cooldown:
      return { code: 'cooldown', left: have < 0 ? null : have / plan.rate };
    case REASON.charges:
      return { code: 'charges', left: have < 0 ? null : have / plan.rate };
    case REASON.pool:
      return { code: 'pool', pool: names.pool[what], have, need };
    case REASON.locked:
      return { code: 'locked' };
    case REASON.loadout:
      return { code: 'loadout', worn: names.loadout[what] ?? null };
    case REASON.restart:
      return { code: 'restart', pool: names.pool[what], have, need };
    case REASON.cost:
      return { code: 'cost', pool: names.pool[what] };
    default:
      return { code: 'when', text: a.when[what].text, facts: decodeFacts(plan, a, what, rows, from, to) };
  }
}

function decodeFacts(
  plan: Plan,
  a: AbilityPlan,
  which: number,
  { data }: ReasonRows,
  from: number,
  to: number,
): ReasonFact[] {
  const facts: ReasonFact[] = [];
  for (let row = from * Rows.WIDTH; row < to * Rows.WIDTH; row += Rows.WIDTH) {
    if (data[row] !== REASON.reading || data[row + 1] !== which) continue;
    const { text, type } = a.when[which].readings[data[row + 2]];
    const value = data[row + 3];
    facts.push({ text, value: type === 'truth' ? value === 1 : type === 'time' ? value / plan.rate : value });
  }
  return facts;
}
