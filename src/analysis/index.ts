export {
  changesOf,
  chartChanges,
  type LegalChange,
  type MovesetChanges,
  type TimingChange,
  type ValueChange,
} from './changes.js';
export {
  type Chart,
  type ChartAbility,
  type ChartArrow,
  type ChartKind,
  type ChartMark,
  type ChartPhase,
  chartAround,
  chartOf,
} from './chart.js';
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
