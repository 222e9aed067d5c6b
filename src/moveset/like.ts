import type { Diagnostic, Path, Sink } from '../report/diagnostic.js';
import { isThere, layOver, leaveOut, placeOfItem } from './lay-over.js';
import { isPlain } from './read.js';
import { LIKE_SHAPES } from './schema.js';

type Plain = Record<string, unknown>;

/** How long a row of parts may be that are each like the next, and how many values all that are like others may have. */
const LONGEST = 16;
const MOST_VALUES = 200_000;

/** A moveset in which nothing is like something else any more, and where what stands in it was written. */
export interface Derived {
  readonly source: Plain;
  /** As it was given; the very same where nothing is like something else. */
  readonly given: Plain;
  writtenAt(path: Path): Path;
}

/** Writes out what is like another ability, stance or pool: all that this one says, and over it what it says itself. */
export function writeOutLikes(source: Plain, sink: Sink): Derived {
  const rooms = Object.keys(LIKE_SHAPES).filter((room) => {
    const parts = source[room];
    return isPlain(parts) && Object.values(parts).some((part) => isPlain(part) && part.like !== undefined);
  });
  if (rooms.length === 0) return { source, given: source, writtenAt: (path) => path };
  const budget = { values: MOST_VALUES };
  const out = { ...source };
  for (const room of rooms) out[room] = new Room(room, source[room] as Plain, sink, budget).writeOut();
  return { source: out, given: source, writtenAt: (path) => writtenAt(source, path) };
}

class Room {
  private readonly done = new Map<string, unknown>();

  constructor(
    private readonly room: string,
    private readonly parts: Plain,
    private readonly sink: Sink,
    private readonly budget: { values: number },
  ) {}

  writeOut(): Plain {
    return Object.fromEntries(Object.keys(this.parts).map((name) => [name, this.part(name, [])]));
  }

  private part(name: string, way: readonly string[]): unknown {
    if (this.done.has(name)) return this.done.get(name);
    const written = this.partOf(name, way);
    this.done.set(name, written);
    return written;
  }

  private partOf(name: string, way: readonly string[]): unknown {
    const { room, parts, sink, budget } = this;
    const own = parts[name];
    // What it is like to is read as a name, with all others.
    if (!isPlain(own) || typeof own.like !== 'string' || !Object.hasOwn(parts, own.like)) return own;
    const path = [room, name, 'like'];
    const whole = [...way, name];
    if (whole.includes(own.like)) {
      sink.add('like-cycle', path, { way: [...whole.slice(whole.indexOf(own.like)), own.like] });
      return own;
    }
    if (whole.length > LONGEST) {
      sink.add('chain-depth', path, { limit: LONGEST, of: 'parts that are like one another' });
      return own;
    }
    const base = this.part(own.like, whole);
    if (!isPlain(base) || base.like !== undefined) return own;
    budget.values -= countValues(base);
    if (budget.values < 0) {
      sink.add('too-much', path, { limit: MOST_VALUES, of: 'values that are like others' });
      return own;
    }
    const { like, without, ...rest } = own;
    const words = { what: 'key', example: 'cost or phases.windup', known: Object.keys(base) };
    const left = leaveOut(base, without, [room, name, 'without'], words, sink);
    return layOver(LIKE_SHAPES[room], left, rest, [room, name], sink);
  }
}

function countValues(value: unknown): number {
  if (typeof value !== 'object' || value === null) return 1;
  return Object.values(value).reduce((sum: number, part) => sum + countValues(part), 1);
}

/** Where something was written: in a part itself, or in what it is like. */
function writtenAt(source: Plain, path: Path): Path {
  const [room, name, ...rest] = path;
  const parts = source[room];
  const own = isPlain(parts) ? parts[name] : undefined;
  if (!isPlain(own) || typeof own.like !== 'string' || rest.length === 0) return path;
  const [key, place, ...inner] = rest;
  // Places among those that are left are no places among all.
  const fewer = [own.without].flat().some((one) => typeof one === 'string' && one.startsWith('phases.'));
  if (key === 'phases' && fewer && !isThere(own, rest)) return [room, name];
  if (key === 'phases' && isPlain(own.phases) && typeof place === 'number') {
    const named = Object.keys(own.phases).find(
      (one) => placeOfItem(phasesOf(source, own.like as string), one) === place,
    );
    const there = named === undefined ? undefined : [room, name, key, named, ...inner];
    if (there && isThere(source, there)) return there;
  } else if (isThere(own, rest)) return path;
  return writtenAt(source, [room, own.like, ...rest]);
}

/** The phases that an ability has, of its own or of what it is like. */
function phasesOf({ abilities }: Plain, name: string): readonly unknown[] {
  let at: string | undefined = name;
  for (let i = 0; i <= LONGEST && at !== undefined && isPlain(abilities); i++) {
    const own: unknown = abilities[at];
    if (!isPlain(own)) return [];
    if (Array.isArray(own.phases)) return own.phases;
    at = typeof own.like === 'string' ? own.like : undefined;
  }
  return [];
}

/** Faults where they were written, each once: of two that are told of one place, the first. */
export function placeFaults(list: readonly Diagnostic[], { source, given, writtenAt }: Derived): readonly Diagnostic[] {
  if (source === given) return list;
  const seen = new Set<string>();
  return list.flatMap((fault) => {
    const placed = { ...fault, path: writtenAt(fault.path) };
    // Lists of what there is may be long, and follow from the place.
    const key = JSON.stringify(placed, (name, value) => (name === 'known' ? undefined : value));
    if (seen.has(key)) return [];
    seen.add(key);
    return placed;
  });
}
