import type { Frame } from '../../record/frame.js';
import { FACE_LOCK, FX, FZ, WANT_SHAPE } from '../../record/slots.js';
import { compileDirections, heading } from '../directions/direction.js';
import { listOrOne, name, text } from '../shape.js';
import { effect } from './effect.js';

export const body = effect<string>('body', name('shape'), (value, tools) => {
  const shape = tools.index('shape', value);
  return {
    fold: (c) => {
      c.r[WANT_SHAPE] = shape;
    },
  };
});

/** A word, or the direction to face: taken as it begins, and kept while it lasts. */
const faceShape = { ...heading, words: ['locked', 'free', ...(heading.words ?? [])] };

export const face = effect<string>('face', faceShape, (value, tools) => {
  const locked = value === 'free' ? 0 : 1;
  const fold = ({ r }: Frame) => {
    r[FACE_LOCK] = locked;
  };
  if (value === 'locked' || value === 'free') return { fold };
  const aim = compileDirections([value], { flat: true }, tools);
  const out = new Float64Array(3);
  const begin = (c: Frame) => {
    if (!aim(c, out)) return;
    const { r } = c;
    if (tools.view === 'open') {
      r[FX] = out[0];
      r[FZ] = out[2];
    } else if (out[0] !== 0) r[FX] = out[0] > 0 ? 1 : -1;
  };
  return { begin, fold };
});

/** Tags change no number: `tagged(x)` and the lists that take tags look at what is active. */
export const tags = effect<string[]>(
  'tags',
  listOrOne(text(/^[A-Za-z]\w{0,63}$/, 'a tag: letters, digits and underscores')),
  () => ({}),
);
