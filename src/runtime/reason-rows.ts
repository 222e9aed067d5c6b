import { Rows } from '../record/rows.js';

/** Kinds of reasons, as they are kept during a tick. */
export const REASON = {
  running: 1,
  busy: 2,
  from: 3,
  follows: 4,
  barred: 5,
  locked: 6,
  loadout: 7,
  contested: 8,
  cooldown: 9,
  charges: 10,
  pool: 11,
  restart: 12,
  when: 13,
  cost: 14,
  /** No reason: what a failed condition read. */
  reading: 15,
} as const;

/** Reasons as rows of numbers, so that judging allocates nothing: code, what, have, need. */
export class ReasonRows extends Rows {
  /** The same as long as the reasons of the last judgement are, whatever their amounts; 0 before any. */
  signature = 0;

  begin(): void {
    this.signature = 1;
  }

  /** Adds a reason and returns where its row begins. */
  against(code: number, what = 0, have = 0): number {
    this.signature = (Math.imul(this.signature, 31) + code * 997 + what + 1) | 0;
    return this.add(code, what, have);
  }
}
