import { UsageError } from '../report/usage-error.js';

/** How many ticks stand in one page: the first whole, of the others what changed. */
export const PAGE = 64;

/** A run of ticks whose numbers are as many. */
export class Page {
  /** Tick of its first frame. */
  first = 0;
  count = 0;
  size = 0;
  /** The first frame, whole. */
  key: Float64Array = NONE;
  /** Places whose numbers go up by one in each tick, unless told otherwise. */
  readonly clocks: number[] = [];
  /** What changed since the frame before: places and their numbers, and by frame where these end. */
  slots: Slots = NO_SLOTS;
  values: Float64Array = NONE;
  readonly ends: Uint32Array = new Uint32Array(PAGE);
  /** What came in and what happened, and by frame where that ends. */
  told: Float64Array = NONE;
  readonly toldEnds: Uint32Array = new Uint32Array(PAGE);

  get last(): number {
    return this.first + this.count - 1;
  }

  get bytes(): number {
    const { key, slots, values, told } = this;
    return key.byteLength + slots.byteLength + values.byteLength + told.byteLength + 8 * PAGE;
  }

  /** Where what changed in a frame ends, and what was told. */
  changedBy(index: number): number {
    return index < 0 ? 0 : this.ends[index];
  }
  toldBy(index: number): number {
    return index < 0 ? 0 : this.toldEnds[index];
  }

  /** 1 at places that are clocks. */
  clockMarks(): Uint8Array {
    if (this.marks.length !== this.size) {
      this.marks = new Uint8Array(this.size);
      for (const clock of this.clocks) this.marks[clock] = 1;
    }
    return this.marks;
  }
  private marks = NO_MARKS;

  begin(first: number, size: number): void {
    this.first = first;
    this.size = size;
    this.count = 0;
    this.clocks.length = 0;
    this.marks = NO_MARKS;
    if (this.key.length < size) this.key = new Float64Array(size);
  }
}

type Slots = Uint16Array | Uint32Array;

const NONE = new Float64Array(0);
const NO_MARKS = new Uint8Array(0);
const NO_SLOTS: Slots = new Uint16Array(0);

/** Lists of a page are so many numbers long, or several times that, so that another page can take them over. */
const STEP = 128;

/** Lists that no page has any more, by their lengths. */
class Lists<A extends Float64Array | Slots> {
  private readonly free = new Map<number, A[]>();

  constructor(private readonly make: (length: number) => A) {}

  /** One that holds the first numbers of another list. */
  copy(from: A, count: number): A {
    const length = Math.ceil(count / STEP) * STEP;
    const list = this.free.get(length)?.pop() ?? this.make(length);
    for (let i = 0; i < count; i++) list[i] = from[i];
    return list;
  }

  give(list: A): void {
    const free = this.free.get(list.length);
    if (free === undefined) this.free.set(list.length, [list]);
    else free.push(list);
  }
}

/** The numbers of one tick after the other, packed: what did not change takes no room. */
export class Frames {
  private pages: Page[] = [];
  private spare: Page[] = [];
  private page: Page | null = null;
  /** The last frame. */
  private state: Float64Array = NONE;
  private at = 0;
  private whole = false;
  /** Of the page that is being written: they hold what is yet to come. */
  private slots: Slots = new Uint16Array(0);
  private values: Float64Array = NONE;
  private told: Float64Array = NONE;
  private used = 0;
  private toldUsed = 0;
  private readonly numbers = new Lists<Float64Array>((length) => new Float64Array(length));
  private readonly short = new Lists<Slots>((length) => new Uint16Array(length));
  private readonly long = new Lists<Slots>((length) => new Uint32Array(length));
  private held = 0;
  /** Where reading is. */
  private shown: Page | null = null;
  private shownIndex = -1;
  private shownFrame: Float64Array = NONE;

  /**
   *
   * @param most How many ticks are kept at least.
   * @param mostBytes How many bytes are kept at most, but for the last page.
   */
  constructor(
    private most: number,
    private mostBytes: number,
  ) {}

  /** From now on, keeps no more than that. */
  limit(most: number, mostBytes: number): void {
    this.most = most;
    this.mostBytes = mostBytes;
  }

