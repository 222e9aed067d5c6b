import { type Code, js, type Lines, at as numberAt, to } from '../../record/code.js';
import type { Guarding, Striking, Summoning } from '../../record/combat.js';
import type { Frame, Operand, Warping } from '../../record/frame.js';
import { withAll, writtenLines } from '../../record/written.js';
import type { Path } from '../../report/diagnostic.js';
import type { DirectionTools } from '../directions/direction.js';
import type { ParsedFormula } from '../formula.js';
import type { MessageValue } from '../messages.js';
import { MOST } from '../read.js';
import type { Read, Shape } from '../shape.js';

export interface EffectTools extends DirectionTools {
  /** Seconds in a tick. */
  readonly dt: number;
  /** How long the phase or ability lasts that is compiled, in ticks; Infinity for what has no fixed time. */
  lasts(): number;
  /** Slot of the stick that walks, or -1 for none. */
  walkStick(): number;
  /** A number within the range that the formula's place declares; not a number where its function gives none. */
  number(parsed: ParsedFormula | undefined): Operand;
  /** A number or a time in ticks, as its formula says. */
  either(parsed: ParsedFormula): { readonly amount: Operand; readonly time: boolean };
  /** A time in ticks, of a formula or as it was read; 0 where nothing is written. */
  time(parsed: ParsedFormula | number | undefined): Operand;
  /** Kinds of damage, in their order. */
  readonly kinds: readonly string[];
  /** First place of the part of the record that only those have who fight. */
  readonly combatAt: number;
  /** First place of the part of the record that only those have who ride. */
  readonly rideAt: number;
  /** Slot of the result of the strikes of the ability that is compiled. */
  resultAt(): number;
  /** Some effect sets the mark at this slot on what may move. */
  noteFollowing(mark: number): void;
  /** Lists who is called, and returns the index of that. */
  addSummoning(summoning: Summoning): number;
  /** Lists a guard, and returns its index. */
  addGuard(guard: Guarding): number;
  /** The values of a message, and where `emit` takes them from. */
  message(event: string): { readonly values: readonly MessageValue[]; readonly size: number; readonly at: number };
  /** Tells of a name that is unknown. */
  unknown(
    path: Path,
    data: { readonly value: string; readonly what: string; readonly known: readonly string[] },
    options?: { readonly on: 'key' },
  ): void;
  /** An operand as an expression, if it can be written as one. */
  codeOf(operand: Operand): Code | undefined;
  /** The same, or a number where nothing is written. */
  amount(parsed: ParsedFormula | undefined, otherwise: number): Operand;
}

/** One effect of one scope, compiled. `own` is the first of the numbers that the effect owns; all are 0 as the scope opens. */
export interface Piece {
  /** Done once as the scope opens. */
  begin?: (c: Frame, own: number) => void;
  /** Done in every tick while the scope is open, before endings and requests; not in the one in which it opens. */
  each?: (c: Frame, own: number) => void;
  /** Lays it over what was folded before, in every tick. */
  fold?: (c: Frame, own: number) => void;
  /** Multiplies what was folded, in every tick, once all is laid. */
  scale?: (c: Frame, own: number) => void;
  /** Done once as the scope closes, by whatever way. */
  end?: (c: Frame, own: number) => void;
  /** A warp that it does as it begins: whether that is possible is judged before. */
  warp?: Warping;
  /** The index of a summon that it does as it begins: whether there is room is judged before. */
  summon?: number;
  /** What it strikes with while the scope is open. */
  strike?: Striking;
  /** What it touches with. */
  touch?: Striking;
}

/** Everything Loggia knows about one effect; listed once in index.ts. */
export interface Effect<S extends Shape = Shape> {
  readonly key: string;
  readonly shape: S;
  /** Stances and loadouts have no beginning that an action could be done at. */
  readonly inStances: boolean;
  /** How many numbers of the record a use of it owns. */
  owns(value: Read<S>): number;
  compile(value: Read<S>, tools: EffectTools): Piece;
}

export function effect<S extends Shape>(
  key: string,
  shape: S,
  compile: (value: Read<S>, tools: EffectTools) => Piece,
  { inStances = true, owns = 0 }: { inStances?: boolean; owns?: number | ((value: Read<S>) => number) } = {},
): Effect<S> {
  return { key, shape, compile, inStances, owns: typeof owns === 'number' ? () => owns : owns };
}

/** A number replaces what is at `slot`; a percentage multiplies it, up to `most`. What is no number does nothing. */
export function layOver(slot: number, parsed: ParsedFormula | undefined, tools: EffectTools, most = MOST): Piece {
  if (!parsed) return {};
  const operand = tools.number(parsed);
  const { at, run } = operand;
  const code = (lines: (value: Code) => Lines) => () => withAll([tools.codeOf(operand)], lines);
  if (parsed.percent)
    return {
      scale: writtenLines(
        ({ r }: Frame) => {
          r[slot] = Math.min(most, r[slot] * r[at]);
        },
        code((share) => [js`${to(slot)} = Math.min(${most}, ${numberAt(slot)} * ${share});`]),
      ),
    };
  const fold = (c: Frame) => {
    run?.(c);
    const { r } = c;
    if (!Number.isNaN(r[at])) r[slot] = r[at];
  };
  if (operand.constant)
    return {
      fold: writtenLines(
        fold,
        code((value) => [js`${to(slot)} = ${value};`]),
      ),
    };
  return {
    fold: writtenLines(
      fold,
      code((value) => [
        js`${to(at)} = ${value};`,
        js`if (!Number.isNaN(${numberAt(at)})) ${to(slot)} = ${numberAt(at)};`,
      ]),
    ),
  };
}
