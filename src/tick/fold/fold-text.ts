import type { Action, ScopePlan } from '../../compile/plan.js';
import { C_ARMOUR, C_BOUNCE, C_GUARD, C_IMMUNE, C_MEETS, C_PARRIES } from '../../record/combat.js';
import { R_MARK, R_STEERS } from '../../record/ride.js';
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
} from '../../record/slots.js';
import { textOf, writeNumber } from '../../record/written.js';
import { type Emitter, functionOf } from '../../text/emitter.js';
import { overResting, overRunning, type ScopeAt } from '../../text/scopes.js';

export interface Fold {
  readonly text: string;
  /** Whether any effect may change a folded number. */
  folds(at: number): boolean;
}

/** Writes the effects of all that is active over the base values: see fold.ts, which it is equal to. */
export function emitFold(e: Emitter): Fold {
  const { body, combatAt, rideAt, meets, foldedAt } = e.plan;
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
    ...(rideAt < 0 ? [] : ([R_MARK, R_STEERS].map((slot) => [rideAt + slot, 0]) as [number, number][])),
  ];
  const fight: [number, number][] =
    combatAt < 0
      ? []
      : [
          [combatAt + C_IMMUNE, 0],
          [combatAt + C_ARMOUR, 0],
          [combatAt + C_GUARD, 0],
          [combatAt + C_PARRIES, 0],
          [combatAt + C_MEETS, meets],
          [combatAt + C_BOUNCE, -1],
        ];
  const set = ([at, value]: [number, number]) => `r[${at}] = ${writeNumber(value)};`;
  const forced = [FORCED, FORCED_VELOCITY, FORCED_VELOCITY + 1, FORCED_VELOCITY + 2];
  const folded = new Set([...base, ...fight].map(([at]) => at).concat(forced));
  const laid = (['folds', 'scales'] as const).flatMap((which) => layers(e, which, folded));
  return {
    text: functionOf('Lays the effects of all that is active over the base values.', 'fold', 'c', [
      'const { r } = c;',
      `r[${foldedAt}] = 1;`,
      ...base.map(set),
      `if (r[${FORCED}] !== 0) {`,
      ...forced.map((at) => `  r[${at}] = 0;`),
      '}',
      ...fight.map(set),
      ...laid,
    ]),
    folds: (at) => laid.some((line) => /\bact\d+\(c/.test(line) || line.includes(`r[${at}]`)),
  };
}

/** The stance and the loadout, then what runs, lane by lane: those of them that do something. */
function layers(e: Emitter, which: 'folds' | 'scales', folded: ReadonlySet<number>): string[] {
  const { lanesAt, lanesEnd, foldedAt } = e.plan;
  const write = ({ scope, path, origin }: ScopeAt) => {
    const actions = scope[which];
    const lines = e.actions(actions, `${path}.${which}`, origin);
    return actions.every((action) => isSteady(action, scope, folded)) ? lines : [...lines, `r[${foldedAt}] = 0;`];
  };
  const running: string[] = [];
  for (let lane = lanesAt; lane < lanesEnd; lane += LANE) running.push(...overRunning(e, lane, write));
  return [
    ...overResting(e, write),
    ...(running.length > 0 ? [`if (r[${RUNNING}] > 0) {`, ...running.map((line) => `  ${line}`), '}'] : []),
  ];
}

/** Whether an effect comes to the same as long as its scope is open: it reads only what it owns, and what is folded. */
function isSteady({ run, own }: Action, { ownAt, owns }: ScopePlan, folded: ReadonlySet<number>): boolean {
  const text = textOf(run, own);
  if (text === undefined || /\b(?!Math\b|r\b|if\b)[a-z]\w*[.(]/i.test(text.replace(/Math\.\w+/g, 'Math'))) return false;
  return [...text.matchAll(/\br\[(\d+)\]/g)].every(([, digits]) => {
    const at = Number(digits);
    return folded.has(at) || (at >= ownAt && at < ownAt + owns);
  });
}
