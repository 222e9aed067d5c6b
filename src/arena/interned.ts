/** A list in which each thing stands once, found at once however long it is. */
export class Interned<T> {
  readonly list: T[] = [];
  private readonly known = new Map<unknown, number>();

  /** `keyOf` says when two things are one. */
  constructor(private readonly keyOf: (item: T) => unknown = (item) => item) {}

  /** The place of something, which is added if it is not there. */
  index(item: T): number {
    const key = this.keyOf(item);
    const known = this.known.get(key);
    if (known !== undefined) return known;
    this.known.set(key, this.list.length);
    return this.list.push(item) - 1;
  }

  /** Something takes the place of another thing, whose place is its own from now on. */
  replace(old: T, item: T): void {
    const at = this.known.get(this.keyOf(old));
    if (at === undefined || this.known.has(this.keyOf(item))) return;
    this.list[at] = item;
    this.known.delete(this.keyOf(old));
    this.known.set(this.keyOf(item), at);
  }

  /** Takes over the beginning of another list. */
  adopt(items: readonly T[]): void {
    items.forEach((item, i) => {
      this.list[i] = item;
    });
    this.known.clear();
    this.list.forEach((item, i) => {
      if (!this.known.has(this.keyOf(item))) this.known.set(this.keyOf(item), i);
    });
  }
}
