const WIDTH = 5;

/** Places in a row: what it is about, then up to three numbers; first comes its kind. */
export const WHAT = 1;
export const FIRST = 2;
export const SECOND = 3;
export const THIRD = 4;

/**
 * Rows of up to five numbers, kept for one tick: adding one allocates nothing once there is room. A number with
 * a fraction may be boxed where it is passed: in a tick it is written to `data` at what `add` returns instead,
 * and `data` is taken after `add`, which may have replaced it by a larger one.
 */
export class Rows {
  static readonly WIDTH = WIDTH;
  data: Float64Array = NONE;
  count = 0;

  /** Adds a row and returns where it begins in `data`. */
  add(kind: number, what = 0, a = 0, b = 0, c = 0): number {
    let { data } = this;
    if ((this.count + 1) * WIDTH > data.length) {
      data = new Float64Array(Math.max(4 * WIDTH, data.length * 2));
      data.set(this.data);
      this.data = data;
    }
    const at = this.count++ * WIDTH;
    data[at] = kind;
    data[at + WHAT] = what;
    data[at + FIRST] = a;
    data[at + SECOND] = b;
    data[at + THIRD] = c;
    return at;
  }

  /** A copy of all rows, one behind the other. */
  all(): number[] {
    return Array.from(this.data.subarray(0, this.count * WIDTH));
  }
}

/**
 * What comes in from outside. Keys that come before anything else, which is most of what ever comes, are numbers before the rows: of a
 * button twice its index, and 1 more if it goes down; of a stick that was pushed, -1 less its index.
 */
export class Incoming extends Rows {
  codes: Int32Array = NO_CODES;
  keys = 0;

  get isEmpty(): boolean {
    return this.keys === 0 && this.count === 0;
  }

  key(code: number): void {
    if (this.keys === this.codes.length) {
      const larger = new Int32Array(Math.max(16, this.keys * 2));
      larger.set(this.codes);
      this.codes = larger;
    }
    this.codes[this.keys++] = code;
  }

  clear(): void {
    this.keys = 0;
    this.count = 0;
  }
}

/** Numbers that go with rows, kept for one tick. */
export class Numbers {
  data: Float64Array = NONE;
  count = 0;

  /** Copies some numbers, and returns where they begin in `data`. */
  add(from: Float64Array, at: number, size: number): number {
    const { count } = this;
    if (count + size > this.data.length) {
      const larger = new Float64Array(Math.max(32, (count + size) * 2));
      larger.set(this.data);
      this.data = larger;
    }
    for (let i = 0; i < size; i++) this.data[count + i] = from[at + i];
    this.count += size;
    return count;
  }
}

/** Most characters of a crowd never fill some of their rows. */
const NONE = new Float64Array(0);
const NO_CODES = new Int32Array(0);
