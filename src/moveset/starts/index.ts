import type { WrittenFormula } from '../read.js';
import { condition, listOrOne, name, optional, word } from '../shape.js';
import { B_DOWN, T } from '../slots.js';
import { double, press, release, sequence, tap } from './presses.js';
import { type StartKind, startKind } from './start.js';

const hold = startKind<{ hold: string }>('hold', { hold: optional(name('button')) }, ({ hold: input }, tools) => {
  const button = tools.buttonAt(input);
  return { turn: 2, rank: 0, button, input, stands: ({ r }) => r[button + B_DOWN] === 1 };
});

const toggle = startKind<{ toggle: string; unlatch?: (WrittenFormula | undefined)[] }>(
  'toggle',
  {
    toggle: optional(name('button')),
    unlatch: optional(listOrOne(condition())),
  },
  ({ toggle: input, unlatch = [] }, tools) => {
    const button = tools.buttonAt(input);
    const { latchAt } = tools;
    return {
      turn: 2,
      rank: 0,
      button,
      input,
      latch: true,
      moment: 'press',
      stands: ({ r }) => r[latchAt] === 1,
      unlatch: unlatch.map((written) => tools.truth(written)),
    };
  },
);

const rule = startKind<{ rule: WrittenFormula }>('rule', { rule: optional(condition()) }, ({ rule: when }, tools) => ({
  turn: 0,
  rank: 0,
  stands: tools.truth(when),
}));

const event = startKind<{ event: string }>('event', { event: optional(name('event')) }, ({ event: name }, tools) => {
  const at = tools.eventAt(name);
  return { turn: 1, rank: 0, moment: 'queue', happens: ({ r }) => r[at] === r[T] };
});

const code = startKind<{ code: 'only' }>('code', { code: optional(word('only')) }, (_, tools) => {
  const at = tools.requestAt;
  return { turn: 2, rank: 0, moment: 'queue', happens: ({ r }) => r[at] === r[T] };
});

/** Every way to start; a new one is a piece like these and a name here. */
export const STARTS: readonly StartKind[] = [press, release, tap, double, sequence, hold, toggle, rule, event, code];
