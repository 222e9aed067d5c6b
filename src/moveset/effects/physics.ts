import type { WrittenFormula } from '../read.js';
import { formula } from '../shape.js';
import { FALL, GRAVITY, STEER } from '../slots.js';
import { effect, layOver } from './effect.js';

const amount = (max: number) => formula('number', { percent: true, min: 0, max });

export const gravity = effect<WrittenFormula>('gravity', amount(10_000), (value, tools) =>
  layOver(GRAVITY, value, tools),
);

export const fall = effect<WrittenFormula>('fall', amount(10_000), (value, tools) => layOver(FALL, value, tools));

export const steer = effect<WrittenFormula>('steer', amount(1), (value, tools) => layOver(STEER, value, tools));
