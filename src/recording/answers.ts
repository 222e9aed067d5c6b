import { Interned } from '../arena/interned.js';
import { UsageError } from '../report/usage-error.js';
import type { AnswerProbe, Cast, Hit, Place, World } from '../world/world.js';

/*
 * What an engine or a host's own world answered in a tick. A run that is made again gets the same answers, without the
 * engine: by what was asked, since within one tick the same question has the same answer.
 */

const KINDS = ['ray', 'sweep', 'overlap', 'nearest', 'attach', 'locate', 'targets'] as const;
type Kind = (typeof KINDS)[number];

/** A question that was not asked when the run was recorded. */
export class Unasked extends UsageError {
  constructor(what: string) {
    super(what, 'missing');
  }
}

/** The answers of one tick, as they are recorded: per question its hash, how many numbers the answer takes, and these. */
export class AnswerLog {
  /** A tick is going on: what is asked between two ticks is asked by the host. */
  open = false;
  data: Float64Array = new Float64Array(256);
  count = 0;
  /** Tags of surfaces that were hit. */
  readonly tags = new Interned<readonly string[]>((tags) => JSON.stringify(tags));

  private room(count: number): void {
    if (this.count + count <= this.data.length) return;
    const larger = new Float64Array((this.count + count) * 2);
    larger.set(this.data);
    this.data = larger;
  }

  noteHit(kind: Kind, cast: Cast, hit: Hit, found: boolean): boolean {
    if (!this.open) return found;
    const whole = found && kind !== 'overlap';
    this.room(15);
    const { data } = this;
    let at = this.count;
    data[at++] = hashOf(kind, cast);
    data[at++] = whole ? 12 : 1;
    data[at++] = found ? 1 : 0;
    if (whole) {
      data[at++] = hit.part;
      data[at++] = hit.nx;
      data[at++] = hit.ny;
      data[at++] = hit.nz;
      data[at++] = hit.height;
      data[at++] = hit.vx;
      data[at++] = hit.vy;
      data[at++] = hit.vz;
      data[at++] = hit.rose;
      data[at++] = hit.mover;
      data[at++] = hit.tags.length === 0 ? -1 : this.tags.index(hit.tags);
    }
    this.count = at;
    return found;
  }

  notePoint(hash: number, point: Float64Array, found: boolean): boolean {
    if (!this.open) return found;
    this.note(hash, [found ? 1 : 0, point[0], point[1], point[2]]);
    return found;
  }

  note(hash: number, numbers: readonly number[]): void {
    if (!this.open) return;
    this.room(2 + numbers.length);
    this.data[this.count++] = hash;
    this.data[this.count++] = numbers.length;
    for (const n of numbers) this.data[this.count++] = n;
  }
}

/** A host's world, whose answers are written down. It tells of no rooms, so that each tick asks for itself. */
export class NotedWorld implements World {
  readonly still: boolean | undefined;
  readonly bounds: World['bounds'];
  readonly edges: World['edges'];
  readonly nearest?: NonNullable<World['nearest']>;
  readonly attach?: NonNullable<World['attach']>;
  readonly locate?: NonNullable<World['locate']>;

  constructor(
    readonly inner: World,
    private readonly log: AnswerLog,
  ) {
    this.still = inner.still;
    this.bounds = inner.bounds;
    this.edges = inner.edges;
    if (inner.nearest)
      this.nearest = (cast, hit) => log.noteHit('nearest', cast, hit, inner.nearest?.(cast, hit) === true);
    if (inner.attach)
      this.attach = (mover, point) => {
        const hash = hashOfPoint('attach', mover, point);
        return log.notePoint(hash, point, inner.attach?.(mover, point) === true);
      };
    if (inner.locate)
      this.locate = (mover, point) => {
        const hash = hashOfPoint('locate', mover, point);
        return log.notePoint(hash, point, inner.locate?.(mover, point) === true);
      };
  }

  ray(cast: Cast, hit: Hit): boolean {
    return this.log.noteHit('ray', cast, hit, this.inner.ray(cast, hit));
  }
  sweep(cast: Cast, hit: Hit): boolean {
    return this.log.noteHit('sweep', cast, hit, this.inner.sweep(cast, hit));
  }
  overlap(cast: Cast): boolean {
    return this.log.noteHit('overlap', cast, NO_HIT, this.inner.overlap(cast));
  }
  find(place: string): Place | undefined {
    return this.inner.find?.(place);
  }
}

