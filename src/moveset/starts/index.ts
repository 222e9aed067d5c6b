import { B_DOWN, B_PRESSED, B_USED, T } from '../../record/slots.js';
import type { ParsedFormula } from '../read.js';
import { condition, listOrOne, name, optional, word } from '../shape.js';
import { double, press, release, sequence, tap } from './presses.js';
import { type StartKind, startKind } from './start.js';

/**
 * A button that is held, or was pressed and released since the last tick; unless that press started another ability, or
 * another ability or code has broken this one since.
 */
const hold = startKind<{ hold: string }>('hold', { hold: optional(name('button')) }, ({ hold: input }, tools) => {
  const button = tools.buttonAt(input);
  const { user, brokenAt } = tools;
  return {
    rank: 0,
    button,
    input,
    sustained: ({ r }) =>
      (r[button + B_DOWN] === 1 || r[button + B_PRESSED] === r[T]) &&
      (r[button + B_USED] === 0 || r[button + B_USED] === user) &&
      r[button + B_PRESSED] > r[brokenAt],
  };
});

const toggle = startKind<{ toggle: string; unlatch?: (ParsedFormula | undefined)[] }>(
  'toggle',
  {
    toggle: optional(name('button')),
    unlatch: optional(listOrOne(condition())),
  },
  ({ toggle: input, unlatch = [] }, tools) => {
    const { latchAt, brokenAt } = tools;
    return {
      rank: 0,
      button: tools.buttonAt(input),
      input,
      latch: true,
      on: 'press',
      sustained: ({ r }) => r[latchAt] === 1 && r[T] > r[brokenAt],
      unlatch: unlatch.map((parsed) => tools.truth(parsed)),
    };
  },
);

const rule = startKind<{ rule: ParsedFormula }>('rule', { rule: optional(condition()) }, ({ rule: when }, tools) => {
  const holds = tools.truth(when);
  const { brokenAt } = tools;
  return { rank: 0, sustained: (c) => c.r[T] > c.r[brokenAt] && holds(c) };
});

const event = startKind<{ event: string }>('event', { event: optional(name('event')) }, ({ event: name }, tools) => ({
  rank: 0,
  on: 'event',
  event: tools.eventIndex(name),
}));

const code = startKind<{ code: 'only' }>('code', { code: optional(word('only')) }, () => ({ rank: 0, on: 'code' }));

/** Every way to start; a new one is a piece like these and a name here. */
export const STARTS: readonly StartKind[] = [press, release, tap, double, sequence, hold, toggle, rule, event, code];
