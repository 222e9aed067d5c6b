import type { PoolPlan } from '../../compile/plan.js';
import { EVENT } from '../../record/event-codes.js';
import { ENOUGH } from '../../record/pool-line.js';
import { P_BASE, P_DRAIN, P_EMPTY, P_MAX, P_MIN, P_REGEN, P_REST, P_SINCE, P_WATCHED, T } from '../../record/slots.js';
import { type Emitter, functionOf } from '../../text/emitter.js';

/** Writes what pools have, and that they ran empty: equal to `updatePool` and `updateWatched`. */
export function emitPools(e: Emitter): string {
  return e.plan.pools.flatMap((pool) => [update(e, pool), watch(e, pool)]).join('\n\n');
}

function update(e: Emitter, { index, at, value, rest, name }: PoolPlan): string {
  const drains = `has -= r[${at + P_DRAIN}] * (now - r[${at + P_SINCE}]);`;
  const gains = [
    `const from = Math.max(r[${at + P_SINCE}], r[${at + P_REST}]);`,
    `if (now > from) has += r[${at + P_REGEN}] * (now - from);`,
  ];
  return functionOf(
    `What there is of ${name} now.`,
    e.poolFunction('update', index),
    'r',
    [
      `const now = r[${T}];`,
      `let has = r[${at + P_BASE}];`,
      `if (now > r[${at + P_SINCE}]) {`,
      // What rests after it was drained gains nothing meanwhile.
      ...(rest > 0
        ? [`  if (r[${at + P_DRAIN}] > 0) {`, `    ${drains}`, '  } else {', ...gains.map((one) => `    ${one}`), '  }']
        : [...gains, drains].map((one) => `  ${one}`)),
      '}',
      `r[${value}] = has <= r[${at + P_MIN}] + ${ENOUGH} ? r[${at + P_MIN}] : Math.min(r[${at + P_MAX}], has);`,
    ],
    ['pools', name],
  );
}

function watch(e: Emitter, { index, at, value, name }: PoolPlan): string {
  return functionOf(`Tells that ${name} ran out.`, e.poolFunction('watch', index), 'c', [
    'const { r } = c;',
    `${e.poolFunction('update', index)}(r);`,
    `const empty = r[${value}] <= r[${at + P_MIN}] ? 1 : 0;`,
    `if (empty === 1 && r[${at + P_EMPTY}] === 0) c.events.add(${e.constant('EVENT_EMPTIED', EVENT.emptied)}, ${index});`,
    `r[${at + P_EMPTY}] = empty;`,
    `r[${at + P_WATCHED}] = r[${at + P_DRAIN}] > 0 || r[${at + P_REGEN}] < 0 || empty === 1 ? 1 : 0;`,
  ]);
}
