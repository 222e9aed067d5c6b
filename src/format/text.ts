export type { TextPlace } from '../compile/origin.js';
export { type GeneratedModule, type ModuleOptions, type ModuleSource, packModule } from '../emit/module.js';
export type { IncludeOptions } from './include.js';
export { parseOpponent } from './opponent.js';
export { compileText, type Loaded, parseMoveset } from './parse.js';
export { formatDiagnostic, formatExcerpt, type PlacedDiagnostic } from './show.js';
