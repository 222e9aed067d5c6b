import type { Diagnostic } from '../report/diagnostic.js';
import { wordDiagnostic, wordPath } from '../report/wording.js';
import { checkMoveset } from './check.js';
import type { Plan } from './plan.js';

/** A moveset that cannot be compiled; its message lists every fault. */
export class MovesetError extends Error {
  override readonly name = 'MovesetError';

  constructor(
    readonly moveset: string,
    readonly diagnostics: readonly Diagnostic[],
  ) {
    const lines = diagnostics.map((d) => `  ${wordPath(d.path)}: ${wordDiagnostic(d)}`);
    super(
      `The moveset ${moveset} has ${lines.length === 1 ? 'a fault' : `${lines.length} faults`}:\n${lines.join('\n')}`,
    );
  }
}

/** Compiles a moveset, or throws a {@link MovesetError} with every fault at once. Warnings are passed over. */
export function compileMoveset(moveset: unknown): Plan {
  const { plan, diagnostics } = checkMoveset(moveset);
  if (plan) return plan;
  const { name = '' } = (moveset ?? {}) as { name?: unknown };
  throw new MovesetError(
    typeof name === 'string' ? name : '',
    diagnostics.filter((d) => d.severity === 'error'),
  );
}
