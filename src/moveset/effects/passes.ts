import { js, to } from '../../record/code.js';
import type { Frame } from '../../record/frame.js';
import { PASSES } from '../../record/slots.js';
import { writtenLines } from '../../record/written.js';
import type { NameTypes, OneOrMore } from '../name-types.js';
import { listOrOne, name } from '../shape.js';
import { effect } from './effect.js';

/** The key `passes` of what has effects. */
export interface PassesField<N extends NameTypes> {
  /** Surfaces that the body passes through while it lasts. */
  passes?: OneOrMore<NoInfer<N['surface']>>;
}

/** @internal Surfaces that the body passes through while it lasts. */
export const passesEffect = effect('passes', listOrOne(name('surface')), (value, tools) => {
  const bits = value.reduce(
    (all, surface) => (surface === undefined ? all : all | (1 << tools.index('surface', surface))),
    0,
  );
  return {
    fold: writtenLines(
      ({ r }: Frame) => {
        r[PASSES] |= bits;
      },
      () => [js`${to(PASSES)} |= ${bits};`],
    ),
  };
});
