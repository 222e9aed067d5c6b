import type { EffectTools } from '../moveset/effects/effect.js';
import type { ParsedFormula } from '../moveset/formula.js';
import type { Message } from '../moveset/messages.js';
import type { Names } from '../moveset/read.js';
import type { ParsedAbility, ParsedMoveset, ParsedScope } from '../moveset/schema.js';
import type { NameKind } from '../moveset/shape.js';
import type { Test } from '../record/frame.js';
import type { Layout } from '../record/layout.js';
import type { Making } from '../record/recipes.js';
import type { Behind } from './behind.js';
import type { FormulaCompiler } from './formula.js';
import type { Members } from './members.js';
import type { AbilityPlan, LoadoutPlan, PhasePlan, PoolPlan, ScopePlan, StancePlan } from './plan.js';

/** What the parts of a plan share while it is compiled. */
export interface Compiling {
  readonly parsed: ParsedMoveset;
  readonly names: Names;
  readonly rate: number;
  readonly layout: Layout;
  readonly behind: Behind;
  readonly messages: readonly Message[];
  readonly layers: readonly string[];
  readonly formulas: FormulaCompiler;
  readonly members: Members;
  readonly making: Making;
  /** What effects ask for. */
  readonly effects: EffectTools;
  readonly scopes: { compile(scope: ParsedScope, ownAt: number, ability?: number, lasts?: number): ScopePlan };
  /** What is compiled already. */
  readonly plans: {
    readonly stances: StancePlan[];
    readonly loadouts: LoadoutPlan[];
    readonly abilities: AbilityPlan[];
    readonly phases: PhasePlan[];
    readonly pools: PoolPlan[];
  };
  /** Of a name; -1 for none. */
  indexOf(kind: NameKind, name: string | undefined): number;
  laneOf(a: ParsedAbility): number;
  /** First slot of an ability's cooldown, or -1. */
  cooldownAt(ability: string): number;
  tests(parsed: (ParsedFormula | undefined)[] | undefined): Test[];
  amounts<V>(map: Readonly<Record<string, V | undefined>> | undefined): [pool: number, value: V][];
}
