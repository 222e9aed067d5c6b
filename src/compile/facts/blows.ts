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
} from '../../record/combat.js';
import type { Add, FactRows, FactTools } from './fact.js';
import { AXES, numberAt, truth, truthAt } from './fact.js';

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
export function foeFacts(add: Add, { foeAt }: FactTools): void {
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
  'The nearest foe': [
    ['foe.there', 'condition', 'There is a foe in the arena.'],
    ['foe.distance', 'number', 'From the middle of the body to that of the nearest foe.', 'a million without one'],
    ['foe.x', 'number', 'The middle of the nearest foe.', '0 without one'],
    ['foe.y', 'number', 'The middle of the nearest foe.', '0 without one'],
    ['foe.z', 'number', 'The middle of the nearest foe.', '0 without one'],
    ['foe.striking', 'condition', 'The nearest foe performs an ability that strikes.'],
    ['foe.guarding', 'condition', 'The nearest foe has its guard up.'],
    ['foe.stunned', 'condition', 'The nearest foe is stunned by a blow.'],
    ['foe.airborne', 'condition', 'The nearest foe is in the air.'],
  ],
};
