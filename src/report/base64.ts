/** Letters are made of so many bytes at once: a call takes no more. */
const PART = 0x2000;

/** Bytes as text. */
export function toBase64(bytes: Uint8Array): string {
  let text = '';
  for (let at = 0; at < bytes.length; at += PART) text += String.fromCharCode(...bytes.subarray(at, at + PART));
  return btoa(text);
}

/** The bytes of such a text. */
export function fromBase64(text: string): Uint8Array {
  return Uint8Array.from(atob(text), (letter) => letter.charCodeAt(0));
}
