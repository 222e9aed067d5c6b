import { js, at as numberAt, to } from '../../record/code.js';
import {
  ALL_KINDS,
  BLOCK,
  C_ARMOUR,
  C_GUARD,
  C_IMMUNE,
  C_MEETS,
  C_PARRIES,
  type Guarding,
  OTHER_KIND,
  PASS,
  PUSH,
} from '../../record/combat.js';
import type { Frame, Operand } from '../../record/frame.js';
import { T } from '../../record/slots.js';
import { wholeTicks } from '../../record/whole-ticks.js';
import { writtenLines } from '../../record/written.js';
import { cosine } from '../../world/cosine.js';
import type { ParsedFormula } from '../formula.js';
import type { NameTypes, NumberFormula, Share, TimeFormula, Uses } from '../name-types.js';
import {
  either,
  fields,
  formula,
  list,
  map,
  name,
  number,
  optional,
  type Read,
  sound,
  timeOrFormula,
  truth,
  word,
} from '../shape.js';
import { type EffectTools, effect } from './effect.js';

/** The key `immune` of what has effects. */
export interface ImmuneField<N extends NameTypes> {
  /** `true`, or a list of kinds of damage: such strikes go through the body while it lasts. */
  immune?: Kinds<N>;
}

/** The key `armour` of what has effects. */
export interface ArmourField<N extends NameTypes> {
  /** `true`, or a list of kinds of damage: such strikes hurt while it lasts, but neither stun nor push. */
  armour?: Kinds<N>;
}

/** The key `meets` of what has effects. */
export interface MeetsField {
  /** How the body meets those of others while it lasts: `pass`, `push` or `block`. */
  meets?: Meets;
}

/** The key `guard` of what has effects. */
export interface GuardField<N extends NameTypes> {
  /**
   * Takes blows from in front while it lasts. Its formulas read `blow.damage` and the like: the blow as it would hurt
   * without the guard.
   */
  guard?: Guard<Uses<N>>;
}

/**
 * Takes blows from in front while it lasts. Its formulas read `blow.damage` and the like: the blow as it would hurt
 * without the guard.
 */
export interface Guard<N extends NameTypes = NameTypes> {
  /** How wide it is in degrees, its middle where the body faces. Default 180. */
  arc?: number;
  /** Share of the damage that it takes away. Default 100%. */
  absorb?: Share<N>;
  /** The same for some kinds of damage; at 0 it does not guard against them at all. */
  kinds?: Partial<Record<NoInfer<N['kind']>, Share<N>>>;
  /** What each blow costs. */
  cost?: Partial<Record<NoInfer<N['pool']>, NumberFormula<N>>>;
  /**
   * What becomes of a blow that costs more than there is, all of which is gone then: it `breaks` the guard and is taken whole (default), it
   * `leaks` by the share that is not paid for, or the guard `holds` as if it were paid.
   */
  unpaid?: 'breaks' | 'leaks' | 'holds';
  /** How long a blow stuns who guards: a value of `blocked`. Default 0f. */
  stun?: TimeFormula<N>;
  /** Share of the push that it takes away. Default 50%. */
  steady?: Share<N>;
  /**
   * How long after it goes up it parries: a blow costs and hurts nothing, and its striker hears `hitParried`. A formula is read as
   * it goes up. Default: never.
   */
  parry?: TimeFormula<N>;
  /** How long who was parried is stunned: a value of `hitParried`. Default 0f. */
  parried?: TimeFormula<N>;
  /** How long who guards is stunned when the guard breaks: a value of `guardBroken`. Default: as by the blow. */
  broken?: TimeFormula<N>;
}

const share = () => formula('number', { percent: true, share: true, min: 0, max: 1 });

/** @internal */
export const guardShape = fields(
  'a guard',
  {
    arc: optional(number(1, 360)),
    absorb: optional(share()),
    kinds: optional(map('kind', share())),
    cost: optional(map('pool', formula('number', { min: 0 }))),
    stun: optional(formula('time')),
    steady: optional(share()),
    unpaid: optional(word('breaks', 'leaks', 'holds')),
    parry: optional(timeOrFormula()),
    parried: optional(formula('time')),
    broken: optional(formula('time')),
  },
  undefined,
  { elsewhere: { push: 'The share of a push that it takes away is "steady", as in steady: 50%.' } },
);