/** The same for a function that answers probes. */
export function notedProbes(answer: AnswerProbe, log: AnswerLog): AnswerProbe {
  const noted: AnswerProbe = (cast, hit) => log.noteHit(cast.kind, cast, hit, answer(cast, hit) === true);
  INNER.set(noted, answer);
  return noted;
}

const INNER = new WeakMap<AnswerProbe, AnswerProbe>();

/** The function itself, without what writes its answers down. */
export function unnoted(answer: AnswerProbe | null): AnswerProbe | null {
  return answer && (INNER.get(answer) ?? answer);
}

/** What stays the same of a world that answers from a recording. */
export interface WorldTraits {
  readonly still: boolean;
  readonly bounds?: readonly number[] | undefined;
  readonly edges?: World['edges'] | undefined;
  readonly nearest: boolean;
  readonly attach: boolean;
}

export function traitsOf(world: World): WorldTraits {
  const { bounds } = world;
  return {
    still: world.still === true,
    ...(bounds && { bounds: [bounds.x0, bounds.y0, bounds.z0, bounds.x1, bounds.y1, bounds.z1] }),
    ...(world.edges && { edges: world.edges }),
    nearest: world.nearest !== undefined,
    attach: world.attach !== undefined,
  };
}

/** The answers of one tick, as a run that is made again gets them. */
export class Answers {
  private data: Float64Array = new Float64Array(0);
  private readonly known = new Map<number, number>();

  constructor(private readonly tags: readonly (readonly string[])[]) {}

  /** Takes the answers of a tick: a stretch of numbers. */
  take(data: Float64Array, from: number, to: number): void {
    this.data = data;
    this.known.clear();
    for (let at = from; at < to; at += 2 + data[at + 1]) this.known.set(data[at], at + 2);
  }

  private find(hash: number, what: () => string): number {
    const at = this.known.get(hash);
    if (at === undefined) throw new Unasked(`${what()} was not asked in this tick when it was recorded`);
    return at;
  }

  hit(kind: Kind, cast: Cast, hit: Hit): boolean {
    const { data } = this;
    const at = this.find(hashOf(kind, cast), () => wordCast(kind, cast));
    if (data[at] !== 1) return false;
    if (kind === 'overlap') return true;
    hit.part = data[at + 1];
    hit.nx = data[at + 2];
    hit.ny = data[at + 3];
    hit.nz = data[at + 4];
    hit.height = data[at + 5];
    hit.vx = data[at + 6];
    hit.vy = data[at + 7];
    hit.vz = data[at + 8];
    hit.rose = data[at + 9];
    hit.mover = data[at + 10];
    hit.tags = this.tags[data[at + 11]] ?? NO_TAGS;
    return true;
  }

  point(kind: 'attach' | 'locate', mover: number, point: Float64Array): boolean {
    const { data } = this;
    const at = this.find(hashOfPoint(kind, mover, point), () => `where a point of thing ${mover} is`);
    for (let k = 0; k < 3; k++) point[k] = data[at + 1 + k];
    return data[at] === 1;
  }

  /** The ids of those in a volume of a strike. */
  strike(by: number, own: number, meets: number, { x, y, z }: Readonly<Record<'x' | 'y' | 'z', number>>): number[] {
    const at = this.find(hashOfStrike(by, own, meets, x, y, z), () => 'who is in the volume of a strike');
    return Array.from(this.data.subarray(at, at + this.data[at - 1]));
  }
}

const NO_TAGS: readonly string[] = [];

/** A world that answers what a host's world answered. */
export class AnsweringWorld implements World {
  readonly still: boolean;
  readonly bounds: World['bounds'];
  readonly edges: World['edges'];
  readonly nearest?: NonNullable<World['nearest']>;
  readonly attach?: NonNullable<World['attach']>;
  readonly locate?: NonNullable<World['locate']>;

