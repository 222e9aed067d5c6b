/** Names of which each is given once. */
export class TakenNames {
  private readonly taken: Set<string>;

  /** `between` stands before the number of a name that is like another one. */
  constructor(
    taken: Iterable<string> = [],
    private readonly between = '',
  ) {
    this.taken = new Set(taken);
  }

  /** The wanted name, or one like it that nothing has. */
  claim(wanted: string): string {
    let name = wanted;
    for (let n = 2; this.taken.has(name); n++) name = `${wanted}${this.between}${n}`;
    this.taken.add(name);
    return name;
  }
}