  get first(): number {
    return this.pages.length > 0 ? this.pages[0].first : 0;
  }
  get last(): number {
    return this.pages.length > 0 ? this.pages[this.pages.length - 1].last : -1;
  }
  get isEmpty(): boolean {
    return this.pages.length === 0;
  }
  get bytes(): number {
    return this.held;
  }
  get all(): readonly Page[] {
    return this.pages;
  }

  /** Begins the frame of a tick, of so many numbers. */
  begin(tick: number, size: number): void {
    const { page } = this;
    this.at = 0;
    this.shown = null;
    if (page !== null && page.size === size && page.count < PAGE && tick === page.last + 1) {
      const { state } = this;
      const { clocks } = page;
      for (let i = 0; i < clocks.length; i++) state[clocks[i]] += 1;
      this.reserve(this.used + size);
      this.whole = false;
    } else {
      this.turn(tick, size);
      this.whole = true;
    }
  }

  /** Goes on to the next page; the oldest go. */
  private turn(tick: number, size: number): void {
    const { pages, spare } = this;
    const before = this.page;
    if (before !== null) {
      this.close(before);
      this.held += before.bytes;
    }
    while (pages.length > 1 && (pages[1].first <= tick - this.most || this.held > this.mostBytes)) {
      const gone = pages.shift() as Page;
      this.held -= gone.bytes;
      this.numbers.give(gone.values);
      this.numbers.give(gone.told);
      this.slotsOf(gone.size).give(gone.slots);
      if (spare.length < 2) spare.push(gone);
    }
    const page = spare.pop() ?? new Page();
    page.begin(tick, size);
    pages.push(page);
    this.used = this.toldUsed = 0;
    if (this.state.length < size) this.state = new Float64Array(size);
    this.open(page);
  }

  /** A page is written into lists that have room for what is yet to come. */
  private open(page: Page): void {
    this.page = page;
    if (page.size > 0xffff !== this.slots instanceof Uint32Array) {
      this.slots = page.size > 0xffff ? new Uint32Array(0) : new Uint16Array(0);
      this.values = NONE;
    }
    this.reserve(this.used + page.size);
    page.slots = this.slots;
    page.values = this.values;
    page.told = this.told;
  }

  /** A page that is full takes no more room than it needs. */
  private close(page: Page): void {
    page.values = this.numbers.copy(page.values, this.used);
    page.told = this.numbers.copy(page.told, this.toldUsed);
    page.slots = this.slotsOf(page.size).copy(page.slots, this.used);
  }

  private slotsOf(size: number): Lists<Slots> {
    return size > 0xffff ? this.long : this.short;
  }

  /** Room for so many changes. */
  private reserve(changes: number): void {
    if (changes <= this.values.length) return;
    const length = Math.max(1024, changes * 2);
    const slots = this.slots instanceof Uint32Array ? new Uint32Array(length) : new Uint16Array(length);
    const values = new Float64Array(length);
    slots.set(this.slots);
    values.set(this.values);
    this.slots = slots;
    this.values = values;
    const page = this.page as Page;
    page.slots = slots;
    page.values = values;
  }

  /** The next place goes up by one in each tick, and so do others that are so far behind it. */
  clock(behind = 0): void {
    if (this.whole) (this.page as Page).clocks.push(this.at + behind);
  }

  /** The next number of the frame. */
  put(value: number): void {
    const { state, at } = this;
    this.at = at + 1;
    if (this.whole) (this.page as Page).key[at] = state[at] = value;
    else if (state[at] !== value) {
      state[at] = value;
      this.slots[this.used] = at;
      this.values[this.used++] = value;
    }
  }

  /** The next numbers of the frame. */
  range(from: Float64Array, start: number, end: number): void {
    const { state, at } = this;
    const count = end - start;
    this.at = at + count;
    if (this.whole) {
      const { key } = this.page as Page;
      for (let i = 0; i < count; i++) key[at + i] = state[at + i] = from[start + i];
      return;
    }
    const back = at - start;
    const whole = end - (count & 7);
    // Most numbers stay as they are: eight are looked at together, which takes half the time.
    for (let i = start; i < whole; i += 8) {
      const k = back + i;
      const same =
        from[i] === state[k] &&
        from[i + 1] === state[k + 1] &&
        from[i + 2] === state[k + 2] &&
        from[i + 3] === state[k + 3] &&
        from[i + 4] === state[k + 4] &&
        from[i + 5] === state[k + 5] &&
        from[i + 6] === state[k + 6] &&
        from[i + 7] === state[k + 7];
      if (!same) this.changes(from, i, i + 8, back);
    }
    this.changes(from, whole, end, back);
  }

