import type { Action, ScopePlan } from '../compile/plan.js';
import type { Actor } from './actor.js';

/** Runs them; what is folded may be another from here on. */
export function runActions(c: Actor, actions: readonly Action[]): void {
  c.r[c.plan.foldedAt] = 0;
  for (let i = 0; i < actions.length; i++) actions[i].run(c, actions[i].own);
}

export function openScope(c: Actor, scope: ScopePlan): void {
  clearOwn(c.r, scope);
  runActions(c, scope.begins);
}

export function closeScope(c: Actor, scope: ScopePlan): void {
  runActions(c, scope.ends);
  clearOwn(c.r, scope);
}

/** The numbers that its effects own are 0 while it is closed and as it opens. */
function clearOwn(r: Float64Array, { ownAt, owns }: ScopePlan): void {
  for (let i = 0; i < owns; i++) r[ownAt + i] = 0;
}
