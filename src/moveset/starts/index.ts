import { all, any, at, compare, equal, js, to } from '../../record/code.js';
import { ENDED } from '../../record/event-codes.js';
import type { Frame } from '../../record/frame.js';
import { B_DOWN, B_PRESSED, B_USED, T } from '../../record/slots.js';
import { codeOf, withAll, written } from '../../record/written.js';
import { ENDINGS, type Ending } from '../../report/events.js';
import type { Condition, NameTypes, OneOrMore } from '../name-types.js';
import { condition, listOrOne, name, optional, sound, truth, word } from '../shape.js';
import {
  type DoubleStart,
  doubleStart,
  type PressStart,
  pressStart,
  type ReleaseStart,
  releaseStart,
  type SequenceStart,
  sequenceStart,
  type TapStart,
  tapStart,
} from './presses.js';
import { type MomentTest, type StartKind, startKind } from './start.js';

/** Of a start by a button that is held. */
interface HoldStart<N extends NameTypes> {
  /** Requests while this input is held, and ends when it is released. */
  hold: NoInfer<N['input']>;
}

/**
 * @internal A button that is held, or was pressed and released since the last tick; unless that press started another ability, or
 * another ability or code has broken this one since.
 */
export const holdStart = startKind('hold', { hold: optional(name('button')) }, ({ hold: input }, tools) => {
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
      () =>
        all(
          any(equal(at(button + B_DOWN), 1), equal(at(button + B_PRESSED), at(T))),
          any(equal(at(button + B_USED), 0), equal(at(button + B_USED), user)),
          compare(at(button + B_PRESSED), '>', at(brokenAt)),
        ),
    ),
  };
});

/** Of a start by a latch. */
interface ToggleStart<N extends NameTypes> {
  /** Latches when pressed: requests until it is pressed again. */
  toggle: NoInfer<N['input']>;
  /** Stops requesting when any of these holds. */
  unlatch?: OneOrMore<Condition<N>>;
}

/** @internal */
export const toggleStart = startKind(
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
        () => all(equal(at(latchAt), 1), compare(at(T), '>', at(brokenAt))),
      ),
      unlatch: unlatch.map((parsed) => tools.truth(parsed)),
    };
  },
);

/** Of a start by itself. */
interface RuleStart<N extends NameTypes> {
  /** Requests by itself while this holds, and ends when it no longer does. */
  rule: Condition<N>;
  /** Requests only when it begins to hold, and does not end when it no longer does. Default false. */
  once?: boolean;
}

/** @internal Owns whether it held in the tick before, for one that requests only when it begins to hold. */
export const ruleStart = startKind(
  'rule',
  { rule: optional(condition()), once: optional(truth()) },
  ({ rule: when, once }, tools) => {
    const holds = tools.truth(when);
    const { brokenAt, own } = tools;
    if (!once)
      return {
        rank: 0,
        sustained: written(
          (c: Frame) => c.r[T] > c.r[brokenAt] && holds(c),
          () => withAll([codeOf(holds)], (code) => all(compare(at(T), '>', at(brokenAt)), code)),
        ),
      };
    const happens: MomentTest = (c) => {
      const before = c.r[own];
      c.r[own] = holds(c) ? 1 : 0;
      return c.r[own] > before;
    };
    const code = () => withAll([codeOf(holds)], (now) => js`${at(own)} < (${to(own)} = ${now} ? 1 : 0)`);
    return { rank: 0, on: 'tick', happens: written(happens, code) };
  },
  1,
);

/** Of a start after another ability. */
interface AfterStart<N extends NameTypes> {
  /** Requests once when this ability ends. */
  after: NoInfer<N['ability']>;
  /** Only for these kinds of ending. Default: any. */
  why?: OneOrMore<Ending>;
}

/** @internal `why` as the numbers of endings; the moment test is given the one that came. */
export const afterStart = startKind(
  'after',
  { after: optional(name('ability')), why: optional(listOrOne({ ...word(...ENDINGS), what: 'ending' })) },
  ({ after: ability, why }, tools) => {
    const endings = why && sound(why).map((one) => ENDED[one]);
    const happens =
      endings &&
      written(
        (_: Frame, ending: number) => endings.includes(ending),
        () => any(...endings.map((one) => equal(js`what`, one))),
      );
    return { rank: 0, on: 'ending', after: tools.abilityIndex(ability), happens };
  },
);

/** Of a start by an event. */
interface EventStart<N extends NameTypes> {
  /** Requests once when this event is received. */
  event: NoInfer<N['event']>;
}

/** @internal What happens to a character does not turn it to where its stick is held. */
export const eventStart = startKind('event', { event: optional(name('event')) }, ({ event: name }, tools) => ({
  rank: 0,
  on: 'event',
  event: tools.eventIndex(name),
  keepsFacing: true,
}));

/** Of a start by code alone. */
interface CodeStart {
  /** Write `code: only` for an ability that only `door.request` starts. */
  code: 'only';
}

/** @internal */
export const codeStart = startKind('code', { code: optional(word('only')) }, () => ({
  rank: 0,
  on: 'code',
}));

/** Every way to start, by the key that makes it one of its kind: a new one is a piece like these, and a line in the two lists here. */
interface StartFields<N extends NameTypes> {
  press: PressStart<N>;
  release: ReleaseStart<N>;
  tap: TapStart<N>;
  double: DoubleStart<N>;
  sequence: SequenceStart<N>;
  hold: HoldStart<N>;
  toggle: ToggleStart<N>;
  rule: RuleStart<N>;
  event: EventStart<N>;
  after: AfterStart<N>;
  code: CodeStart;
}
export type StartKey = keyof StartFields<NameTypes>;

const BY_KEY = {
  press: pressStart,
  release: releaseStart,
  tap: tapStart,
  double: doubleStart,
  sequence: sequenceStart,
  hold: holdStart,
  toggle: toggleStart,
  rule: ruleStart,
  event: eventStart,
  after: afterStart,
  code: codeStart,
} satisfies Readonly<Record<StartKey, StartKind>>;

/** @internal */
export const STARTS = Object.values(BY_KEY);

type Only<Key extends StartKey> = { [Other in Exclude<StartKey, Key>]?: never };

declare const ONE_START: unique symbol;

type KeyOf<U> = U extends U ? keyof U : never;
type At<U, K> = U extends U ? (K extends keyof U ? U[K] : never) : never;
/** All fields of all starts. */
type AnyFields<N extends NameTypes> = {
  [K in KeyOf<StartFields<N>[StartKey]>]?: At<StartFields<N>[StartKey], K>;
};

/**
 * No start is one of these: it stands last in the union, so that an error names the key that is wrong, and so
 * that two starts in one say so.
 */
interface AStartHasOnlyOneOfItsKeys<N extends NameTypes> extends AnyFields<N> {
  [ONE_START]: never;
}

/** A list that has none of the keys of a start: so that an error in a single start names the key that is wrong. */
export type Starts<N extends NameTypes> = readonly Start<N>[] & Only<never>;

/** One way in which an ability is requested. */
export type Start<N extends NameTypes> =
  | { [K in StartKey]: StartFields<N>[K] & Only<K> }[StartKey]
  | AStartHasOnlyOneOfItsKeys<N>;

export * from './presses.js';
