import type { AbilityPlan, ScopePlan } from '../compile/plan.js';
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
import type { Emitter, Indexed } from './emitter.js';

/** A scope that may be open. */
export interface ScopeAt {
  readonly index: number;
  readonly scope: ScopePlan;
  /** Where it stands in the plan, and in the moveset. */
  readonly path: string;
  readonly origin: Path;
  /** Place of the own tick since which it is open. */
  readonly since: number;
}

type Write = (at: ScopeAt) => string[];

/** Statements for the stance and the loadout. */
export function overResting(e: Emitter, write: Write): string[] {
  const { stances, loadouts } = e.plan;
  const all = (kind: 'stances' | 'loadouts', since: number) =>
    (kind === 'stances' ? stances : loadouts).map(({ scope, name }, index) => ({
      index,
      body: write({ index, scope, path: `${kind}[${index}].scope`, origin: [kind, name], since }),
    }));
  return [
    ...switchOver(e, 'stance', `r[${STANCE}]`, all('stances', STANCE_SINCE)),
    ...switchOver(e, 'loadout', `r[${LOADOUT}]`, all('loadouts', LOADOUT_SINCE)),
  ];
}

/** Statements for what runs in a lane: the ability, then its phase. */
export function overRunning(e: Emitter, lane: number, write: Write): string[] {
  const { abilities, phases } = e.plan;
  const whole = abilities.flatMap(({ scope, name, index, laneAt }) => {
    if (laneAt !== lane) return [];
    const path = `abilities[${index}].scope`;
    return { index, body: write({ index, scope, path, origin: ['abilities', name], since: lane + L_SINCE }) };
  });
  const parts = phases.flatMap(({ scope, ability }, index) => {
    const { laneAt, firstPhase, name } = abilities[ability];
    if (laneAt !== lane) return [];
    const origin = ['abilities', name, 'phases', index - firstPhase];
    return {
      index,
      body: write({ index, scope, path: `phases[${index}].scope`, origin, since: lane + L_PHASE_SINCE }),
    };
  });
  return [
    ...switchOver(e, 'ability', `r[${lane + L_ABILITY}]`, whole),
    ...switchOver(e, 'phase', `r[${lane + L_PHASE}]`, parts),
  ];
}

/** Indexes of the phases of an ability; they stand side by side. */
export function phasesOf({ plan }: Emitter, { index, firstPhase }: AbilityPlan): number[] {
  const found: number[] = [];
  for (let i = firstPhase; i >= 0 && plan.phases[i]?.ability === index; i++) found.push(i);
  return found;
}

export interface Case {
  readonly index: number;
  readonly body: readonly string[];
}

/** A switch over those cases that do something. */
export function switchOver(e: Emitter, kind: Indexed, expression: string, cases: readonly Case[]): string[] {
  const some = cases.filter(({ body }) => body.length > 0);
  if (some.length === 0) return [];
  return [
    `switch (${expression} | 0) {`,
    ...some.flatMap(({ index, body }) => [
      `  case ${e.index(kind, index)}:`,
      ...body.map((one) => `    ${one}`),
      '    break;',
    ]),
    '}',
  ];
}
