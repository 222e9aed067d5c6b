import type { ScopePlan } from '../compile/plan.js';
import { THE_TARGET } from '../moveset/directions/point.js';
import { askRay } from '../probes/ask-world.js';
import {
  ALL_KINDS,
  BLOW,
  C_IMMUNE,
  OTHER_KIND,
  S_COUNT,
  S_END,
  S_ENDS,
  S_SPENT,
  S_TARGETS,
  type Striking,
  TARGET_SIZE,
  W_AT,
  W_DAMAGE,
  W_FROM,
  W_KIND,
  W_PUSH,
  W_STUN,
  W_VOLUME,
} from '../record/combat.js';
import { L_ABILITY, L_PHASE, LANE, RUNNING, SHAPE, T, X, Y, Z } from '../record/slots.js';
import { wholeTicks } from '../record/whole-ticks.js';
import type { Cast, Hit, World } from '../world/world.js';
import type { Fighter, Hurts } from './fighter.js';
import { areNear, bound, enter, overlap, placeBefore, placeVolume, stepsOf, Volume } from './volume.js';

const STRUCK_NOBODY = null as unknown as Fighter;

/** A strike that lasts in this tick, with its volumes where they are now. */
export class ActiveStrike {
  by: Fighter = null as unknown as Fighter;
  plan: Striking = null as unknown as Striking;
  own = 0;
  /** The volume that meets somebody now, from 1 on. */
  meets = 0;
  readonly volumes: Volume[] = [];
  /** Another one that it has met in this tick and is lost to; null for none. */
  lostTo: ActiveStrike | null = null;
}

/** Somebody whom a volume may meet, and how far from the striker they are. */
class Candidate {
  to: Fighter = STRUCK_NOBODY;
  distance = Number.NaN;
  factor = Number.NaN;
}

/** A strike that has met somebody: what it says about it, before who is struck says what becomes of it. */
export class Blow {
  by: Fighter = null as unknown as Fighter;
  to: Fighter = null as unknown as Fighter;
  plan: Striking = null as unknown as Striking;
  stop = 0;
  /** As messages carry them; its kind is that of the striker, and `by` is left out. */
  readonly values: Float64Array = new Float64Array(BLOW);
  /** Further values, in their order. */
  readonly more: number[] = [];
}

/** A list whose entries are used again. */
class Pool<T> {
  readonly all: T[] = [];
  count = 0;

  constructor(private readonly make: () => T) {}

  next(): T {
    if (this.count === this.all.length) this.all.push(this.make());
    return this.all[this.count++];
  }
}

/** Whom a host's own engine finds in a volume; null for those that are tested here. */
export type FindTargets = (strike: ActiveStrike, volume: Volume, found: (target: Fighter) => void) => void;

/** Finds who is struck in a tick, all before any of it is applied: so that simultaneous hits trade. */
export class Gathering {
  readonly strikes = new Pool(() => new ActiveStrike());
  readonly blows = new Pool(() => new Blow());
  /** Strikes that met another one and are lost: what the other one says about it. */
  readonly clashes = new Pool(() => new Blow());
  private readonly candidates = new Pool(() => new Candidate());
  private readonly cast: Cast;
  private readonly hit: Hit;

  constructor(
    public world: World | null,
    mover: { cast: Cast; hit: Hit },
    public find: FindTargets | null,
  ) {
    this.cast = mover.cast;
    this.hit = mover.hit;
  }

  /** Everything of this tick; fighters in their order. */
  gather(fighters: readonly Fighter[]): void {
    this.strikes.count = 0;
    this.blows.count = 0;
    this.clashes.count = 0;
    for (let i = 0; i < fighters.length; i++) {
      fighters[i].hurts.forget();
      if (fighters[i].awake) this.collect(fighters[i]);
    }
    if (this.strikes.count === 0) return;
    for (let i = 0; i < this.strikes.count; i++) this.clash(this.strikes.all[i]);
    for (let i = 0; i < this.strikes.count; i++) this.lose(this.strikes.all[i]);
    for (let i = 0; i < this.strikes.count; i++) {
      const strike = this.strikes.all[i];
      if (strike.by.c.r[strike.own + S_SPENT] === 0) this.meet(strike, fighters);
    }
  }

