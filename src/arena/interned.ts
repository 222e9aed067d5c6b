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
