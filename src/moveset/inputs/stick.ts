import { fields, number, optional, word } from '../shape.js';
import type { StickInput } from '../types.js';
import { source } from './button.js';
import { inputKind, listOf } from './input.js';

/** Each side of a stick is a button of its own: `move.left`. */
export const SIDES = ['left', 'right', 'up', 'down'] as const;

const shape = fields('a stick', {
  left: optional(source),
  right: optional(source),
  up: optional(source),
  down: optional(source),
  pad: optional(word('left', 'right')),
});

export const stick = inputKind<StickInput>({
  key: 'stick',
  fields: {
    stick: optional(shape),
    deadzone: optional(number(0, 0.9)),
    opposite: optional(word('last', 'neutral')),
  },
  declare: (name, names) => {
    names.stick.push(name);
    names.button.push(...SIDES.map((side) => `${name}.${side}`));
  },
  bindings: (name, input) => SIDES.map((side) => [`${name}.${side}`, listOf(input.stick[side])]),
  padStick: (input) => input.stick.pad,
});
