import type { Spot, ValuePlace } from '../moveset/directions/point.js';
import type { Message } from '../moveset/messages.js';
import type { Names } from '../moveset/read.js';
import {
  C_HITS,
  E_AIRBORNE,
  E_AT,
  E_DISTANCE,
  E_GUARDING,
  E_STRIKING,
  E_STUNNED,
  E_THERE,
  HAS_HIT,
  IS_OVER,
  W_AT,
  W_DAMAGE,
  W_FROM,
  W_KIND,
  W_PUSH,
  W_STUN,
  WAS_BLOCKED,
  WAS_PARRIED,
} from '../record/combat.js';
import type { Frame, Operand, Test } from '../record/frame.js';
import { type Layout, PROBE, Q_DISTANCE, Q_HIT, Q_NORMAL, Q_POINT, Q_SURFACES, Q_VELOCITY } from '../record/layout.js';
import { updatePool } from '../record/pool-line.js';
import {
  A_ENDED,
  AIM,
  AIM_KIND,
  AIM_POINT,
  AIM_X,
  B_DOWN,
  B_PRESSED,
  B_RELEASED,
  BUTTON,
  C_READY,
  C_WAITING,
  CEILING,
  CHOICE,
  FX,
  FZ,
  GRAVITY,
  GROUND_CHANGED,
  GROUND_NORMAL,
  GROUND_SURFACES,
  GROUND_VELOCITY,
  GROUNDED,
  HEADROOM,
  L_ABILITY,
  L_PHASE,
  L_SINCE,
  LANDED,
  LANE,
  LOADOUT,
  MARK,
  MARK_SET,
  MARK_X,
  N_LEFT,
  NEVER,
  P_MAX,
  P_MIN,
  POOL,
  SHAPE,
  STANCE,
  STANCE_SINCE,
  STEER,
  STICK,
  T,
  TOUCHES,
  VX,
  VY,
  VZ,
  WALL,
  X,
  Y,
  Z,
} from '../record/slots.js';
import { textOf, writeNumber, written } from '../record/written.js';
import { equals } from './conditions.js';
import type { AbilityPlan, PhasePlan, PoolPlan } from './plan.js';
import { updatePower } from './power.js';
import { isPhase, taggedTest, type Wearers } from './tags.js';

export type Fact = { type: 'truth'; test: Test } | { type: 'number' | 'time'; operand: Operand };

export interface FactTools {
  readonly messages: readonly Message[];
  /** Behind the record: the blow that is taken; see Plan. */
  readonly blowAt: number;
  /** Behind the record: the nearest foe; see FOE. */
  readonly foeAt: number;
  /** Where a point is. */
  spot(source: string): Spot;
  /** Where a value of a message stands. */
  valueAt(source: string): ValuePlace | undefined;
  readonly names: Names;
  readonly layout: Layout;
  /** First slot of the probes' answers, behind the record. */
  readonly probesAt: number;
  /** Lane of an ability by index. */
  laneOf(ability: number): number;
  /** A scratch number that `write` fills. */
  scratch(write: (c: Frame, at: number) => void, text?: string | ((at: number) => string)): Operand;
  /** A condition has the name of a fact. */
  clash(condition: string): void;
  /** What a named condition says. */
  named(condition: string): Test;
  /** Names of an ability's phases, of those that have one. */
  phasesOf(ability: string): readonly string[];
  /** Heights of the body's shapes, in their order. */
  readonly heights: readonly number[];
  /** Options of a choice, in their order. */
  optionsOf(choice: string): readonly string[];
  levelsOf(ability: string): readonly { name: string; from: number }[];
  /** Place behind the record of what a pool has. */
  poolAt(pool: number): number;
  /** First slot of an ability's cooldown, or -1. */
  cooldownAt(ability: number): number;
  /** What is compiled later than some formulas: to be read when a fact is, not before. */
  readonly plans: {
    readonly abilities: readonly AbilityPlan[];
    readonly phases: readonly PhasePlan[];
    readonly pools: readonly PoolPlan[];
  };
  /** Scopes that have a tag: by stance, loadout, ability and phase. */
  wearers(tag: string): Wearers;
}

