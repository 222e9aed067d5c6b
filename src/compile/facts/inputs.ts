import { equal, js, pick, root, at as slot } from '../../record/code.js';
import { B_DOWN, B_PRESSED, B_RELEASED, BUTTON, STICK, T } from '../../record/slots.js';
import type { Add, FactRows, FactTools } from './fact.js';
import { nowAt, numberAt, truthAt } from './fact.js';

export function inputFacts(add: Add, tools: FactTools): void {
  tools.names.button.forEach((name, i) => {
    const at = tools.layout.buttons + i * BUTTON;
    add(`held(${name})`, () => truthAt(at + B_DOWN));
    add(`pressed(${name})`, () => nowAt(at + B_PRESSED));
    add(`released(${name})`, () => nowAt(at + B_RELEASED));
    add(`heldFor(${name})`, () => ({
      type: 'time',
      operand: tools.scratch(
        ({ r }, out) => {
          r[out] = r[at + B_DOWN] === 1 ? r[T] - r[at + B_PRESSED] : 0;
        },
        () => pick(equal(slot(at + B_DOWN), 1), js`${slot(T)} - ${slot(at + B_PRESSED)}`, 0),
      ),
    }));
  });
  tools.names.stick.forEach((name, i) => {
    const at = tools.layout.sticks + i * STICK;
    add(`${name}.x`, () => numberAt(at));
    add(`${name}.y`, () => numberAt(at + 1));
    add(`${name}.amount`, () => ({
      type: 'number',
      operand: tools.scratch(
        ({ r }, out) => {
          r[out] = Math.sqrt(r[at] * r[at] + r[at + 1] * r[at + 1]);
        },
        () => root(js`${slot(at)} * ${slot(at)} + ${slot(at + 1)} * ${slot(at + 1)}`),
      ),
    }));
  });
}

/** What the reference says of them. */
export const INPUTS_DOCS: FactRows = {
  Inputs: [
    ['held({button})', 'condition', 'The input is held.'],
    ['pressed({button})', 'condition', 'The input was pressed in this tick.'],
    ['released({button})', 'condition', 'The input was released in this tick.'],
    ['heldFor({button})', 'time', 'How long the input has been held.', '0s while it is not held'],
    ['{stick}.x', 'number', 'The stick, -1 (left) to 1 (right).'],
    ['{stick}.y', 'number', 'The stick, -1 (down) to 1 (up).'],
    ['{stick}.amount', 'number', 'How far the stick is pushed, 0 to 1.'],
    ['known({aim})', 'condition', 'The aim is given: a direction or a point.'],
    ['{aim}.x', 'number', 'The aim: a unit direction, or a point.', '0 while it is not given'],
    ['{aim}.y', 'number', 'The aim: a unit direction, or a point.', '0 while it is not given'],
    ['{aim}.z', 'number', 'The aim: a unit direction, or a point.', '0 while it is not given'],
    ['chosen({choice}.{option})', 'condition', 'This option is chosen.'],
  ],
};
