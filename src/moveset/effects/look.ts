import { FACE_LOCK, WANT_SHAPE } from '../../record/slots.js';
import { listOrOne, name, text, word } from '../shape.js';
import { effect } from './effect.js';

export const body = effect<string>('body', name('shape'), (value, tools) => {
  const shape = tools.index('shape', value);
  return {
    fold: (c) => {
      c.r[WANT_SHAPE] = shape;
    },
  };
});

export const face = effect<'locked' | 'free'>('face', word('locked', 'free'), (value) => {
  const locked = value === 'locked' ? 1 : 0;
  return {
    fold: (c) => {
      c.r[FACE_LOCK] = locked;
    },
  };
});

/** Tags change no number: `tagged(x)` and the lists that take tags look at what is active. */
export const tags = effect<string[]>(
  'tags',
  listOrOne(text(/^[A-Za-z]\w{0,63}$/, 'a tag: letters, digits and underscores')),
  () => ({}),
);
