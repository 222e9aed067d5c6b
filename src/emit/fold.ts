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

export interface Fold {
  /** Functions, and statements that call them. */
  readonly text: string;
  readonly lines: readonly string[];
  /** Whether any effect may change a folded number. */
  folds(at: number): boolean;
}

/** Writes the effects of all that is active over the base values: see runtime/fold.ts, which it is equal to. */
export function emitFold(e: Emitter): Fold {
  const { body, combatAt, meets } = e.plan;
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
  const folds = layers(e, 'folds', 'foldRunning');
  const scales = layers(e, 'scales', 'scaleRunning');
  const laid = [folds, scales].flatMap(({ resting, running }) => [...resting, ...running]);
  const opaque = laid.some((line) => /\bact\d+\(c/.test(line));
  return {
    text: [folds, scales].flatMap(({ text }) => text).join('\n\n'),
    lines: [
      '// The effects of all that is active over the base values.',
      ...base.map(set),
      `if (r[${FORCED}] !== 0) {`,
      ...[FORCED, FORCED_VELOCITY, FORCED_VELOCITY + 1, FORCED_VELOCITY + 2].map((at) => `  r[${at}] = 0;`),
      '}',
      ...fight.map(set),
      ...[folds, scales].flatMap(({ resting, text, name }) => [
        ...resting,
        ...(text.length > 0 ? [`if (r[${RUNNING}] > 0) ${name}(c);`] : []),
      ]),
    ],
    folds: (at) => opaque || laid.some((line) => line.includes(`r[${at}]`)),
  };
}

/** The stance and the loadout, then a function for what runs, lane by lane: those of them that do something. */
function layers(e: Emitter, which: 'folds' | 'scales', name: string) {
  const { lanesAt, lanesEnd } = e.plan;
  const write = ({ scope, path, origin }: ScopeAt) => e.actions(scope[which], `${path}.${which}`, origin);
  const resting = overResting(e, write);
  const running: string[] = [];
  for (let lane = lanesAt; lane < lanesEnd; lane += LANE) running.push(...overRunning(e, lane, write));
  const comment = which === 'folds' ? 'Effects of what runs.' : 'Factors of what runs: they multiply what came last.';
  const text = running.length === 0 ? [] : [functionOf(comment, name, 'c', ['const { r } = c;', ...running])];
  return { name, resting, running, text };
}
