import { FALL, GRAVITY, STEER } from '../../record/slots.js';
import type { ParsedFormula } from '../read.js';
import { formula } from '../shape.js';
import { effect, layOver } from './effect.js';

const amount = (max: number) => formula('number', { percent: true, min: 0, max });

export const gravity = effect<ParsedFormula>('gravity', amount(10_000), (value, tools) =>
  layOver(GRAVITY, value, tools),
);

export const fall = effect<ParsedFormula>('fall', amount(10_000), (value, tools) => layOver(FALL, value, tools));

export const steer = effect<ParsedFormula>('steer', amount(1), (value, tools) => layOver(STEER, value, tools, 1));
