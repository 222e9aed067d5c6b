import type { Plan, PlanCode } from '../compile/plan.js';
import { surfacesBy, taggedBy } from '../compile/tags.js';
import { MODULE, PackingError, WITH_FORMULAS } from '../compile/version.js';
import { UNANSWERED } from '../record/recipes.js';
import { UsageError } from '../report/usage-error.js';

/** Refuses a module of another version. */
export function checkVersion(version: number): void {
  if (version !== MODULE)
    throw new PackingError(
      `This module of a moveset was generated as ${version}, but this Loggia takes ${MODULE}; generate it again.`,
    );
}

type Written = Omit<
  Plan,
  | 'indexes'
  | 'arraySize'
  | 'testOfTag'
  | 'surfaces'
  | 'reading'
  | 'conditions'
  | 'amountOf'
  | 'factNames'
  | 'longConditions'
> & {
  readonly size: number;
};

/** The plan of a module that was written out, before its code is added. Throws a {@link PackingError} for a module of another version. */
export function writtenPlan(version: number, written: Written): Plan {
  checkVersion(version);
  const { names, size } = written;
  const missing = (what: string) => (): never => {
    throw new UsageError(
      `${what}: the module of ${written.name} leaves out the moveset and what reads formulas; ${WITH_FORMULAS}.`,
      'missing',
    );
  };
  return {
    ...written,
    layout: { ...written.layout, ranges: [] },
    // What is missing here comes with the code of the module.
    code: { facts: missing('A fact by its name') } as unknown as PlanCode,
    get parsed(): never {
      return missing('What the moveset says')();
    },
    indexes: Object.fromEntries(
      Object.entries(names).map(([kind, list]) => [kind, new Map(list.map((name, i) => [name, i]))]),
    ) as unknown as Plan['indexes'],
    arraySize: () => size,
    testOfTag: taggedBy(written),
    surfaces: surfacesBy(names.surface),
    reading: missing('A fact by its name'),
    factNames: missing('A fact by its name'),
    longConditions: new Map(),
    conditions: missing('A condition of an opponent, a scenario or a recording'),
    amountOf: missing('A measure'),
  };
}

/** Makes objects that have all of these keys: each is given what stands in its columns, then by name what else it has of its own. */
export function rows<T extends object>(common: T, ...columns: readonly string[]): (...cells: readonly unknown[]) => T {
  return (...cells) => {
    const row = { ...common } as Record<string, unknown>;
    for (let i = 0; i < columns.length && i < cells.length; i++) row[columns[i]] = cells[i];
    return Object.assign(row, cells[columns.length]) as T;
  };
}

/** A table that is 1 at some of its places, else 0. */
export function markAt(length: number, ...places: readonly number[]): Uint8Array {
  const table = new Uint8Array(length);
  for (const at of places) table[at] = 1;
  return table;
}

/**
 * Tools that give the answers that were given when the moveset was compiled, each its own in their order; what lists something lists it
 * in `lists`. What no answer was needed of is asked in vain.
 */
export function answered(
  base: Readonly<Record<string, unknown>>,
  answers: Readonly<Record<string, readonly unknown[]>>,
  lists: Readonly<Record<string, unknown[]>> = {},
): never {
  const tools: Record<string, unknown> = { ...base };
  for (const key of UNANSWERED) tools[key] = () => undefined;
  for (const key of Object.keys(answers)) {
    let next = 0;
    tools[key] = (added: unknown) => {
      const answer = answers[key][next++];
      if (key in lists) lists[key][answer as number] = added;
      return answer;
    };
  }
  return tools as never;
}
