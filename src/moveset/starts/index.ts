import { ENDED } from '../../record/event-codes.js';
import type { Frame } from '../../record/frame.js';
import { B_DOWN, B_PRESSED, B_USED, T } from '../../record/slots.js';
import { textOf, written } from '../../record/written.js';
import { ENDINGS, type Ending } from '../../report/events.js';
import type { ParsedFormula } from '../read.js';
import { condition, listOrOne, name, optional, truth, word } from '../shape.js';
import { double, press, release, sequence, tap } from './presses.js';
import { type MomentTest, type StartKind, startKind } from './start.js';

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
    wokenByPress: true,
    sustained: written(
      ({ r }: Frame) =>
        (r[button + B_DOWN] === 1 || r[button + B_PRESSED] === r[T]) &&
        (r[button + B_USED] === 0 || r[button + B_USED] === user) &&
        r[button + B_PRESSED] > r[brokenAt],
      [
        `(r[${button + B_DOWN}] === 1 || r[${button + B_PRESSED}] === r[${T}])`,
        `(r[${button + B_USED}] === 0 || r[${button + B_USED}] === ${user})`,
        `r[${button + B_PRESSED}] > r[${brokenAt}]`,
      ].join(' && '),
    ),
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
      sustained: written(
        ({ r }: Frame) => r[latchAt] === 1 && r[T] > r[brokenAt],
        `r[${latchAt}] === 1 && r[${T}] > r[${brokenAt}]`,
      ),
      unlatch: unlatch.map((parsed) => tools.truth(parsed)),
    };
  },
);

/** Owns whether it held in the tick before, for one that requests only when it begins to hold. */
const rule = startKind<{ rule: ParsedFormula; once?: boolean }>(
  'rule',
  { rule: optional(condition()), once: optional(truth()) },
  ({ rule: when, once }, tools) => {
    const holds = tools.truth(when);
    const { brokenAt, own } = tools;
    const text = textOf(holds);
    if (!once)
      return {
        rank: 0,
        sustained: written(
          (c: Frame) => c.r[T] > c.r[brokenAt] && holds(c),
          text && `r[${T}] > r[${brokenAt}] && ${text}`,
        ),
      };
    const happens: MomentTest = (c) => {
      const before = c.r[own];
      c.r[own] = holds(c) ? 1 : 0;
      return c.r[own] > before;
    };
    return { rank: 0, on: 'tick', happens: written(happens, text && `r[${own}] < (r[${own}] = ${text} ? 1 : 0)`) };
  },
  1,
);

/** `why` as the numbers of endings; the moment test is given the one that came. */
const after = startKind<{ after: string; why?: Ending[] }>(
  'after',
  { after: optional(name('ability')), why: optional(listOrOne({ ...word(...ENDINGS), what: 'ending' })) },
  ({ after: ability, why }, tools) => {
    const endings = why?.map((one) => ENDED[one]);
    const happens =
      endings &&
      written(
        (_: Frame, ending: number) => endings.includes(ending),
        endings.map((one) => `what === ${one}`).join(' || '),
      );
    return { rank: 0, on: 'ending', after: tools.abilityIndex(ability), happens };
  },
);

/** What happens to a character does not turn it to where its stick is held. */
const event = startKind<{ event: string }>('event', { event: optional(name('event')) }, ({ event: name }, tools) => ({
  rank: 0,
  on: 'event',
  event: tools.eventIndex(name),
  keepsFacing: true,
}));

const code = startKind<{ code: 'only' }>('code', { code: optional(word('only')) }, () => ({ rank: 0, on: 'code' }));

/** Every way to start; a new one is a piece like these and a name here. */
export const STARTS: readonly StartKind[] = [
  press,
  release,
  tap,
  double,
  sequence,
  hold,
  toggle,
  rule,
  event,
  after,
  code,
];
