import { want, wantList, wantObject } from './arguments.js';
import type { Diagnostic } from './diagnostic.js';
import { FAULTS } from './faults.js';
import { escapeText } from './words.js';

/**
 * The sentence for a diagnostic, without its place: one line, whatever is in the file.
 * @param d What a check found.
 */
export function wordDiagnostic(d: Diagnostic): string {
  wantObject('wordDiagnostic', 'its argument', d, 'a diagnostic');
  want(
    typeof d.code === 'string' && Object.hasOwn(FAULTS, d.code),
    'wordDiagnostic',
    'its code',
    'one that there is',
    d.code,
  );
  return escapeText((FAULTS[d.code] as (params: unknown) => string)(d.params));
}

/**
 * `abilities.hop.phases[0].for`
 * @param path Keys and places in lists, from the outermost on.
 */
export function wordPath(path: Diagnostic['path']): string {
  wantList('wordPath', 'a path', path);
  let out = '';
  for (const part of path) {
    if (typeof part === 'number') out += `[${part}]`;
    else out += (out && '.') + (/^[\w.]+$/.test(part) ? part : JSON.stringify(part).slice(0, 60));
  }
  return escapeText(out) || 'the top';
}

/** The sentence with the path before it, for what has no file. */
export function wordPlaced(d: Diagnostic): string {
  return `${wordPath(d.path)}: ${wordDiagnostic(d)}`;
}
