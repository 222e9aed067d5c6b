import type { ParsedFormula } from './formula.js';

/**
 * What a piece of a definition may look like. One description serves the loader's checks, the
 * JSON Schema for editors and the list of fields in the docs (docs/decisions/own-shapes.md).
 */
export type Shape =
  | NumberShape
  | FormulaShape
  | TimeShape
  | TextShape
  | TruthShape
  | DataShape
  | WordShape
  | NameShape
  | ListShape
  | MapShape
  | FieldsShape
  | EitherShape;

/** What a name can be the name of. */
export type NameKind =
  | 'pool'
  | 'button'
  | 'stick'
  | 'aim'
  | 'choice'
  | 'place'
  | 'mark'
  | 'surface'
  | 'probe'
  | 'lane'
  | 'stance'
  | 'ability'
  | 'event'
  | 'shape'
  | 'tag'
  | 'loadout'
  | 'condition'
  /** A kind of damage. */
  | 'kind'
  /** Who may be called into an arena. */
  | 'summon'
  /** Whom of the others in an arena it looks at. */
  | 'target'
  /** Values of messages: `struck.from`, `struck.push`. */
  | 'point value'
  /** Of these, those of messages that say by whom: `struck.from`, `hit.at`. */
  | 'blow point'
  | 'direction value';

export interface NumberShape {
  kind: 'number';
  min: number;
  max: number;
  whole?: boolean;
}
/** A formula as text, a plain value, or (from TypeScript) a function. */
export interface FormulaShape {
  kind: 'formula';
  /** A `value` is a number or a time: what it is, is told by the formula. */
  gives: 'number' | 'truth' | 'time' | 'value';
  /** Also takes `40%`, a factor. */
  percent?: boolean;
  /** Only a number or a percentage: nothing that changes. */
  fixed?: boolean;
  /** A percentage is a share: at most 100%. */
  share?: boolean;
  /** A number has no fraction; that of a formula is left out. */
  whole?: boolean;
  min?: number;
  max?: number;
}
export interface TimeShape {
  kind: 'time';
  /** In ticks. */
  min: number;
  /** A formula may stand there, too: it is read when the time is needed. */
  formula?: boolean;
}
export interface TextShape {
  kind: 'text';
  pattern?: RegExp;
  expected?: string;
}
export interface TruthShape {
  kind: 'truth';
}
/** A map of plain data that nothing here looks into. */
export interface DataShape {
  kind: 'data';
}
export interface WordShape {
  kind: 'word';
  of: readonly (string | number)[];
  /** What the words are, for messages. Default: word. */
  what?: string;
  /** What to do about a word that is none of these, where the nearest one does not say it. */
  hint?(word: string): string | undefined;
}
export interface NameShape {
  kind: 'name';
  of: readonly NameKind[];
  /** Fixed words that are allowed besides the names. */
  words?: readonly string[];
  /** What those words are, for who gives one of them as a name. Default: word. */
  meaning?: string;
  /** Words that take a name: `into(wall)`, with what that name may be. */
  calls?: Readonly<Record<string, NameShape>>;
}
export interface ListShape {
  kind: 'list';
  of: Shape;
  min?: number;
  max?: number;
  /** A single item may stand without its brackets. */
  orOne?: boolean;
  /** Over a list that is there, a map changes its items by their names: see lay-over.ts. */
  named?: boolean;
}
export interface MapShape {
  kind: 'map';
  of: Shape;
  /** The keys are names of this kind, or new names. */
  keys: NameKind | 'new' | 'code';
  /** How many there must be, and how many there may be. Default 0, and ten thousand. */
  min?: number;
  max?: number;
  doc?: string;
}
/** A key that another one needs, or one that does as well; `doc` says what the first is. */
export interface Needed {
  readonly key: string;
  readonly or?: string;
  readonly doc: string;
}
export interface FieldsShape {
  kind: 'fields';
  /** What the reader would call this thing, for messages. */
  title: string;
  fields: Readonly<Record<string, Field>>;
  /** Exactly one of these keys must be there. */
  oneOf?: readonly string[];
  /** For each of those: the keys that only go with it. */
  together?: Readonly<Record<string, readonly string[]>>;
  /** Keys that do nothing without another one. */
  needs?: Readonly<Record<string, Needed>>;
  /** A key with which none is required: what it is like has them. */
  unless?: string;
  /** At least one of these keys must be there; `doc` goes on after the first of them. */
  some?: { readonly keys: readonly string[]; readonly doc: string };
  /** Where a key belongs that people look for here. */
  elsewhere?: Readonly<Record<string, string>>;
  /** What to write instead of a word of the trade that stands for no key here. */
  wayOf?(word: string): string | undefined;
  /** How to write it for who gives a number or a name alone, which stands for `_`, or a list (`[_]`). */
  bare?: string;
}
/** Told apart by what the value is: a plain object goes to `fields`, a list to `list`, all else to `plain`. */
export interface EitherShape {
  kind: 'either';
  plain?: Shape;
  list?: ListShape;
  fields?: FieldsShape | MapShape;
}

export interface Field<S extends Shape = Shape> {
  shape: S;
  /** Of the fields of a moveset, only those that are required have theirs here; the others' are in docs.ts. */
  doc?: string;
  required?: boolean;
}
export type Fields = Readonly<Record<string, Field>>;

