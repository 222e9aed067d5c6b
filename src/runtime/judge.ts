import { type AbilityPlan, HAS } from '../compile/plan.js';
import {
  A_CHARGES,
  A_DRY,
  A_ENDED,
  A_FIT,
  A_KNOWN,
  A_READY,
  A_REFILL,
  RUNNING as BUSY_LANES,
  L_ABILITY,
  L_PHASE,
  L_SINCE,
  LANE,
  LOADOUT,
  NEVER,
  P_MIN,
  P_REGEN,
  P_REST,
  STANCE,
  T,
} from '../moveset/slots.js';
import type { Character } from './character.js';
import { readPool } from './pools.js';
import type { Reason, ReasonFact } from './reasons.js';
import { Rows } from './rows.js';

/** Rounding must not make 9 of 9 too little. */
export const ENOUGH = 1e-9;

// Those that stand until VERSION changes come first.
const RUNNING = 1;
const BUSY = 2;
const FROM = 3;
const FOLLOWS = 4;
const BARRED = 5;
const LOCKED = 6;
const UNWORN = 7;
const LASTING = UNWORN;
const CONTESTED = 8;
const COOLDOWN = 9;
const CHARGES = 10;
const POOL = 11;
const RESTART = 12;
const WHEN = 13;
const READING = 14;

/** Reasons as rows of numbers, so that judging allocates nothing: code, what, have, need. */
export class ReasonRows extends Rows {
  /** A number that is the same as long as the reasons of the last judgement are, whatever their amounts. */
  signature = 0;
  private lasting = false;
  private conditions = false;

  begin(): void {
    this.signature = 0;
    this.lasting = false;
    this.conditions = false;
  }

  /** Adds a reason and returns where its row begins. */
  against(code: number, what = 0, have = 0): number {
    this.signature = (Math.imul(this.signature, 31) + code * 997 + what + 1) | 0;
    if (code <= LASTING) this.lasting = true;
    else if (code === WHEN) this.conditions = true;
    return this.add(code, what, have);
  }

  /**
   * Writes to `r[at]` until when the request sleeps, unless VERSION changes before: one reason that surely
   * stands so long is enough. Conditions can change at any time.
   */
  writeWake({ r, plan }: Character, a: AbilityPlan, from: number, at: number): void {
    r[at] = this.lasting ? NEVER : r[T];
    for (let i = from; i < this.count && r[at] < NEVER; i++) {
      const code = this.data[i * Rows.WIDTH];
      if (code === COOLDOWN) r[at] = Math.max(r[at], r[a.at + A_READY]);
      else if (code === CHARGES) r[at] = Math.max(r[at], a.refillEvery > 0 ? r[a.at + A_REFILL] : NEVER);
      else if (code === POOL || code === RESTART) {
        if (!a.steadyCosts) continue;
        const pool = plan.pools[this.data[i * Rows.WIDTH + 1]].at;
        const missing = this.data[i * Rows.WIDTH + 3] - this.data[i * Rows.WIDTH + 2];
        const ticks = r[pool + P_REGEN] > 0 ? missing / r[pool + P_REGEN] : NEVER;
        // A tick early, for rounding: it is judged then, and sleeps on if need be.
        r[at] = Math.max(r[at], Math.max(r[T], r[pool + P_REST]) + Math.floor(ticks) - 1);
      }
    }
  }

  /** Writes what the failed conditions read, as it is now. */
  addReadings(c: Character, a: AbilityPlan, from: number): void {
    const to = this.conditions ? this.count : from;
    for (let i = from; i < to; i++) {
      if (this.data[i * Rows.WIDTH] !== WHEN) continue;
      const which = this.data[i * Rows.WIDTH + 1];
      const { readings } = a.when[which];
      for (let k = 0; k < readings.length; k++) {
        const row = this.add(READING, which, k);
        this.data[row + 3] = readings[k].read(c);
      }
    }
  }

  /** The rows as data that anyone may keep. */
  decode(c: Character, a: AbilityPlan, from: number, to: number): Reason[] {
    const reasons: Reason[] = [];
    for (let i = from; i < to; i++) {
      const [code, what, have, need] = this.row(i);
      if (code !== READING) reasons.push(this.decodeRow(c, a, code, what, have, need, from, to));
    }
    return reasons;
  }

  private decodeRow(
    { plan }: Character,
    a: AbilityPlan,
    code: number,
    what: number,
    have: number,
    need: number,
    from: number,
    to: number,
  ): Reason {
    const { names } = plan;
    switch (code) {
      case RUNNING:
        return { code: 'running' };
      case BUSY:
        return { code: 'busy', by: names.ability[what], phase: have < 0 ? null : plan.phases[have].name };
      case CONTESTED:
        return { code: 'contested', by: names.ability[what] };
      case FROM:
        return { code: 'from', stance: names.stance[what], allowed: a.fromNames };
      case FOLLOWS:
        return { code: 'follows', allowed: names.ability.filter((_, i) => (a.follows as Float64Array)[i] >= 0) };
      case BARRED:
        return { code: 'barred', by: names.ability[what] };
      case COOLDOWN:
        return { code: 'cooldown', left: have > NEVER / 2 ? null : have / plan.rate };
      case CHARGES:
        return { code: 'charges', left: have < 0 ? null : have / plan.rate };
      case POOL:
        return { code: 'pool', pool: names.pool[what], have, need };
      case LOCKED:
        return { code: 'locked' };
      case UNWORN:
        return { code: 'loadout', worn: names.loadout[what] ?? null };
      case RESTART:
        return { code: 'restart', pool: names.pool[what], have, need };
      default:
        return { code: 'when', text: a.when[what].text, facts: this.decodeFacts(a, what, from, to) };
    }
  }