  private collect(by: Fighter): void {
    const { r, plan } = by.c;
    if (!plan.strikes || r[RUNNING] === 0) return;
    for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
      if (r[lane + L_ABILITY] < 0) continue;
      this.add(by, plan.abilities[r[lane + L_ABILITY]].scope);
      if (r[lane + L_PHASE] >= 0) this.add(by, plan.phases[r[lane + L_PHASE]].scope);
    }
  }

  private add(by: Fighter, { strikes }: ScopePlan): void {
    for (let i = 0; i < strikes.length; i++) this.addOne(by, strikes[i]);
  }

  private addOne(by: Fighter, strike: ScopePlan['strikes'][number]): void {
    const { c } = by;
    const active = this.strikes.next();
    active.by = by;
    active.plan = strike.plan;
    active.own = strike.own;
    active.lostTo = null;
    const { volumes } = strike.plan;
    while (active.volumes.length < volumes.length) active.volumes.push(new Volume());
    for (let i = 0; i < volumes.length; i++) {
      const volume = active.volumes[i];
      placeVolume(volume, volumes[i], c.r);
      if (volumes[i].kind === 'ray') this.aim(c, active, i);
    }
  }

  /** A ray ends at the first solid on its way; one that has no direction is nowhere. */
  private aim(c: Fighter['c'], { plan, own, volumes }: ActiveStrike, i: number): void {
    const { aim, reach } = plan.volumes[i];
    const volume = volumes[i];
    const { r } = c;
    let there = true;
    if (aim !== null && reach !== null) {
      there = aim(c, OUT);
      reach.run?.(c);
      const far = there && r[reach.at] > 0 ? r[reach.at] : 0;
      volume.bx = volume.x + OUT[0] * far;
      volume.by = volume.y + OUT[1] * far;
      volume.bz = volume.z + OUT[2] * far;
    }
    if (!there) {
      volume.bx = volume.x;
      volume.by = volume.y;
      volume.bz = volume.z;
      volume.factor = Number.NaN;
    } else this.stopAtSolid(volume);
    noteEnd(r, own, volume);
    r[own + S_ENDS] = there ? 1 : 0;
  }

  private stopAtSolid(volume: Volume): void {
    const { world, cast, hit } = this;
    if (world === null) return;
    cast.x = volume.x;
    cast.y = volume.y;
    cast.z = volume.z;
    cast.hx = cast.hy = cast.hz = 0;
    cast.dx = volume.bx - volume.x;
    cast.dy = volume.by - volume.y;
    cast.dz = volume.bz - volume.z;
    cast.passes = null;
    if (cast.dx * cast.dx + cast.dy * cast.dy + cast.dz * cast.dz === 0 || !askRay(world, cast, hit)) return;
    volume.bx = volume.x + cast.dx * hit.part;
    volume.by = volume.y + cast.dy * hit.part;
    volume.bz = volume.z + cast.dz * hit.part;
  }

  /** Strikes that meet each other before they meet anybody: the lower one is lost, of equal ones both. All of a tick at once. */
  private clash(a: ActiveStrike): void {
    if (a.plan.clash < 0 || a.by.c.r[a.own + S_SPENT] === 1) return;
    for (let k = 0; k < this.strikes.count; k++) {
      const b = this.strikes.all[k];
      if (b.plan.clash < a.plan.clash || !areFoes(a.by, b.by) || b.by.c.r[b.own + S_SPENT] === 1) continue;
      if (!anyOverlap(a, b)) continue;
      a.lostTo = b;
      return;
    }
  }

  private lose(strike: ActiveStrike): void {
    const { by, lostTo } = strike;
    if (lostTo === null) return;
    by.c.r[strike.own + S_SPENT] = 1;
    const clash = this.clashes.next();
    clash.by = lostTo.by;
    clash.to = by;
    clash.plan = lostTo.plan;
    clash.values.fill(0);
    writeMiddle(OUT, lostTo.by);
    for (let i = 0; i < 3; i++) clash.values[W_FROM + i] = OUT[i];
    writePlace(clash.values, strike.volumes[0], lostTo.volumes[0]);
    writeFurther(clash);
  }

  private meet(strike: ActiveStrike, fighters: readonly Fighter[]): void {
    const { plan, volumes } = strike;
    for (let i = 0; i < plan.volumes.length; i++) {
      const volume = volumes[i];
      strike.meets = i + 1;
      if (Number.isNaN(volume.factor)) continue;
      if (this.find !== null)
        this.find(strike, volume, (target) => {
          if (canStrike(strike, target)) this.tryMeet(strike, volume, target, 1);
        });
      else if (plan.volumes[i].kind === 'ray') this.meetAlong(strike, volume, fighters);
      else this.meetIn(strike, volume, fighters);
    }
  }

  /** A volume that stands in the room meets who is nearest first. */
  private meetIn(strike: ActiveStrike, volume: Volume, fighters: readonly Fighter[]): void {
    this.candidates.count = 0;
    writeMiddle(MIDDLE, strike.by);
    for (let k = 0; k < fighters.length; k++) {
      const target = fighters[k];
      if (!canStrike(strike, target)) continue;
      const factor = this.overlapped(volume, strike.by, target);
      if (factor < 0) continue;
      writeMiddle(OTHER, target);
      // Written where it is worked out, since a number that is passed on may be boxed.
      const x = MIDDLE[0] - OTHER[0];
      const y = MIDDLE[1] - OTHER[1];
      const z = MIDDLE[2] - OTHER[2];
      this.addCandidate(target, factor).distance = x * x + y * y + z * z;
    }
    for (let n = this.candidates.count; n > 0; n--) {
      const { to, factor } = this.nearest();
      if (canStrike(strike, to)) this.tryMeet(strike, volume, to, factor);
    }
  }

  /** A ray goes through as many as it may meet, met before or not, and ends at the last of them. */
  private meetAlong(strike: ActiveStrike, ray: Volume, fighters: readonly Fighter[]): void {
    this.candidates.count = 0;
    for (let k = 0; k < fighters.length; k++) {
      const target = fighters[k];
      if (!isFor(strike, target) || isLetThrough(strike, target)) continue;
      if (!canStrike(strike, target) && findTarget(strike, target) < 0) continue;
      const { hurts } = target;
      hurts.place(target.c);
      let nearest = 2;
      let factor = 1;
      for (let i = 0; i < hurts.count; i++) {
        const part = enter(ray, hurts.volumes[i]);
        if (part >= nearest) continue;
        nearest = part;
        factor = hurts.volumes[i].factor;
      }
      if (nearest < 2) this.addCandidate(target, factor).distance = nearest;
    }
    const { most } = strike.plan;
    const count = Math.min(this.candidates.count, most);
    for (let n = 1; n <= count; n++) {
      const { to, distance, factor } = this.nearest();
      if (n === most) this.endAt(strike, ray, distance);
      if (canStrike(strike, to)) this.tryMeet(strike, ray, to, factor);
    }
  }

  private addCandidate(to: Fighter, factor: number): Candidate {
    const candidate = this.candidates.next();
    candidate.to = to;
    candidate.factor = factor;
    return candidate;
  }

  /** The nearest of those that are left, the first of the arena where several are as near; it is taken out. */
  private nearest(): Candidate {
    const { all, count } = this.candidates;
    let first = -1;
    for (let i = 0; i < count; i++)
      if (all[i].distance >= 0 && (first < 0 || all[i].distance < all[first].distance)) first = i;
    const { distance } = all[first];
    TAKEN.to = all[first].to;
    TAKEN.factor = all[first].factor;
    TAKEN.distance = distance;
    all[first].distance = -1;
    return TAKEN;
  }

  private endAt({ by, own }: ActiveStrike, ray: Volume, part: number): void {
    ray.bx = ray.x + (ray.bx - ray.x) * part;
    ray.by = ray.y + (ray.by - ray.y) * part;
    ray.bz = ray.z + (ray.bz - ray.z) * part;
    noteEnd(by.c.r, own, ray);
  }

  /** The factor of the first hurt volume that a volume overlaps, where it is or on its way in this tick; -1 for none. */
  private overlapped(volume: Volume, by: Fighter, target: Fighter): number {
    const { c, hurts } = target;
    hurts.place(c);
    if (hurts.count === 0) return -1;
    const here = overlappedAt(volume, hurts);
    if (here >= 0) return here;
    // A fast blade, or who runs through one, must not be past it between two ticks.
    for (let k = 0; k < 3; k++) WAY[k] = by.way[k] - target.way[k];
    const steps = stepsOf(volume, hurts.around, WAY);
    for (let k = steps - 1; k > 0; k--) {
      placeBefore(BEFORE, volume, WAY, k / steps);
      const factor = overlappedAt(BEFORE, hurts);
      if (factor >= 0) return factor;
    }
    return -1;
  }

  /** Notes that a strike has met somebody, and works out what it says about it. */
  private tryMeet(strike: ActiveStrike, volume: Volume, to: Fighter, factor: number): void {
    const { by, plan } = strike;
    if (isLetThrough(strike, to)) return;
    noteTarget(strike, to);
    const blow = this.blows.next();
    blow.by = by;
    blow.to = to;
    blow.plan = plan;
    const { values } = blow;
    values.fill(0);
    const { c } = by;
    const { r } = c;
    to.hurts.place(to.c);
    writeMiddle(THE_TARGET, to);
    THE_TARGET[3] = 1;
    plan.damage.run?.(c);
    plan.stun.run?.(c);
    plan.stop.run?.(c);
    const damage = r[plan.damage.at] * factor * volume.factor;
    values[W_DAMAGE] = Number.isNaN(damage) ? 0 : Math.max(0, damage);
    values[W_KIND] = kindIndex(c.plan, plan.kind);
    values[W_STUN] = wholeTicks(r[plan.stun.at]);
    blow.stop = wholeTicks(r[plan.stop.at]);
    plan.push?.(c, OUT);
    for (let i = 0; i < 3; i++) values[W_PUSH + i] = plan.push === null ? 0 : OUT[i];
    THE_TARGET[3] = 0;
    writeMiddle(OUT, by);
    for (let i = 0; i < 3; i++) values[W_FROM + i] = OUT[i];
    writePlace(values, volume, to.hurts.around);
    values[W_VOLUME] = strike.meets;
    writeFurther(blow);
  }
}

