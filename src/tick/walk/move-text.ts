import { ON_FLOOR } from '../../motion/rooms.js';
import { C_BOUNCE } from '../../record/combat.js';
import { ROOM_X0, ROOM_X1, ROOM_Y0, ROOM_Y1, ROOM_Z0, ROOM_Z1 } from '../../record/layout.js';
import { R_MARK } from '../../record/ride.js';
import {
  ACCEL,
  BRAKE,
  FACE_LOCK,
  FALL,
  FORCED,
  FORCED_VELOCITY,
  FX,
  FZ,
  GRAVITY,
  HEADROOM,
  LEVEL,
  PASSES,
  SPEED,
  STEER,
  UPRIGHT,
  VX,
  VY,
  VZ,
  WANT_SHAPE,
  X,
  Y,
  Z,
} from '../../record/slots.js';
import { writeNumber } from '../../record/written.js';
import { type Emitter, functionOf } from '../../text/emitter.js';
import { TOUCH } from '../../world/solid.js';
import type { Fold } from '../fold/fold-text.js';

/**
 * Writes how the body moves: walking, and the two short ways of a body that is free, on the floor of a room and through the air of
 * one. They are equal to motion/, which does all else.
 */
export function emitMove(e: Emitter, { folds }: Fold): string {
  const { combatAt, rideAt, view, freeAt, walkStick, probes } = e.plan;
  const plain = [
    ...[WANT_SHAPE, PASSES].flatMap((at) => (folds(at) ? `r[${at}] === 0` : [])),
    ...(combatAt >= 0 ? [`r[${combatAt + C_BOUNCE}] < 0`] : []),
    ...(rideAt >= 0 ? [`r[${rideAt + R_MARK}] === 0`] : []),
    // Seen from the side, hardly anything moves along z.
    ...(view === 'side' ? [`r[${VZ}] === 0`] : []),
  ];
  const walks = walkStick >= 0 && view === 'side' ? walking(e, folds) : [`${e.use('walkFreely')}(plan, r);`];
  return functionOf('Moves the body. What is more than the way through a room is for the library.', 'move', 'c', [
    'const { r } = c;',
    ...(probes.length > 0 ? ['c.senseAgain();'] : []),
    `const free = ${plain.length === 0 ? `r[${freeAt}]` : `${plain.join(' && ')} ? r[${freeAt}] : 0`};`,
    'if (free === 0) {',
    `  ${e.use('moveAll')}(c);`,
    '  return;',
    '}',
    ...walks,
    `if (free === ${ON_FLOOR}) {`,
    ...onFloor(e, folds).map((one) => `  ${one}`),
    '} else {',
    ...inAir(e, folds).map((one) => `  ${one}`),
    '}',
  ]);
}

const TOUCHING = writeNumber(TOUCH);

/** That the body comes to no side of its room: along x, or along z. */
function clear({ plan }: Emitter, axis: 'x' | 'z'): string {
  const { hx, hz } = plan.shapes[0];
  const [at, half, low, high] = axis === 'x' ? [X, hx, ROOM_X0, ROOM_X1] : [Z, hz, ROOM_Z0, ROOM_Z1];
  const beyond = `r[${at}] + ${half} + d${axis} <= r[${plan.roomAt + high}] - ${TOUCHING}`;
  const before = `r[${at}] - ${half} + d${axis} >= r[${plan.roomAt + low}] + ${TOUCHING}`;
  return `(d${axis} > 0 ? ${beyond} : d${axis} === 0 || ${before})`;
}

function onFloor(e: Emitter, folds: (at: number) => boolean): string[] {
  const { body, view, dt } = e.plan;
  const open = view === 'open';
  const step = writeNumber(dt);
  const tests = [
    ...(folds(FORCED) ? [`r[${FORCED}] === 0`] : []),
    `r[${VY}] <= 0`,
    ...(folds(GRAVITY) || body.gravity < 0 ? [`r[${GRAVITY}] >= 0`] : []),
    clear(e, 'x'),
    ...(open ? [clear(e, 'z')] : []),
  ];
  return [
    `const dx = r[${VX}] * ${step};`,
    ...(open ? [`const dz = r[${VZ}] * ${step};`] : []),
    `if (${tests.join(' && ')}) {`,
    `  r[${X}] += dx;`,
    ...(open ? [`  r[${Z}] += dz;`] : []),
    `  r[${VX}] += 0;`,
    `  r[${VY}] = 0;`,
    open ? `  r[${VZ}] += 0;` : `  r[${VZ}] = 0;`,
    `  r[${HEADROOM}] = 1;`,
    `} else ${e.use('moveOn')}(c);`,
  ];
}

