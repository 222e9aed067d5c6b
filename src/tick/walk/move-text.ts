import { ON_FLOOR } from '../../motion/rooms.js';
import {
  all,
  asked,
  at,
  Block,
  type Code,
  equal,
  js,
  type Lines,
  library,
  literal,
  pick,
  TRUE,
  tight,
  to,
  when,
} from '../../record/code.js';
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
import type { Emitter } from '../../text/emitter.js';
import { TOUCH } from '../../world/solid.js';
import type { Fold } from '../fold/fold-text.js';

/**
 * Lines that move the body: walking, and the two short ways of a body that is free, on the floor of a room and through the air of
 * one. They are equal to motion/, which does all else.
 */
export function emitMove(e: Emitter, { folds }: Fold): Lines {
  const { combatAt, rideAt, view, freeAt, walkStick, probes } = e.plan;
  const plain = all(
    ...[WANT_SHAPE, PASSES].flatMap((slot) => (folds(slot) ? equal(at(slot), 0) : [])),
    ...(combatAt >= 0 ? [tight(js`${at(combatAt + C_BOUNCE)} < 0`)] : []),
    ...(rideAt >= 0 ? [equal(at(rideAt + R_MARK), 0)] : []),
    // Seen from the side, hardly anything moves along z.
    ...(view === 'side' ? [equal(at(VZ), 0)] : []),
  );
  const walks = walkStick >= 0 && view === 'side' ? walking(e, folds) : [js`${library('walkFreely')}(plan, r);`];
  const shortly = new Block([js`if (free === ${ON_FLOOR}) {`, onFloor(e, folds), js`} else {`, inAir(e, folds), js`}`]);
  const sense = probes.length > 0 ? [js`${asked('senseAgain')}();`] : [];
  return [
    ...sense,
    plain === TRUE ? js`const free = ${at(freeAt)};` : js`const free = ${plain} ? ${at(freeAt)} : 0;`,
    // What is more than the way through a room is for the library.
    new Block([js`if (free === 0) ${library('moveAll')}(c);`, js`else {`, [...walks, shortly], js`}`]),
    // What probes see from here on is the body where it is now.
    ...sense,
  ];
}

const TOUCHING = literal(TOUCH);

/** That the body comes to no side of its room: along x, or along z. */
function clear({ plan }: Emitter, axis: 'x' | 'z'): Code {
  const { hx, hz } = plan.shapes[0];
  const [slot, half, low, high] = axis === 'x' ? [X, hx, ROOM_X0, ROOM_X1] : [Z, hz, ROOM_Z0, ROOM_Z1];
  const beyond = js`${at(slot)} + ${half} + d${axis} <= ${at(plan.roomAt + high)} - ${TOUCHING}`;
  const before = js`${at(slot)} - ${half} + d${axis} >= ${at(plan.roomAt + low)} + ${TOUCHING}`;
  return pick(js`d${axis} > 0`, beyond, js`d${axis} === 0 || ${before}`);
}

function onFloor(e: Emitter, folds: (slot: number) => boolean): Lines {
  const { body, view, dt } = e.plan;
  const open = view === 'open';
  const test = all(
    ...(folds(FORCED) ? [equal(at(FORCED), 0)] : []),
    tight(js`${at(VY)} <= 0`),
    ...(folds(GRAVITY) || body.gravity < 0 ? [tight(js`${at(GRAVITY)} >= 0`)] : []),
    clear(e, 'x'),
    ...(open ? [clear(e, 'z')] : []),
  );
  const free = [
    js`${to(X)} += dx;`,
    ...(open ? [js`${to(Z)} += dz;`] : []),
    js`${to(VX)} += 0;`,
    js`${to(VY)} = 0;`,
    open ? js`${to(VZ)} += 0;` : js`${to(VZ)} = 0;`,
    js`${to(HEADROOM)} = 1;`,
  ];
  return [
    js`const dx = ${at(VX)} * ${dt};`,
    ...(open ? [js`const dz = ${at(VZ)} * ${dt};`] : []),
    new Block([js`if (${test}) {`, free, js`} else ${library('moveOn')}(c);`]),
  ];
}

