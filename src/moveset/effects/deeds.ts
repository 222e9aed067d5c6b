import type { WrittenFormula } from '../read.js';
import { formula, listOrOne, map, name } from '../shape.js';
import { effect } from './effect.js';

export const gain = effect<Record<string, WrittenFormula>>(
  'gain',
  map('pool', formula('number')),
  (value, tools) => {
    const gains = Object.entries(value).map(([pool, written]) => ({
      pool: tools.index('pool', pool),
      amount: tools.number(written),
    }));
    return {
      begin: (c) => {
        for (const { pool, amount } of gains) {
          amount.run?.(c);
          c.gain(pool, amount.at);
        }
      },
    };
  },
  false,
);

export const emit = effect<string[]>(
  'emit',
  listOrOne(name('event')),
  (value, tools) => {
    const events = value.map((event) => tools.index('event', event));
    return {
      begin: (c) => {
        for (const event of events) c.emit(event);
      },
    };
  },
  false,
);
