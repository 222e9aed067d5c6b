import {
  CHARACTER,
  type Code,
  compare,
  enclose,
  equal,
  item,
  js,
  library,
  literal,
  pick,
  quoted,
  at as slot,
  tight,
} from '../../record/code.js';
import type { Operand } from '../../record/frame.js';
import {
  A_ENDED,
  C_READY,
  C_WAITING,
  L_ABILITY,
  L_PHASE,
  L_SINCE,
  LANE,
  LOADOUT,
  N_LEFT,
  NEVER,
  T,
} from '../../record/slots.js';
import { codeOf, withAll } from '../../record/written.js';
import { NEVER_HOLDS } from '../conditions.js';
import { updatePower } from '../power.js';
import { isPhase, taggedTest } from '../tags.js';
import type { Add, Fact, FactRows, FactTools } from './fact.js';
import { fixed, numberAt, truth, truthAt } from './fact.js';

export function abilityFacts(add: Add, tools: FactTools): void {
  const { layout, names, plans } = tools;
  names.ability.forEach((name, i) => {
    const { at, charges, latched, power } = layout.abilities[i];
    const lane = () => layout.lanes + tools.laneOf(i) * LANE;
    const time = (write: (r: Float64Array, out: number) => void, code: () => Code): Fact => ({
      type: 'time',
      operand: tools.scratch(({ r }, out) => write(r, out), code),
    });
    add(`running(${name})`, () => truthAt(lane() + L_ABILITY, i));
    for (const phase of tools.phasesOf(name))
      add(`phase(${name}.${phase})`, () => {
        const laneAt = lane() + L_PHASE;
        const { phases } = plans;
        return truth(
          ({ r }) => isPhase(phases[r[laneAt]], i, phase),
          () => tight(js`${library('isPhase')}(${item('phases', slot(laneAt))}, ${i}, ${quoted(phase)})`),
        );
      });
    add(`timeIn(${name})`, () => {
      const laneAt = lane();
      return time(
        (r, out) => {
          r[out] = r[laneAt + L_ABILITY] === i ? r[T] - r[laneAt + L_SINCE] : 0;
        },
        () => pick(equal(slot(laneAt + L_ABILITY), i), js`${slot(T)} - ${slot(laneAt + L_SINCE)}`, 0),
      );
    });
    add(`since(${name})`, () =>
      time(
        (r, out) => {
          r[out] = r[T] - r[at + A_ENDED];
        },
        () => enclose(js`${slot(T)} - ${slot(at + A_ENDED)}`),
      ),
    );
    add(`cooldown(${name})`, () => {
      const ready = tools.cooldownAt(i);
      if (ready < 0) return { type: 'time', operand: fixed(0, tools) };
      return time(
        (r, out) => {
          r[out] = r[ready + C_WAITING] > 0 ? NEVER : Math.max(0, r[ready + C_READY] - r[T]);
        },
        () =>
          pick(
            js`${slot(ready + C_WAITING)} > 0`,
            js`Infinity`,
            js`Math.max(0, ${slot(ready + C_READY)} - ${slot(T)})`,
          ),
      );
    });
    const powerOf = (): Operand => {
      if (power < 0) return fixed(0, tools);
      return tools.scratch(
        ({ r }, out) => {
          updatePower(r, plans.abilities[i], plans.phases, out);
        },
        (out) => enclose(js`${library('updatePower')}(r, ${item('abilities', i)}, plan.phases, ${out}), ${slot(out)}`),
      );
    };
    add(`charge(${name})`, () => ({ type: 'number', operand: powerOf() }));
    for (const { name: level, from } of tools.levelsOf(name))
      add(`level(${name}.${level})`, () => {
        const { at: out, run } = powerOf();
        return truth(
          (c) => {
            run?.(c);
            return c.r[out] >= from;
          },
          () => withAll([run ? codeOf(run) : literal(0)], (code) => compare(code, '>=', from)),
        );
      });
    add(`charges(${name})`, () =>
      charges < 0 ? { type: 'number', operand: fixed(0, tools) } : numberAt(charges + N_LEFT),
    );
    add(`latched(${name})`, () => (latched < 0 ? truth(NEVER_HOLDS) : truthAt(latched)));
  });
  for (const name of names.tag)
    add(`tagged(${name})`, () =>
      truth(
        taggedTest(tools.layout.lanes, tools.names.lane.length, () => tools.wearers(name)),
        () => tight(js`plan.testOfTag(${quoted(name)})(${CHARACTER})`),
      ),
    );
}

/** Named conditions: what each says is compiled when a formula reads it. */
export function conditionFacts(add: Add, { names, named }: FactTools): void {
  for (const name of names.condition) add(name, () => truth(named(name)));
}

export function loadoutFacts(add: Add, tools: FactTools): void {
  tools.names.loadout.forEach((name, i) => {
    add(`wearing(${name})`, () => truthAt(LOADOUT, i));
  });
}

/** What the reference says of them. */
export const ABILITIES_DOCS: FactRows = {
  Abilities: [
    ['running({ability})', 'condition', 'The ability is running.'],
    ['phase({ability}.{phase})', 'condition', 'The ability is running, and in the phase of this name.'],
    ['timeIn({ability})', 'time', 'How long the ability has been running.', '0s while it is not running'],
    ['since({ability})', 'time', 'Time since the ability last ended.', 'infinite before its first end'],
    [
      'cooldown({ability})',
      'time',
      'How long until the cooldown is over.',
      '0s without one; infinite while it waits for its event',
    ],
    [
      'charge({ability})',
      'number',
      'The charge, 0 to 1, kept until the next start; 0 at once when interrupted.',
      '0 without a charge',
    ],
    ['charge', 'number', 'Inside an ability: its own charge.'],
    ['level({ability}.{level})', 'condition', 'The charge has reached this level.'],
    ['level({level})', 'condition', 'Inside an ability: its own charge has reached this level.'],
    ['charges({ability})', 'number', 'Uses that are left.', '0 without `charges`'],
    ['latched({ability})', 'condition', 'The toggle of the ability is latched.'],
  ],
  Conditions: [['{condition}', 'condition', 'A condition that the moveset names.']],
  Loadouts: [['wearing({loadout})', 'condition', 'This is the active loadout.']],
};
