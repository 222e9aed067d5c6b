import type { Operand } from './frame.js';

/**
 * What closures do, as JavaScript over `r`, the numbers of a character, and `c`, the character: modules are generated from it.
 * Of a test and of the run of an operand it is an expression, of an action of an effect it is statements. What has none is
 * called where it stands in the plan.
 */
type Text = string | ((own: number) => string);

const TEXTS = new WeakMap<object, Text>();

/** Notes what a closure does. Left undefined: it has no text. */
export function written<F extends object>(closure: F, text: Text | undefined): F {
  if (text !== undefined) TEXTS.set(closure, text);
  return closure;
}

/** The text of a closure; for an action, with the first of the numbers that it owns. */
export function textOf(closure: object, own = -1): string | undefined {
  const text = TEXTS.get(closure);
  return typeof text === 'function' ? text(own) : text;
}

/** What an operand comes to as an expression, if it has one. */
export function expressionOf(
  { at, run, constant }: Operand,
  constants: readonly { readonly at: number; readonly value: number }[],
): string | undefined {
  if (run !== null) return textOf(run);
  const known = constant ? constants.find((one) => one.at === at) : undefined;
  return known ? writeNumber(known.value) : `r[${at}]`;
}

/** A number as it is written, so that it is read back the same. */
export function writeNumber(value: number): string {
  return Object.is(value, -0) ? '-0' : String(value);
}

/** Plain data as it is written in generated code, on one line however lines are counted; undefined for what is none. */
export function writeData(value: unknown): string {
  return (JSON.stringify(value) ?? 'undefined').replace(
    /[\u2028\u2029]/g,
    (sign) => `\\u${sign.charCodeAt(0).toString(16)}`,
  );
}

/** What the functions of a module are called that say whether a named condition holds, before its name. */
export const NAMED = 'named_';
