import type { Facts, NameTypes, NumberFormula, OneOrMore, ValueName } from '../name-types.js';
import { either, formula, list, listOrOne, map, name, type Read, sound } from '../shape.js';
import { effect } from './effect.js';
import { compileMessage } from './message-values.js';

/** Events by name, or each with its values: formulas, points, directions or words, as the event declares them. */
export type Emitting<N extends NameTypes> =
  | OneOrMore<NoInfer<N['event']>>
  | {
      readonly [E in NoInfer<N['event']>]?: {
        readonly [V in NoInfer<ValueName<N, E>>]?: number | string | ((facts: Facts<N>) => number);
      };
    };

/** The key `gain` of what has effects. */
export interface GainField<N extends NameTypes> {
  /** Adds to pools once, as the ability or phase begins, never past their limits. */
  gain?: Partial<Record<NoInfer<N['pool']>, NumberFormula<N>>>;
}

/** The key `emit` of what has effects. */
export interface EmitField<N extends NameTypes> {
  /** Emits these events once, as the ability or phase begins: names, or each with its values. */
  emit?: Emitting<N>;
}

/** @internal */
export const gainEffect = effect(
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

/** @internal Events by name, or each with the values that it carries: formulas, points, directions or words, as the event declares them. */
export const emitShape = either({
  plain: listOrOne(name('event')),
  list: list(name('event')),
  fields: map('event', map('new', formula('number'))),
});

/** @internal Events as they were read. */
export type Emitted = Read<typeof emitShape>;

/** @internal */
export const emitEffect = effect(
  'emit',
  emitShape,
  (value, tools) => {
    const events = emitted({ emit: value }).map((event) => ({
      event: tools.index('event', event),
      write: compileMessage(event, (!Array.isArray(value) && value[event]) || {}, tools),
    }));
    return {
      begin: (c) => {
        for (let i = 0; i < events.length; i++) {
          events[i].write(c);
          c.emit(events[i].event);
        }
      },
    };
  },
  { inStances: false },
);

/** @internal The events that a scope, or a beat, emits. */
export function emitted({ emit }: { readonly emit?: Emitted } = {}): string[] {
  return Array.isArray(emit) ? sound(emit) : Object.keys(emit ?? {});
}
