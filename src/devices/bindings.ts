import type { Plan } from '../compile/plan.js';
import { bindingsOf } from '../moveset/inputs/index.js';
import { isPlain } from '../moveset/read.js';
import { SOURCES } from '../moveset/sources.js';
import { wantList, wantPlan } from '../report/arguments.js';
import { nearestName } from '../report/nearest.js';
import { DEEPEST, nestsTooDeep } from '../report/nesting.js';
import { indexOfName, UsageError } from '../report/usage-error.js';
import { describe } from '../report/words.js';

/** One source bound to two inputs. Both get it: sometimes that is meant. */
export interface Conflict {
  readonly source: string;
  readonly inputs: readonly string[];
}

/** What a player changed, as it is saved: inputs and sides of sticks by name, each with its sources. */
export interface SavedBindings {
  readonly loggia: 1;
  readonly bindings: Readonly<Record<string, readonly string[]>>;
}

/** What became of loaded bindings: sentences for what could not be used, and that part itself, to be saved again. */
export interface LoadedBindings {
  readonly problems: readonly string[];
  readonly unknown: Readonly<Record<string, unknown>>;
}

const FORMAT = 1;

/**
 * Which sources (keys, pad buttons, pointer buttons) press which inputs: the moveset's defaults, and what a
 * player changed. Sides of sticks are inputs of their own (`move.left`).
 */
export class Bindings {
  private readonly defaults = new Map<string, readonly string[]>();
  private readonly current = new Map<string, readonly string[]>();
  private readonly bySource = new Map<string, readonly string[]>();
  private unknown: Record<string, unknown> = Object.create(null);

  constructor(private readonly plan: Plan) {
    wantPlan('Bindings', plan);
    for (const [name, input] of Object.entries(plan.inputs))
      for (const [key, sources] of bindingsOf(name, input)) this.defaults.set(key, sources);
    this.reset();
  }

  /**
   * Sources of an input or a side of a stick.
   * @param input Its name.
   * @throws {UsageError} for a name that the moveset does not have.
   */
  sourcesOf(input: string): readonly string[] {
    this.check('sourcesOf', input);
    return this.current.get(input) ?? [];
  }

  /**
   * Inputs that a source presses.
   * @param source A key, a button of the gamepad or of the pointer.
   */
  inputsOf(source: string): readonly string[] {
    return this.bySource.get(source) ?? [];
  }

  /**
   * Gives an input other sources; none unbinds it.
   * @param input Its name.
   * @param sources Keys and buttons, instead of those it has.
   * @throws {UsageError} for names that do not exist.
   */
  rebind(input: string, sources: readonly string[]): void {
    this.check('rebind', input);
    wantList('rebind', 'its sources', sources);
    for (const source of sources)
      if (!(SOURCES as readonly string[]).includes(source))
        throw new UsageError(`rebind: ${unknownSource(String(source))}`, 'unknown-name');
    this.current.set(input, [...new Set(sources)]);
    this.index();
  }

  /** Back to the moveset's defaults. */
  reset(): void {
    this.current.clear();
    for (const [input, sources] of this.defaults) this.current.set(input, sources);
    this.index();
  }

  /** Sources that press more than one input. */
  conflicts(): Conflict[] {
    return [...this.bySource].filter(([, inputs]) => inputs.length > 1).map(([source, inputs]) => ({ source, inputs }));
  }

  /** What differs from the defaults, and what was loaded but not known. */
  toJSON(): SavedBindings {
    const changed = [...this.current].filter(
      ([input, sources]) => String(sources) !== String(this.defaults.get(input)),
    );
    return {
      loggia: FORMAT,
      bindings: {
        ...this.unknown,
        ...Object.fromEntries(changed.map(([input, sources]) => [input, [...sources]])),
      } as SavedBindings['bindings'],
    };
  }

  /**
   * Takes saved bindings over the defaults. What cannot be used is told, kept aside, and saved again.
   * @param saved What JSON.parse gave.
   */
  load(saved: unknown): LoadedBindings {
    this.reset();
    this.unknown = Object.create(null);
    if (nestsTooDeep(saved))
      return { problems: [`These bindings nest deeper than ${DEEPEST} levels; the defaults hold.`], unknown: {} };
    const { loggia, bindings } = (saved ?? {}) as Partial<SavedBindings>;
    if (loggia !== FORMAT || !isPlain(bindings))
      return { problems: [`These are not bindings of format ${FORMAT}; the defaults hold.`], unknown: {} };
    const problems: string[] = [];
    for (const [input, sources] of Object.entries(bindings)) {
      const problem = this.problemWith(input, sources);
      if (problem) {
        problems.push(problem);
        this.unknown[input] = sources;
      } else this.current.set(input, [...new Set(sources as string[])]);
    }
    this.index();
    return { problems, unknown: this.unknown };
  }

  private problemWith(input: string, sources: unknown): string | undefined {
    const { button } = this.plan.names;
    if (!button.includes(input)) {
      const nearest = nearestName(input, button);
      return `There is no input ${describe(input)}${nearest ? `. Did you mean "${nearest}"?` : '.'}`;
    }
    if (!Array.isArray(sources)) return `The sources of ${describe(input)} must be a list, not ${describe(sources)}.`;
    const stray = sources.find((source) => !SOURCES.includes(source));
    return stray === undefined ? undefined : unknownSource(String(stray));
  }

  private check(call: string, input: string): void {
    indexOfName(call, 'input', input, this.plan.names.button, this.plan.code);
  }

  private index(): void {
    this.bySource.clear();
    for (const [input, sources] of this.current)
      for (const source of sources) this.bySource.set(source, [...(this.bySource.get(source) ?? []), input]);
  }
}

function unknownSource(source: string): string {
  const nearest = nearestName(source, SOURCES);
  return `There is no key or button ${describe(source)}${nearest ? `. Did you mean "${nearest}"?` : '.'}`;
}
