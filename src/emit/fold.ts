import { C_ARMOUR, C_BOUNCE, C_GUARD, C_GUARD_SINCE, C_IMMUNE, C_MEETS } from '../record/combat.js';
import {
  ACCEL,
  BRAKE,
  FACE_LOCK,
  FALL,
  FORCED,
  FORCED_VELOCITY,
  GRAVITY,
  L_ABILITY,
  L_PHASE,
  LANE,
  LOADOUT,
  PASSES,
  RUNNING,
  SPEED,
  STANCE,
  STEER,
  WANT_SHAPE,
} from '../record/slots.js';
import { writeNumber } from '../record/written.js';
import type { Path } from '../report/diagnostic.js';
import { type Emitter, functionOf, type Indexed } from './emitter.js';

/** Writes the effects of all that is active over the base values: see runtime/fold.ts, which it is equal to. */
export function emitFold(e: Emitter): string {
  const { body, combatAt, meets, hasFactors } = e.plan;
  const base: [number, number][] = [
    [GRAVITY, body.gravity],
    [FALL, body.fall],
    [STEER, 1],
    [SPEED, body.speed],
    [ACCEL, body.accel],
    [BRAKE, body.brake],
    [WANT_SHAPE, 0],
    [FACE_LOCK, 0],
    [PASSES, 0],
  ];
  const fight: [number, number][] =
    combatAt < 0
      ? []
      : [
          [combatAt + C_IMMUNE, 0],
          [combatAt + C_ARMOUR, 0],
          [combatAt + C_GUARD, 0],
          [combatAt + C_GUARD_SINCE, 0],
          [combatAt + C_MEETS, meets],
          [combatAt + C_BOUNCE, -1],
        ];
  const set = ([at, value]: [number, number]) => `r[${at}] = ${writeNumber(value)};`;
  return functionOf('Lays the effects of all that is active over the base values.', 'foldEffects', 'c', [
    'const { r } = c;',
    ...base.map(set),
    `if (r[${FORCED}] !== 0) {`,
    ...[FORCED, FORCED_VELOCITY, FORCED_VELOCITY + 1, FORCED_VELOCITY + 2].map((at) => `  r[${at}] = 0;`),
    '}',
    ...fight.map(set),
    ...layers(e, 'folds'),
    ...(hasFactors ? layers(e, 'scales') : []),
  ]);
}

/** The stance, the loadout, then lane by lane, those of them that do something. */
function layers(e: Emitter, which: 'folds' | 'scales'): string[] {
  const { stances, loadouts, abilities, phases, lanesAt, lanesEnd } = e.plan;
  const stance = switchOver(
    e,
    'stance',
    `r[${STANCE}]`,
    stances.map(({ scope, name }, index) => ({
      index,
      body: e.actions(scope[which], `stances[${index}].scope.${which}`, ['stances', name]),
    })),
  );
  const loadout = switchOver(
    e,
    'loadout',
    `r[${LOADOUT}]`,
    loadouts.map(({ scope, name }, index) => ({
      index,
      body: e.actions(scope[which], `loadouts[${index}].scope.${which}`, ['loadouts', name]),
    })),
  );
  const running: string[] = [];
  for (let lane = lanesAt; lane < lanesEnd; lane += LANE)
    running.push(
      ...switchOver(
        e,
        'ability',
        `r[${lane + L_ABILITY}]`,
        abilities
          .filter(({ laneAt }) => laneAt === lane)
          .map(({ scope, name, index }) => ({
            index,
            body: e.actions(scope[which], `abilities[${index}].scope.${which}`, ['abilities', name]),
          })),
      ),
      ...switchOver(
        e,
        'phase',
        `r[${lane + L_PHASE}]`,
        phasesOf(e, lane).map(({ index, path }) => ({
          index,
          body: e.actions(phases[index].scope[which], `phases[${index}].scope.${which}`, path),
        })),
      ),
    );
  if (running.length === 0) return [...stance, ...loadout];
  return [...stance, ...loadout, `if (r[${RUNNING}] > 0) {`, ...running.map((one) => `  ${one}`), '}'];
}

/** Phases of the abilities of a lane: where they are in the plan, and in the moveset. */
export function phasesOf({ plan }: Emitter, lane: number): { index: number; path: Path }[] {
  return plan.phases.flatMap(({ ability }, index) => {
    const { laneAt, firstPhase, name: of } = plan.abilities[ability];
    if (laneAt !== lane) return [];
    return { index, path: ['abilities', of, 'phases', index - firstPhase] };
  });
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
    `switch (${expression}) {`,
    ...some.flatMap(({ index, body }) => [
      `  case ${e.index(kind, index)}:`,
      ...body.map((one) => `    ${one}`),
      '    break;',
    ]),
    '}',
  ];
}
