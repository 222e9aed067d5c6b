import type { Names } from '../read.js';
import type { Fields } from '../shape.js';

type Lists = { [K in keyof Names]: string[] };

/** Everything Loggia knows about one kind of input; listed once in index.ts. */
export interface InputKind<F extends Fields = Fields> {
  /** The key that makes an input one of this kind. */
  readonly key: string;
  readonly fields: F;
  /** Adds the names that such an input declares: what can be pressed, what can be pushed. */
  declare(name: string, names: Lists, input: Readonly<Record<string, unknown>>): void;
  /** What can be bound to devices, with the sources of each: keys, pad buttons, pointer buttons. */
  bindings(name: string, input: never): [bindable: string, sources: readonly string[]][];
  /** The stick of a gamepad that it is bound to, or undefined. */
  padStick?(input: never): 'left' | 'right' | undefined;
  /** Whether the pointer gives it. */
  pointer?(input: never): boolean;
}

export function inputKind<T, F extends Fields>(kind: {
  key: string;
  fields: F;
  declare: InputKind['declare'];
  bindings(name: string, input: T): [string, readonly string[]][];
  padStick?(input: T): 'left' | 'right' | undefined;
  pointer?(input: T): boolean;
}): InputKind<F> {
  return kind;
}

export function listOf(sources: string | readonly string[] | undefined): readonly string[] {
  return typeof sources === 'string' ? [sources] : (sources ?? []);
}
