import { closeSync, constants, fstatSync, openSync, readSync } from 'node:fs';
import type { Code, Diagnostic, FaultData } from '../report/diagnostic.js';
import { wordDiagnostic } from '../report/wording.js';
import type { PlacedDiagnostic } from './show.js';
import { MOST_BYTES } from './yaml-file.js';

/** How long a pipe may be silent, in milliseconds. */
const LONGEST_SILENCE = 900;

/** The text of a file or pipe, or the fault that keeps it from being read. Never reads more than `MOST_BYTES`. */
export function readText(file: string): { text: string } | { fault: PlacedDiagnostic } {
  const fault = <C extends Code>(code: C, params: FaultData<C>): { fault: PlacedDiagnostic } => {
    const d: Diagnostic = { code, severity: 'error', path: [], on: 'value', params: params as never, range: [0, 0] };
    return { fault: { ...d, file, line: 1, column: 1, excerpt: '', caret: [0, 0], sentence: wordDiagnostic(d) } };
  };
  if (/\.[cm]?[jt]sx?$/.test(file)) return fault('is-program', { file });
  let bytes: Buffer | 'silent' | 'large';
  try {
    // Without blocking: a pipe that nothing writes to would keep the process for ever.
    const handle = openSync(file, constants.O_RDONLY | (constants.O_NONBLOCK ?? 0));
    try {
      const stat = fstatSync(handle);
      if (stat.isDirectory()) return fault('file-unreadable', { why: 'it is a folder' });
      if (!stat.isFile() && !stat.isFIFO()) return fault('file-unreadable', { why: 'it is a device, not a file' });
      bytes = readAll(handle);
    } finally {
      closeSync(handle);
    }
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    return fault('file-unreadable', { why: WHY[code ?? ''] ?? String(code) });
  }
  if (bytes === 'large') return fault('file-too-large', { limit: MOST_BYTES });
  if (bytes === 'silent') return fault('file-unreadable', { why: 'it is a pipe, and nothing was written to it' });
  try {
    return { text: new TextDecoder('utf-8', { fatal: true }).decode(bytes) };
  } catch {
    return fault('not-utf8', { at: firstBadByte(bytes) });
  }
}

const WHY: Readonly<Record<string, string>> = {
  ENOENT: 'there is no such file',
  ENOTDIR: 'a part of its path is not a folder',
  EACCES: 'permission is denied',
  ELOOP: 'its links lead in a circle',
  ENAMETOOLONG: 'its path is too long',
  ENXIO: 'it is a device, not a file',
  ERR_INVALID_ARG_VALUE: 'its path contains a null character',
};

function readAll(handle: number): Buffer | 'silent' | 'large' {
  const bytes = Buffer.alloc(MOST_BYTES + 1);
  let length = 0;
  let silent = 0;
  while (length < bytes.length) {
    try {
      const read = readSync(handle, bytes, length, bytes.length - length, null);
      if (read === 0) return bytes.subarray(0, length);
      length += read;
      silent = 0;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EAGAIN') throw error;
      if (silent >= LONGEST_SILENCE) return 'silent';
      Atomics.wait(new Int32Array(new SharedArrayBuffer(4)), 0, 0, 10);
      silent += 10;
    }
  }
  return 'large';
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
