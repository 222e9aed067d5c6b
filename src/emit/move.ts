import { C_BOUNCE } from '../record/combat.js';
import { ROOM_FLOOR, ROOM_X0, ROOM_X1, ROOM_Y0, ROOM_Z0, ROOM_Z1 } from '../record/layout.js';
import {
  ACCEL,
  BRAKE,
  FACE_LOCK,
  FORCED,
  FX,
  FZ,
  GRAVITY,
  GROUNDED,
  HEADROOM,
  PASSES,
  SHAPE,
  SPEED,
  STEEP,
  STEER,
  STUCK,
  TOUCHES,
  VX,
  VY,
  VZ,
  WANT_SHAPE,
  X,
  Y,
  Z,
} from '../record/slots.js';
import { writeNumber } from '../record/written.js';
import { TOUCH } from '../world/solid.js';
import { type Emitter, functionOf } from './emitter.js';
import type { Fold } from './fold.js';

/** Writes walking, and the move of a body that stands on the floor of a room: equal to motion/, which does all else. */
export function emitMove(e: Emitter, { folds }: Fold): string {
  const { plan } = e;
  const { combatAt, roomAt: room, view } = plan;
  const [{ hx, hy, hz }] = plan.shapes;
  const walks = plan.walkStick >= 0;
  const calm = [
    `r[${GROUNDED}] === 1`,
    `r[${TOUCHES}] === 0`,
    `r[${VY}] <= 0`,
    `r[${STUCK}] === 0`,
    `r[${SHAPE}] === 0`,
    ...[FORCED, WANT_SHAPE, PASSES].flatMap((at) => (folds(at) ? `r[${at}] === 0` : [])),
    `r[${GRAVITY}] >= 0`,
    `r[${room + ROOM_FLOOR}] === 1`,
    `r[${Y}] === r[${room + ROOM_Y0}]`,
    'mover.world.still === true',
    'mover.world.edges === undefined',
  ];
  const dt = writeNumber(plan.dt);
  const touch = writeNumber(TOUCH);
  const half = `r[${Y}] + ${hy} - ${hy} - r[${room + ROOM_Y0}]`;
  const stays = (d: string, at: number, h: number, low: number, high: number) =>
    `!(${d} > 0 ? r[${at}] + ${h} + ${d} > r[${high}] - ${touch} : ${d} < 0 && r[${at}] - ${h} + ${d} < r[${low}] + ${touch})`;
  const walk = walks ? [view === 'side' ? 'walk(r);' : `${e.use('walk')}(plan, r);`] : [];
  return [
    ...(walks && view === 'side' ? [emitWalk(e, dt)] : []),
    functionOf('Moves the body. What is more than walking on the floor of a room is for the library.', 'move', 'c', [
      'const { r, mover } = c;',
      `if (mover === null${combatAt >= 0 ? ` || !(r[${combatAt + C_BOUNCE}] < 0)` : ''}) {`,
      `  ${e.use('moveAll')}(c);`,
      '  return;',
      '}',
      ...(plan.probes.length > 0 ? ['c.senseAgain();'] : []),
      ...walk,
      `if (${calm.join(' && ')}) {`,
      `  const dx = r[${VX}] * ${dt};`,
      `  const dz = r[${VZ}] * ${dt};`,
      `  const gap = ${half};`,
      `  if (gap <= 0 && gap >= -${touch} && ${stays('dx', X, hx, room + ROOM_X0, room + ROOM_X1)} && ${stays('dz', Z, hz, room + ROOM_Z0, room + ROOM_Z1)}) {`,
      `    r[${X}] += dx;`,
      `    r[${Z}] += dz;`,
      `    r[${VX}] += 0;`,
      `    r[${VY}] = 0;`,
      `    r[${VZ}] += 0;`,
      `    r[${HEADROOM}] = 1;`,
      '    return;',
      '  }',
      '}',
      `${e.use('moveOn')}(c);`,
    ]),
  ].join('\n\n');
}

function emitWalk(e: Emitter, dt: string): string {
  const { walkStick: x } = e.plan;
  const y = x + 1;
  return functionOf('Brings the pace nearer to what the stick wants.', 'walk', 'r', [
    `const steer = r[${STEER}] * ${dt};`,
    `if (steer === 0 || r[${TOUCHES}] & ${STEEP}) return;`,
    `if (r[${VZ}] !== 0) {`,
    `  ${e.use('walkFreely')}(plan, r);`,
    '  return;',
    '}',
    `let wanted = 0;`,
    `if (r[${y}] === 0) wanted = r[${x}] * r[${SPEED}];`,
    `else if (r[${x}] !== 0) wanted = (r[${x}] * Math.sqrt(r[${x}] * r[${x}] + r[${y}] * r[${y}]) / Math.max(Math.abs(r[${x}]), Math.abs(r[${y}]))) * r[${SPEED}];`,
    `const pace = r[${VX}];`,
    `if (pace === wanted) return;`,
    `const brakes = wanted * pace <= 0 ? pace !== 0 : pace * pace > wanted * wanted;`,
    `const step = (brakes ? r[${BRAKE}] : r[${ACCEL}]) * steer;`,
    `const missing = wanted - pace;`,
    `r[${VX}] = missing > step ? pace + step : missing < -step ? pace - step : wanted;`,
  ]);
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
