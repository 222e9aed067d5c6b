import type { PoolPlan } from '../../compile/plan.js';
import { any, at, Block, constant, js, type Lines, poolFunction, tight, to } from '../../record/code.js';
import { EVENT } from '../../record/event-codes.js';
import { ENOUGH } from '../../record/pool-line.js';
import { P_BASE, P_DRAIN, P_EMPTY, P_MAX, P_MIN, P_REGEN, P_REST, P_SINCE, P_WATCHED, T } from '../../record/slots.js';
import { type Emitter, functionOf } from '../../text/emitter.js';

/** Writes what pools have, and that they ran empty: equal to `updatePool` and `updateWatched`. */
export function emitPools(e: Emitter): Lines[] {
  const { pools } = e.plan;
  return [...pools.flatMap((pool) => [update(e, pool), watch(e, pool)]), pools.length > 1 ? watchAll(e) : []];
}

/** Lines that watch the pools that may run empty, of which there are none in most ticks. */
export function emitWatching({ plan: { pools } }: Emitter): Lines {
  if (pools.length <= 1) return pools.map(watchOne);
  return [js`if (${any(...pools.map(isWatched))}) watchPools(c);`];
}

const isWatched = ({ at: pool }: PoolPlan) => tight(js`${at(pool + P_WATCHED)} !== 0`);
const watchOne = (pool: PoolPlan) => js`if (${isWatched(pool)}) ${poolFunction('watch', pool.index)}(c);`;

function watchAll({ plan: { pools } }: Emitter): Lines {
  const comment = 'Tells which of the pools that may run empty did.';
  return functionOf(comment, 'watchPools', 'c', [js`const { r } = c;`, ...pools.map(watchOne)]);
}

function update(e: Emitter, { index, at: pool, value, rest, name }: PoolPlan): Lines {
  const drains = js`has -= ${at(pool + P_DRAIN)} * (now - ${at(pool + P_SINCE)});`;
  const gains = [
    js`const from = Math.max(${at(pool + P_SINCE)}, ${at(pool + P_REST)});`,
    js`if (now > from) has += ${at(pool + P_REGEN)} * (now - from);`,
  ];
  // What rests after it was drained gains nothing meanwhile.
  const rests = new Block([js`if (${at(pool + P_DRAIN)} > 0) {`, [drains], js`} else {`, gains, js`}`]);
  const least = at(pool + P_MIN);
  return functionOf(
    `What there is of ${name} now.`,
    e.poolName('update', index),
    'r',
    [
      js`const now = ${at(T)};`,
      js`let has = ${at(pool + P_BASE)};`,
      new Block([js`if (now > ${at(pool + P_SINCE)}) {`, rest > 0 ? [rests] : [...gains, drains], js`}`]),
      js`${to(value)} = has <= ${least} + ${ENOUGH} ? ${least} : Math.min(${at(pool + P_MAX)}, has);`,
    ],
    ['pools', name],
  );
}

function watch(e: Emitter, { index, at: pool, value, name }: PoolPlan): Lines {
  const emptied = constant('EVENT_EMPTIED', EVENT.emptied);
  return functionOf(`Tells that ${name} ran out.`, e.poolName('watch', index), 'c', [
    js`const { r } = c;`,
    js`${poolFunction('update', index)}(r);`,
    js`const empty = ${at(value)} <= ${at(pool + P_MIN)} ? 1 : 0;`,
    js`if (empty === 1 && ${at(pool + P_EMPTY)} === 0) c.events.add(${emptied}, ${index});`,
    js`${to(pool + P_EMPTY)} = empty;`,
    js`${to(pool + P_WATCHED)} = ${at(pool + P_DRAIN)} > 0 || ${at(pool + P_REGEN)} < 0 || empty === 1 ? 1 : 0;`,
  ]);
}
