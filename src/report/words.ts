export function withArticle(noun: string): string {
  return `${/^[aeiou]/.test(noun) ? 'an' : 'a'} ${noun}`;
}

/** `1 error`, `3 errors`, `2 abilities`. */
export function count(amount: number, noun: string): string {
  if (amount === 1) return `1 ${noun}`;
  return `${amount} ${noun.endsWith('y') ? `${noun.slice(0, -1)}ies` : `${noun}s`}`;
}

/** A value in a few words, short enough for a message. */
export function describe(value: unknown): string {
  if (value === null || value === undefined) return 'nothing';
  if (Array.isArray(value)) return 'a list';
  if (typeof value === 'object') return 'a map';
  const shown = typeof value === 'string' ? `"${escapeText(value)}"` : String(value);
  return shown.length > 40 ? `${shown.slice(0, 37)}…${typeof value === 'string' ? '"' : ''}` : shown;
}

/**
 * Text from a file, a path or a name, with everything escaped that could end its line, move the cursor or turn the
 * direction of writing: so that no name can look like another line of output.
 */
export function escapeText(text: string): string {
  return text.replace(
    // biome-ignore lint/suspicious/noControlCharactersInRegex: these are what is escaped
    /[\u0000-\u001f\u007f-\u009f\u061c\u200b-\u200f\u2028-\u202e\u2060-\u206f\ufeff]/g,
    (letter) => NAMED[letter] ?? `\\u${letter.charCodeAt(0).toString(16).padStart(4, '0')}`,
  );
}

/** Text of any origin as a part of a comment of generated code: on one line, and without what would end the comment. */
export function commentText(text: string): string {
  return escapeText(text.replace(/\s+/g, ' ')).replaceAll('*/', '*\\/');
}

const NAMED: Record<string, string> = { '\n': '\\n', '\r': '\\r', '\t': '\\t' };
