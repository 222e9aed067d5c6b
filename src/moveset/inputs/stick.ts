import type { Allow } from '../allow.js';
import type { Data } from '../data.js';
import type { OneOrMore } from '../name-types.js';
import { fields, number, optional, word } from '../shape.js';
import type { Source } from '../sources.js';
import { source } from './button.js';
import { inputKind, listOf } from './input.js';

/** A named stick, and what it is bound to by default. */
export interface StickInput {
  /** A stick: what it is bound to by default. */
  stick: {
    /** Keys or buttons that push it left. */
    left?: OneOrMore<Source>;
    /** Keys or buttons that push it right. */
    right?: OneOrMore<Source>;
    /** Keys or buttons that push it up. */
    up?: OneOrMore<Source>;
    /** Keys or buttons that push it down. */
    down?: OneOrMore<Source>;
    /** A stick of the W3C standard gamepad. */
    pad?: 'left' | 'right';
  };
  /** Radius in which an analog stick rests, 0 to 0.9. Default 0.2. */
  deadzone?: number;
  /** What two opposite sides held at once give. Default `last`: the one pressed last. */
  opposite?: 'last' | 'neutral';
  /** Whatever the host wants to know of it, such as a label or an icon; `describe` hands it on. */
  data?: Data;
  /** Warnings that are right here, each with the reason. */
  allow?: Allow;
}

/** Each side of a stick is a button of its own: `move.left`. */
export const SIDES = ['left', 'right', 'up', 'down'] as const;

const shape = fields('a stick', {
  left: optional(source),
  right: optional(source),
  up: optional(source),
  down: optional(source),
  pad: optional(word('left', 'right')),
});

export const stick = inputKind({
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
  bindings: (name, input: StickInput) => SIDES.map((side) => [`${name}.${side}`, listOf(input.stick[side])]),
  padStick: (input) => input.stick.pad,
});
