import type { Plan } from '../../src/compile/plan.js';
import { Bindings } from '../../src/devices/bindings.js';
import { B_DOWN, BUTTON } from '../../src/record/slots.js';
import type { Seen } from '../../src/recording/moment.js';

/** An input with what it is bound to, and whether it is held. */
export interface BoundInput {
  readonly input: string;
  readonly keys: string;
  readonly held: boolean;
}

/** Keys for what has none, as with those whom only opponents play: for sides of sticks, and for all others. */
const SIDES: Readonly<Record<string, string>> = {
  left: 'ArrowLeft',
  right: 'ArrowRight',
  up: 'ArrowUp',
  down: 'ArrowDown',
};
const SPARE = ['1', '2', '3', '4', '5', '6', '7', '8', '9', '0'].map((digit) => `Digit${digit}`);

const KNOWN = new WeakMap<Plan, Bindings>();

/** The bindings of a moveset, and keys that are free for inputs that are bound to nothing. They are made once: the page reads them at each tick. */
export function bindingsFor(plan: Plan): Bindings {
  const known = KNOWN.get(plan) ?? bind(plan);
  KNOWN.set(plan, known);
  return known;
}

function bind(plan: Plan): Bindings {
  const bindings = new Bindings(plan);
  const isFree = (key: string | undefined) => key !== undefined && bindings.inputsOf(key).length === 0;
  const isBound = (input: string) => bindings.sourcesOf(input).length > 0;
  // A stick that has keys for some of its sides is meant to go nowhere else.
  const bound = new Set(plan.names.button.filter(isBound).map(stickOf));
  for (const input of plan.names.button) {
    if (bound.has(stickOf(input))) continue;
    const side = SIDES[input.replace(/^.*\./, '')];
    const key = input.includes('.') && isFree(side) ? side : SPARE.find(isFree);
    if (key !== undefined) bindings.rebind(input, [key]);
  }
  return bindings;
}

function stickOf(input: string): string {
  return input.replace(/\..*$/, '');
}

/** The inputs of somebody that keys press; sides of sticks are inputs of their own. */
export function bindingsOf({ plan, c }: Seen): BoundInput[] {
  const bindings = bindingsFor(plan);
  return plan.names.button.flatMap((input, i) => {
    const sources = bindings.sourcesOf(input);
    const own = sources.find((source) => !source.startsWith('pad.')) ?? sources[0];
    if (own === undefined) return [];
    return [{ input, keys: wordKey(own), held: c.r[plan.layout.buttons + i * BUTTON + B_DOWN] !== 0 }];
  });
}

const ARROWS: Readonly<Record<string, string>> = { ArrowLeft: '←', ArrowRight: '→', ArrowUp: '↑', ArrowDown: '↓' };

/** `KeyF` as it stands on the key. */
function wordKey(code: string): string {
  return ARROWS[code] ?? code.replace(/^(Key|Digit)/, '');
}
