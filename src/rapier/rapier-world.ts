import { wantObject } from '../report/arguments.js';
import { cosine } from '../world/cosine.js';
import type { Cast, Hit, Place, World } from '../world/world.js';

/** A vector of Rapier; z is missing in 2D. */
interface PhysicsVector {
  x: number;
  y: number;
  z?: number;
}

/** What is needed of a Rapier body. */
interface Body {
  linvel(): PhysicsVector;
  isFixed(): boolean;
}

/** What is needed of a Rapier collider. */
export interface RapierCollider {
  readonly handle: number;
  isSensor(): boolean;
  parent(): Body | null;
  translation(): PhysicsVector;
  /** An angle in 2D, a quaternion in 3D. */
  rotation(): unknown;
  readonly shape: object;
}

interface ShapeHit {
  readonly collider: unknown;
  readonly time_of_impact: number;
  readonly normal1: PhysicsVector;
}

interface RayHit {
  readonly collider: unknown;
  readonly timeOfImpact: number;
  readonly normal: PhysicsVector;
}

/** What is needed of a Rapier world, 2D or 3D. */
export interface RapierPhysics {
  castRayAndGetNormal(...question: never[]): object | null;
  castShape(...question: never[]): object | null;
  intersectionWithShape(...question: never[]): object | null;
  projectPoint(...question: never[]): object | null;
  getCollider(handle: number): object | null;
}

/** The same as it is called: the order of its arguments is the same in 2D and 3D. */
interface Calls {
  castRayAndGetNormal(...question: unknown[]): RayHit | null;
  castShape(...question: unknown[]): ShapeHit | null;
  intersectionWithShape(...question: unknown[]): object | null;
  projectPoint(...question: unknown[]): { readonly collider: unknown; readonly point: PhysicsVector } | null;
  getCollider(handle: number): RapierCollider | null;
}

/** What is needed of the module `@dimforge/rapier3d-compat` or `@dimforge/rapier2d-compat`, once its `init` is done. */
export interface RapierModule {
  readonly Ray: new (origin: never, direction: never) => object;
  readonly Cuboid: new (hx: number, hy: number, hz: number) => object;
}

/** What Rapier does not know of its colliders. */
export interface RapierWorldOptions {
  /** Surfaces of a collider; `oneWay` among them makes a box stop only what comes down on it. Default: none. */
  tagsOf?(collider: RapierCollider): readonly string[];
  /** Colliders that are not there: those of the character itself, if it has any. Default: none. */
  ignores?(collider: RapierCollider): boolean;
  /** Where named places are. */
  places?: Readonly<Record<string, readonly [x: number, y: number, z?: number]>> | undefined;
  /** Where the world ends; warps stay within it. */
  bounds?: World['bounds'] | undefined;
  /** No collider is ever added, moved or taken away: a run that is made again with other numbers asks it itself. Default false. */
  still?: boolean | undefined;
  /** How near things may come without touching, in the world's units: what single precision needs. Default 0.001. */
  skin?: number | undefined;
}

const NO_TAGS: readonly string[] = [];

/**
 * A physics world of Rapier, 2D or 3D, as what a character moves in. Sensors are areas: only probes that ask for their tags
 * find them. Rapier answers by its last step: call `physics.step()` once before the first tick, and after colliders were
 * added or moved.
 */
export class RapierWorld implements World {
  private readonly flat: boolean;
  private readonly skin: number;
  private readonly tagsOf: (collider: RapierCollider) => readonly string[];
  private readonly ignores: (collider: RapierCollider) => boolean;
  private readonly places: NonNullable<RapierWorldOptions['places']>;
  readonly bounds?: World['bounds'];
  readonly still: boolean;
  /** The question that is asked now, for the filter. */
  private cast: Cast | null = null;
  /** What stands behind each question: flags, groups, a collider and a body to leave out, and what counts. */
  private readonly filter = [
    undefined,
    undefined,
    undefined,
    undefined,
    (collider: RapierCollider): boolean => this.counts(collider),
  ];
  private readonly physics: Calls;

