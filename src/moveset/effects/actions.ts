import type { ParsedFormula } from '../read.js';
import { formula, listOrOne, map, name } from '../shape.js';
import { effect } from './effect.js';

export const gain = effect<Record<string, ParsedFormula>>(
  'gain',
  map('pool', formula('number')),
  (value, tools) => {
    const gains = Object.entries(value).map(([pool, parsed]) => ({
      pool: tools.index('pool', pool),
      amount: tools.number(parsed),
    }));
    return {
      begin: (c) => {
        for (let i = 0; i < gains.length; i++) {
          const { pool, amount } = gains[i];
          amount.run?.(c);
          c.gain(pool, amount.at);
        }
      },
    };
  },
  { inStances: false },
);

export const emit = effect<string[]>(
  'emit',
  listOrOne(name('event')),
  (value, tools) => {
    const events = value.map((event) => tools.index('event', event));
    return {
      begin: (c) => {
        for (let i = 0; i < events.length; i++) c.emit(events[i]);
      },
    };
  },
  { inStances: false },
);
