import type { EffectTools } from '../moveset/effects/effect.js';
import type { Message } from '../moveset/messages.js';
import type { Names, Parsed, ParsedFormula } from '../moveset/read.js';
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
  readonly parsed: Parsed;
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
  readonly scopes: { compile(scope: Parsed, ownAt: number, ability?: number, lasts?: number): ScopePlan };
  /** What is compiled already. */
  readonly plans: {
    readonly stances: StancePlan[];
    readonly loadouts: LoadoutPlan[];
    readonly abilities: AbilityPlan[];
    readonly phases: PhasePlan[];
    readonly pools: PoolPlan[];
  };
  indexOf(kind: NameKind, name: string): number;
  laneOf(a: Parsed): number;
  /** First slot of an ability's cooldown, or -1. */
  cooldownAt(ability: string): number;
  tests(parsed: (ParsedFormula | undefined)[] | undefined): Test[];
  amounts(map: Parsed | undefined): [pool: number, value: any][];
}
