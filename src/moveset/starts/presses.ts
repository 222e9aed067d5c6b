import type { Test } from '../effects/effect.js';
import { list, type NameShape, name, optional, time, word } from '../shape.js';
import { B_BEFORE, B_DOWN, B_PRESSED, BUTTON, T } from '../slots.js';
import { DIRECTIONS, type Direction, directionOf } from './direction.js';
import { type StartTools, startKind } from './start.js';

export const press = startKind<{ press: string; toward?: Direction; with?: string }>(
  'press',
  {
    press: optional(name('button')),
    toward: optional(word(...DIRECTIONS)),
    with: optional(name('button')),
  },
  ({ press: input, toward, with: other }, tools) => {
    const button = tools.buttonAt(input);
    const stick = tools.stickAt();
    const { view } = tools;
    const wants: Test[] = [];
    if (toward) wants.push((c) => stick >= 0 && directionOf(c, stick, view) === toward);
    if (other) {
      const at = tools.buttonAt(other);
      wants.push(({ r }) => r[at + B_DOWN] === 1);
    }
    const happens: Test | undefined = wants.length === 0 ? undefined : (c) => wants.every((test) => test(c));
    return { turn: 2, rank: wants.length, button, input, moment: 'press', happens };
  },
);

export const release = startKind<{ release: string; after?: number }>(
  'release',
  {
    release: optional(name('button')),
    after: optional(time()),
  },
  ({ release: input, after }, tools) => {
    const button = tools.buttonAt(input);
    if (after === undefined) return { turn: 2, rank: 0, button, input, moment: 'release' };
    const happens: Test = ({ r }) => r[T] - r[button + B_PRESSED] >= after;
    return { turn: 2, rank: 1, button, input, moment: 'release', happens };
  },
);

const within = optional(time());

export const tap = startKind<{ tap: string; within?: number }>(
  'tap',
  { tap: optional(name('button')), within },
  ({ tap: input, within }, tools) => {
    const button = tools.buttonAt(input);
    const most = within ?? tools.ticks('0.2s');
    const happens: Test = ({ r }) => r[T] - r[button + B_PRESSED] <= most;
    return { turn: 2, rank: 1, button, input, moment: 'release', happens };
  },
);

export const double = startKind<{ double: string; within?: number }>(
  'double',
  { double: optional(name('button')), within },
  ({ double: input, within }, tools) => {
    const button = tools.buttonAt(input);
    const most = within ?? tools.ticks('0.25s');
    const happens: Test = ({ r }) => r[T] - r[button + B_BEFORE] <= most;
    return { turn: 2, rank: 2, button, input, moment: 'press', happens };
  },
);

const step: NameShape = { ...name('button'), words: DIRECTIONS.filter((direction) => direction !== 'neutral') };

export const sequence = startKind<{ sequence: string[]; within?: number }>(
  'sequence',
  {
    sequence: optional(list(step, { min: 2, max: 8 })),
    within,
  },
  ({ sequence: steps, within }, tools) => {
    const most = within ?? tools.ticks('0.4s');
    const tests = steps.map((step) => stepTest(step, tools));
    const memory = tools.memory();
    const last = steps[steps.length - 1];
    const input = isDirection(last) ? undefined : last;
    // How far it is, and since when.
    const happens: Test = (c) => {
      const { r } = c;
      if (r[memory] > 0 && r[T] - r[memory + 1] > most) r[memory] = 0;
      // A press that is not the next step may be the first of a new try.
      if (!tests[r[memory]](c)) {
        if (r[memory] === 0 || !tests[0](c)) return false;
        r[memory] = 0;
      }
      if (r[memory] === 0) r[memory + 1] = r[T];
      r[memory] += 1;
      if (r[memory] < tests.length) return false;
      r[memory] = 0;
      return true;
    };
    return {
      turn: 2,
      rank: 2 + steps.length,
      moment: 'edges',
      button: input ? tools.buttonAt(input) : undefined,
      input,
      happens,
    };
  },
);

function isDirection(step: string): step is Direction {
  return (DIRECTIONS as readonly string[]).includes(step);
}

/** A step of a sequence is the moment of a press, of a button or of a side of the stick. */
function stepTest(step: string, tools: StartTools): Test {
  if (!isDirection(step)) {
    const at = tools.buttonAt(step);
    return ({ r }) => r[at + B_PRESSED] === r[T];
  }
  const stick = tools.stickAt();
  if (stick < 0) return () => false;
  const { view } = tools;
  const sides = tools.sidesAt();
  return (c) => {
    const { r } = c;
    for (let i = 0; i < 4; i++)
      if (r[sides + i * BUTTON + B_PRESSED] === r[T]) return directionOf(c, stick, view) === step;
    return false;
  };
}
