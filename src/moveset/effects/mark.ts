import { E_ID } from '../../record/combat.js';
import type { Frame } from '../../record/frame.js';
import { Q_MOVER, Q_POINT } from '../../record/layout.js';
import { MARK, MARK_KIND, MARK_ON, MARK_POINT, MARK_SET, MARK_X, ON_MEMBER, ON_SOLID } from '../../record/slots.js';
import { compilePoint, type Point, point } from '../directions/point.js';
import type { AnyMark, NameTypes, Uses } from '../name-types.js';
import { map, name } from '../shape.js';
import { type EffectTools, effect } from './effect.js';

/** The key `mark` of what has effects. */
export interface MarkField<N extends NameTypes> {
  /**
   * Sets marks once, as the ability or phase begins, each to where a point is then; `none` unsets it. With `on(foe)` the mark goes with what it is
   * set on, and is unset when that is gone: the foe or a target, whoever a blow was from or came to, what a probe has hit, what another mark is on.
   */
  mark?: Marking<Uses<N>>;
}

/** Marks that are set once, as it begins: each to where a point is then, or to `none`. What is no point now changes nothing. */
export type Marking<N extends NameTypes = NameTypes> = Partial<
  Record<AnyMark<N>, Point<N> | 'none' | `on(${'foe' | N['target'] | AnyMark<N> | N['probe'] | N['point value']})`>
>;

/** What can be told of where it is later. */
const on = { ...name('target', 'mark', 'probe', 'blow point'), words: ['foe'], meaning: 'point' };

/** @internal */
export const markShape = map('mark', { ...point, words: [...point.words, 'none'], calls: { on } });

/** Notes what a mark is on; where it is was written before. */
type Hold = (c: Frame, at: number) => void;

/** @internal */
export const markEffect = effect(
  'mark',
  markShape,
  (value, tools) => {
    const marks = Object.entries(value).map(([name, source = 'none']) => {
      const held = /^on\((.+)\)$/.exec(source)?.[1];
      const at = tools.markAt(name);
      if (held !== undefined) tools.noteFollowing(at);
      return {
        at,
        spot: source === 'none' ? null : compilePoint(held ?? source, tools),
        hold: held === undefined ? null : compileHold(held, tools),
      };
    });
    const out = new Float64Array(3);
    return {
      begin: (c) => {
        const { r } = c;
        for (let i = 0; i < marks.length; i++) {
          const { at, spot, hold } = marks[i];
          if (spot === null) r.fill(0, at, at + MARK);
          else if (spot(c, out)) {
            // Not before it is known what it is on, which may be that of this very mark.
            if (hold === null) r.fill(0, at + MARK_KIND, at + MARK);
            else hold(c, at);
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

const POINT = new Float64Array(3);

function compileHold(source: string, tools: EffectTools): Hold {
  if (tools.index('mark', source) >= 0) {
    const from = tools.markAt(source);
    return ({ r }, at) => r.copyWithin(at + MARK_KIND, from + MARK_KIND, from + MARK);
  }
  if (tools.index('probe', source) >= 0) {
    const { at: probe } = tools.probe(source);
    return (c, at) => {
      const { r } = c;
      const mover = r[probe + Q_MOVER];
      for (let k = 0; k < 3; k++) POINT[k] = r[probe + Q_POINT + k];
      const moves = mover >= 0 && c.world?.attach?.(mover, POINT) === true;
      put(r, at, moves ? ON_SOLID : 0, mover);
    };
  }
  const by = tools.valueAt(source.replace(/\.\w+$/, '.by'));
  const from = tools.valueAt(source.replace(/\.\w+$/, '.from'));
  const here = tools.valueAt(source);
  if (by && from && here)
    return ({ r }, at) => {
      for (let k = 0; k < 3; k++) POINT[k] = r[here.at + k] - r[from.at + k];
      put(r, at, ON_MEMBER, r[by.at]);
    };
  // It was seen at its middle.
  const seen = source === 'foe' ? tools.foeAt : tools.targetAt(source);
  return ({ r }, at) => {
    POINT.fill(0);
    put(r, at, ON_MEMBER, r[seen + E_ID]);
  };
}

function put(r: Float64Array, at: number, kind: number, what: number): void {
  r[at + MARK_KIND] = kind;
  r[at + MARK_ON] = kind === 0 ? 0 : what;
  for (let k = 0; k < 3; k++) r[at + MARK_POINT + k] = kind === 0 ? 0 : POINT[k];
}
