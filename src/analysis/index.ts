export {
  type Legal,
  type LegalCell,
  type LegalMoment,
  type LegalRow,
  type LegalRule,
  type LegalWord,
  legalOf,
} from './legal.js';
export { type Timing, timingOf } from './timing.js';
