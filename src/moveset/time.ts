/** The longest time a moveset may declare, in seconds. */
export const LONGEST_SECONDS = 3600;

const PATTERN = /^(\d+(?:\.\d+)?|\.\d+)\s*(s|ms|f)$/;

/**
 * Reads `0.2s`, `200ms` or `12f` as ticks, not yet rounded.
 * Returns undefined for any other text.
 */
export function parseTime(text: string, rate: number): number | undefined {
  const match = PATTERN.exec(text.trim());
  if (!match) return undefined;
  return toTicks(Number(match[1]), match[2] as TimeUnit, rate);
}

export type TimeUnit = 's' | 'ms' | 'f';

/** Ticks in `value` of `unit`; a product within a billionth of a whole number is that number. */
export function toTicks(value: number, unit: TimeUnit, rate: number): number {
  const ticks = unit === 'f' ? value : unit === 's' ? value * rate : (value * rate) / 1000;
  const whole = Math.round(ticks);
  return Math.abs(ticks - whole) < 1e-9 * Math.max(1, whole) ? whole : ticks;
}
