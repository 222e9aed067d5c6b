import { fields, optional, truth, word } from '../shape.js';
import type { AimInput } from '../types.js';
import { inputKind } from './input.js';

const shape = fields('an aim', {
  pad: optional(word('left', 'right')),
  pointer: optional(truth()),
});

/** A direction or a point: by a stick of the gamepad, by the pointer, or set by code. */
export const aim = inputKind<AimInput>({
  key: 'aim',
  fields: { aim: optional(shape) },
  declare: (name, names) => {
    names.aim.push(name);
  },
  bindings: () => [],
  padStick: (input) => input.aim.pad,
  pointer: (input) => input.aim.pointer === true,
});
