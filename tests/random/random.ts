/** Numbers that look random and are the same for the same seed (mulberry32). */
export class Random {
  private state: number;

  constructor(seed: number) {
    this.state = seed | 0;
  }

  /** From 0 up to, not including, 1. */
  next(): number {
    this.state = (this.state + 0x6d2b79f5) | 0;
    let t = Math.imul(this.state ^ (this.state >>> 15), 1 | this.state);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  }

  chance(part: number): boolean {
    return this.next() < part;
  }

  /** A whole number from `from` to `to`, both included. */
  whole(from: number, to: number): number {
    return from + Math.floor(this.next() * (to - from + 1));
  }

  pick<T>(list: readonly T[]): T {
    return list[this.whole(0, list.length - 1)];
  }

  /** Some of a list, in its order, at least `least`. */
  some<T>(list: readonly T[], least = 0): T[] {
    const chosen = list.filter(() => this.chance(0.4));
    return chosen.length >= least ? chosen : list.slice(0, least);
  }
}
