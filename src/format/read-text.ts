import { open } from 'node:fs/promises';
import type { Diagnostic } from '../moveset/diagnostic.js';
import { MOST_BYTES } from './yaml-file.js';

/** The text of a file, or the fault that keeps it from being read. Large files are not read at all. */
export async function readText(file: string): Promise<{ text: string } | { fault: Diagnostic }> {
  const fault = (code: Diagnostic['code'], params: Record<string, unknown>): { fault: Diagnostic } => ({
    fault: { code, severity: 'error', path: [], on: 'value', params, range: [0, 0], file },
  });
  let bytes: Buffer;
  try {
    const handle = await open(file);
    try {
      const stat = await handle.stat();
      if (stat.isDirectory()) return fault('file-unreadable', { why: 'it is a folder' });
      if (stat.size > MOST_BYTES) return fault('file-too-large', { size: stat.size, limit: MOST_BYTES });
      bytes = await handle.readFile();
    } finally {
      await handle.close();
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
