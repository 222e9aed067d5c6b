import {
  all,
  asked,
  type Code,
  compare,
  enclose,
  equal,
  FALSE,
  heightOf,
  js,
  pick,
  at as slot,
  tight,
} from '../../record/code.js';
import { PROBE, Q_HIT, Q_POINT } from '../../record/layout.js';
import {
  AIM,
  AIM_KIND,
  AIM_POINT,
  AIM_X,
  CHOICE,
  FX,
  FZ,
  MARK,
  MARK_SET,
  MARK_X,
  SHAPE,
  X,
  Y,
  Z,
} from '../../record/slots.js';
import type { Add, FactRows, FactTools } from './fact.js';
import { AXES, numberAt, truth, truthAt } from './fact.js';

/** How far away a mark is that is not set: further than anything. */
const FAR = 1e6;

function distanceCode(mark: number): Code {
  const [x, y, z] = [
    js`(${slot(mark + MARK_X)} - ${slot(X)})`,
    js`(${slot(mark + MARK_X + 1)} - ${slot(Y)} - ${heightOf(SHAPE)} / 2)`,
    js`(${slot(mark + MARK_X + 2)} - ${slot(Z)})`,
  ];
  return pick(equal(slot(mark + MARK_SET), 0), FAR, js`Math.sqrt(${x} * ${x} + ${y} * ${y} + ${z} * ${z})`);
}

export function pointFacts(add: Add, tools: FactTools): void {
  const { names, layout, heights } = tools;
  names.aim.forEach((name, i) => {
    const at = layout.aims + i * AIM;
    add(`known(${name})`, () =>
      truth(
        ({ r }) => r[at + AIM_KIND] !== 0,
        () => compare(slot(at + AIM_KIND), '!==', 0),
      ),
    );
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
      operand: tools.scratch(
        ({ r }, out) => {
          const x = r[at + MARK_X] - r[X];
          const y = r[at + MARK_X + 1] - r[Y] - heights[r[SHAPE]] / 2;
          const z = r[at + MARK_X + 2] - r[Z];
          r[out] = Math.sqrt(x * x + y * y + z * z);
          if (r[at + MARK_SET] === 0) r[out] = FAR;
        },
        () => distanceCode(at),
      ),
    }));
  });
}

/** Whether a point is in front of the body: on the side that it faces. */
export function aheadFacts(add: Add, tools: FactTools): void {
  const { names } = tools;
  const out = new Float64Array(3);
  for (const name of [...names.mark, ...names.aim, ...names.probe, ...names['point value'], ...names.target, 'foe'])
    add(`ahead(${name})`, () => {
      const spot = tools.spot(name);
      // Now: which values of a message are meant is known only while a formula of an ability is compiled.
      const [there, at] = placeOf(name, tools);
      return truth(
        (c) => {
          const { r } = c;
          return spot(c, out) && (out[0] - r[X]) * r[FX] + (out[2] - r[Z]) * r[FZ] > 0;
        },
        () => aheadCode(there, at),
      );
    });
}

function aheadCode(there: Code, at: number): Code {
  const ahead = js`(${slot(at)} - ${slot(X)}) * ${slot(FX)} + (${slot(at + 2)} - ${slot(Z)}) * ${slot(FZ)}`;
  return all(there, compare(ahead, '>', 0));
}

/** Whether there is a point now, and the first of its numbers: as `compilePoint` has it. */
function placeOf(name: string, { names, layout, probesAt, sightAt, valueAt }: FactTools): [there: Code, at: number] {
  const sight = name === 'foe' || names.target.includes(name) ? sightAt(name) : -1;
  if (sight >= 0) return [equal(slot(sight), 1), sight + 1];
  const mark = layout.marks + names.mark.indexOf(name) * MARK;
  if (names.mark.includes(name)) return [equal(slot(mark + MARK_SET), 1), mark + MARK_X];
  const aim = layout.aims + names.aim.indexOf(name) * AIM;
  if (names.aim.includes(name)) return [equal(slot(aim + AIM_KIND), AIM_POINT), aim + AIM_X];
  const index = names.probe.indexOf(name);
  const probe = probesAt + index * PROBE;
  if (index >= 0) return [enclose(js`${asked('probe')}(${index}), ${equal(slot(probe + Q_HIT), 1)}`), probe + Q_POINT];
  const value = valueAt(name);
  return value ? [tight(js`${slot(value.since)} > -Infinity`), value.at] : [FALSE, 0];
}

/** What the reference says of them. */
export const POINTS_DOCS: FactRows = {
  Marks: [
    ['known({mark})', 'condition', 'The mark is set.'],
    [
      'ahead({point})',
      'condition',
      'A mark, the point of an aim, the hit of a probe, a point of a message, a target or the nearest foe is on the side that the body faces.',
      'not so while there is none',
    ],
    ['{mark}.x', 'number', 'Where the mark is.', '0 while it is not set'],
    ['{mark}.y', 'number', 'Where the mark is.', '0 while it is not set'],
    ['{mark}.z', 'number', 'Where the mark is.', '0 while it is not set'],
    ['distance({mark})', 'number', 'From the middle of the body to the mark.', 'a million while it is not set'],
  ],
};
