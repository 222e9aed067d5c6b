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

export interface Field {
  shape: Shape;
  /** Of the fields of a moveset, only those that are required have theirs here; the others' are in docs.ts. */
  doc?: string;
  required?: boolean;
}

export const number = (min: number, max: number, whole = false): NumberShape => ({
  kind: 'number',
  min,
  max,
  whole,
});
export const formula = (
  gives: FormulaShape['gives'],
  more: Partial<Omit<FormulaShape, 'kind' | 'gives'>> = {},
): FormulaShape => ({ kind: 'formula', gives, ...more });
export const condition = (): FormulaShape => formula('truth');
export const time = (min = 1): TimeShape => ({ kind: 'time', min });
export const text = (pattern?: RegExp, expected?: string): TextShape => ({ kind: 'text', pattern, expected });
/** A time, or a formula that gives one. */
export const timeOrFormula = (min = 1): TimeShape => ({ kind: 'time', min, formula: true });
export const truth = (): TruthShape => ({ kind: 'truth' });
export const data = (): DataShape => ({ kind: 'data' });
export const word = (...of: (string | number)[]): WordShape => ({ kind: 'word', of });
export const name = (...of: NameKind[]): NameShape => ({ kind: 'name', of });
export const list = (of: Shape, more: Partial<Omit<ListShape, 'kind' | 'of'>> = {}): ListShape => ({
  kind: 'list',
  of,
  ...more,
});
export const listOrOne = (of: Shape): ListShape => list(of, { orOne: true });
export const map = (keys: NameKind | 'new' | 'code', of: Shape, min?: number, max?: number): MapShape => ({
  kind: 'map',
  keys,
  of,
  min,
  max,
});
export const fields = (
  title: string,
  all: Record<string, Field>,
  oneOf?: readonly string[],
  more?: Pick<FieldsShape, 'together' | 'elsewhere' | 'needs' | 'unless' | 'some' | 'bare' | 'wayOf'>,
): FieldsShape => ({ kind: 'fields', title, fields: all, oneOf, ...more });

/** A thing of one of several kinds, told apart by their keys; each has fields of its own. */
export const kinds = (
  title: string,
  all: readonly { key: string; fields: Readonly<Record<string, Field>> }[],
  more: Record<string, Field> = {},
  rest?: Pick<FieldsShape, 'needs' | 'elsewhere' | 'bare' | 'wayOf'>,
): FieldsShape =>
  fields(
    title,
    { ...Object.assign({}, ...all.map((kind) => kind.fields)), ...more },
    all.map((kind) => kind.key),
    { ...rest, together: Object.fromEntries(all.map((kind) => [kind.key, Object.keys(kind.fields)])) },
  );
export const either = (forms: Omit<EitherShape, 'kind'>): EitherShape => ({ kind: 'either', ...forms });
export const optional = (shape: Shape, doc?: string): Field => (doc === undefined ? { shape } : { shape, doc });
export const required = (shape: Shape, doc: string): Field => ({ shape, doc, required: true });
