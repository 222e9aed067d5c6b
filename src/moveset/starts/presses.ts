import { B_DOWN, B_PRESSED, BUTTON, FX, T } from '../../record/slots.js';
import type { NameTypes, Time } from '../name-types.js';
import { list, name, optional, sound, time, word } from '../shape.js';
import { DIRECTIONS, type Direction, directionOf } from './direction.js';
import { type MomentTest, type StartTools, startKind } from './start.js';

/** Of a start by a press. */
export interface PressStart<N extends NameTypes> {
  /** Requests once when this input is pressed. */
  press: NoInfer<N['input']>;
  /** While the stick is pushed this way, relative to facing. */
  toward?: Direction;
  /** While this other input is held. */
  with?: NoInfer<N['input']>;
}

/** Of a start by a release. */
export interface ReleaseStart<N extends NameTypes> {
  /** Requests once when this input is released. */
  release: NoInfer<N['input']>;
  /** Held at least this long. Default: any time. */
  held?: Time;
}

/** Of a start by a short press. */
export interface TapStart<N extends NameTypes> {
  /** Requests once when this input is released soon after it was pressed. */
  tap: NoInfer<N['input']>;
  /** How soon. Default 0.2s. */
  within?: Time;
}

/** Of a start by two presses. */
export interface DoubleStart<N extends NameTypes> {
  /** Requests once when this input is pressed twice in short order. */
  double: NoInfer<N['input']>;
  /** Between the two presses. Default 0.25s. */
  within?: Time;
}

/** Of a start by several presses. */
export interface SequenceStart<N extends NameTypes> {
  /** Requests once when these directions (relative to facing) and inputs are pressed one after another. */
  sequence: readonly (Exclude<Direction, 'neutral'> | NoInfer<N['input']>)[];
  /** From the first to the last. Default 0.4s. */
  within?: Time;
}

/** @internal */
export const pressStart = startKind(
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
    const wants: MomentTest[] = [];
    if (toward) wants.push((c) => stick >= 0 && directionOf(c, stick, view) === toward);
    if (other) {
      const at = tools.buttonAt(other);
      wants.push(({ r }) => r[at + B_DOWN] === 1 || r[at + B_PRESSED] === r[T]);
    }
    // Not by `every`, since a press must allocate nothing.
    const happensAll: MomentTest = (c, pressed) => {
      for (let i = 0; i < wants.length; i++) if (!wants[i](c, pressed)) return false;
      return true;
    };
    const happens = wants.length === 0 ? undefined : happensAll;
    return {
      rank: wants.length,
      button,
      input,
      on: 'press',
      happens,
      keepsFacing: toward === 'back',
      wants: { toward, with: other },
    };
  },
);

/** @internal */
export const releaseStart = startKind(
  'release',
  {
    release: optional(name('button')),
    held: optional(time()),
  },
  ({ release: input, held }, tools) => {
    const button = tools.buttonAt(input);
    if (held === undefined) return { rank: 0, button, input, on: 'release' };
    const happens: MomentTest = ({ r }) => r[T] - r[button + B_PRESSED] >= held;
    return { rank: 1, button, input, on: 'release', happens, wants: { held } };
  },
);

const within = optional(time());

/** @internal */
export const tapStart = startKind('tap', { tap: optional(name('button')), within }, ({ tap: input, within }, tools) => {
  const button = tools.buttonAt(input);
  const most = within ?? tools.ticks('0.2s');
  const happens: MomentTest = ({ r }) => r[T] - r[button + B_PRESSED] <= most;
  return { rank: 1, button, input, on: 'release', happens, wants: { within: most } };
});

/** @internal Owns the own tick of the press before, until it has made a pair. */
export const doubleStart = startKind(
  'double',
  { double: optional(name('button')), within },
  ({ double: input, within }, tools) => {
    const most = within ?? tools.ticks('0.25s');
    const { own } = tools;
    const happens: MomentTest = ({ r }) => {
      const pairs = r[own] > 0 && r[T] + 1 - r[own] <= most;
      // Ticks from 1 on, since 0 stands for none.
      r[own] = pairs ? 0 : r[T] + 1;
      return pairs;
    };
    return { rank: 2, button: tools.buttonAt(input), input, on: 'press', happens, wants: { within: most } };
  },
  1,
);

const step = {
  ...name('button'),
  words: DIRECTIONS.filter((direction) => direction !== 'neutral'),
  meaning: 'direction',
};

/** @internal Owns how many of its steps were taken, and in which tick each of them was. */
export const sequenceStart = startKind(
  'sequence',
  {
    sequence: optional(list(step, { min: 2, max: 8 })),
    within,
  },
  ({ sequence, within }, tools) => {
    const steps = sound(sequence);
    const most = within ?? tools.ticks('0.4s');
    const tests = steps.map((step) => stepTest(step, tools));
    const { own } = tools;
    const last = steps[steps.length - 1];
    const input = isDirection(last) ? undefined : last;
    /** By how many steps were taken, from most to fewest: how many of the last of these are a beginning, too. */
    const beginnings = steps.map((_, taken) =>
      Array.from({ length: taken + 1 }, (_, i) => taken - i).filter((kept) =>
        steps.slice(0, kept).every((step, i) => step === steps[taken - kept + i]),
      ),
    );
    const happens: MomentTest = (c, pressed) => {
      const { r } = c;
      const taken = r[own] in tests ? r[own] : 0;
      const kept = beginnings[taken];
      for (let i = 0; i < kept.length; i++) {
        const from = taken - kept[i];
        // What began too long ago goes on from its later steps.
        if (kept[i] > 0 && r[T] - r[own + 1 + from] > most) continue;
        if (!tests[kept[i]](c, pressed)) continue;
        for (let k = 0; k < kept[i]; k++) r[own + 1 + k] = r[own + 1 + from + k];
        r[own + 1 + kept[i]] = r[T];
        r[own] = kept[i] + 1;
        if (r[own] < tests.length) return false;
        r[own] = 0;
        return true;
      }
      return false;
    };
    return {
      rank: 2 + steps.length,
      on: 'edge',
      button: input ? tools.buttonAt(input) : undefined,
      input,
      happens,
      keepsFacing: steps.includes('back'),
      wants: { sequence: steps, within: most },
    };
  },
  ({ sequence: steps }) => 1 + (steps?.length ?? 0),
);

function isDirection(step: string): step is Direction {
  return (DIRECTIONS as readonly string[]).includes(step);
}

/** A step of a sequence is the press of a button, or of a side of the stick that walks. */
function stepTest(step: string, tools: StartTools): MomentTest {
  if (!isDirection(step)) {
    const at = tools.buttonAt(step);
    return (_, pressed) => pressed === at;
  }
  const stick = tools.stickAt();
  if (stick < 0) return () => false;
  const [left, right, up, down] = [0, 1, 2, 3].map((side) => tools.sidesAt() + side * BUTTON);
  if (tools.view === 'open')
    return (c, pressed) => pressed >= left && pressed <= down && directionOf(c, stick, 'open') === step;
  if (step === 'up') return (_, pressed) => pressed === up;
  if (step === 'down') return (_, pressed) => pressed === down;
  const ahead = step === 'forward' ? 1 : -1;
  return ({ r }, pressed) => pressed === (r[FX] * ahead > 0 ? right : left);
}