type Add = (key: string, make: () => Fact) => void;

const AXES = ['x', 'y', 'z'] as const;

/** Every fact; a new family is a function like these and a name here. */
const FAMILIES: readonly ((add: Add, tools: FactTools) => void)[] = [
  conditionFacts,
  bodyFacts,
  inputFacts,
  poolFacts,
  abilityFacts,
  eventFacts,
  loadoutFacts,
  probeFacts,
  pointFacts,
  aheadFacts,
  blowFacts,
  foeFacts,
];

/** All facts of a moveset by the text that names them in a formula. */
export function allFacts(tools: FactTools): Record<'facts' | 'inside', Map<string, () => Fact>> {
  const facts = new Map<string, () => Fact>();
  const inside = new Map<string, () => Fact>();
  const conditions = new Set(tools.names.condition);
  const add: Add = (key, make) => {
    if (facts.has(key) && conditions.has(key)) tools.clash(key);
    facts.set(key, make);
  };
  for (const family of FAMILIES) family(add, tools);
  heardFacts((key, make) => void inside.set(key, make), tools);
  return { facts, inside };
}

const numberAt = (at: number): Fact => ({ type: 'number', operand: { at, run: null, constant: false } });
const truthAt = (at: number, is = 1): Fact => ({ type: 'truth', test: equals(at, is) });
const truth = (test: Test, text?: string): Fact => ({ type: 'truth', test: written(test, text) });
/** A number that never changes, for what an ability does not have. */
const fixed = (value: number, { scratch }: FactTools): Operand =>
  scratch(({ r }, at) => {
    r[at] = value;
  }, writeNumber(value));

/** Level pace below which a body counts as standing, per second. */
const STANDING = 0.05;

function bodyFacts(add: Add, tools: FactTools): void {
  add('grounded', () => truthAt(GROUNDED));
  add('airborne', () => truthAt(GROUNDED, 0));
  add('landed', () => truth(({ r }) => r[LANDED] === r[T], `r[${LANDED}] === r[${T}]`));
  add('moving', () =>
    truth(
      ({ r }) => r[VX] * r[VX] + r[VZ] * r[VZ] > STANDING * STANDING,
      `r[${VX}] * r[${VX}] + r[${VZ}] * r[${VZ}] > ${STANDING * STANDING}`,
    ),
  );
  add('atWall', () => truth(({ r }) => (r[TOUCHES] & WALL) !== 0, `(r[${TOUCHES}] & ${WALL}) !== 0`));
  add('atCeiling', () => truth(({ r }) => (r[TOUCHES] & CEILING) !== 0, `(r[${TOUCHES}] & ${CEILING}) !== 0`));
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
    operand: tools.scratch(({ r }, at) => {
      r[at] = Math.sqrt(r[VX] * r[VX] + r[VZ] * r[VZ]);
    }, `Math.sqrt(r[${VX}] * r[${VX}] + r[${VZ}] * r[${VZ}])`),
  }));
  const timeSince = (since: number, only?: Test) => (): Fact => ({
    type: 'time',
    operand: tools.scratch(
      (c, at) => {
        c.r[at] = only && !only(c) ? 0 : c.r[T] - c.r[since];
      },
      only ? `(${textOf(only)} ? r[${T}] - r[${since}] : 0)` : `(r[${T}] - r[${since}])`,
    ),
  });
  add('stance.time', timeSince(STANCE_SINCE));
  add('air.time', timeSince(GROUND_CHANGED, equals(GROUNDED, 0)));
  add('ground.time', timeSince(GROUND_CHANGED, equals(GROUNDED, 1)));
  tools.names.surface.forEach((name, i) => {
    add(`ground.on(${name})`, () =>
      truth(({ r }) => (r[GROUND_SURFACES] & (1 << i)) !== 0, `(r[${GROUND_SURFACES}] & ${1 << i}) !== 0`),
    );
  });
  tools.names.shape.forEach((name, i) => {
    add(`shape(${name})`, () => truthAt(SHAPE, i));
  });
  add('height', () => ({
    type: 'number',
    operand: tools.scratch(({ r }, at) => {
      r[at] = tools.heights[r[SHAPE]];
    }, `HEIGHTS[r[${SHAPE}]]`),
  }));
  tools.names.stance.forEach((name, i) => {
    add(`in(${name})`, () => truthAt(STANCE, i));
  });
}