/** The way of a strike as who may be struck sees it, and where it was on that. */
const WAY = new Float64Array(3);
const BEFORE = new Volume();

function overlappedAt(volume: Volume, hurts: Hurts): number {
  if (!areNear(volume, hurts.around)) return -1;
  for (let i = 0; i < hurts.count; i++) if (overlap(volume, hurts.volumes[i])) return hurts.volumes[i].factor;
  return -1;
}

/** Where two volumes meet: the middle of what their boxes share. */
function writePlace(values: Float64Array, a: Volume, b: Volume): void {
  values[W_AT] = (Math.max(a.x0, b.x0) + Math.min(a.x1, b.x1)) / 2;
  values[W_AT + 1] = (Math.max(a.y0, b.y0) + Math.min(a.y1, b.y1)) / 2;
  values[W_AT + 2] = (Math.max(a.z0, b.z0) + Math.min(a.z1, b.z1)) / 2;
}

/** Works out what a strike says beside what an arena knows. */
function writeFurther({ by: { c }, plan, more }: Blow): void {
  for (let i = 0; i < plan.values.length; i++) {
    const { amount } = plan.values[i];
    amount.run?.(c);
    const value = c.r[amount.at];
    more[i] = Number.isNaN(value) ? 0 : value;
  }
}

const OUT = new Float64Array(3);