function inAir(e: Emitter, folds: (at: number) => boolean): string[] {
  const { roomAt: room, body, shapes, dt } = e.plan;
  const { hy } = shapes[0];
  const step = writeNumber(dt);
  const held = [
    `const forced = r[${FORCED}] | 0;`,
    `if (forced & ${LEVEL}) {`,
    `  vx = r[${FORCED_VELOCITY}];`,
    `  vz = r[${FORCED_VELOCITY + 2}];`,
    '}',
    `if (forced & ${UPRIGHT}) vy = r[${FORCED_VELOCITY + 1}];`,
  ];
  const below = writeNumber(TOUCH + body.reach + body.drop);
  const high = `r[${Y}] + ${hy} + ${hy} + dy <= r[${room + ROOM_Y1}] - ${TOUCHING}`;
  return [
    `let vx = r[${VX}];`,
    `let vy = Math.max(r[${VY}] - r[${GRAVITY}] * ${step}, -r[${FALL}]);`,
    `let vz = r[${VZ}];`,
    ...(folds(FORCED) ? held : []),
    `const dx = vx * ${step};`,
    `const dy = vy * ${step};`,
    `const dz = vz * ${step};`,
    `const gap = r[${Y}] + ${hy} - ${hy} - r[${room + ROOM_Y0}];`,
    `if (gap >= -${TOUCHING} && (dy > 0 ? ${high} : gap + dy >= ${below}) && ${clear(e, 'x')} && ${clear(e, 'z')}) {`,
    `  r[${VX}] = vx + 0;`,
    `  r[${VY}] = vy + 0;`,
    `  r[${VZ}] = vz + 0;`,
    `  r[${X}] += dx;`,
    `  r[${Y}] += dy;`,
    `  r[${Z}] += dz;`,
    `  r[${HEADROOM}] = 1;`,
    `} else ${e.use('moveOn')}(c);`,
  ];
}

/** Brings the pace nearer to what the stick wants, of a body that touches nothing steep and does not move along z. */
function walking(e: Emitter, folds: (at: number) => boolean): string[] {
  const { walkStick: x, dt } = e.plan;
  const step = writeNumber(dt);
  // A stick that rests, or does not steer, wants the body to stand.
  const wanted = folds(STEER) ? `r[${STEER}] === 0 ? 0 : r[${x}] * r[${SPEED}]` : `r[${x}] * r[${SPEED}]`;
  const share = folds(STEER) ? `(r[${STEER}] === 0 || r[${x}] === 0 ? ${step} : r[${STEER}] * ${step})` : step;
  return [
    // Only a push along x alone is written here.
    `if (r[${x + 1}] !== 0) ${e.use('walkFreely')}(plan, r);`,
    'else {',
    `  const pace = r[${VX}];`,
    `  const wanted = ${wanted};`,
    '  if (pace !== wanted) {',
    '    const brakes = wanted * pace <= 0 ? pace !== 0 : pace * pace > wanted * wanted;',
    `    const step = (brakes ? r[${BRAKE}] : r[${ACCEL}]) * ${share};`,
    '    const missing = wanted - pace;',
    `    r[${VX}] = missing > step ? pace + step : missing < -step ? pace - step : wanted;`,
    '  }',
    '}',
  ];
}

/** Writes that the body turns to where the stick that walks is pushed. */
export function emitFacing(e: Emitter): string[] {
  const { walkStick: x, view } = e.plan;
  if (x < 0) return [];
  if (view === 'open') return [`if (r[${FACE_LOCK}] === 0) ${e.use('faceStick')}(plan, r);`];
  return [
    `if (r[${FACE_LOCK}] === 0 && r[${x}] !== 0) {`,
    `  r[${FX}] = r[${x}] > 0 ? 1 : -1;`,
    `  r[${FZ}] = 0;`,
    '}',
  ];
}
