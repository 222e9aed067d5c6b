import { type AimInput, aim } from './aim.js';
import { type ButtonInput, button } from './button.js';
import { type ChoiceInput, choice } from './choice.js';
import type { InputKind } from './input.js';
import { type StickInput, stick } from './stick.js';

/** Every kind of input, by the key that makes it one: a new one is a file beside these, and a line in the two lists here. */
interface InputFields {
  button: ButtonInput;
  stick: StickInput;
  aim: AimInput;
  choice: ChoiceInput;
}
type InputKey = keyof InputFields;

const BY_KEY = { button, stick, aim, choice } satisfies Readonly<Record<InputKey, InputKind>>;

/** @internal */
export const INPUTS = Object.values(BY_KEY);

/** A named input, and what it is bound to by default. */
export type Input = { [K in InputKey]: InputFields[K] & { [Other in Exclude<InputKey, K>]?: never } }[InputKey];

/** The kind of an input, or undefined for what is faulty. */
export function kindOf(input: object): InputKind | undefined {
  return INPUTS.find(({ key }) => (input as Record<string, unknown>)[key] !== undefined);
}

/** What can be bound to devices of an input, with its sources. */
export function bindingsOf(name: string, input: object): [bindable: string, sources: readonly string[]][] {
  return kindOf(input)?.bindings(name, input as never) ?? [];
}