  private decodeFacts(a: AbilityPlan, which: number, from: number, to: number): ReasonFact[] {
    const facts: ReasonFact[] = [];
    for (let i = from; i < to; i++) {
      const [code, what, index, value] = this.row(i);
      if (code !== READING || what !== which) continue;
      const { text, type } = a.when[which].readings[index];
      facts.push({ text, value: type === 'truth' ? value === 1 : value });
    }
    return facts;
  }
}

/**
 * Judges a request whole: writes every reason against it and changes nothing. It may start when
 * no row was added. This is all there is to whether something may start.
 */
export function judge(c: Character, a: AbilityPlan, out: ReasonRows): void {
  const { r, plan } = c;
  const now = r[T];
  out.begin();

  if (r[a.at + A_KNOWN] === 0) out.against(LOCKED);
  if (a.loadouts !== null && a.loadouts[r[LOADOUT]] !== 1) out.against(UNWORN, r[LOADOUT] | 0);

  // Whole numbers by `| 0`: as fractions they might be boxed where they are passed on.
  const running = r[a.laneAt + L_ABILITY] | 0;
  const runningPhase = r[a.laneAt + L_PHASE] | 0;
  if (running >= 0) {
    const open = isOpen(c, running, runningPhase, a);
    if (running === a.index && !open) out.against(RUNNING, running);
    else if (r[a.laneAt + L_SINCE] === now) out.against(CONTESTED, running);
    else if (!open && a.breaks?.[running] !== 1) out.against(BUSY, running, runningPhase);
  }

  for (let i = 0; plan.has & HAS.bars && r[BUSY_LANES] > 0 && i < plan.names.lane.length; i++) {
    const lane = plan.layout.lanes + i * LANE;
    const other = r[lane + L_ABILITY] | 0;
    if (other < 0 || a.breaks?.[other] === 1) continue;
    if (plan.abilities[other].scope.bars?.[a.index] === 1) out.against(BARRED, other);
    else if (r[lane + L_PHASE] >= 0 && plan.phases[r[lane + L_PHASE]].scope.bars?.[a.index] === 1)
      out.against(BARRED, other);
  }

  if (a.follows !== null && !follows(c, a.follows, running, now)) out.against(FOLLOWS, 0);

  if (!(a.grace > 0 && now - r[a.at + A_FIT] <= a.grace)) {
    if (a.from !== null && a.from[r[STANCE]] === 0) out.against(FROM, r[STANCE] | 0);
    for (let i = 0; i < a.when.length; i++) if (!a.when[i].test(c)) out.against(WHEN, i);
  }

  if (now < r[a.at + A_READY]) out.against(COOLDOWN, 0, (r[a.at + A_READY] - now) | 0);
  if (a.charges > 0 && r[a.at + A_CHARGES] < 1)
    out.against(CHARGES, 0, a.refillEvery > 0 ? (r[a.at + A_REFILL] - now) | 0 : -1);

  for (let i = 0; i < a.costs.length; i++) {
    const { pool, amount } = a.costs[i];
    readPool(r, plan.pools[pool]);
    amount.run?.(c);
    const have = r[plan.pools[pool].value];
    const need = r[plan.pools[pool].at + P_MIN] + r[amount.at];
    if (have + ENOUGH < need) {
      const row = out.against(POOL, pool);
      out.data[row + 2] = have;
      out.data[row + 3] = need;
    }
  }
  for (let i = 0; i < a.upkeeps.length; i++) {
    const { pool, restart } = a.upkeeps[i];
    readPool(r, plan.pools[pool]);
    const have = r[plan.pools[pool].value];
    const min = r[plan.pools[pool].at + P_MIN];
    const short = r[a.at + A_DRY] === 1 && have + ENOUGH < min + restart;
    if (!short && have > min + ENOUGH) continue;
    const row = out.against(short ? RESTART : POOL, pool);
    out.data[row + 2] = have;
    out.data[row + 3] = short ? min + restart : min;
  }
}

/** Whether what runs, or its phase, lets `a` follow. */
function isOpen({ plan }: Character, running: number, phase: number, a: AbilityPlan): boolean {
  if (plan.abilities[running].scope.open?.[a.index] === 1) return true;
  return phase >= 0 && plan.phases[phase].scope.open?.[a.index] === 1;
}

function follows({ r, plan }: Character, within: Float64Array, running: number, now: number): boolean {
  if (running >= 0 && within[running] >= 0) return true;
  for (let i = 0; i < within.length; i++)
    if (within[i] > 0 && now - r[plan.abilities[i].at + A_ENDED] <= within[i]) return true;
  return false;
}

/** Whether `from` and `when` hold, for grace. */
export function fits(c: Character, a: AbilityPlan): boolean {
  if (a.from !== null && a.from[c.r[STANCE]] === 0) return false;
  for (let i = 0; i < a.when.length; i++) if (!a.when[i].test(c)) return false;
  return true;
}
