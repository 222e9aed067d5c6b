import type { Trail } from '../../src/draw/stage/draw-stage.js';
import type { Ticks } from '../../src/draw/timeline/ticks.js';
import { X, Y, Z } from '../../src/record/slots.js';

/** How many seconds of a path are shown. */
const SECONDS = 2;

/** Where everybody was in the last seconds. */
export function trailsOf(ticks: Ticks, tick: number): Trail[] {
  const points = new Map<string, number[]>();
  const from = Math.max(ticks.first, tick - SECONDS * ticks.rate);
  for (let at = from; at <= tick; at += 2)
    for (const { name, record } of ticks.at(at).members) {
      const list = points.get(name) ?? [];
      points.set(name, list);
      list.push(record[X], record[Y] + 0.1, record[Z]);
    }
  return [...points].map(([name, list]) => ({ name, points: list }));
}