  /**
   * Of a world of Rapier, and the module that it was made with, in 2D or 3D.
   * @param rapier The module, once its `init` is done.
   * @param physics A world of it.
   * @throws {UsageError} for what is no module of Rapier.
   */
  constructor(
    private readonly rapier: RapierModule,
    physics: RapierPhysics,
    {
      tagsOf = () => NO_TAGS,
      ignores = () => false,
      places = {},
      bounds,
      still = false,
      skin = 1e-3,
    }: RapierWorldOptions = {},
  ) {
    wantObject('RapierWorld', 'the first argument', rapier, 'the module of Rapier');
    this.physics = physics as unknown as Calls;
    this.flat = !('Quaternion' in rapier);
    this.tagsOf = tagsOf;
    this.ignores = ignores;
    this.places = places;
    this.bounds = bounds;
    this.still = still;
    this.skin = skin;
  }

  /** The same for a body that the engine moves: the `probes` of a character without a world. */
  readonly answer = (cast: Cast, hit: Hit): boolean => {
    if (cast.kind === 'overlap') return this.overlap(cast);
    if (cast.kind === 'nearest') return this.nearest(cast, hit);
    return cast.kind === 'ray' ? this.ray(cast, hit) : this.sweep(cast, hit);
  };

  find(place: string): Place | undefined {
    const found = Object.hasOwn(this.places, place) ? this.places[place] : undefined;
    return found && { x: found[0], y: found[1], z: found[2] ?? 0 };
  }

  ray(cast: Cast, hit: Hit): boolean {
    this.cast = cast;
    const ray = new this.rapier.Ray(
      this.vector(cast.x, cast.y, cast.z) as never,
      this.vector(cast.dx, cast.dy, cast.dz) as never,
    );
    const found = this.physics.castRayAndGetNormal(ray, 1, false, ...this.filter);
    this.cast = null;
    return found !== null && this.write(found.collider as RapierCollider, found.timeOfImpact, found.normal, cast, hit);
  }

  /** The box is made thinner by the skin and stops as far before: what it touches lies outside of it. */
  sweep(cast: Cast, hit: Hit): boolean {
    const length = Math.sqrt(cast.dx * cast.dx + cast.dy * cast.dy + cast.dz * cast.dz);
    if (length === 0) return false;
    this.cast = cast;
    const found = this.physics.castShape(
      this.vector(cast.x, cast.y, cast.z),
      this.rotation(),
      this.vector(cast.dx, cast.dy, cast.dz),
      this.box(cast),
      0,
      1 + (4 * this.skin) / length,
      false,
      ...this.filter,
    );
    this.cast = null;
    if (found === null) return false;
    const { x, y, z = 0 } = found.normal1;
    const closing = -(x * cast.dx + y * cast.dy + z * cast.dz);
    // What it moves along, or away from, does not stop it.
    if (closing <= 1e-6 * length) return false;
    const part = found.time_of_impact - this.skin / closing;
    return part <= 1 && this.write(found.collider as RapierCollider, Math.max(0, part), found.normal1, cast, hit);
  }

  overlap(cast: Cast): boolean {
    this.cast = cast;
    const found = this.physics.intersectionWithShape(
      this.vector(cast.x, cast.y, cast.z),
      this.rotation(),
      this.box(cast),
      ...this.filter,
    );
    this.cast = null;
    return found !== null;
  }

  nearest(cast: Cast, hit: Hit): boolean {
    this.cast = cast;
    const found = this.physics.projectPoint(this.vector(cast.x, cast.y, cast.z), true, ...this.filter);
    this.cast = null;
    if (found === null) return false;
    const { x, y, z = cast.z } = found.point;
    const normal = { x: cast.x - x, y: cast.y - y, z: cast.z - z };
    const apart = Math.sqrt(normal.x * normal.x + normal.y * normal.y + normal.z * normal.z);
    if (apart > cast.hx || apart < 1e-6) return false;
    return this.write(found.collider as RapierCollider, apart / cast.hx, normal, cast, hit);
  }

