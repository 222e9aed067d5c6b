export function withArticle(noun: string): string {
  return `${/^[aeiou]/.test(noun) ? 'an' : 'a'} ${noun}`;
}

/** A value in a few words, short enough for a message. */
export function describe(value: unknown): string {
  if (value === null || value === undefined) return 'nothing';
  if (Array.isArray(value)) return 'a list';
  if (typeof value === 'object') return 'a map';
  const shown = typeof value === 'string' ? `"${value}"` : String(value);
  return shown.length > 40 ? `${shown.slice(0, 37)}…` : shown;
}
