import { MARK_SET, MARK_X } from '../../record/slots.js';
import { compilePoint, type Point, point } from '../directions/point.js';
import type { AnyMark, NameTypes, Uses } from '../name-types.js';
import { map } from '../shape.js';
import { effect } from './effect.js';

/** The key `mark` of what has effects. */
export interface MarkField<N extends NameTypes> {
  /** Sets marks once, as the ability or phase begins, each to where a point is then; `none` unsets it. */
  mark?: Marking<Uses<N>>;
}

/** Marks that are set once, as it begins: each to where a point is then, or to `none`. What is no point now changes nothing. */
export type Marking<N extends NameTypes = NameTypes> = Partial<Record<AnyMark<N>, Point<N> | 'none'>>;

export const markShape = map('mark', { ...point, words: [...(point.words ?? []), 'none'] });

export const markEffect = effect<Record<string, string>>(
  'mark',
  markShape,
  (value, tools) => {
    const marks = Object.entries(value).map(([name, source]) => ({
      at: tools.markAt(name),
      spot: source === 'none' ? null : compilePoint(source, tools),
    }));
    const out = new Float64Array(3);
    return {
      begin: (c) => {
        const { r } = c;
        for (let i = 0; i < marks.length; i++) {
          const { at, spot } = marks[i];
          if (spot === null) r.fill(0, at, at + MARK_X + 3);
          else if (spot(c, out)) {
            r[at + MARK_SET] = 1;
            r[at + MARK_X] = out[0];
            r[at + MARK_X + 1] = out[1];
            r[at + MARK_X + 2] = out[2];
          }
        }
      },
    };
  },
  { inStances: false },
);