  constructor(
    private readonly answers: Answers,
    traits: WorldTraits,
    private readonly places: (place: string) => Place | undefined,
  ) {
    this.still = traits.still;
    if (traits.bounds) {
      const [x0, y0, z0, x1, y1, z1] = traits.bounds;
      this.bounds = { x0, y0, z0, x1, y1, z1 };
    }
    this.edges = traits.edges;
    if (traits.nearest) this.nearest = (cast, hit) => answers.hit('nearest', cast, hit);
    if (traits.attach) {
      this.attach = (mover, point) => answers.point('attach', mover, point);
      this.locate = (mover, point) => answers.point('locate', mover, point);
    }
  }

  ray(cast: Cast, hit: Hit): boolean {
    return this.answers.hit('ray', cast, hit);
  }
  sweep(cast: Cast, hit: Hit): boolean {
    return this.answers.hit('sweep', cast, hit);
  }
  overlap(cast: Cast): boolean {
    return this.answers.hit('overlap', cast, NO_HIT);
  }
  find(place: string): Place | undefined {
    return this.places(place);
  }
}

const NO_HIT = {} as Hit;

const BUFFER = new Float64Array(16);
const WORDS = new Uint32Array(BUFFER.buffer);

/** 52 bits of what is asked: two hashes (FNV-1a) of the numbers side by side. */
function hashOfNumbers(count: number, seed: number): number {
  let a = 0x811c9dc5 ^ seed;
  let b = 0x9747b28c ^ seed;
  for (let i = 0; i < count; i++) BUFFER[i] += 0;
  for (let i = 0; i < 2 * count; i++) {
    a = Math.imul(a ^ WORDS[i], 0x01000193);
    b = Math.imul(b ^ WORDS[i] ^ (b >>> 15), 0x5bd1e995);
  }
  return (a >>> 0) * 0x100000 + ((b ^ (b >>> 12)) & 0xfffff);
}

function hashOf(kind: Kind, cast: Cast): number {
  BUFFER[0] = cast.x;
  BUFFER[1] = cast.y;
  BUFFER[2] = cast.z;
  // A ray has no sizes, an overlap goes nowhere; what stands there then is left from the last question.
  const sized = kind !== 'ray';
  BUFFER[3] = sized ? cast.hx : 0;
  BUFFER[4] = sized ? cast.hy : 0;
  BUFFER[5] = sized ? cast.hz : 0;
  const goes = kind !== 'overlap';
  BUFFER[6] = goes ? cast.dx : 0;
  BUFFER[7] = goes ? cast.dy : 0;
  BUFFER[8] = goes ? cast.dz : 0;
  return hashOfNumbers(9, KINDS.indexOf(kind) + 7 * hashOfWords(cast.surfaces) + 31 * hashOfWords(cast.passes));
}

function hashOfPoint(kind: Kind, mover: number, point: Float64Array): number {
  BUFFER[0] = mover;
  for (let k = 0; k < 3; k++) BUFFER[1 + k] = point[k];
  return hashOfNumbers(4, KINDS.indexOf(kind));
}

/** Who strikes with which of its volumes, as a question for whom an engine finds in it. */
export function hashOfStrike(by: number, own: number, meets: number, x: number, y: number, z: number): number {
  BUFFER[0] = by;
  BUFFER[1] = own;
  BUFFER[2] = x;
  BUFFER[3] = y;
  BUFFER[4] = z;
  BUFFER[5] = meets;
  return hashOfNumbers(6, KINDS.indexOf('targets'));
}

function hashOfWords(words: readonly string[] | null): number {
  if (words === null) return 0;
  let hash = 1;
  for (let i = 0; i < words.length; i++)
    for (let k = 0; k < words[i].length; k++) hash = Math.imul(hash ^ words[i].charCodeAt(k), 0x01000193);
  return hash;
}

function wordCast(kind: Kind, { x, y, z, dx, dy, dz }: Cast): string {
  const point = (...list: number[]) => `(${list.map((n) => Math.round(n * 1000) / 1000).join(', ')})`;
  if (kind === 'overlap') return `what overlaps at ${point(x, y, z)}`;
  if (kind === 'nearest') return `what is nearest to ${point(x, y, z)}`;
  return `a ${kind} from ${point(x, y, z)} along ${point(dx, dy, dz)}`;
}
