import type { Advise } from '../compile/checked.js';
import type { Plan } from '../compile/plan.js';
import type { Definition } from '../moveset/define.js';
import type { MessageDeclaration, Moveset, NameTypes } from '../moveset/types.js';
import { wantFunction, wantOptions } from '../report/arguments.js';
import type { Diagnostic } from '../report/diagnostic.js';
import { wordPlaced } from '../report/wording.js';
import { count, describe } from '../report/words.js';
import { checkMoveset } from './check.js';

/** A moveset that cannot be compiled; its message lists every error. */
export class MovesetError extends Error {
  override readonly name = 'MovesetError';

  constructor(
    readonly moveset: string,
    readonly diagnostics: readonly Diagnostic[],
    /** How a diagnostic is shown. Default: its path and its sentence. */
    show: (d: Diagnostic) => string = wordPlaced,
  ) {
    const lines = diagnostics.map((d) => `  ${show(d)}`);
    super(`The moveset${moveset && ` ${describe(moveset)}`} has ${count(lines.length, 'error')}:\n${lines.join('\n')}`);
  }
}

/** How `compileMoveset` treats warnings. */
export interface CompileOptions {
  /** Finds what is unwise, too: pass `advise`. A game that leaves it out does not carry it. */
  advise?: Advise;
  /** Called for each warning with its place and sentence, like `abilities.hop: ...`. Default: warnings are passed over. */
  warn?(sentence: string, diagnostic: Diagnostic): void;
}

type NamesIn<M> = M extends Moveset<infer N> ? N : never;

/** Names that a type tells apart: those of `defineMoveset`. */
type Named<N extends NameTypes> = string extends N['stance'] ? never : unknown;
/** What no type tells anything of: data, and a `Moveset` whose names are any. */
type Unnamed<T> = unknown extends T
  ? unknown
  : T extends { stances: infer S }
    ? string extends keyof S
      ? unknown
      : never
    : never;

/**
 * Compiles a moveset, or throws a {@link MovesetError} with every error at once. An object that is written here is
 * typed as `defineMoveset` types it; data of which TypeScript knows nothing is taken as it is, and what was imported
 * from JSON as `unknown`.
 * @param moveset The whole definition; it is not kept.
 * @param options How faults are shown.
 */
export function compileMoveset<N extends NameTypes>(moveset: Moveset<N> & Named<N>, options?: CompileOptions): Plan<N>;
export function compileMoveset<T>(moveset: T & Unnamed<T>, options?: CompileOptions): Plan;
export function compileMoveset<
  const Pool extends string = never,
  I extends Record<string, object> = Record<never, never>,
  const Probe extends string = never,
  const Lane extends string = 'body',
  const Stance extends string = never,
  const Ability extends string = never,
  const Event extends string = never,
  const Shape extends string = never,
  const Tag extends string = never,
  const Loadout extends string = never,
  const Phase extends string = never,
  const Named extends string = never,
  const Place extends string = never,
  const Mark extends string = never,
  const OwnMark extends string = never,
  const Surface extends string = never,
  const Kind extends string = never,
  const Summon extends string = never,
  const Target extends string = never,
  const E extends Record<string, MessageDeclaration> = Record<never, never>,
>(
  moveset: Definition<
    Pool,
    I,
    Probe,
    Lane,
    Stance,
    Ability,
    Event,
    Shape,
    Tag,
    Loadout,
    Phase,
    Named,
    Place,
    Mark,
    OwnMark,
    Surface,
    Kind,
    Summon,
    Target,
    E
  >,
  options?: CompileOptions,
): Plan<
  NamesIn<
    Definition<
      Pool,
      I,
      Probe,
      Lane,
      Stance,
      Ability,
      Event,
      Shape,
      Tag,
      Loadout,
      Phase,
      Named,
      Place,
      Mark,
      OwnMark,
      Surface,
      Kind,
      Summon,
      Target,
      E
    >
  >
>;
export function compileMoveset(moveset: unknown, options: CompileOptions = {}): Plan {
  wantOptions('compileMoveset', options, ['advise', 'warn']);
  const { advise, warn } = options;
  wantFunction('compileMoveset', 'warn', warn);
  const { plan, diagnostics } = checkMoveset(moveset, advise);
  if (plan) {
    if (warn) for (const d of diagnostics) warn(wordPlaced(d), d);
    return plan;
  }
  const { name = '' } = (moveset ?? {}) as { name?: unknown };
  throw new MovesetError(
    typeof name === 'string' ? name : '',
    diagnostics.filter((d) => d.severity === 'error'),
  );
}
