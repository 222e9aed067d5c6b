import { listOrOne, optional, time, word } from '../shape.js';
import { hintForSource, SOURCES } from '../sources.js';
import type { ButtonInput } from '../types.js';
import { inputKind, listOf } from './input.js';

export const source = listOrOne({ ...word(...SOURCES), what: 'key or button', hint: hintForSource });

export const button = inputKind<ButtonInput>({
  key: 'button',
  fields: { button: optional(source), buffer: optional(time(0)), grace: optional(time(0)) },
  declare: (name, names) => names.button.push(name),
  bindings: (name, input) => [[name, listOf(input.button)]],
});
