/*
 * How things that hold closures are made again: modules that carry no compiler make them by the same functions, which
 * are given the same answers. Noted only where a moveset is compiled for a module.
 */

/** A call of a function of the library: what it is given, and what each of its tools answered, in their order. */
export interface Recipe {
  readonly make: string;
  readonly args: readonly unknown[];
  /** What its tools are, beside functions. */
  readonly base: Readonly<Record<string, unknown>>;
  readonly answers: Readonly<Record<string, readonly unknown[]>>;
  /** It listed something of its own: `addGuard`, `addSummoning`. */
  readonly lists: boolean;
}

/** Something that a recipe makes, or a part of that. */
export interface Made {
  readonly recipe: Recipe;
  readonly part: string | null;
}

const MADE = new WeakMap<object, Made>();

export function madeBy(thing: object): Made | undefined {
  return MADE.get(thing);
}

/** What tools are asked for that has no answer, or none that matters to what is made. */
export const UNANSWERED: ReadonlySet<string> = new Set(['codeOf', 'noteFoe', 'noteFollowing', 'unknown']);

/** Parts of an effect that hold closures themselves. */
const PARTS: ReadonlySet<string> = new Set(['warp', 'strike', 'touch']);

/** How something is made with tools. */
export interface Making {
  /** `name` is the name of the function in `loggia/module`. */
  make<T extends object, R extends object>(name: string, args: readonly unknown[], tools: T, run: (tools: T) => R): R;
}

export const MAKING: Making = { make: (_name, _args, tools, run) => run(tools) };

/** The same, and it notes how each thing was made. */
export class NotedMaking implements Making {
  readonly recipes: Recipe[] = [];
  private noting = true;

  make<T extends object, R extends object>(make: string, args: readonly unknown[], tools: T, run: (tools: T) => R): R {
    // What makes it may itself make something with the same tools: that is part of it.
    if (!this.noting) return run(tools);
    this.noting = false;
    const answers: Record<string, unknown[]> = {};
    const base: Record<string, unknown> = {};
    const asked: Record<string, unknown> = {};
    for (const [key, tool] of Object.entries(tools) as [string, unknown][]) {
      asked[key] = tool;
      if (typeof tool !== 'function') base[key] = tool;
      else if (!UNANSWERED.has(key))
        asked[key] = (...given: unknown[]) => {
          const answer = tool.apply(tools, given);
          answers[key] ??= [];
          answers[key].push(answer);
          return answer;
        };
    }
    const made = run(asked as T);
    this.noting = true;
    const lists = Object.keys(answers).some((key) => key.startsWith('add'));
    const recipe = { make, args, base, answers, lists };
    this.recipes.push(recipe);
    MADE.set(made, { recipe, part: null });
    if (typeof made === 'object')
      for (const [part, value] of Object.entries(made))
        if (typeof value === 'function' || PARTS.has(part)) MADE.set(value, { recipe, part });
    return made;
  }
}
