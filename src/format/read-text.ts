import { closeSync, fstatSync, openSync, readFileSync } from 'node:fs';
import type { Diagnostic } from '../report/diagnostic.js';
import { wordDiagnostic } from '../report/wording.js';
import type { PlacedDiagnostic } from './text.js';
import { MOST_BYTES } from './yaml-file.js';

/** The text of a file, or the fault that keeps it from being read. Large files are not read at all. */
export function readText(file: string): { text: string } | { fault: PlacedDiagnostic } {
  const fault = (code: Diagnostic['code'], params: Record<string, unknown>): { fault: PlacedDiagnostic } => {
    const d: Diagnostic = { code, severity: 'error', path: [], on: 'value', params, range: [0, 0] };
    return { fault: { ...d, file, line: 1, column: 1, sentence: wordDiagnostic(d) } };
  };
  let bytes: Buffer;
  try {
    const handle = openSync(file, 'r');
    try {
      const stat = fstatSync(handle);
      if (stat.isDirectory()) return fault('file-unreadable', { why: 'it is a folder' });
      if (stat.size > MOST_BYTES) return fault('file-too-large', { size: stat.size, limit: MOST_BYTES });
      bytes = readFileSync(handle);
    } finally {
      closeSync(handle);
    }
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    const why = code === 'ENOENT' ? 'there is no such file' : code === 'EACCES' ? 'permission is denied' : String(code);
    return fault('file-unreadable', { why });
  }
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes) };
  } catch {
    return fault('not-utf8', { at: firstBadByte(bytes) });
  }
}

/** Where decoding fails: halving, since the decoder does not tell. */
function firstBadByte(bytes: Uint8Array): number {
  let good = 0;
  let bad = bytes.length;
  while (bad - good > 1) {
    const middle = (good + bad) >> 1;
    try {
      new TextDecoder('utf-8', { fatal: true }).decode(bytes.subarray(0, middle), { stream: true });
      good = middle;
    } catch {
      bad = middle;
    }
  }
  return good;
}
