import type { Plan } from '../compile/plan.js';
import { R_TOLD } from '../record/slots.js';

/** Views of the same numbers as 32-bit words, made when first read. */
const WORDS = new WeakMap<Float64Array, Uint32Array>();

/** What was told of each trigger, while a hash is made without it. */
let told = new Float64Array(16);

/**
 * A hash of a record, without what was told of refusals: whether a host wants to hear of them changes nothing that happens.
 */
export function checksumOf({ triggers, recordSize }: Plan, r: Float64Array): number {
  if (told.length < triggers.length) told = new Float64Array(triggers.length);
  for (let i = 0; i < triggers.length; i++) {
    const at = triggers[i].at + R_TOLD;
    told[i] = r[at];
    r[at] = 0;
  }
  const hash = hashOf(r, recordSize);
  for (let i = 0; i < triggers.length; i++) r[triggers[i].at + R_TOLD] = told[i];
  return hash;
}

/**
 * A hash of the first `count` numbers: four running products (FNV-1a over words) side by side, since one would wait for
 * itself, joined at the end. -0 counts as 0.
 */
function hashOf(r: Float64Array, count: number): number {
  let words = WORDS.get(r);
  if (words === undefined) {
    words = new Uint32Array(r.buffer, r.byteOffset, r.length * 2);
    WORDS.set(r, words);
  }
  let a = 0x811c9dc5;
  let b = 0x811c9dc5 ^ 1;
  let c = 0x811c9dc5 ^ 2;
  let d = 0x811c9dc5 ^ 3;
  const end = count * 2;
  const whole = end - (end % 4);
  for (let i = 0; i < whole; i += 4) {
    const high = words[i + 1];
    const nextHigh = words[i + 3];
    a = Math.imul(a ^ words[i], 0x01000193);
    b = Math.imul(b ^ (high === MINUS && words[i] === 0 ? 0 : high), 0x01000193);
    c = Math.imul(c ^ words[i + 2], 0x01000193);
    d = Math.imul(d ^ (nextHigh === MINUS && words[i + 2] === 0 ? 0 : nextHigh), 0x01000193);
  }
  if (whole < end) {
    const high = words[whole + 1];
    a = Math.imul(a ^ words[whole], 0x01000193);
    b = Math.imul(b ^ (high === MINUS && words[whole] === 0 ? 0 : high), 0x01000193);
  }
  let hash = a;
  hash = Math.imul(hash ^ (hash >>> 15) ^ b, 0x01000193);
  hash = Math.imul(hash ^ (hash >>> 15) ^ c, 0x01000193);
  hash = Math.imul(hash ^ (hash >>> 15) ^ d, 0x01000193);
  return (hash ^ (hash >>> 13)) >>> 0;
}

/** The upper word of -0. */
const MINUS = 0x80000000;