/** What `read` makes of a value of a shape, and of one without faults: the compiler alone knows, and nothing of it is there when it runs. */
export interface Gives<T, W = T> {
  readonly asRead: T;
  readonly asWhole: W;
}
/** A value of this shape, as `read` gives it: what was faulty is undefined, and so is what is not there. */
export type Read<S> = S extends Gives<infer T, unknown> ? T : unknown;
/** The same where nothing was faulty: all that is required is there. */
export type Whole<S> = S extends Gives<unknown, infer W> ? W : unknown;
/** The same of fields. */
export type ReadFields<F> = { [K in keyof F]?: F[K] extends Field<infer S> ? Read<S> : unknown };
/** The items of a list that were not faulty. */
export function sound<T>(items: readonly (T | undefined)[] = []): T[] {
  return items.filter((item) => item !== undefined);
}

/** The entries of a map that were not faulty. */
export function soundEntries<T>(map: Readonly<Record<string, T | undefined>> = {}): [string, T][] {
  return Object.entries(map).flatMap(([key, item]) => (item === undefined ? [] : [[key, item]]));
}

type WholeFields<F> = {
  [K in keyof F as F[K] extends { readonly required: true } ? K : never]: F[K] extends Field<infer S>
    ? Whole<S>
    : unknown;
} & {
  [K in keyof F as F[K] extends { readonly required: true } ? never : K]?: F[K] extends Field<infer S>
    ? Whole<S>
    : unknown;
};
type Formed<S extends Shape, T, W = T> = S & Gives<T, W>;

function given<S extends Shape, T, W = T>(shape: S): Formed<S, T, W> {
  return shape as Formed<S, T, W>;
}

export const number = (min: number, max: number, whole = false) =>
  given<NumberShape, number>({ kind: 'number', min, max, whole });
export const formula = (gives: FormulaShape['gives'], more: Partial<Omit<FormulaShape, 'kind' | 'gives'>> = {}) =>
  given<FormulaShape, ParsedFormula>({ kind: 'formula', gives, ...more });
export const condition = () => formula('truth');
export const time = (min = 1) => given<TimeShape, number>({ kind: 'time', min });
export const text = (pattern?: RegExp, expected?: string) =>
  given<TextShape, string>({ kind: 'text', pattern, expected });
/** A time, or a formula that gives one. */
export const timeOrFormula = (min = 1) =>
  given<TimeShape, number | ParsedFormula>({ kind: 'time', min, formula: true });
export const truth = () => given<TruthShape, boolean>({ kind: 'truth' });
/** Plain data, which is read as JSON. */
export const data = () => given<DataShape, string>({ kind: 'data' });
export const word = <const W extends string | number>(...of: readonly W[]) => given<WordShape, W>({ kind: 'word', of });
export const name = (...of: NameKind[]) => given<NameShape, string>({ kind: 'name', of });
export const list = <S extends Shape>(of: S, more: Partial<Omit<ListShape, 'kind' | 'of'>> = {}) =>
  given<ListShape, (Read<S> | undefined)[], Whole<S>[]>({ kind: 'list', of, ...more });
export const listOrOne = <S extends Shape>(of: S) => list(of, { orOne: true });
export const map = <S extends Shape>(keys: MapShape['keys'], of: S, min?: number, max?: number) =>
  given<MapShape, Record<string, Read<S> | undefined>, Record<string, Whole<S>>>({ kind: 'map', keys, of, min, max });
export const fields = <F extends Fields>(
  title: string,
  all: F,
  oneOf?: readonly string[],
  more?: Pick<FieldsShape, 'together' | 'elsewhere' | 'needs' | 'unless' | 'some' | 'bare' | 'wayOf'>,
) =>
  given<FieldsShape & { readonly fields: F }, ReadFields<F>, WholeFields<F>>({
    kind: 'fields',
    title,
    fields: all,
    oneOf,
    ...more,
  });

type All<U> = (U extends unknown ? (one: U) => void : never) extends (all: infer A) => void ? A : never;
/** A thing of one of several kinds, told apart by their keys; each has fields of its own. */
export const kinds = <const K extends { key: string; fields: Fields }, M extends Fields = Record<never, Field>>(
  title: string,
  all: readonly K[],
  more?: M,
  rest?: Pick<FieldsShape, 'needs' | 'elsewhere' | 'bare' | 'wayOf'>,
) =>
  fields(
    title,
    { ...Object.assign({}, ...all.map((kind) => kind.fields)), ...more } as All<K['fields']> & M,
    all.map((kind) => kind.key),
    { ...rest, together: Object.fromEntries(all.map((kind) => [kind.key, Object.keys(kind.fields)])) },
  );
/** Told apart by what they are: see {@link EitherShape}. */
export const either = <
  P extends Shape = never,
  L extends ListShape = never,
  F extends FieldsShape | MapShape = never,
>(forms: {
  plain?: P;
  list?: L;
  fields?: F;
}) => given<EitherShape, Each<P | L | F>, EachWhole<P | L | F>>({ kind: 'either', ...forms });
type Each<S> = S extends unknown ? Read<S> : never;
type EachWhole<S> = S extends unknown ? Whole<S> : never;
export const optional = <S extends Shape>(shape: S, doc?: string): Field<S> =>
  doc === undefined ? { shape } : { shape, doc };
export const required = <S extends Shape>(shape: S, doc: string): Field<S> & { readonly required: true } => ({
  shape,
  doc,
  required: true,
});
