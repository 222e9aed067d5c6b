import { at, type Code, type Lines, literal } from './code.js';
import type { Frame, Operand } from './frame.js';

/*
 * What closures do, as code over `r`, the numbers of a character, and `c`, the character: modules are generated from it. It is asked for
 * where a module is written; what has none is called where it stands in the plan.
 */

type Expression = () => Code | undefined;
type Action = (own: number) => Lines | undefined;

const EXPRESSIONS = new WeakMap<object, Expression>();
const ACTIONS = new WeakMap<object, Action>();

/** Notes what a test, a direction or the run of an operand comes to. Left undefined: it has no code. */
export function written<F extends object>(closure: F, code: Expression | undefined): F {
  if (code !== undefined) EXPRESSIONS.set(closure, code);
  return closure;
}

/** Notes what an action of an effect does, with the first of the numbers that it owns. */
export function writtenLines<F extends (c: Frame, own: number) => void>(action: F, lines: Action): F {
  ACTIONS.set(action, lines);
  return action;
}

/** The expression of a closure. */
export function codeOf(closure: object): Code | undefined {
  return EXPRESSIONS.get(closure)?.();
}

/** The lines of an action, with the first of the numbers that it owns. */
export function linesOf(action: object, own: number): Lines | undefined {
  return ACTIONS.get(action)?.(own);
}

/** Code of others, if all of them have some. */
export function withAll<T>(
  codes: readonly (Code | undefined)[],
  make: (...codes: readonly Code[]) => T,
): T | undefined {
  return codes.every((one) => one !== undefined) ? make(...codes) : undefined;
}

/** What an operand comes to as an expression, if it has one. */
export function expressionOf(
  { at: slot, run, constant }: Operand,
  constants: readonly { readonly at: number; readonly value: number }[],
): Code | undefined {
  if (run !== null) return codeOf(run);
  const known = constant ? constants.find((one) => one.at === slot) : undefined;
  return known ? literal(known.value) : at(slot);
}
