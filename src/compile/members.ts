import type { Names } from '../moveset/read.js';
import type { ParsedAbility, ParsedMoveset } from '../moveset/schema.js';
import { type NameKind, sound } from '../moveset/shape.js';

/** Tables of stances, abilities and loadouts that are listed by their names or by tags of theirs. */
export class Members {
  private readonly masks = new Map<string, Uint8Array>();
  /** Loadouts by the abilities and tags that they list. */
  private readonly byMember = new Map<string, number[]>();
  private readonly byTag = new Map<string, Map<string, number[]>>();

  constructor(
    private readonly parsed: ParsedMoveset,
    private readonly names: Names,
    private readonly indexes: Readonly<Record<NameKind, ReadonlyMap<string, number>>>,
  ) {}

  /** A table by stance or ability of those that are listed by name or by a tag of theirs; one for all equal lists. */
  mask(listed: (string | undefined)[] | undefined, kind: 'stance' | 'ability', own = -1): Uint8Array | null {
    if (!listed) return null;
    // Exceptions alone are exceptions from all.
    const all =
      listed.includes('all') ||
      (listed.length > 0 && listed.every((name) => name !== undefined && exceptOf(name) !== undefined));
    const but = own >= 0 && all ? own : -1;
    const key = `${kind} ${listed.join()} ${but}`;
    const mask = this.masks.get(key) ?? this.makeMask(listed, kind, but);
    this.masks.set(key, mask);
    return mask;
  }

  /** `own` is the ability that says `all`: itself is not meant, unless it is listed besides. */
  private makeMask(listed: (string | undefined)[], kind: 'stance' | 'ability', own: number): Uint8Array {
    const mask = new Uint8Array(this.names[kind].length);
    if (own >= 0) mask.fill(1)[own] = 0;
    for (const name of listed) if (name !== undefined) this.set(mask, name, kind, 1);
    for (const name of listed) {
      const except = name === undefined ? undefined : exceptOf(name);
      if (except !== undefined) this.set(mask, except, kind, 0);
    }
    return mask;
  }

  /** For those of a name or a tag. */
  private set(mask: Uint8Array, name: string, kind: 'stance' | 'ability', to: 0 | 1): void {
    const index = this.indexes[kind].get(name);
    if (index !== undefined) mask[index] = to;
    for (const member of this.membersOf(kind).get(name) ?? []) mask[member] = to;
  }

  /** By tag: the stances or abilities that have it. */
  private membersOf(kind: 'stance' | 'ability'): Map<string, number[]> {
    const known = this.byTag.get(kind);
    if (known) return known;
    const members = new Map<string, number[]>();
    const owners = (kind === 'stance' ? this.parsed.stances : this.parsed.abilities) ?? {};
    this.names[kind].forEach((name, i) => {
      for (const tag of sound(owners[name]?.tags))
        if (members.has(tag)) members.get(tag)?.push(i);
        else members.set(tag, [i]);
    });
    this.byTag.set(kind, members);
    return members;
  }

  /** Where an ability is there: in the loadouts that list it or a tag of it, or everywhere if none does. */
  loadoutsOf(name: string, a: ParsedAbility): Uint8Array | null {
    const { byMember } = this;
    if (byMember.size === 0) {
      this.names.loadout.forEach((loadout, i) => {
        for (const member of sound(this.parsed.loadouts?.[loadout]?.abilities))
          byMember.set(member, [...(byMember.get(member) ?? []), i]);
      });
    }
    const loadouts = [name, ...sound(a.tags)].flatMap((member) => byMember.get(member) ?? []);
    if (loadouts.length === 0) return null;
    const there = new Uint8Array(this.names.loadout.length);
    for (const i of loadouts) there[i] = 1;
    return there;
  }
}

/** What an entry of a list takes out of it: `not(hop)`. */
function exceptOf(entry: string): string | undefined {
  return /^not\((.*)\)$/.exec(entry)?.[1];
}

/** What is in any of several tables. */
export function unite(masks: readonly (Uint8Array | null)[], size: number): Uint8Array {
  const all = new Uint8Array(size);
  for (const mask of new Set(masks))
    mask?.forEach((is, i) => {
      all[i] |= is;
    });
  return all;
}
