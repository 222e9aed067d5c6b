export type { IncludeOptions } from './include.js';
export {
  compileText,
  formatDiagnostic,
  formatExcerpt,
  type Loaded,
  type PlacedDiagnostic,
  parseMoveset,
} from './parse.js';
