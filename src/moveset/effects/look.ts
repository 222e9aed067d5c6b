import { listOrOne, name, text, word } from '../shape.js';
import { FACE_LOCK, WANT_SHAPE } from '../slots.js';
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

export const tags = effect<string[]>(
  'tags',
  listOrOne(text(/^[A-Za-z]\w{0,63}$/, 'a tag: letters, digits and underscores')),
  (value, tools) => {
    const slots = value.map((tag) => tools.tagAt(tag));
    return {
      fold: (c) => {
        for (let i = 0; i < slots.length; i++) c.r[slots[i]] = 1;
      },
    };
  },
);
