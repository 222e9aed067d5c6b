import { aim } from './aim.js';
import { button } from './button.js';
import { choice } from './choice.js';
import type { InputKind } from './input.js';
import { stick } from './stick.js';

/** Every kind of input; a new one is a file beside these and a name here. */
export const INPUTS: readonly InputKind[] = [button, stick, aim, choice];

/** The kind of an input, or undefined for what is faulty. */
export function kindOf(input: object): InputKind | undefined {
  return INPUTS.find(({ key }) => (input as Record<string, unknown>)[key] !== undefined);
}

/** What can be bound to devices of an input, with its sources. */
export function bindingsOf(name: string, input: object): [bindable: string, sources: readonly string[]][] {
  return kindOf(input)?.bindings(name, input as never) ?? [];
}
