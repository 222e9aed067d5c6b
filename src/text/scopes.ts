import type { AbilityPlan, ScopePlan } from '../compile/plan.js';
import { at, Block, type Code, caseOf, type Indexed, indexOf, js, type Lines } from '../record/code.js';
import {
  L_ABILITY,
  L_PHASE,
  L_PHASE_SINCE,
  L_SINCE,
  LOADOUT,
  LOADOUT_SINCE,
  STANCE,
  STANCE_SINCE,
} from '../record/slots.js';
import type { Path } from '../report/diagnostic.js';
import type { Emitter } from './emitter.js';

/** A scope that may be open. */
export interface ScopeAt {
  readonly kind: 'stances' | 'loadouts' | 'abilities' | 'phases';
  readonly index: number;
  readonly scope: ScopePlan;
  /** Where it stands in the moveset. */
  readonly origin: Path;
  /** Place of the own tick since which it is open. */
  readonly since: number;
}

/** Where a scope stands in the plan. */
export const placeOf = ({ kind, index }: ScopeAt): string => `${kind}[${index}].scope`;

type Write = (at: ScopeAt) => Lines;

/** Statements for the stance and the loadout. */
export function overResting(e: Emitter, write: Write): Lines {
  const { stances, loadouts } = e.plan;
  const all = (kind: 'stances' | 'loadouts', since: number) =>
    (kind === 'stances' ? stances : loadouts).map(({ scope, name }, index) => ({
      index,
      body: write({ kind, index, scope, origin: [kind, name], since }),
    }));
  return [
    ...switchOver('stance', at(STANCE), all('stances', STANCE_SINCE)),
    ...switchOver('loadout', at(LOADOUT), all('loadouts', LOADOUT_SINCE)),
  ];
}

/** Statements for what runs in a lane: the ability, then its phase. */
export function overRunning(e: Emitter, lane: number, write: Write): Lines {
  const { abilities, phases } = e.plan;
  const whole = abilities.flatMap(({ scope, name, index, laneAt }) => {
    if (laneAt !== lane) return [];
    return {
      index,
      body: write({ kind: 'abilities', index, scope, origin: ['abilities', name], since: lane + L_SINCE }),
    };
  });
  const parts = phases.flatMap(({ scope, ability }, index) => {
    const { laneAt, firstPhase, name } = abilities[ability];
    if (laneAt !== lane) return [];
    const origin = ['abilities', name, 'phases', index - firstPhase];
    return {
      index,
      body: write({
        kind: 'phases',
        index,
        scope,
        origin,
        since: lane + L_PHASE_SINCE,
      }),
    };
  });
  return [...switchOver('ability', at(lane + L_ABILITY), whole), ...switchOver('phase', at(lane + L_PHASE), parts)];
}

/** Indexes of the phases of an ability; they stand side by side. */
export function phasesOf({ plan }: Emitter, { index, firstPhase }: AbilityPlan): number[] {
  const found: number[] = [];
  for (let i = firstPhase; i >= 0 && plan.phases[i]?.ability === index; i++) found.push(i);
  return found;
}

export interface Case {
  readonly index: number;
  readonly body: Lines;
}

/** A switch over those cases that do something. */
export function switchOver(kind: Indexed, expression: Code, cases: readonly Case[]): Lines {
  const some = cases.filter(({ body }) => body.length > 0);
  if (some.length === 0) return [];
  const inside = some.map(({ index, body }) => caseOf(indexOf(kind, index), body));
  return [new Block([js`switch (${expression} | 0) {`, inside, js`}`])];
}
