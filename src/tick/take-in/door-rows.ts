import type { Plan } from '../../compile/plan.js';
import type { NameKind } from '../../moveset/shape.js';
import { LARGEST } from '../../report/usage-error.js';
import { describe } from '../../report/words.js';

/** Kinds of rows in which everything comes in from outside: what it is about, and up to three numbers. */
export const ROW = {
  press: 0,
  release: 1,
  stick: 2,
  event: 3,
  request: 4,
  freeze: 5,
  pool: 6,
  place: 7,
  camera: 8,
  velocity: 9,
  end: 10,
  learn: 11,
  loadout: 12,
  reset: 13,
  latch: 14,
  face: 15,
  /** What an engine tells of the body, one row behind the other; see {@link isContact}. */
  moved: 16,
  body: 17,
  wall: 18,
  ground: 19,
  groundMoves: 20,
  groundSurfaces: 21,
  /** Further ones that are no contacts. */
  mark: 22,
  unmark: 23,
  aim: 24,
  aimAt: 25,
  choose: 26,
  /** Values of the event in the row before: which three of them. */
  values: 27,
} as const;

export interface RowShape {
  /** What its second number is the index of; null for a plain number. */
  readonly of: NameKind | null;
  /** Limits of all its further numbers. */
  readonly min: number;
  readonly max: number;
  readonly whole?: boolean;
}

const none: RowShape = { of: null, min: -LARGEST, max: LARGEST };
const about = (of: NameKind, min = 0, max = 0): RowShape => ({ of, min, max, whole: true });

/** What each kind of row may hold: numbers from outside are checked where they enter, and recordings that somebody changed are refused. */
export const SHAPES: Readonly<Record<number, RowShape>> = {
  [ROW.press]: about('button'),
  [ROW.release]: about('button'),
  [ROW.stick]: { of: 'stick', min: -1, max: 1 },
  [ROW.event]: about('event'),
  [ROW.request]: about('ability'),
  [ROW.freeze]: { ...none, min: 0, whole: true },
  [ROW.pool]: { of: 'pool', min: -LARGEST, max: LARGEST },
  [ROW.place]: none,
  [ROW.camera]: { ...none, min: -1, max: 1 },
  [ROW.velocity]: none,
  [ROW.end]: about('ability'),
  [ROW.learn]: about('ability', 0, 1),
  [ROW.loadout]: about('loadout'),
  [ROW.reset]: about('ability'),
  [ROW.latch]: about('ability', 0, 1),
  [ROW.moved]: none,
  [ROW.body]: none,
  [ROW.wall]: { ...none, min: -1, max: 1 },
  [ROW.ground]: { ...none, min: -1, max: 1 },
  [ROW.groundMoves]: none,
  [ROW.groundSurfaces]: { ...none, min: 0, max: 2 ** 30 - 1, whole: true },
  [ROW.mark]: { of: 'mark', min: -LARGEST, max: LARGEST },
  [ROW.unmark]: about('mark'),
  [ROW.aim]: { of: 'aim', min: -1, max: 1 },
  [ROW.aimAt]: { of: 'aim', min: -LARGEST, max: LARGEST },
  [ROW.choose]: about('button'),
  [ROW.face]: { ...none, min: -1, max: 1 },
  [ROW.values]: none,
};

/** Whether a row is part of an event that comes in. */
export function isMessage(kind: number): boolean {
  return kind === ROW.event || kind === ROW.values;
}

/** Whether a row tells what an engine did with the body. */
export function isContact(kind: number): boolean {
  return kind >= ROW.moved && kind <= ROW.groundSurfaces;
}

/** Whether a further number of a row is as its shape says. */
export function isGood(n: unknown, { min, max, whole }: RowShape): boolean {
  return typeof n === 'number' && n >= min && n <= max && (!whole || Number.isInteger(n));
}

/** What is wrong with a row, or undefined. */
export function faultOfRow(plan: Plan, row: readonly unknown[]): string | undefined {
  const [kind, what, ...numbers] = row;
  const shape = typeof kind === 'number' ? SHAPES[kind] : undefined;
  if (!shape) return `there is no kind of row ${describe(kind)}`;
  const most =
    kind === ROW.values
      ? Math.ceil((plan.layout.message - 1) / 3) - 1
      : shape.of === null
        ? 3
        : plan.names[shape.of].length - 1;
  if (!Number.isInteger(what) || (what as number) < 0 || (what as number) > most)
    return `${describe(what)} is not the index of ${shape.of === null ? 'anything' : `a ${shape.of}`} here`;
  if (numbers.length !== 3 || !numbers.every((n) => isGood(n, shape)))
    return `a row of kind ${kind} needs three numbers from ${shape.min} to ${shape.max}, not ${numbers.map(describe).join(', ')}`;
  return undefined;
}

/** What is wrong with the values of an event in a list of rows, or undefined: they follow their event, and are no more than it carries. */
export function strayValues(
  plan: Plan,
  rows: readonly (readonly unknown[])[],
  row: readonly unknown[],
): string | undefined {
  if (row[0] !== ROW.values) return undefined;
  let at = rows.indexOf(row as number[]) - 1;
  while (at >= 0 && rows[at][0] === ROW.values) at--;
  const event = rows[at]?.[0] === ROW.event ? plan.messages[rows[at][1] as number] : undefined;
  if (event && (row[1] as number) * 3 < event.size) return undefined;
  return `values ${String(row[1])} follow no event that carries them`;
}
