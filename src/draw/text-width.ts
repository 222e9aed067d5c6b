/** Widths of letters of a plain sans-serif type as shares of its size; what is not listed is as wide as most. */
const WIDTHS: Readonly<Record<string, number>> = {
  i: 0.26,
  l: 0.28,
  j: 0.28,
  t: 0.36,
  f: 0.36,
  r: 0.4,
  I: 0.36,
  m: 0.9,
  w: 0.78,
  M: 0.85,
  W: 0.92,
};
const USUAL = 0.56;
const CAPITAL = 0.65;
const POINT = 0.3;

/** About how wide a text is, rather too wide than too narrow. */
export function textWidth(text: string, size: number, bold = false): number {
  let sum = 0;
  for (const letter of text)
    sum += WIDTHS[letter] ?? (/[A-Z]/.test(letter) ? CAPITAL : /[\s.,:;'|!()-]/.test(letter) ? POINT : USUAL);
  return sum * size * (bold ? 1.06 : 1);
}

/** A text that is no wider than that: its end is left out. */
export function fitText(text: string, size: number, width: number, bold = false): string {
  if (textWidth(text, size, bold) <= width) return text;
  let short = text;
  while (short.length > 1 && textWidth(`${short}…`, size, bold) > width) short = short.slice(0, -1);
  return `${short}…`;
}
