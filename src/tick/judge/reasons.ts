import type { AbilityPlan, Plan } from '../../compile/plan.js';
import { FIRST, Rows, SECOND, WHAT } from '../../record/rows.js';
import {
  C_READY,
  C_WAITING,
  L_ABILITY,
  L_PHASE,
  LANE,
  LOADOUT,
  N_REFILL,
  P_MIN,
  STANCE,
  T,
} from '../../record/slots.js';
import type { Reason, ReasonFact } from '../../report/reasons.js';
import type { Actor } from '../actor.js';
import {
  AGAINST,
  ANY_COST,
  ANY_UPKEEP,
  ANY_WHEN,
  bitOf,
  COST_BIT,
  COST_BITS,
  UPKEEP_BIT,
  UPKEEP_BITS,
  WHEN_BIT,
  WHEN_BITS,
} from './against.js';
import { bars, isShort, lacksCost, lacksUpkeep, outranking } from './judge.js';

/**
 * The same as long as a request is refused for the same reasons, whatever their amounts: the bits, and where they mean
 * one of several, which.
 */
export function signatureOf({ r }: Actor, { laneAt }: AbilityPlan, against: number): number {
  let sign = against;
  if (against & (AGAINST.busy | AGAINST.outranked)) sign = (Math.imul(sign, 31) + r[laneAt + L_ABILITY]) | 0;
  if (against & AGAINST.from) sign = (Math.imul(sign, 31) + r[STANCE]) | 0;
  // 0 stands for none.
  return (sign << 1) | 1;
}

/**
 * Whether these reasons may be others at the end of the tick: the body moves after they were judged, and blows take from pools.
 * All else of a character stays as it is until its next tick, once its requests are judged.
 */
export function isFleeting(plan: Plan, { costs }: AbilityPlan, against: number): boolean {
  if (against & ANY_WHEN) return true;
  if (plan.combatAt >= 0 && against & (ANY_COST | ANY_UPKEEP)) return true;
  if (against & ANY_COST) for (let i = 0; i < costs.length; i++) if (!costs[i].amount.constant) return true;
  return false;
}

/** What stands in a row of a reason, and where it is read from. */
interface Row {
  readonly plan: Plan;
  readonly a: AbilityPlan;
  readonly what: number;
  readonly have: number;
  readonly need: number;
  /** All rows, and which of them belong to the refusal. */
  readonly rows: Rows;
  readonly from: number;
  readonly to: number;
}

type Write = (c: Actor, a: AbilityPlan, rows: Rows, against: number) => void;

/** Writes what stands against a request as rows of numbers, with the amounts as they are now: kind, what, have, need. */
export function writeReasons(c: Actor, a: AbilityPlan, against: number, rows: Rows): void {
  for (let left = against; left !== 0; ) {
    const { bits, write } = TELLING[31 - Math.clz32(left & -left)];
    write(c, a, rows, against);
    left &= ~bits;
  }
}

/** How each kind of bit is told. */
const WRITES: { readonly [K in keyof typeof AGAINST | 'when' | 'cost' | 'upkeep']: Write } = {
  locked: (_, __, rows) => rows.add(AGAINST.locked),
  loadout: ({ r }, _, rows) => rows.add(AGAINST.loadout, r[LOADOUT] | 0),
  running: ({ r }, a, rows) => rows.add(AGAINST.running, r[a.laneAt + L_ABILITY] | 0),
  outranked: (c, a, rows) => {
    const lane = outranking(c, a);
    rows.add(AGAINST.outranked, c.r[(lane < 0 ? a.laneAt : lane) + L_ABILITY] | 0);
  },
  busy: ({ r }, a, rows) => rows.add(AGAINST.busy, r[a.laneAt + L_ABILITY] | 0, r[a.laneAt + L_PHASE] | 0),
  barred: (c, a, rows) => {
    const { lanesAt, lanesEnd } = c.plan;
    for (let lane = lanesAt; lane < lanesEnd; lane += LANE)
      if (bars(c, lane, a)) rows.add(AGAINST.barred, c.r[lane + L_ABILITY] | 0);
  },
  follows: (_, __, rows) => rows.add(AGAINST.follows),
  from: ({ r }, _, rows) => rows.add(AGAINST.from, r[STANCE] | 0),
  when: writeConditions,
  cooldown: ({ r }, { cooldownAt: at }, rows) =>
    rows.add(AGAINST.cooldown, 0, r[at + C_WAITING] > 0 ? -1 : (r[at + C_READY] - r[T]) | 0),
  charges: ({ r }, { refillEvery, chargesAt }, rows) =>
    rows.add(AGAINST.charges, 0, refillEvery === null ? -1 : (r[chargesAt + N_REFILL] - r[T]) | 0),
  room: (_, __, rows) => rows.add(AGAINST.room),
  target: (_, __, rows) => rows.add(AGAINST.target),
  cost: writeCosts,
  upkeep: writeUpkeeps,
};
const BITS = { ...AGAINST, when: ANY_WHEN, cost: ANY_COST, upkeep: ANY_UPKEEP };
/** By the number of a bit. */
const TELLING = Array.from({ length: 32 }, (_, bit) => {
  const kind = (Object.keys(WRITES) as (keyof typeof WRITES)[]).find((one) => BITS[one] & (1 << bit));
  return { bits: kind ? BITS[kind] : 1 << bit, write: kind ? WRITES[kind] : () => {} };
});

