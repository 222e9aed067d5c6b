import type { WrittenFormula } from '../read.js';
import { formula } from '../shape.js';
import { FALL, GRAVITY, STEER } from '../slots.js';
import { effect, layOver } from './effect.js';

const amount = (max: number) => formula('number', { percent: true, min: 0, max });

export const gravity = effect<WrittenFormula>(
  'gravity',
  'Downward acceleration while it lasts, per second squared; `0` floats, `50%` halves what would be.',
  amount(10_000),
  (value, tools) => layOver(GRAVITY, value, tools),
);

export const fall = effect<WrittenFormula>(
  'fall',
  'Fastest fall while it lasts, per second; `30%` of what would be.',
  amount(10_000),
  (value, tools) => layOver(FALL, value, tools),
);

export const steer = effect<WrittenFormula>(
  'steer',
  'How much the stick still steers the body: 0 not at all, 1 fully.',
  amount(1),
  (value, tools) => layOver(STEER, value, tools),
);
