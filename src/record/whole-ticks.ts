/** A time as a formula gives it, in whole ticks; none where a function gives no number. */
export function wholeTicks(time: number): number {
  return Number.isNaN(time) ? 0 : Math.round(time);
}
