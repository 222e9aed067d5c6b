import type { Frame, Operand, Test } from '../moveset/effects/effect.js';
import type { Names } from '../moveset/read.js';
import {
  A_CHARGE,
  A_CHARGES,
  A_ENDED,
  A_LATCHED,
  A_READY,
  ABILITY,
  B_DOWN,
  B_PRESSED,
  B_RELEASED,
  BUTTON,
  CEILING,
  FX,
  GRAVITY,
  GROUND_CHANGED,
  GROUNDED,
  HEADROOM,
  L_ABILITY,
  L_SINCE,
  LANDED,
  LANE,
  LOADOUT,
  MOVING,
  P_MAX,
  P_MIN,
  POOL,
  STANCE,
  STANCE_SINCE,
  STEER,
  STICK,
  T,
  VX,
  VY,
  VZ,
  WALL_X,
  WALL_Z,
  X,
  Y,
  Z,
} from '../moveset/slots.js';
import { type Layout, PROBE, Q_DISTANCE, Q_HIT, Q_NORMAL, Q_POINT } from './layout.js';
import { atPace, equals, PACE } from './tests.js';

export type FactType = 'number' | 'time' | 'truth';

export type Fact = { type: 'truth'; test: Test } | { type: 'number' | 'time'; operand: Operand };

export interface FactTools {
  readonly names: Names;
  readonly layout: Layout;
  /** First slot of the probes' answers, behind the record. */
  readonly probesAt: number;
  /** Lane of an ability by index. */
  laneOf(ability: number): number;
  /** First place of what pools have now, behind the record. */
  readonly valuesAt: number;
  /** A scratch number that `write` fills. */
  scratch(write: (c: Frame, at: number) => void, steady?: boolean): Operand;
  levelsOf(ability: string): readonly { name: string; from: number }[];
}

type Add = (key: string, make: () => Fact) => void;

/** Every fact; a new family is a function like these and a name here. */
const FAMILIES: readonly ((add: Add, tools: FactTools) => void)[] = [
  bodyFacts,
  inputFacts,
  poolFacts,
  abilityFacts,
  eventFacts,
  loadoutFacts,
  probeFacts,
];

/** All facts of a moveset by the text that names them in a formula. */
export function allFacts(tools: FactTools): Map<string, () => Fact> {
  const facts = new Map<string, () => Fact>();
  for (const family of FAMILIES) family((key, make) => facts.set(key, make), tools);
  return facts;
}

const numberAt = (at: number, steady = false): Fact => ({
  type: 'number',
  operand: { at, run: null, constant: false, steady },
});
/** A truth that is noted: whoever changes it sets STALE. */
const truthAt = (at: number, is = 1): Fact => ({ type: 'truth', test: equals(at, is, PACE.steady) });
/** A truth of the one tick in which the door or the ground told of it. */
const momentOf = (test: Test): Fact => ({ type: 'truth', test: atPace(PACE.moment, test) });

function bodyFacts(add: Add, tools: FactTools): void {
  add('grounded', () => truthAt(GROUNDED));
  add('airborne', () => truthAt(GROUNDED, 0));
  add('landed', () => momentOf(({ r }) => r[LANDED] === r[T]));
  add('moving', () => truthAt(MOVING));
  add('atWall', () => ({
    type: 'truth',
    test: atPace(PACE.steady, ({ r }) => r[WALL_X] !== 0 || r[WALL_Z] !== 0),
  }));
  add('atCeiling', () => truthAt(CEILING));
  add('headroom', () => truthAt(HEADROOM));
  for (const [key, at] of Object.entries({
    x: X,
    y: Y,
    z: Z,
    vx: VX,
    vy: VY,
    vz: VZ,
    facing: FX,
    gravity: GRAVITY,
    steer: STEER,
  }))
    add(key, () => numberAt(at));
  add('speed', () => ({
    type: 'number',
    operand: tools.scratch(({ r }, at) => {
      r[at] = Math.sqrt(r[VX] * r[VX] + r[VZ] * r[VZ]);
    }),
  }));
  const timeSince = (since: number, only?: Test) => (): Fact => ({
    type: 'time',
    operand: tools.scratch((c, at) => {
      c.r[at] = only && !only(c) ? 0 : c.r[T] - c.r[since];
    }),
  });
  add('stance.time', timeSince(STANCE_SINCE));
  add(
    'air.time',
    timeSince(GROUND_CHANGED, ({ r }) => r[GROUNDED] === 0),
  );
  add(
    'ground.time',
    timeSince(GROUND_CHANGED, ({ r }) => r[GROUNDED] === 1),
  );
  tools.names.stance.forEach((name, i) => {
    add(`in(${name})`, () => ({ type: 'truth', test: equals(STANCE, i, PACE.worked) }));
  });
}

