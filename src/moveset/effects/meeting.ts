import { js, at as numberAt, to } from '../../record/code.js';
import { C_BOUNCE } from '../../record/combat.js';
import type { Frame } from '../../record/frame.js';
import { withAll, writtenLines } from '../../record/written.js';
import type { NameTypes, OneOrMore, Uses } from '../name-types.js';
import { NAME } from '../read.js';
import { fields, formula, list, listOrOne, name, number, optional, required, sound, text, truth } from '../shape.js';
import { effect } from './effect.js';
import { compilePush, type Push, velocityShape } from './strike.js';

/** Who comes, where, and how fast. */
export interface Summon<N extends NameTypes> {
  /** Whom it calls: a name of `summons`. */
  who: N['summon'];
  /** Where its feet are, from the caller's: [forward, up]. Default [0, 0]. */
  at?: readonly [forward: number, up: number, side?: number];
  /** Its velocity: [forward, up], or along a direction. Default: none. */
  velocity?: Push<N>;
  /** The ability that it is to perform at once. */
  does?: string;
}

/** The key `bounce` of what has effects. */
export interface BounceField {
  /** The body bounces off what it meets while it lasts, and keeps this share of its pace. */
  bounce?: number | `${number}%`;
}

/** The key `summon` of what has effects. */
export interface SummonField<N extends NameTypes> {
  /** Calls somebody into the arena once, as the ability or phase begins. */
  summon?: Summon<Uses<N>>;
}

/** The key `leave` of what has effects. */
export interface LeaveField {
  /** `true` leaves the arena, once the tick is over in which the ability or phase begins. */
  leave?: boolean;
}

/** The key `learn` of what has effects. */
export interface LearnField<N extends NameTypes> {
  /** Learns locked abilities once, as the ability or phase begins. */
  learn?: OneOrMore<NoInfer<N['ability']>>;
}

/** The key `forget` of what has effects. */
export interface ForgetField<N extends NameTypes> {
  /** Forgets abilities once, as the ability or phase begins. */
  forget?: OneOrMore<NoInfer<N['ability']>>;
}

/** @internal Who comes, where, and how fast. */
export const summonShape = fields('a summon', {
  who: required(name('summon'), 'whom it calls, one of "summons".'),
  at: optional(list(number(-1000, 1000), { min: 2, max: 3 })),
  velocity: optional(velocityShape('a velocity')),
  does: optional(text(NAME, 'the name of an ability')),
});

/** @internal Calls somebody into the arena, beside the body, once as it begins. */
export const summonEffect = effect(
  'summon',
  summonShape,
  (value, tools) => {
    const [x = 0, y = 0, z = 0] = value.at ?? [];
    const index = tools.addSummoning({
      who: tools.index('summon', value.who),
      at: [x, y, z],
      velocity: value.velocity ? compilePush(value.velocity, tools) : null,
      does: value.does ?? null,
    });
    return { begin: (c) => c.summon(index), summon: index };
  },
  { inStances: false },
);

/** @internal Leaves the arena, once as it begins. */
export const leaveEffect = effect('leave', truth(), (value) => ({ begin: value ? (c) => c.leave() : undefined }), {
  inStances: false,
});

const abilities = listOrOne(name('ability'));
const teach = (key: string, known: 0 | 1) =>
  effect(
    key,
    abilities,
    (value, tools) => {
      const indexes = sound(value).map((ability) => tools.index('ability', ability));
      return {
        begin: (c) => {
          for (let i = 0; i < indexes.length; i++) c.learn(indexes[i], known);
        },
      };
    },
    { inStances: false },
  );
/** @internal Learns abilities that are locked, or forgets them, once as it begins. */
export const learnEffect = teach('learn', 1);
/** @internal */
export const forgetEffect = teach('forget', 0);

/** @internal */
export const bounceShape = formula('number', { percent: true, share: true, min: 0, max: 1 });

/** @internal The body bounces off what it meets, and keeps this share of its pace. */
export const bounceEffect = effect('bounce', bounceShape, (value, tools) => {
  const at = tools.combatAt + C_BOUNCE;
  const share = tools.number(value);
  return {
    fold: writtenLines(
      (c: Frame) => {
        share.run?.(c);
        const { r } = c;
        r[at] = Number.isNaN(r[share.at]) ? -1 : r[share.at];
      },
      () =>
        withAll([tools.codeOf(share)], (value) =>
          share.constant
            ? [js`${to(at)} = ${value};`]
            : [
                js`${to(share.at)} = ${value};`,
                js`${to(at)} = Number.isNaN(${numberAt(share.at)}) ? -1 : ${numberAt(share.at)};`,
              ],
        ),
    ),
  };
});