/** Shares by kind, the last for those that are not told apart: what is declared for it, or for all. */
export function byKind(
  declared: Record<string, ParsedFormula | undefined> | undefined,
  all: ParsedFormula | undefined,
  otherwise: number,
  tools: Pick<EffectTools, 'amount' | 'kinds'>,
): Operand[] {
  return [...tools.kinds.map((kind) => declared?.[kind]), all].map((one) => tools.amount(one ?? all, otherwise));
}

/** @internal */
export const guardEffect = effect(
  'guard',
  guardShape,
  (value, tools) => {
    const plan: Guarding = {
      cos: cosine((value.arc ?? 180) / 2),
      absorbs: byKind(value.kinds, value.absorb, 1, tools),
      costs: Object.entries(value.cost ?? {}).map(([pool, parsed]) => ({
        pool: tools.index('pool', pool),
        amount: tools.number(parsed),
      })),
      stun: tools.time(value.stun),
      steady: tools.amount(value.steady, 0.5),
      unpaid: value.unpaid ?? 'breaks',
      parried: tools.time(value.parried),
      broken: value.broken ? tools.time(value.broken) : null,
    };
    const index = tools.addGuard(plan);
    const parry = tools.time(value.parry);
    const at = tools.combatAt;
    return {
      begin: (c, own) => {
        parry.run?.(c);
        c.r[own] = c.r[T] + Math.max(0, wholeTicks(c.r[parry.at]));
      },
      fold: writtenLines(
        ({ r }: Frame, own: number) => {
          r[at + C_GUARD] = index + 1;
          r[at + C_PARRIES] = r[own];
        },
        (own) => [js`${to(at + C_GUARD)} = ${index + 1};`, js`${to(at + C_PARRIES)} = ${numberAt(own)};`],
      ),
    };
  },
  { owns: 1, inStances: false },
);

const which = either({ plain: truth(), list: list(name('kind'), { max: 30 }) });

/** The bits of some kinds, or of all. */
function bitsOf(value: Read<typeof which>, tools: EffectTools): number {
  if (value === true) return ALL_KINDS;
  if (value === false) return 0;
  return sound(value).reduce((all, kind) => all | bitOfKind(tools.index('kind', kind)), 0);
}

/** The bit of a kind by its index; -1 for one that the moveset does not tell apart. */
export function bitOfKind(kind: number): number {
  return kind < 0 ? OTHER_KIND : 1 << kind;
}

/** `true` for all, or a list of kinds of damage. */
export type Kinds<N extends NameTypes> = boolean | readonly NoInfer<N['kind']>[];

function layBits(key: string, slot: number) {
  return effect(key, which, (value, tools) => {
    const bits = bitsOf(value, tools);
    const at = tools.combatAt + slot;
    return {
      fold: writtenLines(
        ({ r }: Frame) => {
          r[at] |= bits;
        },
        () => [js`${to(at)} |= ${bits};`],
      ),
    };
  });
}

/** @internal Strikes of these kinds go through the body. */
export const immuneEffect = layBits('immune', C_IMMUNE);
/** @internal Strikes of these kinds hurt, but neither stun nor push. */
export const armourEffect = layBits('armour', C_ARMOUR);

/** How the body meets those of others in an arena. */
export type Meets = 'pass' | 'push' | 'block';
export const MEETS: Readonly<Record<Meets, number>> = { pass: PASS, push: PUSH, block: BLOCK };

/** @internal */
export const meetsEffect = effect('meets', word('pass', 'push', 'block'), (value, tools) => {
  const at = tools.combatAt + C_MEETS;
  return {
    fold: writtenLines(
      ({ r }: Frame) => {
        r[at] = MEETS[value];
      },
      () => [js`${to(at)} = ${MEETS[value]};`],
    ),
  };
});
