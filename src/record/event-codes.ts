import { ENDINGS, type Ending, type LoggiaEvent } from '../report/events.js';

/** Kinds of rows, as they are kept during a tick. */
export const EVENT = {
  started: 0,
  phase: 1,
  ended: 2,
  refused: 3,
  stance: 4,
  landed: 5,
  airborne: 6,
  emitted: 7,
  emptied: 8,
  latched: 9,
  unlatched: 10,
  received: 11,
  clip: 12,
  loadout: 13,
  stuck: 14,
  fell: 15,
  warped: 16,
  lost: 17,
  summoned: 18,
  gone: 19,
} as const satisfies Record<LoggiaEvent['kind'], number>;

/** Why an ability ended, as it is kept. */
export const ENDED = Object.fromEntries(ENDINGS.map((why, i) => [why, i])) as Record<Ending, number>;

/** Endings after which nothing reads a charge any more, unless the charge says `keep`. */
export const CUT_SHORT: readonly Ending[] = ['interrupted', 'broken', 'code', 'unavailable', 'couldNotPay'];