function inputFacts(add: Add, tools: FactTools): void {
  tools.names.button.forEach((name, i) => {
    const at = tools.layout.buttons + i * BUTTON;
    add(`held(${name})`, () => truthAt(at + B_DOWN));
    add(`pressed(${name})`, () => truth(({ r }) => r[at + B_PRESSED] === r[T], `r[${at + B_PRESSED}] === r[${T}]`));
    add(`released(${name})`, () => truth(({ r }) => r[at + B_RELEASED] === r[T], `r[${at + B_RELEASED}] === r[${T}]`));
    add(`heldFor(${name})`, () => ({
      type: 'time',
      operand: tools.scratch(
        ({ r }, out) => {
          r[out] = r[at + B_DOWN] === 1 ? r[T] - r[at + B_PRESSED] : 0;
        },
        `(r[${at + B_DOWN}] === 1 ? r[${T}] - r[${at + B_PRESSED}] : 0)`,
      ),
    }));
  });
  tools.names.stick.forEach((name, i) => {
    const at = tools.layout.sticks + i * STICK;
    add(`${name}.x`, () => numberAt(at));
    add(`${name}.y`, () => numberAt(at + 1));
    add(`${name}.amount`, () => ({
      type: 'number',
      operand: tools.scratch(
        ({ r }, out) => {
          r[out] = Math.sqrt(r[at] * r[at] + r[at + 1] * r[at + 1]);
        },
        `Math.sqrt(r[${at}] * r[${at}] + r[${at + 1}] * r[${at + 1}])`,
      ),
    }));
  });
}

function poolFacts(add: Add, tools: FactTools): void {
  tools.names.pool.forEach((name, i) => {
    const { pools } = tools.plans;
    add(`pool.${name}`, () => ({
      type: 'number',
      operand: tools.scratch(
        ({ r }, out) => {
          updatePool(r, pools[i]);
          r[out] = r[pools[i].value];
        },
        `(updatePool(r, pools[${i}]), r[${tools.poolAt(i)}])`,
      ),
    }));
    add(`pool.${name}.max`, () => numberAt(tools.layout.pools + i * POOL + P_MAX));
    add(`pool.${name}.min`, () => numberAt(tools.layout.pools + i * POOL + P_MIN));
  });
}