  attach(mover: number, point: Float64Array): boolean {
    const collider = this.physics.getCollider(mover);
    if (!collider) return false;
    const { x, y, z = 0 } = collider.translation();
    point[0] -= x;
    point[1] -= y;
    point[2] -= z;
    turn(point, collider.rotation(), -1);
    return true;
  }

  locate(mover: number, point: Float64Array): boolean {
    const collider = this.physics.getCollider(mover);
    if (!collider) return false;
    turn(point, collider.rotation(), 1);
    const { x, y, z = 0 } = collider.translation();
    point[0] += x;
    point[1] += y;
    point[2] += z;
    return true;
  }

  private counts(collider: RapierCollider): boolean {
    const { surfaces, passes, ignore, dy, y, hy, kind } = this.cast as Cast;
    if (ignore === collider || this.ignores(collider)) return false;
    const tags = this.tagsOf(collider);
    if (passes?.some((surface) => tags.includes(surface))) return false;
    if (surfaces !== null) return surfaces.some((surface) => tags.includes(surface));
    if (collider.isSensor()) return false;
    if (!tags.includes('oneWay')) return true;
    const { halfExtents } = collider.shape as { halfExtents?: PhysicsVector };
    const top = collider.translation().y + (halfExtents?.y ?? 0);
    return kind === 'sweep' && dy < 0 && y - hy >= top - 2 * this.skin;
  }

  private write(collider: RapierCollider, part: number, normal: PhysicsVector, cast: Cast, hit: Hit): boolean {
    const { x, y, z = 0 } = normal;
    const length = Math.sqrt(x * x + y * y + z * z);
    if (!(length > 0) || part > 1) return false;
    hit.clear();
    hit.part = part;
    // Single precision leaves a floor not quite level; whoever stands on it would creep.
    const level = Math.abs(y) > 1 - 1e-5 * length;
    hit.nx = level ? 0 : x / length;
    hit.ny = level ? Math.sign(y) : y / length;
    hit.nz = level ? 0 : z / length;
    hit.tags = this.tagsOf(collider);
    hit.body = collider;
    const body = collider.parent();
    if (body && !body.isFixed()) hit.mover = collider.handle;
    const velocity = body?.linvel();
    if (velocity && cast.kind !== 'overlap') {
      hit.vx = velocity.x;
      hit.vy = velocity.y;
      hit.vz = velocity.z ?? 0;
    }
    return true;
  }

  private box({ hx, hy, hz }: Cast): object {
    const thin = (half: number) => Math.max(half - this.skin, this.skin / 2);
    return new this.rapier.Cuboid(thin(hx), thin(hy), thin(hz));
  }

  private vector(x: number, y: number, z: number): PhysicsVector {
    return this.flat ? { x, y } : { x, y, z };
  }

  private rotation(): unknown {
    return this.flat ? 0 : { x: 0, y: 0, z: 0, w: 1 };
  }
}

/** Turns a point as a collider is turned, by an angle or a quaternion, or back. */
function turn(point: Float64Array, rotation: unknown, sign: 1 | -1): void {
  const [x, y, z] = point;
  if (typeof rotation === 'number') {
    const degrees = (Math.abs(rotation) / Math.PI) * 180;
    const c = cosine(degrees);
    const s = sign * Math.sign(rotation) * cosine(Math.abs(90 - degrees));
    point[0] = x * c - y * s;
    point[1] = x * s + y * c;
    return;
  }
  const { x: i, y: j, z: k, w } = rotation as { x: number; y: number; z: number; w: number };
  const [a, b, c] = [i * sign, j * sign, k * sign];
  const tx = 2 * (b * z - c * y);
  const ty = 2 * (c * x - a * z);
  const tz = 2 * (a * y - b * x);
  point[0] = x + w * tx + b * tz - c * ty;
  point[1] = y + w * ty + c * tx - a * tz;
  point[2] = z + w * tz + a * ty - b * tx;
}
