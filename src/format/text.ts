export type { IncludeOptions } from './include.js';
export { parseOpponent } from './opponent.js';
export { compileText, type Loaded, parseMoveset } from './parse.js';
export { formatDiagnostic, formatExcerpt, type PlacedDiagnostic } from './show.js';