function abilityFacts(add: Add, tools: FactTools): void {
  const { layout, names, plans } = tools;
  names.ability.forEach((name, i) => {
    const { at, charges, latched, power } = layout.abilities[i];
    const lane = () => layout.lanes + tools.laneOf(i) * LANE;
    const time = (write: (r: Float64Array, out: number) => void, text: string): Fact => ({
      type: 'time',
      operand: tools.scratch(({ r }, out) => write(r, out), text),
    });
    add(`running(${name})`, () => truthAt(lane() + L_ABILITY, i));
    for (const phase of tools.phasesOf(name))
      add(`phase(${name}.${phase})`, () => {
        const laneAt = lane() + L_PHASE;
        const { phases } = plans;
        return truth(
          ({ r }) => isPhase(phases[r[laneAt]], i, phase),
          `isPhase(phases[r[${laneAt}]], ${i}, ${JSON.stringify(phase)})`,
        );
      });
    add(`timeIn(${name})`, () => {
      const laneAt = lane();
      return time(
        (r, out) => {
          r[out] = r[laneAt + L_ABILITY] === i ? r[T] - r[laneAt + L_SINCE] : 0;
        },
        `(r[${laneAt + L_ABILITY}] === ${i} ? r[${T}] - r[${laneAt + L_SINCE}] : 0)`,
      );
    });
    add(`since(${name})`, () =>
      time(
        (r, out) => {
          r[out] = r[T] - r[at + A_ENDED];
        },
        `(r[${T}] - r[${at + A_ENDED}])`,
      ),
    );
    add(`cooldown(${name})`, () => {
      const ready = tools.cooldownAt(i);
      if (ready < 0) return { type: 'time', operand: fixed(0, tools) };
      return time(
        (r, out) => {
          r[out] = r[ready + C_WAITING] > 0 ? NEVER : Math.max(0, r[ready + C_READY] - r[T]);
        },
        `(r[${ready + C_WAITING}] > 0 ? Infinity : Math.max(0, r[${ready + C_READY}] - r[${T}]))`,
      );
    });
    const powerOf = (): Operand => {
      if (power < 0) return fixed(0, tools);
      return tools.scratch(
        ({ r }, out) => {
          updatePower(r, plans.abilities[i], plans.phases, out);
        },
        (out) => `(updatePower(r, plan.abilities[${i}], plan.phases, ${out}), r[${out}])`,
      );
    };
    add(`charge(${name})`, () => ({ type: 'number', operand: powerOf() }));
    for (const { name: level, from } of tools.levelsOf(name))
      add(`level(${name}.${level})`, () => {
        const { at: out, run } = powerOf();
        const text = run ? textOf(run) : '0';
        return truth((c) => {
          run?.(c);
          return c.r[out] >= from;
        }, text && `${text} >= ${from}`);
      });
    add(`charges(${name})`, () =>
      charges < 0 ? { type: 'number', operand: fixed(0, tools) } : numberAt(charges + N_LEFT),
    );
    add(`latched(${name})`, () => (latched < 0 ? truth(() => false, 'false') : truthAt(latched)));
  });
  for (const name of names.tag)
    add(`tagged(${name})`, () =>
      truth(
        taggedTest(tools.layout.lanes, tools.names.lane.length, () => tools.wearers(name)),
        `plan.tagged(${JSON.stringify(name)})(c)`,
      ),
    );
}

/** Named conditions: what each says is compiled when a formula reads it. */
function conditionFacts(add: Add, { names, named }: FactTools): void {
  for (const name of names.condition) add(name, () => truth(named(name)));
}

function loadoutFacts(add: Add, tools: FactTools): void {
  tools.names.loadout.forEach((name, i) => {
    add(`wearing(${name})`, () => truthAt(LOADOUT, i));
  });
}

function eventFacts(add: Add, tools: FactTools): void {
  tools.names.event.forEach((name, i) => {
    const at = tools.layout.events[i];
    add(`event(${name})`, () => truth(({ r }) => r[at] === r[T], `r[${at}] === r[${T}]`));
    valueFacts(add, name, tools.messages[i], at + 1);
  });
}

/** Values of a message, the first of which stands at `from`. */
function valueFacts(add: Add, name: string, { values }: Message, from: number): void {
  for (const value of values) {
    const at = from + value.at;
    const key = `${name}.${value.name}`;
    if (value.type === 'number') add(key, () => numberAt(at));
    else if (value.type === 'time') add(key, () => ({ type: 'time', operand: { at, run: null, constant: false } }));
    else if (value.type === 'word') value.words.forEach((word, i) => void add(`${key}(${word})`, () => truthAt(at, i)));
    else
      AXES.forEach((axis, i) => {
        add(`${key}.${axis}`, () => numberAt(at + i));
      });
  }
}

/** In an ability that a message has started: its values as they were then. */
function heardFacts(add: Add, { names, layout, messages }: FactTools): void {
  names.ability.forEach((ability, i) => {
    for (const { event, at } of layout.abilities[i].heard) {
      const message = messages.find(({ name }) => name === event);
      if (message) valueFacts((key, make) => add(`${ability}:${key}`, make), event, message, at + 1);
    }
  });
}

