/** A number or a time in a line of a moveset, and where. */
export interface NumberAt {
  /** Offsets in the line. */
  readonly from: number;
  readonly to: number;
  readonly value: number;
  /** Digits behind the point, as it is written. */
  readonly digits: number;
  /** `s`, `ms`, `f`, `%`, or nothing. */
  readonly unit: string;
}

const NUMBER = /(?<![\w.#'"$])-?\d+(?:\.\d+)?(ms|s|f|%)?(?![\w.%])/g;

/** All numbers of a line but those in a comment or in what is quoted. */
export function numbersIn(line: string): NumberAt[] {
  const found: NumberAt[] = [];
  const end = commentAt(line);
  for (const match of line.matchAll(NUMBER)) {
    const from = match.index;
    if (from >= end) break;
    if (isQuoted(line, from)) continue;
    const unit = match[1] ?? '';
    const text = unit === '' ? match[0] : match[0].slice(0, -unit.length);
    const digits = text.includes('.') ? text.length - text.indexOf('.') - 1 : 0;
    found.push({ from, to: from + match[0].length, value: Number(text), digits, unit });
  }
  return found;
}

export function numberAt(line: string, column: number): NumberAt | undefined {
  return numbersIn(line).find(({ from, to }) => from <= column && column <= to);
}

/** How far one step goes: one of the last digit that is written; of times below a second, a hundredth. */
export function stepOf({ digits, unit, value }: NumberAt): number {
  if (unit === 's' && digits < 2 && Math.abs(value) < 1) return 0.01;
  return digits === 0 ? (unit === 'ms' ? 10 : 1) : 10 ** -digits;
}

/** The number so many steps further, as it is written then; ticks and whole numbers stay whole. */
export function stepped(number: NumberAt, steps: number): string {
  const step = stepOf(number);
  const digits = Math.max(number.digits, step < 1 ? Math.round(-Math.log10(step)) : 0);
  const value = number.value + steps * step;
  // What was not below zero stays so, where a unit of time says that it must.
  const least = number.unit !== '' && number.unit !== '%' && number.value >= 0 ? 0 : Number.NEGATIVE_INFINITY;
  const text = Math.max(least, value).toFixed(digits);
  const short = digits > number.digits ? text.replace(/0+$/, '').replace(/\.$/, '') : text;
  return `${short === '-0' ? '0' : short}${number.unit}`;
}

function commentAt(line: string): number {
  for (const match of line.matchAll(/(^|\s)#/g)) {
    const at = match.index + match[1].length;
    if (!isQuoted(line, at)) return at;
  }
  return line.length;
}

function isQuoted(line: string, at: number): boolean {
  let quote = '';
  for (let i = 0; i < at; i++) {
    if (quote === '' && (line[i] === '"' || line[i] === "'") && /[\s[{,:(]/.test(line[i - 1] ?? ' ')) quote = line[i];
    else if (line[i] === quote) quote = '';
  }
  return quote !== '';
}
