/**
 * A question to a world: a box (or, with half sizes of 0, a point) and where it would go.
 * The asker owns it; a world reads it and keeps nothing of it.
 */
export class Cast {
  /** Which of a world's methods it is for: an engine that answers probes through one function reads it. */
  kind: 'ray' | 'sweep' | 'overlap' | 'nearest' = 'ray';
  /** Middle of the box. */
  x = Number.NaN;
  y = Number.NaN;
  z = Number.NaN;
  /** Half sizes, 0 or more. */
  hx = Number.NaN;
  hy = Number.NaN;
  hz = Number.NaN;
  /** The way it would go, whole. */
  dx = Number.NaN;
  dy = Number.NaN;
  dz = Number.NaN;
  /** Only surfaces with one of these tags count; null for all. What does not count hides nothing. */
  surfaces: readonly string[] | null = null;
  /** Surfaces with one of these tags do not count; null for none such. */
  passes: readonly string[] | null = null;
  /** A body that does not count: the asker's own, as the world knows it; null for none. */
  ignore: unknown = null;
}

/** The answer of a world. The asker owns it and clears it before it asks; a world that answers true writes `part` and the normal. */
export class Hit {
  /** How far along the way, 0 to 1. */
  part = Number.NaN;
  /** Unit normal of what was hit. */
  nx = Number.NaN;
  ny = Number.NaN;
  nz = Number.NaN;
  /**
   * Exact height of the level ground that a sweep came down on, so that feet stand on 1 and not a rounding
   * below it. A world that leaves it NaN has the feet stand where `part` puts them.
   */
  height = Number.NaN;
  /** Tags of the surface; the world owns the list. */
  tags: readonly string[] = NO_TAGS;
  /** What was hit, as the world knows it; null for what is no body of its own. */
  body: unknown = null;
  /** Velocity of what was hit, per second. */
  vx = Number.NaN;
  vy = Number.NaN;
  vz = Number.NaN;
  /** How far up what was hit went when it was last moved, whatever its velocity says: who stands on it is then looked for that far below. */
  rose = Number.NaN;
  /** Which of the things that move in this world was hit, as `attach` and `locate` know it, 0 or more; -1 for what never moves. */
  mover = Number.NaN;

  constructor() {
    this.clear();
  }

  /** Forgets what it held, so that a world need not write all of it. */
  clear(): void {
    this.height = Number.NaN;
    this.tags = NO_TAGS;
    this.body = null;
    this.vx = 0;
    this.vy = 0;
    this.vz = 0;
    this.rose = 0;
    this.mover = -1;
  }
}

const NO_TAGS: readonly string[] = [];

/** What happens at the edges of a world. */
export interface Edges {
  /** A wall; or a body that goes out to one side comes in at the other (`wrap`). Default: it goes on. */
  sides?: 'wall' | 'wrap';
  /** A ceiling. Default: it goes on. */
  top?: 'wall';
  /** A floor; or a body that falls out tells so by the event `fell`. Default: it falls on. */
  bottom?: 'wall' | 'fall';
}

/** A named place of a world. */
export interface Place {
  /** Where the feet would stand. */
  readonly x: number;
  /** Upwards. */
  readonly y: number;
  /** Default 0. */
  readonly z?: number;
}

/** Space in which nothing solid stands, by two corners; bounds may be infinite. */
export class Room {
  x0 = Number.NaN;
  y0 = Number.NaN;
  z0 = Number.NaN;
  x1 = Number.NaN;
  y1 = Number.NaN;
  z1 = Number.NaN;
  /** Whether its lower side is ground all over: level, solid or one-way, of the same tags. */
  floor = false;
  /** Tags of that ground; the world owns the list. */
  floorTags: readonly string[] = NO_TAGS;
  /** How high a wall without gaps closes its left and its right side, from its lower side on; NaN for none. */
  wallX0 = Number.NaN;
  wallX1 = Number.NaN;

  /** Forgets its walls, so that a world need not write them. */
  clear(): void {
    this.floorTags = NO_TAGS;
    this.wallX0 = Number.NaN;
    this.wallX1 = Number.NaN;
  }
}

/**
 * What the body moves in and probes. Lengths are in the world's units, y is up.
 *
 * A world must answer the same question in the same way as long as it does not change, and allocate nothing
 * while it answers. Things that touch do not overlap. One-way platforms stop only sweeps that
 * go down and begin above them; rays and overlaps pass them.
 */
export interface World {
  /** It never changes, so that nothing can push the body or take its floor away. Default false. */
  readonly still?: boolean | undefined;
  /** Optional: where it ends, by two corners; numbers may be infinite. Warps stay within it. */
  readonly bounds?: Readonly<Pick<Room, 'x0' | 'y0' | 'z0' | 'x1' | 'y1' | 'z1'>> | undefined;
  /** Optional: what happens to a body there; a world makes its walls itself. */
  readonly edges?: Edges | undefined;
  /** The first surface on the way of a point. */
  ray(cast: Cast, hit: Hit): boolean;
  /** The first surface on the way of a box. A box that begins inside something is not stopped by it. */
  sweep(cast: Cast, hit: Hit): boolean;
  /** Whether a box overlaps something solid. */
  overlap(cast: Cast): boolean;
  /**
   * Optional: the nearest surface to the middle of the cast, within a distance of `hx`: `part` is how far it is of that, the
   * normal leads from it to the middle. False inside of something solid.
   */
  nearest?(cast: Cast, hit: Hit): boolean;
  /** Optional: where a named place is, or undefined. It stays where it is. */
  find?(place: string): Place | undefined;
  /**
   * Optional, for a world that is `still`: writes a room that holds this box, the larger the better, and answers
   * true; false when it knows of none. A body that stays in a room moves there without asking the world.
   */
  roomAround?(cast: Cast, room: Room): boolean;
  /**
   * Optional, both or none, for marks that are set `on` what moves. `attach` turns a point of the room, three numbers, into the same point of a
   * thing that moves (`Hit.mover`), by which `locate` finds it again wherever that thing is then. Both change `point` and answer
   * false, where there is no such thing any more.
   */
  attach?(mover: number, point: Float64Array): boolean;
  /** See `attach`. */
  locate?(mover: number, point: Float64Array): boolean;
}

/** Answers one probe: a World by its `ray`, `sweep` or `overlap`, as `cast.kind` says, or the function that an engine gives. */
export type AnswerProbe = (cast: Cast, hit: Hit) => boolean;