function inAir(e: Emitter, folds: (slot: number) => boolean): Lines {
  const { roomAt: room, body, shapes, dt } = e.plan;
  const { hy } = shapes[0];
  const held = [
    js`const forced = ${at(FORCED)} | 0;`,
    when(js`forced & ${LEVEL}`, [js`vx = ${at(FORCED_VELOCITY)};`, js`vz = ${at(FORCED_VELOCITY + 2)};`]),
    js`if (forced & ${UPRIGHT}) vy = ${at(FORCED_VELOCITY + 1)};`,
  ];
  const high = js`${at(Y)} + ${hy} + ${hy} + dy <= ${at(room + ROOM_Y1)} - ${TOUCHING}`;
  const test = all(
    tight(js`gap >= -${TOUCHING}`),
    pick(js`dy > 0`, high, js`gap + dy >= ${TOUCH + body.reach + body.drop}`),
    clear(e, 'x'),
    clear(e, 'z'),
  );
  const free = [
    js`${to(VX)} = vx + 0;`,
    js`${to(VY)} = vy + 0;`,
    js`${to(VZ)} = vz + 0;`,
    js`${to(X)} += dx;`,
    js`${to(Y)} += dy;`,
    js`${to(Z)} += dz;`,
    js`${to(HEADROOM)} = 1;`,
  ];
  return [
    js`let vx = ${at(VX)};`,
    js`let vy = Math.max(${at(VY)} - ${at(GRAVITY)} * ${dt}, -${at(FALL)});`,
    js`let vz = ${at(VZ)};`,
    ...(folds(FORCED) ? held : []),
    js`const dx = vx * ${dt};`,
    js`const dy = vy * ${dt};`,
    js`const dz = vz * ${dt};`,
    js`const gap = ${at(Y)} + ${hy} - ${hy} - ${at(room + ROOM_Y0)};`,
    new Block([js`if (${test}) {`, free, js`} else ${library('moveOn')}(c);`]),
  ];
}

/** Brings the pace nearer to what the stick wants, of a body that touches nothing steep and does not move along z. */
function walking(e: Emitter, folds: (slot: number) => boolean): Lines {
  const { walkStick: x, dt } = e.plan;
  const pushed = js`${at(x)} * ${at(SPEED)}`;
  // A stick that rests, or does not steer, wants the body to stand.
  const wanted = folds(STEER) ? js`${at(STEER)} === 0 ? 0 : ${pushed}` : pushed;
  const share = folds(STEER)
    ? pick(js`${at(STEER)} === 0 || ${at(x)} === 0`, dt, js`${at(STEER)} * ${dt}`)
    : literal(dt);
  const nearer = [
    js`const brakes = wanted * pace <= 0 ? pace !== 0 : pace * pace > wanted * wanted;`,
    js`const step = (brakes ? ${at(BRAKE)} : ${at(ACCEL)}) * ${share};`,
    js`const missing = wanted - pace;`,
    js`${to(VX)} = missing > step ? pace + step : missing < -step ? pace - step : wanted;`,
  ];
  return [
    // Only a push along x alone is written here.
    js`if (${at(x + 1)} !== 0) ${library('walkFreely')}(plan, r);`,
    new Block([
      js`else {`,
      [
        js`const pace = ${at(VX)};`,
        js`const wanted = ${wanted};`,
        new Block([js`if (pace !== wanted) {`, nearer, js`}`]),
      ],
      js`}`,
    ]),
  ];
}

/** Writes that the body turns to where the stick that walks is pushed. */
export function emitFacing(e: Emitter): Lines {
  const { walkStick: x, view } = e.plan;
  if (x < 0) return [];
  if (view === 'open') return [js`if (${at(FACE_LOCK)} === 0) ${library('faceStick')}(plan, r);`];
  return [
    when(js`${at(FACE_LOCK)} === 0 && ${at(x)} !== 0`, [js`${to(FX)} = ${at(x)} > 0 ? 1 : -1;`, js`${to(FZ)} = 0;`]),
  ];
}
