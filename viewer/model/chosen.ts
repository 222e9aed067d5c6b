import { type Timing, timingOf } from '../../src/analysis/timing.js';
import type { Plan } from '../../src/compile/plan.js';
import { wordSeconds } from '../../src/draw/timeline/ticks.js';
import { wordEvent } from '../../src/report/story.js';
import { count } from '../../src/report/words.js';
import { shown } from './formulas.js';
import type { Model } from './model.js';

const TIMINGS = new WeakMap<Plan, readonly Timing[]>();

/** When an ability does what, as `loggia timing` tells it: in words, each with its value. A moveset without a source has no timing. */
export function timingRows(plan: Plan, ability: string): readonly (readonly [what: string, value: string])[] {
  const known = TIMINGS.get(plan) ?? timingOf(plan);
  TIMINGS.set(plan, known);
  const row = known.find((one) => one.ability === ability);
  if (!row) return [];
  const ticks = (n: number | null) => `${n}f`;
  const signed = (n: number) => (n > 0 ? `+${n}f` : `${n}f`);
  const rows: [string, string | null][] = [
    ['starts up', row.startup === null ? null : ticks(row.startup) + (row.charged ? ', charged full' : '')],
    [row.damage === null ? 'acts' : 'strikes', row.active === null ? null : ticks(row.active)],
    ['recovers', row.recovery === null ? null : ticks(row.recovery)],
    [
      'in all',
      row.total === null ? 'as long as it is held' : `${ticks(row.total)}, ${wordSeconds(row.total, plan.rate)}`,
    ],
    ['cooldown', row.cooldown > 0 ? ticks(row.cooldown) : null],
    ['costs', listed(Object.entries(row.costs).map(([pool, cost]) => `${shown(cost)} ${pool}`))],
    [
      'damage',
      row.damage === null ? null : `${shown(row.damage)}${row.stun === null ? '' : `, stun ${ticks(row.stun)}`}`,
    ],
    ['on hit', row.onHit === null ? null : signed(row.onHit)],
    ['on block', row.onBlock === null ? null : signed(row.onBlock)],
    ['open to', listed(row.cancels.map(({ into, from }) => `${into} from ${ticks(from)}`))],
    ['in a combo', listed(row.combos)],
  ];
  return rows.filter((one): one is [string, string] => one[1] !== null);
}

function listed(parts: readonly string[]): string | null {
  return parts.length > 0 ? parts.join(', ') : null;
}

/** What became of the last use of an ability before the tick that is looked at ends: how long it took, and how far it carried. */
export function lastUse(model: Model, ability: string): string {
  const own = model.timeline.members.find(({ name }) => name === model.member);
  const bars = (own?.tracks ?? []).flatMap((track) => (track.kind === 'lane' ? track.bars : []));
  const bar = bars.filter((one) => one.ability === ability && one.from <= model.tick).at(-1);
  if (!bar) return 'not used before this tick';
  const { ticks } = model;
  const lasts = bar.to > model.tick;
  const until = Math.min(bar.to, model.tick + 1);
  const [from, to] = [placeAt(model, Math.max(ticks.first, bar.from - 1)), placeAt(model, until - 1)];
  const went = from && to ? `, ${wordWay(from, to)}` : '';
  return `used at ${wordSeconds(bar.from, ticks.rate)} for ${count(until - bar.from, 'tick')}${lasts ? ' so far' : ''}${went}${bar.end && !lasts ? `; ${wordEvent(bar.end)}` : ''}`;
}

type Place = readonly [x: number, y: number, z: number];

function placeAt(model: Model, tick: number): Place | undefined {
  const one = model.ticks.at(tick).members.find(({ name }) => name === model.member);
  return one && [one.readout.x, one.readout.y, one.readout.z];
}

function wordWay(from: Place, to: Place): string {
  const far = Math.hypot(to[0] - from[0], to[2] - from[2]);
  const up = to[1] - from[1];
  const rise = Math.abs(up) < 0.005 ? '' : ` and ${shown(Math.abs(up))} ${up > 0 ? 'up' : 'down'}`;
  return `carried ${shown(far)}${rise}`;
}
