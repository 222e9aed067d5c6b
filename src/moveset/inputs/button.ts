import type { Allow } from '../allow.js';
import type { Data } from '../data.js';
import type { OneOrMore, Time } from '../name-types.js';
import { listOrOne, optional, time, word } from '../shape.js';
import { hintForSource, SOURCES, type Source } from '../sources.js';
import { inputKind, listOf } from './input.js';

/** A named button, and what it is bound to by default. */
export interface ButtonInput {
  /** A button: what it is bound to by default; `[]` binds nothing. */
  button: OneOrMore<Source>;
  /** How long a press too early is kept. Default 0f. */
  buffer?: Time;
  /** Grace of abilities that it starts, unless they say otherwise. Default 0f. */
  grace?: Time;
  /** Whatever the host wants to know of it, such as a label or an icon; `describe` hands it on. */
  data?: Data;
  /** Warnings that are right here, each with the reason. */
  allow?: Allow;
}

export const source = listOrOne({ ...word(...SOURCES), what: 'key or button', hint: hintForSource });

export const button = inputKind({
  key: 'button',
  fields: { button: optional(source), buffer: optional(time(0)), grace: optional(time(0)) },
  declare: (name, names) => names.button.push(name),
  bindings: (name, input: ButtonInput) => [[name, listOf(input.button)]],
});
