/** Each complex key ("? ") within another doubles the parser's work. */
const MOST_COMPLEX_KEYS = 4;

/**
 * Whether a text nests deeper than `limit`, or has complex keys without end. The parser calls itself for each level, so
 * this is asked before it; brackets in quoted text count too, which no honest file notices.
 */
export function nestingFault(
  text: string,
  limit: number,
  most: number,
): 'too-deep' | 'complex-keys' | 'too-many' | undefined {
  let separators = 0;
  let depth = 0;
  let indent = 0;
  let run = 0;
  let atStart = true;
  let complex = 0;
  for (let i = 0; i < text.length; i++) {
    const letter = text.charCodeAt(i);
    if (letter === 91 || letter === 123) depth++;
    else if (letter === 93 || letter === 125) depth = Math.max(0, depth - 1);
    if (letter === 63 && isBlank(text.charCodeAt(i + 1)) && ++complex > MOST_COMPLEX_KEYS) return 'complex-keys';
    // Each value but one in a collection stands behind a comma, a dash or a colon.
    const separates = letter === 44 || ((letter === 45 || letter === 58) && isBlank(text.charCodeAt(i + 1)));
    if (separates && ++separators > 2 * most) return 'too-many';
    if (letter === 10) {
      atStart = true;
      indent = 0;
      run = 0;
    } else if (atStart && (letter === 32 || letter === 45)) {
      indent++;
      if (letter !== 32) run++;
    } else atStart = false;
    if (depth > limit || run > limit || indent > 16 * limit) return 'too-deep';
  }
  return undefined;
}

/** A space, a tab, the end of a line or of the text. */
function isBlank(letter: number): boolean {
  return letter === 32 || letter === 9 || letter === 10 || letter === 13 || Number.isNaN(letter);
}
