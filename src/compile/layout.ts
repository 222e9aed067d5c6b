import type { Names } from '../moveset/read.js';
import { ABILITY, BUTTON, HEAD, LANE, POOL, STICK } from '../moveset/slots.js';

/** Where everything stands in the record of one moveset's characters. */
export interface Layout {
  readonly buttons: number;
  readonly sticks: number;
  readonly pools: number;
  readonly lanes: number;
  readonly abilities: number;
  /** Per ability: the tick at which code asked for it. */
  readonly requests: number;
  /** Per event: the tick at which it last came in. */
  readonly events: number;
  /** Per tag: 1 while worn. */
  readonly tags: number;
  /** Per lane and pool: what the running ability paid. */
  readonly paid: number;
  /** Two per sequence: how far it is, and since when. */
  readonly memory: number;
  /** Per ask, in the order in which they are heard: the last tick in which it asks, NEVER while it stands. */
  readonly asks: number;
  /** The record ends behind the asks. */
  readonly end: number;
}

export function layOut(names: Names, counts: { asks: number; sequences: number }): Layout {
  let next = HEAD;
  const take = (count: number, each = 1) => {
    const at = next;
    next += count * each;
    return at;
  };
  return {
    buttons: take(names.button.length, BUTTON),
    sticks: take(names.stick.length, STICK),
    pools: take(names.pool.length, POOL),
    lanes: take(names.lane.length, LANE),
    abilities: take(names.ability.length, ABILITY),
    requests: take(names.ability.length),
    events: take(names.event.length),
    tags: take(names.tag.length),
    paid: take(names.lane.length * names.pool.length),
    memory: take(counts.sequences, 2),
    asks: take(counts.asks),
    end: next,
  };
}

/** Behind the record: a probe's answers, derived anew in each tick that asks. */
export const PROBE = 9;
export const Q_TICK = 0;
export const Q_HIT = 1;
export const Q_DISTANCE = 2;
export const Q_POINT = 3;
export const Q_NORMAL = 6;