function inputFacts(add: Add, tools: FactTools): void {
  tools.names.button.forEach((name, i) => {
    const at = tools.layout.buttons + i * BUTTON;
    add(`held(${name})`, () => truthAt(at + B_DOWN));
    add(`pressed(${name})`, () => momentOf(({ r }) => r[at + B_PRESSED] === r[T]));
    add(`released(${name})`, () => momentOf(({ r }) => r[at + B_RELEASED] === r[T]));
    add(`heldFor(${name})`, () => ({
      type: 'time',
      operand: tools.scratch(({ r }, out) => {
        r[out] = r[at + B_DOWN] === 1 ? r[T] - r[at + B_PRESSED] : 0;
      }),
    }));
  });
  tools.names.stick.forEach((name, i) => {
    const at = tools.layout.sticks + i * STICK;
    add(`${name}.x`, () => numberAt(at, true));
    add(`${name}.y`, () => numberAt(at + 1, true));
    add(`${name}.amount`, () => ({
      type: 'number',
      operand: tools.scratch(({ r }, out) => {
        r[out] = Math.sqrt(r[at] * r[at] + r[at + 1] * r[at + 1]);
      }, true),
    }));
  });
}

function poolFacts(add: Add, tools: FactTools): void {
  tools.names.pool.forEach((name, i) => {
    add(`pool.${name}`, () => ({
      type: 'number',
      operand: { at: tools.valuesAt + i, run: (c) => c.readPool(i), constant: false, steady: false },
    }));
    add(`pool.${name}.max`, () => numberAt(tools.layout.pools + i * POOL + P_MAX));
    add(`pool.${name}.min`, () => numberAt(tools.layout.pools + i * POOL + P_MIN));
  });
}

function abilityFacts(add: Add, tools: FactTools): void {
  tools.names.ability.forEach((name, i) => {
    const at = tools.layout.abilities + i * ABILITY;
    const lane = () => tools.layout.lanes + tools.laneOf(i) * LANE;
    const time = (write: (r: Float64Array, out: number) => void) => (): Fact => ({
      type: 'time',
      operand: tools.scratch(({ r }, out) => write(r, out)),
    });
    add(`running(${name})`, () => truthAt(lane() + L_ABILITY, i));
    add(`timeIn(${name})`, () => {
      const at = lane();
      return time((r, out) => {
        r[out] = r[at + L_ABILITY] === i ? r[T] - r[at + L_SINCE] : 0;
      })();
    });
    add(
      `since(${name})`,
      time((r, out) => {
        r[out] = r[T] - r[at + A_ENDED];
      }),
    );
    add(
      `cooldown(${name})`,
      time((r, out) => {
        r[out] = Math.max(0, r[at + A_READY] - r[T]);
      }),
    );
    add(`charge(${name})`, () => numberAt(at + A_CHARGE));
    for (const { name: level, from } of tools.levelsOf(name))
      add(`level(${name}.${level})`, () => ({ type: 'truth', test: ({ r }) => r[at + A_CHARGE] >= from }));
    add(`charges(${name})`, () => numberAt(at + A_CHARGES));
    add(`latched(${name})`, () => truthAt(at + A_LATCHED));
  });
  tools.names.tag.forEach((name, i) => {
    add(`tagged(${name})`, () => ({ type: 'truth', test: equals(tools.layout.tags + i, 1, PACE.any) }));
  });
}

function loadoutFacts(add: Add, tools: FactTools): void {
  tools.names.loadout.forEach((name, i) => {
    add(`wearing(${name})`, () => ({ type: 'truth', test: equals(LOADOUT, i, PACE.any) }));
  });
}

function eventFacts(add: Add, tools: FactTools): void {
  tools.names.event.forEach((name, i) => {
    const at = tools.layout.events + i;
    add(`event(${name})`, () => momentOf(({ r }) => r[at] === r[T]));
  });
}

function probeFacts(add: Add, tools: FactTools): void {
  tools.names.probe.forEach((name, i) => {
    const at = tools.probesAt + i * PROBE;
    const number = (offset: number) => (): Fact => ({
      type: 'number',
      operand: tools.scratch((c, out) => {
        c.ask(i);
        c.r[out] = c.r[at + offset];
      }),
    });
    add(`${name}.hit`, () => ({
      type: 'truth',
      test: (c) => {
        c.ask(i);
        return c.r[at + Q_HIT] === 1;
      },
    }));
    add(`${name}.distance`, number(Q_DISTANCE));
    ['x', 'y', 'z'].forEach((axis, k) => {
      add(`${name}.${axis}`, number(Q_POINT + k));
      add(`${name}.normal.${axis}`, number(Q_NORMAL + k));
    });
  });
}