/** By its code: what stands first in the row of a reason. */
const KINDS = { ...AGAINST, pool: -1, restart: -2, when: -3, cost: -4 } satisfies Record<Reason['code'], number>;
/** No reason: what a failed condition read. */
const READING = -5;

/** What a row says, as data that anyone may keep. */
const READS: { readonly [C in Reason['code']]: (row: Row) => Omit<Extract<Reason, { code: C }>, 'code'> } = {
  locked: () => ({}),
  loadout: ({ plan, what }) => ({ active: plan.names.loadout[what] ?? null }),
  running: () => ({}),
  outranked: ({ plan, what }) => ({ by: plan.names.ability[what] }),
  busy: ({ plan, what, have }) => ({
    by: plan.names.ability[what],
    phase: have < 0 ? null : plan.phases[have].name,
  }),
  barred: ({ plan, what }) => ({ by: plan.names.ability[what] }),
  follows: ({ plan, a }) => ({ allowed: (a.follows ?? []).map(({ ability }) => plan.names.ability[ability]) }),
  from: ({ plan, a, what }) => ({ stance: plan.names.stance[what], allowed: a.fromNames }),
  cooldown: ({ plan, have }) => ({ remaining: have < 0 ? null : have / plan.rate }),
  charges: ({ plan, have }) => ({ remaining: have < 0 ? null : have / plan.rate }),
  room: () => ({}),
  target: ({ a }) => ({ wants: a.warp?.wants ?? '' }),
  pool: ({ plan, what, have, need }) => ({ pool: plan.names.pool[what], have, need }),
  restart: ({ plan, what, have, need }) => ({ pool: plan.names.pool[what], have, need }),
  cost: ({ plan, what }) => ({ pool: plan.names.pool[what] }),
  when: (row) => ({ text: row.a.when[row.what].text, facts: readFacts(row) }),
};
const CODES = new Map(Object.entries(KINDS).map(([code, kind]) => [kind, code as Reason['code']]));

function writeCosts(c: Actor, a: AbilityPlan, rows: Rows, against: number): void {
  const { r, plan } = c;
  for (let i = 0; i < a.costs.length; i++) {
    if (!(against & bitOf(COST_BIT, COST_BITS, i)) || (!lacksCost(c, a, i) && i >= COST_BITS - 1)) continue;
    const { pool, price } = a.costs[i];
    if (Number.isNaN(r[price])) rows.add(KINDS.cost, pool);
    else {
      const row = rows.add(KINDS.pool, pool);
      rows.data[row + FIRST] = r[plan.pools[pool].value];
      rows.data[row + SECOND] = r[plan.pools[pool].at + P_MIN] + r[price];
    }
  }
}

function writeUpkeeps(c: Actor, a: AbilityPlan, rows: Rows, against: number): void {
  const { r, plan } = c;
  for (let i = 0; i < a.upkeeps.length; i++) {
    if (!(against & bitOf(UPKEEP_BIT, UPKEEP_BITS, i)) || (!lacksUpkeep(c, a, i) && i >= UPKEEP_BITS - 1)) continue;
    const { pool, restart } = a.upkeeps[i];
    const short = isShort(c, a, i);
    const row = rows.add(short ? KINDS.restart : KINDS.pool, pool);
    rows.data[row + FIRST] = r[plan.pools[pool].value];
    rows.data[row + SECOND] = r[plan.pools[pool].at + P_MIN] + (short ? restart : 0);
  }
}

/** The conditions that failed, each followed by what it read; of those that share a bit, the ones that fail now. */
function writeConditions(c: Actor, a: AbilityPlan, rows: Rows, against: number): void {
  for (let i = 0; i < a.when.length; i++) {
    if (!(against & bitOf(WHEN_BIT, WHEN_BITS, i)) || (i >= WHEN_BITS - 1 && a.when[i].test(c))) continue;
    rows.add(KINDS.when, i);
    const { readings } = a.when[i];
    for (let k = 0; k < readings.length; k++) {
      const { run, at } = readings[k];
      run?.(c);
      const row = rows.add(READING, i, k);
      rows.data[row + SECOND] = c.r[at];
    }
  }
}

/** Rows as data that anyone may keep. */
export function decodeReasons(plan: Plan, a: AbilityPlan, rows: Rows, from: number, to: number): Reason[] {
  const reasons: Reason[] = [];
  for (let i = from; i < to; i++) {
    const row = i * Rows.WIDTH;
    const { data } = rows;
    const code = CODES.get(data[row]);
    if (!code) continue;
    const [what, have, need] = [data[row + WHAT], data[row + FIRST], data[row + SECOND]];
    reasons.push({ code, ...READS[code]({ plan, a, what, have, need, rows, from, to }) } as Reason);
  }
  return reasons;
}

/** What a failed condition read. */
function readFacts({ plan, a, what: which, rows: { data }, from, to }: Row): ReasonFact[] {
  const facts: ReasonFact[] = [];
  for (let row = from * Rows.WIDTH; row < to * Rows.WIDTH; row += Rows.WIDTH) {
    if (data[row] !== READING || data[row + WHAT] !== which) continue;
    const { text, type } = a.when[which].readings[data[row + FIRST]];
    const value = data[row + SECOND];
    facts.push({ text, value: type === 'truth' ? value === 1 : type === 'time' ? value / plan.rate : value });
  }
  return facts;
}
