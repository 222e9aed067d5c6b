import type { Allow } from '../allow.js';
import type { Data } from '../data.js';
import type { OneOrMore } from '../name-types.js';
import { map, optional } from '../shape.js';
import type { Source } from '../sources.js';
import { source } from './button.js';
import { inputKind, listOf } from './input.js';

/** One of several named options; the first is chosen at the start. */
export interface ChoiceInput {
  /** A choice: one of several options, each with the keys that choose it; the first is chosen at the start. */
  choice: Readonly<Record<string, OneOrMore<Source>>>;
  /** Whatever the host wants to know of it, such as a label or an icon; `describe` hands it on. */
  data?: Data;
  /** Warnings that are right here, each with the reason. */
  allow?: Allow;
}

/** One of several options, each of which is a button of its own: `berth.slip` chooses it. */
export const choice = inputKind({
  key: 'choice',
  fields: { choice: optional(map('new', source, 2)) },
  declare: (name, names, input) => {
    names.choice.push(name);
    names.button.push(...optionsOf(input).map((option) => `${name}.${option}`));
  },
  bindings: (name, input: ChoiceInput) =>
    optionsOf(input).map((option) => [`${name}.${option}`, listOf(input.choice[option])]),
});

/** The options of a choice, in their order. */
export function optionsOf(input: { readonly choice?: unknown }): string[] {
  return Object.keys((input.choice ?? {}) as object);
}
