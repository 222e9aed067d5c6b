import { at, enclose, js, poolFunction } from '../../record/code.js';
import { updatePool } from '../../record/pool-line.js';
import { P_MAX, P_MIN, POOL } from '../../record/slots.js';
import type { Add, FactRows, FactTools } from './fact.js';
import { numberAt } from './fact.js';

export function poolFacts(add: Add, tools: FactTools): void {
  tools.names.pool.forEach((name, i) => {
    const { pools } = tools.plans;
    add(`pool.${name}`, () => ({
      type: 'number',
      operand: tools.scratch(
        ({ r }, out) => {
          updatePool(r, pools[i]);
          r[out] = r[pools[i].value];
        },
        () => enclose(js`${poolFunction('update', i)}(r), ${at(tools.poolAt(i))}`),
      ),
    }));
    add(`pool.${name}.max`, () => numberAt(tools.layout.pools + i * POOL + P_MAX));
    add(`pool.${name}.min`, () => numberAt(tools.layout.pools + i * POOL + P_MIN));
  });
}

/** What the reference says of them. */
export const POOLS_DOCS: FactRows = {
  Pools: [
    ['pool.{pool}', 'number', 'The amount in the pool.'],
    ['pool.{pool}.max', 'number', 'The upper limit of the pool.'],
    ['pool.{pool}.min', 'number', 'The lower limit of the pool.'],
  ],
};