  private changes(from: Float64Array, start: number, end: number, back: number): void {
    const { state, slots, values } = this;
    let { used } = this;
    for (let i = start; i < end; i++) {
      const value = from[i];
      if (value === state[back + i]) continue;
      state[back + i] = value;
      slots[used] = back + i;
      values[used++] = value;
    }
    this.used = used;
  }

  /** Numbers that are told of this tick: they are no part of its frame. */
  tell(from: Float64Array, start: number, end: number): void {
    if (this.toldUsed + end - start > this.told.length) {
      const larger = new Float64Array(Math.max(256, (this.toldUsed + end - start) * 2));
      larger.set(this.told);
      this.told = larger;
      (this.page as Page).told = larger;
    }
    const { told } = this;
    for (let i = start; i < end; i++) told[this.toldUsed++] = from[i];
  }

  end(): void {
    const page = this.page as Page;
    page.ends[page.count] = this.used;
    page.toldEnds[page.count] = this.toldUsed;
    page.count++;
  }

  /** The page of a tick, which must be there. */
  pageOf(tick: number): Page {
    const { pages } = this;
    let low = 0;
    let high = pages.length - 1;
    while (low < high) {
      const middle = (low + high + 1) >> 1;
      if (pages[middle].first <= tick) low = middle;
      else high = middle - 1;
    }
    const page = pages[low];
    if (!page || !(tick >= page.first && tick <= page.last))
      throw new UsageError(
        this.isEmpty
          ? 'Recording: nothing was recorded yet; tick first.'
          : `Recording: it holds the ticks ${this.first} to ${this.last}, not ${String(tick)}.`,
        'out-of-range',
      );
    return page;
  }

  /** The frame of a tick. A view: the next call changes it. */
  read(tick: number): Float64Array {
    const page = this.pageOf(tick);
    const index = tick - page.first;
    if (this.shownFrame.length < page.size) this.shownFrame = new Float64Array(page.size);
    const frame = this.shownFrame;
    let from = this.shownIndex;
    if (this.shown !== page || from > index) {
      for (let i = 0; i < page.size; i++) frame[i] = page.key[i];
      from = 0;
    }
    const { clocks, slots, values, ends } = page;
    const isClock = page.clockMarks();
    for (let i = 0; i < clocks.length; i++) frame[clocks[i]] += index - from;
    // Clocks that stood still are put right by what changed; from the frame before, that counts on from there.
    for (let k = from + 1; k <= index; k++) {
      const left = index - k;
      for (let i = ends[k - 1]; i < ends[k]; i++) {
        const slot = slots[i];
        frame[slot] = isClock[slot] === 1 ? values[i] + left : values[i];
      }
    }
    this.shown = page;
    this.shownIndex = index;
    return frame;
  }

  /** Forgets all that came after a tick. */
  cut(tick: number): void {
    const page = this.pageOf(tick);
    const frame = this.read(tick);
    const { pages } = this;
    while (pages[pages.length - 1] !== page) pages.pop();
    page.count = tick - page.first + 1;
    this.state = frame.slice();
    this.reopen(page);
    this.held = 0;
    for (const one of pages) if (one !== page) this.held += one.bytes;
    this.shown = null;
  }

  /** A page that was written before is written on. */
  private reopen(page: Page): void {
    const { slots, values, told } = page;
    this.used = page.ends[page.count - 1];
    this.toldUsed = page.toldEnds[page.count - 1];
    this.slots = slots.slice();
    this.values = values.slice();
    this.told = told.slice();
    this.open(page);
  }

  clear(): void {
    this.pages = [];
    this.page = null;
    this.held = 0;
    this.shown = null;
  }

  /** Takes pages that were read from a file. */
  adopt(pages: Page[]): void {
    this.clear();
    this.pages = pages;
    this.page = pages.at(-1) ?? null;
    for (const page of pages) if (page !== this.page) this.held += page.bytes;
    if (this.page !== null) this.cut(this.page.last);
  }
}