function probeFacts(add: Add, tools: FactTools): void {
  tools.names.probe.forEach((name, i) => {
    const at = tools.probesAt + i * PROBE;
    const number = (offset: number) => (): Fact => ({
      type: 'number',
      operand: tools.scratch(
        (c, out) => {
          c.probe(i);
          c.r[out] = c.r[at + offset];
        },
        `(c.probe(${i}), r[${at + offset}])`,
      ),
    });
    add(`${name}.hit`, () =>
      truth(
        (c) => {
          c.probe(i);
          return c.r[at + Q_HIT] === 1;
        },
        `(c.probe(${i}), r[${at + Q_HIT}] === 1)`,
      ),
    );
    add(`${name}.distance`, number(Q_DISTANCE));
    tools.names.surface.forEach((surface, k) => {
      add(`${name}.on(${surface})`, () =>
        truth(
          (c) => {
            c.probe(i);
            return (c.r[at + Q_SURFACES] & (1 << k)) !== 0;
          },
          `(c.probe(${i}), (r[${at + Q_SURFACES}] & ${1 << k}) !== 0)`,
        ),
      );
    });
    AXES.forEach((axis, k) => {
      add(`${name}.v${axis}`, number(Q_VELOCITY + k));
      add(`${name}.${axis}`, number(Q_POINT + k));
      add(`${name}.normal.${axis}`, number(Q_NORMAL + k));
    });
  });
}

/** What a character that fights knows of blows: the one that it takes, how many it has taken, what became of its own. */
function blowFacts(add: Add, { names, layout, blowAt }: FactTools): void {
  if (layout.combat < 0) return;
  const at = blowAt + 1;
  add('blow.damage', () => numberAt(at + W_DAMAGE));
  add('blow.stun', () => ({ type: 'time', operand: { at: at + W_STUN, run: null, constant: false } }));
  names.kind.forEach((kind, i) => {
    add(`blow.kind(${kind})`, () => truthAt(at + W_KIND, i));
  });
  for (const [name, from] of Object.entries({ push: W_PUSH, from: W_FROM, at: W_AT }))
    AXES.forEach((axis, i) => {
      add(`blow.${name}.${axis}`, () => numberAt(at + from + i));
    });
  names.summon.forEach((name, i) => {
    add(`summoned(${name})`, () => numberAt(layout.summoned + i));
  });
  add('hitsTaken', () => numberAt(layout.combat + C_HITS));
  names.ability.forEach((name, i) => {
    const { result } = layout.abilities[i];
    if (result < 0) return;
    add(`hit(${name})`, () => truth(({ r }) => (r[result] & HAS_HIT) !== 0, `(r[${result}] & ${HAS_HIT}) !== 0`));
    add(`blocked(${name})`, () =>
      truth(({ r }) => (r[result] & WAS_BLOCKED) !== 0, `(r[${result}] & ${WAS_BLOCKED}) !== 0`),
    );
    add(`parried(${name})`, () =>
      truth(({ r }) => (r[result] & WAS_PARRIED) !== 0, `(r[${result}] & ${WAS_PARRIED}) !== 0`),
    );
    add(`missed(${name})`, () => truth(({ r }) => r[result] === IS_OVER, `r[${result}] === ${IS_OVER}`));
  });
}

/** What a character knows of its nearest foe. */
function foeFacts(add: Add, { foeAt }: FactTools): void {
  for (const [name, place] of Object.entries({
    there: E_THERE,
    striking: E_STRIKING,
    guarding: E_GUARDING,
    stunned: E_STUNNED,
    airborne: E_AIRBORNE,
  }))
    add(`foe.${name}`, () => truthAt(foeAt + place));
  add('foe.distance', () => numberAt(foeAt + E_DISTANCE));
  AXES.forEach((axis, i) => {
    add(`foe.${axis}`, () => numberAt(foeAt + E_AT + i));
  });
}

