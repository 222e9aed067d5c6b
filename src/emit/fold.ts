import { C_ARMOUR, C_BOUNCE, C_GUARD, C_GUARD_SINCE, C_IMMUNE, C_MEETS } from '../record/combat.js';
import {
  ACCEL,
  BRAKE,
  FACE_LOCK,
  FALL,
  FORCED,
  FORCED_VELOCITY,
  GRAVITY,
  LANE,
  PASSES,
  RUNNING,
  SPEED,
  STEER,
  WANT_SHAPE,
} from '../record/slots.js';
import { writeNumber } from '../record/written.js';
import { type Emitter, functionOf } from './emitter.js';
import { overResting, overRunning, type ScopeAt } from './scopes.js';

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
  const { lanesAt, lanesEnd } = e.plan;
  const write = ({ scope, path, origin }: ScopeAt) => e.actions(scope[which], `${path}.${which}`, origin);
  const resting = overResting(e, write);
  const running: string[] = [];
  for (let lane = lanesAt; lane < lanesEnd; lane += LANE) running.push(...overRunning(e, lane, write));
  if (running.length === 0) return resting;
  return [...resting, `if (r[${RUNNING}] > 0) {`, ...running.map((one) => `  ${one}`), '}'];
}
