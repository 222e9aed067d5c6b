import { C_BOUNCE } from '../../record/combat.js';
import { ROOM_FLOOR, ROOM_X0, ROOM_X1, ROOM_Y0, ROOM_Y1, ROOM_Z0, ROOM_Z1 } from '../../record/layout.js';
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
  GROUNDED,
  HEADROOM,
  LEVEL,
  PASSES,
  SHAPE,
  SPEED,
  STEEP,
  STEER,
  STUCK,
  TOUCHES,
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
 * Writes walking, and the two short ways of a body that touches no wall: on the floor of a room, and through the air of one. They
 * are equal to motion/, which does all else.
 */
export function emitMove(e: Emitter, { folds }: Fold): string {
  const { plan } = e;
  const { combatAt, view } = plan;
  const walks = plan.walkStick >= 0;
  const dt = writeNumber(plan.dt);
  const free = [
    `r[${TOUCHES}] === 0`,
    `r[${STUCK}] === 0`,
    `r[${SHAPE}] === 0`,
    ...[WANT_SHAPE, PASSES].flatMap((at) => (folds(at) ? `r[${at}] === 0` : [])),
    'world.still === true',
    'world.edges === undefined',
  ];
  return [
    ...(walks && view === 'side' ? [emitWalk(e, dt)] : []),
    functionOf('Moves the body. What is more than the way through a room is for the library.', 'move', 'c', [
      'const { r, mover } = c;',
      `if (mover === null${combatAt >= 0 ? ` || !(r[${combatAt + C_BOUNCE}] < 0)` : ''}) {`,
      `  ${e.use('moveAll')}(c);`,
      '  return;',
      '}',
      ...(plan.probes.length > 0 ? ['c.senseAgain();'] : []),
      ...(walks ? [view === 'side' ? 'walk(r);' : `${e.use('walkFreely')}(plan, r);`] : []),
      'const { world } = mover;',
      `if (${free.join(' && ')}) {`,
      ...[...onFloor(e, dt, folds(FORCED)), ...inAir(e, dt, folds(FORCED))].map((one) => `  ${one}`),
      '}',
      `${e.use('moveOn')}(c);`,
    ]),
  ].join('\n\n');
}

const TOUCHING = writeNumber(TOUCH);

/** That the body comes to no side of its room: along x, or along z. */
function clear({ plan }: Emitter, axis: 'x' | 'z'): string {
  const { hx, hz } = plan.shapes[0];
  const [at, half, low, high] = axis === 'x' ? [X, hx, ROOM_X0, ROOM_X1] : [Z, hz, ROOM_Z0, ROOM_Z1];
  const beyond = `r[${at}] + ${half} + d${axis} > r[${plan.roomAt + high}] - ${TOUCHING}`;
  const before = `r[${at}] - ${half} + d${axis} < r[${plan.roomAt + low}] + ${TOUCHING}`;
  return `!(d${axis} > 0 ? ${beyond} : d${axis} < 0 && ${before})`;
}

/** How far the feet are above the floor. */
function gap({ plan }: Emitter): string {
  const { hy } = plan.shapes[0];
  return `const gap = r[${Y}] + ${hy} - ${hy} - r[${plan.roomAt + ROOM_Y0}];`;
}

function onFloor(e: Emitter, dt: string, forced: boolean): string[] {
  const { roomAt: room } = e.plan;
  const rests = [
    `r[${GROUNDED}] === 1`,
    `r[${VY}] <= 0`,
    ...(forced ? [`r[${FORCED}] === 0`] : []),
    `r[${GRAVITY}] >= 0`,
    `r[${room + ROOM_FLOOR}] === 1`,
    `r[${Y}] === r[${room + ROOM_Y0}]`,
  ];
  return [
    `if (${rests.join(' && ')}) {`,
    `  const dx = r[${VX}] * ${dt};`,
    `  const dz = r[${VZ}] * ${dt};`,
    `  ${gap(e)}`,
    `  if (gap <= 0 && gap >= -${TOUCHING} && ${clear(e, 'x')} && ${clear(e, 'z')}) {`,
    `    r[${X}] += dx;`,
    `    r[${Z}] += dz;`,
    `    r[${VX}] += 0;`,
    `    r[${VY}] = 0;`,
    `    r[${VZ}] += 0;`,
    `    r[${HEADROOM}] = 1;`,
    '    return;',
    '  }',
    '}',
  ];
}

function inAir(e: Emitter, dt: string, forced: boolean): string[] {
  const { roomAt: room, body, shapes } = e.plan;
  const { hy } = shapes[0];
  const held = [
    `  if (r[${FORCED}] & ${LEVEL}) {`,
    `    vx = r[${FORCED_VELOCITY}];`,
    `    vz = r[${FORCED_VELOCITY + 2}];`,
    '  }',
    `  if (r[${FORCED}] & ${UPRIGHT}) vy = r[${FORCED_VELOCITY + 1}];`,
  ];
  const below = writeNumber(TOUCH + body.reach + body.drop);
  const high = `r[${Y}] + ${hy} + ${hy} + dy <= r[${room + ROOM_Y1}] - ${TOUCHING}`;
  return [
    `if (r[${GROUNDED}] === 0 && r[${room + ROOM_FLOOR}] >= 0) {`,
    `  let vx = r[${VX}];`,
    `  let vy = Math.max(r[${VY}] - r[${GRAVITY}] * ${dt}, -r[${FALL}]);`,
    `  let vz = r[${VZ}];`,
    ...(forced ? held : []),
    `  const dx = vx * ${dt};`,
    `  const dy = vy * ${dt};`,
    `  const dz = vz * ${dt};`,
    `  ${gap(e)}`,
    `  if (gap >= -${TOUCHING} && (dy > 0 ? ${high} : gap + dy >= ${below}) && ${clear(e, 'x')} && ${clear(e, 'z')}) {`,
    `    r[${VX}] = vx + 0;`,
    `    r[${VY}] = vy + 0;`,
    `    r[${VZ}] = vz + 0;`,
    `    r[${X}] += dx;`,
    `    r[${Y}] += dy;`,
    `    r[${Z}] += dz;`,
    `    r[${HEADROOM}] = 1;`,
    '    return;',
    '  }',
    '}',
  ];
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
