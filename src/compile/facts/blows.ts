import {
  C_HITS,
  E_AIRBORNE,
  E_AT,
  E_DISTANCE,
  E_GUARDING,
  E_ID,
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
} from '../../record/combat.js';
import type { Add, Fact, FactRows, FactTools } from './fact.js';
import { AXES, bitAt, numberAt, truthAt } from './fact.js';

/** What a character that fights knows of blows: the one that it takes, how many it has taken, what became of its own. */
export function blowFacts(add: Add, { names, layout, blowAt }: FactTools): void {
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
    add(`hit(${name})`, () => bitAt(result, HAS_HIT));
    add(`blocked(${name})`, () => bitAt(result, WAS_BLOCKED));
    add(`parried(${name})`, () => bitAt(result, WAS_PARRIED));
    add(`missed(${name})`, () => truthAt(result, IS_OVER));
  });
}

const SEEN_TRUTHS = {
  there: E_THERE,
  striking: E_STRIKING,
  guarding: E_GUARDING,
  stunned: E_STUNNED,
  airborne: E_AIRBORNE,
};
const SEEN_NUMBERS = { distance: E_DISTANCE, x: E_AT, y: E_AT + 1, z: E_AT + 2, id: E_ID };

/** What is known of whom a target is chosen from. */
export const OTHER_FACTS: readonly string[] = [...Object.keys(SEEN_TRUTHS), ...Object.keys(SEEN_NUMBERS)].map(
  (name) => `other.${name}`,
);

/** What is known of somebody, by the place of a sight; undefined for what is no such fact. */
export function sightFact(at: number, name: string): Fact | undefined {
  const truths: Record<string, number> = SEEN_TRUTHS;
  const numbers: Record<string, number> = SEEN_NUMBERS;
  if (Object.hasOwn(truths, name)) return truthAt(at + truths[name]);
  return Object.hasOwn(numbers, name) ? numberAt(at + numbers[name]) : undefined;
}

/** What a character knows of its nearest foe, and of its targets. */
export function foeFacts(add: Add, { names, sightAt }: FactTools): void {
  for (const who of ['foe', ...names.target])
    for (const name of [...Object.keys(SEEN_TRUTHS), ...Object.keys(SEEN_NUMBERS)])
      add(`${who}.${name}`, () => sightFact(sightAt(who), name) as Fact);
}

const WHO =
  'A target of `targets`; `foe`, the nearest foe; or, in the formulas of a target, `other`: whom it looks at.';
const TAKEN = 'In `hurt` and in a guard: the blow that is being taken.';

/** What the reference says of them. */
export const BLOWS_DOCS: FactRows = {
  Blows: [
    ['summoned({summon})', 'number', 'How many of those that it called are in the arena.'],
    ['hitsTaken', 'number', 'How many blows have struck it while it was stunned by one, the first included.', '0'],
    [
      'hit({ability})',
      'condition',
      'A strike of the ability has hit since its last start; so has one that broke a guard.',
    ],
    ['blocked({ability})', 'condition', 'A guard took a strike of the ability since its last start.'],
    ['parried({ability})', 'condition', 'A strike of the ability was parried since its last start.'],
    [
      'missed({ability})',
      'condition',
      'A strike of the ability is over, and none has met anybody since its last start.',
    ],
    ['blow.damage', 'number', TAKEN],
    ['blow.stun', 'time', TAKEN],
    ['blow.kind({kind})', 'condition', TAKEN],
    ['blow.push.x', 'number', TAKEN],
    ['blow.push.y', 'number', TAKEN],
    ['blow.push.z', 'number', TAKEN],
    ['blow.from.x', 'number', TAKEN],
    ['blow.from.y', 'number', TAKEN],
    ['blow.from.z', 'number', TAKEN],
    ['blow.at.x', 'number', TAKEN],
    ['blow.at.y', 'number', TAKEN],
    ['blow.at.z', 'number', TAKEN],
  ],
  'Others in the arena': [
    ['{target}.there', 'condition', `There is one. ${WHO}`],
    ['{target}.distance', 'number', 'From the middle of the body to theirs.', 'a million without one'],
    ['{target}.x', 'number', 'Where their middle is.', '0 without one'],
    ['{target}.y', 'number', 'Where their middle is.', '0 without one'],
    ['{target}.z', 'number', 'Where their middle is.', '0 without one'],
    ['{target}.id', 'number', 'Their number: the same as `by` of a message from them.', '0 without one'],
    ['{target}.striking', 'condition', 'They perform an ability that strikes.'],
    ['{target}.guarding', 'condition', 'They have their guard up.'],
    ['{target}.stunned', 'condition', 'They are stunned by a blow.'],
    ['{target}.airborne', 'condition', 'They are in the air.'],
    ['{target}.pool({pool})', 'number', 'What they have in a pool of theirs, by its name there.', '0 without one'],
    ['{target}.tagged({tag})', 'condition', 'They have a tag, or what is active of theirs has.'],
    ['{target}.in({stance})', 'condition', 'They are in a stance of theirs, by its name there.'],
  ],
};
