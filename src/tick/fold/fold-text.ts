import type { Action, ScopePlan } from '../../compile/plan.js';
import { at, Block, js, type Lines, readsOnly, referencesOf, to } from '../../record/code.js';
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
import { linesOf } from '../../record/written.js';
import { type Emitter, functionOf } from '../../text/emitter.js';
import { overResting, overRunning, placeOf, type ScopeAt } from '../../text/scopes.js';

export interface Fold {
  readonly lines: Lines;
  /** Whether any effect may change a folded number. */
  folds(slot: number): boolean;
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
  const set = ([slot, value]: [number, number]) => js`${to(slot)} = ${value};`;
  const forced = [FORCED, FORCED_VELOCITY, FORCED_VELOCITY + 1, FORCED_VELOCITY + 2];
  const folded = new Set([...base, ...fight].map(([slot]) => slot).concat(forced));
  const laid = (['folds', 'scales'] as const).flatMap((which) => layers(e, which, folded));
  const changes = referencesOf(laid);
  // What stands in the plan may change any of them.
  const unknown = changes.some(({ kind }) => kind === 'closure');
  return {
    lines: functionOf('Lays the effects of all that is active over the base values.', 'fold', 'c', [
      js`const { r } = c;`,
      js`${to(foldedAt)} = 1;`,
      ...base.map(set),
      new Block([js`if (${at(FORCED)} !== 0) {`, forced.map((slot) => js`${to(slot)} = 0;`), js`}`]),
      ...fight.map(set),
      ...laid,
    ]),
    folds: (slot) => unknown || changes.some((one) => one.kind === 'slot' && one.writes && one.at === slot),
  };
}

/** The stance and the loadout, then what runs, lane by lane: those of them that do something. */
function layers(e: Emitter, which: 'folds' | 'scales', folded: ReadonlySet<number>): Lines {
  const { lanesAt, lanesEnd, foldedAt } = e.plan;
  const write = (place: ScopeAt) => {
    const { scope, origin } = place;
    const path = placeOf(place);
    const actions = scope[which];
    const lines = e.actions(actions, `${path}.${which}`, origin);
    return actions.every((action) => isSteady(action, scope, folded)) ? lines : [...lines, js`${to(foldedAt)} = 0;`];
  };
  const running: Lines[number][] = [];
  for (let lane = lanesAt; lane < lanesEnd; lane += LANE) running.push(...overRunning(e, lane, write));
  return [
    ...overResting(e, write),
    ...(running.length > 0 ? [new Block([js`if (${at(RUNNING)} > 0) {`, running, js`}`])] : []),
  ];
}

/** Whether an effect comes to the same as long as its scope is open: it reads only what it owns, and what is folded. */
function isSteady({ run, own }: Action, { ownAt, owns }: ScopePlan, folded: ReadonlySet<number>): boolean {
  const lines = linesOf(run, own);
  return lines !== undefined && readsOnly(lines, (slot) => folded.has(slot) || (slot >= ownAt && slot < ownAt + owns));
}