/** @internal Where the middle of a body is. */
export function writeMiddle(out: Float64Array, { c }: Fighter): void {
  const { r, plan } = c;
  out[0] = r[X];
  out[1] = r[Y] + plan.shapes[r[SHAPE]].hy;
  out[2] = r[Z];
}

export function areFoes(a: Fighter, b: Fighter): boolean {
  return a !== b && a.team !== b.team;
}

const TAKEN = new Candidate();

/** Where the middles of a striker and of somebody else are. */
const MIDDLE = new Float64Array(3);
const OTHER = new Float64Array(3);

/** @internal Whether somebody can be struck now, as their moveset says. */
export function canBeStruck({ c }: Fighter): boolean {
  const { hurt } = c.plan;
  return hurt !== null && (hurt.when === null || hurt.when(c));
}

/** Whether a strike is for somebody. */
function isFor({ by, plan }: ActiveStrike, target: Fighter): boolean {
  if (target === by) return false;
  if (plan.tells === null ? !canBeStruck(target) : !target.c.plan.indexes.event.has(plan.tells)) return false;
  if (plan.hits !== 'all' && areFoes(by, target) !== (plan.hits === 'foes')) return false;
  return plan.tagged === null || sharesAny(plan.tagged, target);
}

/** Whether it may meet them now. */
function canStrike(strike: ActiveStrike, target: Fighter): boolean {
  if (!isFor(strike, target)) return false;
  const { by, plan, own } = strike;
  const { r } = by.c;
  const met = findTarget(strike, target);
  if (met >= 0) return mayAgain(strike, met);
  return r[own + S_COUNT] < plan.most || freePlace(strike) >= 0;
}

