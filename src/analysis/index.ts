export { type Timing, timingOf } from './timing.js';
