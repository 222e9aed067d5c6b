/**
 * Requests that were refused in this tick, in their order, a column for each thing that is known of them: whole numbers, which in rows of
 * fractions would be converted to and fro.
 */
export class Refusals {
  count = 0;
  /** The index of each trigger. */
  triggers: Int32Array = new Int32Array(32);
  /** What stands against it, and the signature of that. */
  against: Int32Array = new Int32Array(32);
  signs: Int32Array = new Int32Array(32);
  /** The first of its reasons, below 0 until they are written, and where they end. */
  from: Int32Array = new Int32Array(32);
  to: Int32Array = new Int32Array(32);

  add(trigger: number, against: number, sign: number): void {
    const at = this.count;
    if (at === this.triggers.length) this.grow();
    this.triggers[at] = trigger;
    this.against[at] = against;
    this.signs[at] = sign;
    this.from[at] = -1;
    this.count = at + 1;
  }

  /** Puts one in the place of another. */
  move(at: number, to: number): void {
    this.triggers[to] = this.triggers[at];
    this.against[to] = this.against[at];
    this.signs[to] = this.signs[at];
    this.from[to] = this.from[at];
    this.to[to] = this.to[at];
  }

  private grow(): void {
    this.triggers = twice(this.triggers);
    this.against = twice(this.against);
    this.signs = twice(this.signs);
    this.from = twice(this.from);
    this.to = twice(this.to);
  }
}

function twice(column: Int32Array): Int32Array {
  const longer = new Int32Array(column.length * 2);
  longer.set(column);
  return longer;
}