/** Whether whom it has met, at that place, it may meet again. */
function mayAgain({ by, plan }: ActiveStrike, met: number): boolean {
  const { r } = by.c;
  return plan.again > 0 && r[T] - r[met + 1] >= plan.again;
}

/** The place of somebody whom a ray need not remember any longer, or -1: it may meet them again, and somebody else as well. */
function freePlace(strike: ActiveStrike): number {
  const { by, plan, own } = strike;
  if (!plan.beam) return -1;
  for (let i = 0; i < by.c.r[own + S_COUNT]; i++) {
    const at = own + S_TARGETS + i * TARGET_SIZE;
    if (mayAgain(strike, at)) return at;
  }
  return -1;
}

/** @internal Whether somebody has one of these tags. */
export function sharesAny(tags: readonly string[], target: Fighter): boolean {
  for (let i = 0; i < tags.length; i++) if (hasTag(target, tags[i])) return true;
  return false;
}

/** @internal Whether somebody has a tag, or what is active of theirs. */
export function hasTag({ tags, c }: Fighter, tag: string): boolean {
  return tags.includes(tag) || c.plan.testOfTag(tag)?.(c) === true;
}

/** Where a strike has noted somebody whom it has met, or -1. */
function findTarget({ by, own }: ActiveStrike, { id }: Fighter): number {
  const { r } = by.c;
  const count = r[own + S_COUNT];
  for (let i = 0; i < count; i++)
    if (r[own + S_TARGETS + i * TARGET_SIZE] === id) return own + S_TARGETS + i * TARGET_SIZE;
  return -1;
}

function noteTarget(strike: ActiveStrike, target: Fighter): void {
  const { r } = strike.by.c;
  const { own } = strike;
  let at = findTarget(strike, target);
  if (at < 0 && r[own + S_COUNT] < strike.plan.most) {
    at = own + S_TARGETS + r[own + S_COUNT] * TARGET_SIZE;
    r[own + S_COUNT] += 1;
  } else if (at < 0) at = freePlace(strike);
  r[at] = target.id;
  r[at + 1] = r[T];
}

/** Publishes where a ray ends. */
function noteEnd(r: Float64Array, own: number, ray: Volume): void {
  bound(ray);
  r[own + S_END] = ray.bx;
  r[own + S_END + 1] = ray.by;
  r[own + S_END + 2] = ray.bz;
}

/** Whether somebody lets a strike through. */
function isLetThrough({ plan }: ActiveStrike, target: Fighter): boolean {
  return plan.tells === null && isImmune(target, plan.kind);
}

/** Whether blows of a kind go through somebody now. */
function isImmune({ c }: Fighter, kind: string | null): boolean {
  const { combatAt } = c.plan;
  if (combatAt < 0) return false;
  const bits = c.r[combatAt + C_IMMUNE];
  if (bits === 0) return false;
  return bits === ALL_KINDS || (bits & kindBit(c.plan, kind)) !== 0;
}

/** @internal The index of a kind among those of a moveset, -1 for one that it does not have. */
export function kindIndex({ indexes }: Fighter['c']['plan'], kind: string | null): number {
  return kind === null ? -1 : (indexes.kind.get(kind) ?? -1);
}

/** @internal The bit of a kind as somebody tells kinds apart. */
export function kindBit(plan: Fighter['c']['plan'], kind: string | null): number {
  const index = kindIndex(plan, kind);
  return index < 0 ? OTHER_KIND : 1 << index;
}

function anyOverlap(a: ActiveStrike, b: ActiveStrike): boolean {
  for (let i = 0; i < a.plan.volumes.length; i++)
    for (let k = 0; k < b.plan.volumes.length; k++) if (overlap(a.volumes[i], b.volumes[k])) return true;
  return false;
}