/** Whether a point is in front of the body: on the side that it faces. */
function aheadFacts(add: Add, tools: FactTools): void {
  const { names } = tools;
  const out = new Float64Array(3);
  for (const name of [...names.mark, ...names.aim, ...names.probe, ...names['point value'], 'foe'])
    add(`ahead(${name})`, () => {
      const spot = tools.spot(name);
      return truth(
        (c) => {
          const { r } = c;
          return spot(c, out) && (out[0] - r[X]) * r[FX] + (out[2] - r[Z]) * r[FZ] > 0;
        },
        aheadText(name, tools),
      );
    });
}

function aheadText(name: string, tools: FactTools): string | undefined {
  const [there, at] = placeOf(name, tools);
  return `${there} && (r[${at}] - r[${X}]) * r[${FX}] + (r[${at + 2}] - r[${Z}]) * r[${FZ}] > 0`;
}

/** Whether there is a point now, and the first of its numbers: as `compilePoint` has it. */
function placeOf(name: string, { names, layout, probesAt, foeAt, valueAt }: FactTools): [there: string, at: number] {
  if (name === 'foe') return [`r[${foeAt}] === 1`, foeAt + 1];
  const mark = layout.marks + names.mark.indexOf(name) * MARK;
  if (names.mark.includes(name)) return [`r[${mark + MARK_SET}] === 1`, mark + MARK_X];
  const aim = layout.aims + names.aim.indexOf(name) * AIM;
  if (names.aim.includes(name)) return [`r[${aim + AIM_KIND}] === ${AIM_POINT}`, aim + AIM_X];
  const index = names.probe.indexOf(name);
  const probe = probesAt + index * PROBE;
  if (index >= 0) return [`(c.probe(${index}), r[${probe + Q_HIT}] === 1)`, probe + Q_POINT];
  const value = valueAt(name);
  return value ? [`r[${value.since}] > -Infinity`, value.at] : ['false', 0];
}

/** How far away a mark is that is not set: further than anything. */
const FAR = 1e6;

function distanceText(mark: number): string {
  const [x, y, z] = [
    `(r[${mark + MARK_X}] - r[${X}])`,
    `(r[${mark + MARK_X + 1}] - r[${Y}] - HEIGHTS[r[${SHAPE}]] / 2)`,
    `(r[${mark + MARK_X + 2}] - r[${Z}])`,
  ];
  return `(r[${mark + MARK_SET}] === 0 ? ${FAR} : Math.sqrt(${x} * ${x} + ${y} * ${y} + ${z} * ${z}))`;
}

function pointFacts(add: Add, tools: FactTools): void {
  const { names, layout, heights } = tools;
  names.aim.forEach((name, i) => {
    const at = layout.aims + i * AIM;
    add(`known(${name})`, () => truth(({ r }) => r[at + AIM_KIND] !== 0, `r[${at + AIM_KIND}] !== 0`));
    AXES.forEach((axis, k) => {
      add(`${name}.${axis}`, () => numberAt(at + AIM_X + k));
    });
  });
  names.choice.forEach((name, i) => {
    tools.optionsOf(name).forEach((option, k) => {
      add(`chosen(${name}.${option})`, () => truthAt(layout.choices + i * CHOICE, k));
    });
  });
  names.mark.forEach((name, i) => {
    const at = layout.marks + i * MARK;
    add(`known(${name})`, () => truthAt(at + MARK_SET));
    AXES.forEach((axis, k) => {
      add(`${name}.${axis}`, () => numberAt(at + MARK_X + k));
    });
    add(`distance(${name})`, () => ({
      type: 'number',
      operand: tools.scratch(({ r }, out) => {
        const x = r[at + MARK_X] - r[X];
        const y = r[at + MARK_X + 1] - r[Y] - heights[r[SHAPE]] / 2;
        const z = r[at + MARK_X + 2] - r[Z];
        r[out] = Math.sqrt(x * x + y * y + z * z);
        if (r[at + MARK_SET] === 0) r[out] = FAR;
      }, distanceText(at)),
    }));
  });
}
