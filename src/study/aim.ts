import type { Sweeper, SweepRow } from './sweep.js';

/** What was found. */
export interface Aimed {
  readonly value: number | string;
  readonly measured: number;
  /**
   * `exact`: it comes to the goal. `near`: values beside one another give more and less, and none the goal. `outside`: no value of the range
   * does. `uneven`: the measure goes up and down over the range; it is the best of its runs.
   */
  readonly how: 'exact' | 'near' | 'outside' | 'uneven';
}

/** As near to the goal as this counts as there. */
const NEAR = 5e-4;
/** Halvings of an interval: as fine as numbers are. */
const STEPS = 60;

/**
 * The value with which the first measure of a sweep over one number comes to a goal: by halving, where the measure only rises or only falls.
 * Undefined where nothing was measured.
 * @param rows The runs of the sweep.
 */
export function aimAt(sweeper: Sweeper, rows: readonly SweepRow[], goal: number): Aimed | undefined {
  const [{ numbers, unit, values }] = sweeper.varied;
  const known = rows.flatMap(({ index, measured: [value] }) => (value === null ? [] : [{ index, value }]));
  if (known.length === 0) return undefined;
  const best = known.reduce((a, b) => (Math.abs(b.value - goal) < Math.abs(a.value - goal) ? b : a));
  const at = (how: Aimed['how']): Aimed => ({ value: values[best.index], measured: best.value, how });
  if (Math.abs(best.value - goal) <= NEAR) return at('exact');
  const steps = known.slice(1).map(({ value }, i) => Math.sign(value - known[i].value));
  if (typeof values[0] === 'string' && unit === '') return at('outside');
  if (steps.some((step) => step > 0) && steps.some((step) => step < 0)) return at('uneven');
  const between = known.findIndex(({ value }, i) => i > 0 && (value - goal) * (known[i - 1].value - goal) < 0);
  if (between < 0) return at('outside');
  let [low, high] = [numbers[known[between - 1].index], numbers[known[between].index]];
  const rising = known[between].value > known[between - 1].value;
  const measure = (number: number) => sweeper.runWith([write(number, unit)]).measured[0];
  let found = { number: numbers[best.index], value: best.value };
  for (let i = 0; i < STEPS && Math.abs(found.value - goal) > NEAR; i++) {
    const middle = unit === 'f' ? Math.floor((low + high) / 2) : (low + high) / 2;
    if (middle === low || middle === high) break;
    const value = measure(middle);
    if (value === null) break;
    if (Math.abs(value - goal) < Math.abs(found.value - goal)) found = { number: middle, value };
    if (value < goal === rising) low = middle;
    else high = middle;
  }
  // The shortest number that is as near.
  for (let digits = 1; digits < 15; digits++) {
    const number = Number(found.number.toPrecision(digits));
    const value = measure(number);
    if (value !== null && Math.abs(value - goal) <= Math.max(Math.abs(found.value - goal), NEAR)) {
      found = { number, value };
      break;
    }
  }
  const isThere = Math.abs(found.value - goal) <= NEAR;
  return { value: write(found.number, unit), measured: found.value, how: isThere ? 'exact' : 'near' };
}

function write(number: number, unit: string): number | string {
  return unit === '' ? number : `${unit === 'f' ? Math.round(number) : Number(number.toPrecision(12))}${unit}`;
}
