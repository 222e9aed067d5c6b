import type { Allow } from '../allow.js';
import type { Data } from '../data.js';
import { fields, optional, truth, word } from '../shape.js';
import { inputKind } from './input.js';

/** A direction or a point that the player or code gives; none until it is given. */
export interface AimInput {
  /** An aim: a direction or a point, by a stick, the pointer or code. */
  aim: {
    /** A stick of the W3C standard gamepad: its direction, none while it rests. */
    pad?: 'left' | 'right';
    /** The pointer gives the point that it is over; the page says where that is. Default false. */
    pointer?: boolean;
  };
  /** Whatever the host wants to know of it, such as a label or an icon; `describe` hands it on. */
  data?: Data;
  /** Warnings that are right here, each with the reason. */
  allow?: Allow;
}

const shape = fields('an aim', {
  pad: optional(word('left', 'right')),
  pointer: optional(truth()),
});

/** A direction or a point: by a stick of the gamepad, by the pointer, or set by code. */
export const aim = inputKind({
  key: 'aim',
  fields: { aim: optional(shape) },
  declare: (name, names) => {
    names.aim.push(name);
  },
  bindings: () => [],
  padStick: (input: AimInput) => input.aim.pad,
  pointer: (input: AimInput) => input.aim.pointer === true,
});
