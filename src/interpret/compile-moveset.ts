import type { Advise } from '../compile/checked.js';
import type { Plan } from '../compile/plan.js';
import type { Moveset, NameTypes } from '../moveset/types.js';
import { wantFunction, wantOptions } from '../report/arguments.js';
import type { Diagnostic } from '../report/diagnostic.js';
import { wordDiagnostic, wordPath } from '../report/wording.js';
import { count, describe } from '../report/words.js';
import { checkMoveset } from './check.js';

/** A moveset that cannot be compiled; its message lists every error. */
export class MovesetError extends Error {
  override readonly name = 'MovesetError';

  constructor(
    readonly moveset: string,
    readonly diagnostics: readonly Diagnostic[],
    /** How a diagnostic is shown. Default: its path and its sentence. */
    show = (d: Diagnostic): string => `${wordPath(d.path)}: ${wordDiagnostic(d)}`,
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

/** Compiles a moveset, or throws a {@link MovesetError} with every error at once. */
export function compileMoveset<N extends NameTypes>(moveset: Moveset<N>, options?: CompileOptions): Plan<N>;
export function compileMoveset(moveset: unknown, options?: CompileOptions): Plan;
export function compileMoveset(moveset: unknown, options: CompileOptions = {}): Plan {
  wantOptions('compileMoveset', options, ['advise', 'warn']);
  const { advise, warn } = options;
  wantFunction('compileMoveset', 'warn', warn);
  const { plan, diagnostics } = checkMoveset(moveset, advise);
  if (plan) {
    if (warn) for (const d of diagnostics) warn(`${wordPath(d.path)}: ${wordDiagnostic(d)}`, d);
    return plan;
  }
  const { name = '' } = (moveset ?? {}) as { name?: unknown };
  throw new MovesetError(
    typeof name === 'string' ? name : '',
    diagnostics.filter((d) => d.severity === 'error'),
  );
}
