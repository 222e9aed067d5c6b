import { at, compare, enclose, heightOf, js, pick, root } from '../../record/code.js';
import type { Test } from '../../record/frame.js';
import {
  CEILING,
  FX,
  FZ,
  GRAVITY,
  GROUND_CHANGED,
  GROUND_NORMAL,
  GROUND_SURFACES,
  GROUND_VELOCITY,
  GROUNDED,
  HEADROOM,
  LANDED,
  SHAPE,
  STANCE,
  STANCE_SINCE,
  STEER,
  T,
  TOUCHES,
  VX,
  VY,
  VZ,
  WALL,
  X,
  Y,
  Z,
} from '../../record/slots.js';
import { codeOf, withAll } from '../../record/written.js';
import { equals } from '../conditions.js';
import type { Add, Fact, FactRows, FactTools } from './fact.js';
import { bitAt, nowAt, numberAt, truth, truthAt } from './fact.js';

/** Level pace below which a body counts as standing, per second. */
const STANDING = 0.05;

export function bodyFacts(add: Add, tools: FactTools): void {
  add('grounded', () => truthAt(GROUNDED));
  add('airborne', () => truthAt(GROUNDED, 0));
  add('landed', () => nowAt(LANDED));
  add('moving', () =>
    truth(
      ({ r }) => r[VX] * r[VX] + r[VZ] * r[VZ] > STANDING * STANDING,
      () => compare(paceSquared(), '>', STANDING * STANDING),
    ),
  );
  add('atWall', () => bitAt(TOUCHES, WALL));
  add('atCeiling', () => bitAt(TOUCHES, CEILING));
  add('headroom', () => truthAt(HEADROOM));
  for (const [key, at] of Object.entries({
    x: X,
    y: Y,
    z: Z,
    vx: VX,
    vy: VY,
    vz: VZ,
    facing: FX,
    'facing.x': FX,
    'facing.z': FZ,
    'ground.normal.x': GROUND_NORMAL,
    'ground.normal.y': GROUND_NORMAL + 1,
    'ground.normal.z': GROUND_NORMAL + 2,
    'ground.vx': GROUND_VELOCITY,
    'ground.vy': GROUND_VELOCITY + 1,
    'ground.vz': GROUND_VELOCITY + 2,
    gravity: GRAVITY,
    steer: STEER,
  }))
    add(key, () => numberAt(at));
  add('speed', () => ({
    type: 'number',
    operand: tools.scratch(
      ({ r }, at) => {
        r[at] = Math.sqrt(r[VX] * r[VX] + r[VZ] * r[VZ]);
      },
      () => root(paceSquared()),
    ),
  }));
  const timeSince = (since: number, only?: Test) => (): Fact => ({
    type: 'time',
    operand: tools.scratch(
      (c, at) => {
        c.r[at] = only && !only(c) ? 0 : c.r[T] - c.r[since];
      },
      () => {
        const passed = js`${at(T)} - ${at(since)}`;
        return only ? withAll([codeOf(only)], (test) => pick(test, passed, 0)) : enclose(passed);
      },
    ),
  });
  add('stance.time', timeSince(STANCE_SINCE));
  add('air.time', timeSince(GROUND_CHANGED, equals(GROUNDED, 0)));
  add('ground.time', timeSince(GROUND_CHANGED, equals(GROUNDED, 1)));
  tools.names.surface.forEach((name, i) => {
    add(`ground.on(${name})`, () => bitAt(GROUND_SURFACES, 1 << i));
  });
  tools.names.shape.forEach((name, i) => {
    add(`shape(${name})`, () => truthAt(SHAPE, i));
  });
  add('height', () => ({
    type: 'number',
    operand: tools.scratch(
      ({ r }, at) => {
        r[at] = tools.heights[r[SHAPE]];
      },
      () => heightOf(SHAPE),
    ),
  }));
  tools.names.stance.forEach((name, i) => {
    add(`in(${name})`, () => truthAt(STANCE, i));
  });
}

function paceSquared() {
  return js`${at(VX)} * ${at(VX)} + ${at(VZ)} * ${at(VZ)}`;
}

/** What the reference says of them. */
export const BODY_DOCS: FactRows = {
  'The body': [
    ['grounded', 'condition', 'The feet stand on something.'],
    ['airborne', 'condition', 'The feet stand on nothing.'],
    ['landed', 'condition', 'The feet touched the ground in this tick.'],
    ['moving', 'condition', 'The level speed is above 0.05 per second.'],
    ['atWall', 'condition', 'The body touches a wall.'],
    ['atCeiling', 'condition', 'The body touches a ceiling.'],
    ['headroom', 'condition', 'The first body shape fits here.'],
    ['height', 'number', 'Height of the body as it is now.'],
    ['shape({shape})', 'condition', 'The body has this shape.'],
    ['x', 'number', 'Position of the feet.'],
    ['y', 'number', 'Position of the feet, upwards.'],
    ['z', 'number', 'Position of the feet; 0 seen from the side.'],
    ['vx', 'number', 'Velocity per second.'],
    ['vy', 'number', 'Velocity per second, upwards.'],
    ['vz', 'number', 'Velocity per second.'],
    ['speed', 'number', 'Level speed per second.'],
    ['facing', 'number', '1 or -1 seen from the side; in the open view the same as `facing.x`.'],
    ['facing.x', 'number', 'Facing, a unit vector.'],
    ['facing.z', 'number', 'Facing, a unit vector; 0 seen from the side.'],
    ['gravity', 'number', 'Downward acceleration now, per second squared.'],
    ['steer', 'number', 'How much the stick steers now, 0 to 1.'],
    ['ground.normal.x', 'number', 'Normal of the ground.', '0 in the air'],
    ['ground.normal.y', 'number', 'Normal of the ground.', '1 in the air'],
    ['ground.normal.z', 'number', 'Normal of the ground.', '0 in the air'],
    ['ground.vx', 'number', 'Velocity of what the feet stand on, per second.', '0 in the air'],
    ['ground.vy', 'number', 'Velocity of what the feet stand on, per second.', '0 in the air'],
    ['ground.vz', 'number', 'Velocity of what the feet stand on, per second.', '0 in the air'],
    ['ground.on({surface})', 'condition', 'The feet stand on this surface.'],
    ['ground.time', 'time', 'How long the feet have stood on something.', '0s in the air'],
    ['air.time', 'time', 'How long the feet have stood on nothing.', '0s on the ground'],
  ],
  Stances: [
    ['stance.time', 'time', 'How long the present stance has lasted.'],
    ['in({stance})', 'condition', 'This is the present stance.'],
    ['tagged({tag})', 'condition', 'A stance, loadout, ability or phase with this tag is active.'],
  ],
};
