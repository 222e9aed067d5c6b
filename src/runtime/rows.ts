/** Rows of up to five numbers, kept for one tick: adding one allocates nothing once there is room. */
export class Rows {
  static readonly WIDTH = 5;
  protected data = new Float64Array(64 * Rows.WIDTH);
  count = 0;

  add(kind: number, what = 0, a = 0, b = 0, c = 0): void {
    let { data } = this;
    if ((this.count + 1) * Rows.WIDTH > data.length) {
      data = new Float64Array(data.length * 2);
      data.set(this.data);
      this.data = data;
    }
    const at = this.count++ * Rows.WIDTH;
    data[at] = kind;
    data[at + 1] = what;
    data[at + 2] = a;
    data[at + 3] = b;
    data[at + 4] = c;
  }

  at(index: number, column: number): number {
    return this.data[index * Rows.WIDTH + column];
  }

  /** A copy of one row. */
  row(index: number): number[] {
    return [...this.data.subarray(index * Rows.WIDTH, (index + 1) * Rows.WIDTH)];
  }
}
