import type { Names } from '../moveset/read.js';
import { BLOW, SIGHT } from '../record/combat.js';
import { AWAKE_BITS, type Layout, PROBE, ROOM } from '../record/layout.js';

/** Places behind the record, in the same array: what follows from it, and what comes from outside. See `Plan`. */
export interface Behind {
  readonly probesAt: number;
  /** What pools have now, and prices in them. */
  readonly valuesAt: number;
  readonly pricesAt: number;
  readonly roomAt: number;
  readonly rosterAt: number;
  readonly foldedAt: number;
  readonly freeAt: number;
  readonly awakeAt: number;
  readonly devicesAt: number;
  readonly outAt: number;
  readonly foeAt: number;
  readonly blowAt: number;
  /** Constants and scratch numbers of formulas. */
  readonly formulasAt: number;
  /** How many are looked at: the foe; whom one looks at to choose a target, and each of these. */
  readonly sights: number;
}

/** Lays them out, one behind the other. */
export function placesBehind(layout: Layout, names: Names, triggers: number): Behind {
  let end = layout.end;
  const take = (count: number): number => {
    end += count;
    return end - count;
  };
  const sights = names.target.length > 0 ? 2 + names.target.length : 1;
  return {
    probesAt: take(names.probe.length * PROBE),
    valuesAt: take(names.pool.length),
    pricesAt: take(names.pool.length),
    // What every tick reads lies side by side.
    roomAt: take(ROOM),
    rosterAt: take(1),
    foldedAt: take(1),
    freeAt: take(1),
    awakeAt: take(Math.ceil(triggers / AWAKE_BITS)),
    devicesAt: take((names.button.length + names.stick.length) * 2),
    outAt: take(layout.message),
    foeAt: take(sights * SIGHT),
    blowAt: take(layout.combat < 0 ? 0 : 1 + BLOW),
    formulasAt: end,
    sights,
  };
}
