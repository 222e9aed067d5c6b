import type { Plan } from '../compile/plan.js';
import type { NameKind } from '../moveset/shape.js';
import { indexOfName } from '../report/usage-error.js';

/** Index of a name among its kind, or a UsageError that names the nearest one. */
export function indexOf(plan: Plan, call: string, kind: NameKind, name: string): number {
  return plan.indexes[kind].get(name) ?? indexOfName(call, kind, name, plan.names[kind], plan.code);
}
