import type { Diagnostic } from './diagnostic.js';
import { FAULTS } from './faults.js';

/** The sentence for a diagnostic, without its place. */
export function wordDiagnostic(d: Diagnostic): string {
  return (FAULTS[d.code] as (params: unknown) => string)(d.params);
}

/** `abilities.hop.phases[0].for` */
export function wordPath(path: Diagnostic['path']): string {
  let out = '';
  for (const part of path) {
    if (typeof part === 'number') out += `[${part}]`;
    else out += (out && '.') + (/^[\w.]+$/.test(part) ? part : JSON.stringify(part).slice(0, 60));
  }
  return out || 'the top';
}
