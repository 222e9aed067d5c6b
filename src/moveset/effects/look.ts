import { js, to } from '../../record/code.js';
import type { Frame } from '../../record/frame.js';
import { FACE_LOCK, FX, FZ, WANT_SHAPE } from '../../record/slots.js';
import { writtenLines } from '../../record/written.js';
import { compileDirections, type Heading, heading, headings } from '../directions/direction.js';
import type { NameTypes, OneOrMore, Uses } from '../name-types.js';
import { NAME } from '../read.js';
import { either, fields, listOrOne, name, optional, required, text, truth } from '../shape.js';
import { effect } from './effect.js';

/** The key `body` of what has effects. */
export interface BodyField<N extends NameTypes> {
  /** The body shape while it lasts; it grows back only where there is room. */
  body?: NoInfer<N['shape']>;
}

/** The key `face` of what has effects. */
export interface FaceField<N extends NameTypes> {
  /**
   * `fixed` keeps the facing while it lasts; `free` undoes the lock of a stance; a direction, such as `out(wall)`,
   * turns the body as it begins and keeps it so.
   */
  face?: 'fixed' | 'free' | NoInfer<Heading<N>> | Facing<Uses<N>>;
}

/** The key `tags` of what has effects. */
export interface TagsField<N extends NameTypes> {
  /** Words that hold while it lasts: `tagged(word)` is true, and `from`, `open`, `breaks` and `bars` take them like names. */
  tags?: OneOrMore<N['tag']>;
}

/** @internal */
export const bodyEffect = effect('body', name('shape'), (value, tools) => {
  const shape = tools.index('shape', value);
  return {
    fold: writtenLines(
      ({ r }: Frame) => {
        r[WANT_SHAPE] = shape;
      },
      () => [js`${to(WANT_SHAPE)} = ${shape};`],
    ),
  };
});

/** Where to face: the first of several directions that there is. */
export interface Facing<N extends NameTypes = NameTypes> {
  along: Heading<N> | readonly Heading<N>[];
  /** Turns the body again in each tick, not only as it begins. Default false. */
  live?: boolean;
}

/** @internal A word, or the direction to face: taken as it begins, and kept while it lasts. */
export const faceShape = either({
  plain: { ...heading, words: ['fixed', 'free', ...heading.words] },
  fields: fields('a facing', {
    along: required(headings, 'where to: the first of these directions that there is.'),
    live: optional(truth()),
  }),
});

/** @internal */
export const faceEffect = effect('face', faceShape, (value, tools) => {
  const locked = value === 'free' ? 0 : 1;
  const fold = writtenLines(
    ({ r }: Frame) => {
      r[FACE_LOCK] = locked;
    },
    () => [js`${to(FACE_LOCK)} = ${locked};`],
  );
  if (value === 'fixed' || value === 'free') return { fold };
  const { along, live = false } = typeof value === 'string' ? { along: [value] } : value;
  const aim = compileDirections(along, { flat: true }, tools);
  const out = new Float64Array(3);
  const turn = (c: Frame) => {
    if (!aim(c, out)) return;
    const { r } = c;
    if (tools.view === 'open') {
      r[FX] = out[0];
      r[FZ] = out[2];
    } else if (Math.abs(out[0]) > LEAST) r[FX] = out[0] > 0 ? 1 : -1;
  };
  return { begin: turn, each: live ? turn : undefined, fold };
});

/** A direction that leads less to one side than this leads to none. */
const LEAST = 1e-6;

/** @internal Tags change no number: `tagged(x)` and the lists that take tags look at what is active. */
export const tagsEffect = effect(
  'tags',
  listOrOne(text(NAME, 'a tag: letters, digits and underscores, and no word of formulas')),
  () => ({}),
);
