import type { ScopePlan } from '../compile/plan.js';
import { TARGET as STRUCK } from '../moveset/directions/point.js';
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
  TARGET,
  W_AT,
  W_DAMAGE,
  W_FROM,
  W_KIND,
  W_PUSH,
  W_STUN,
} from '../record/combat.js';
import { L_ABILITY, L_PHASE, LANE, RUNNING, SHAPE, T, X, Y, Z } from '../record/slots.js';
import type { Cast, Hit, World } from '../world/world.js';
import type { Fighter } from './fighter.js';
import { areNear, bound, enter, overlap, placeVolume, Volume } from './volume.js';

/** A strike that lasts in this tick, with its volumes where they are now. */
export class ActiveStrike {
  by: Fighter = null as unknown as Fighter;
  plan: Striking = null as unknown as Striking;
  own = 0;
  readonly volumes: Volume[] = [];
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
  /** Strikes that met another one and are lost. */
  readonly clashes = new Pool<{ by: Fighter; to: Fighter }>(() => ({ by: STRUCK_NOBODY, to: STRUCK_NOBODY }));
  private readonly cast: Cast;
  private readonly hit: Hit;

  constructor(
    private readonly world: World | null,
    mover: { cast: Cast; hit: Hit },
    private readonly find: FindTargets | null,
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
    for (let i = 0; i < this.strikes.count; i++) this.clash(i);
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

  /** Strikes that meet each other before they meet anybody: the lower one is lost, of equal ones both. */
  private clash(i: number): void {
    const a = this.strikes.all[i];
    if (a.plan.clash < 0) return;
    for (let k = i + 1; k < this.strikes.count; k++) {
      const b = this.strikes.all[k];
      if (b.plan.clash < 0 || !areFoes(a.by, b.by)) continue;
      if (a.by.c.r[a.own + S_SPENT] === 1 || b.by.c.r[b.own + S_SPENT] === 1 || !anyOverlap(a, b)) continue;
      if (a.plan.clash <= b.plan.clash) this.lose(a, b);
      if (b.plan.clash <= a.plan.clash) this.lose(b, a);
    }
  }

  private lose(strike: ActiveStrike, to: ActiveStrike): void {
    strike.by.c.r[strike.own + S_SPENT] = 1;
    const clash = this.clashes.next();
    clash.by = strike.by;
    clash.to = to.by;
  }

  private meet(strike: ActiveStrike, fighters: readonly Fighter[]): void {
    const { plan, volumes } = strike;
    for (let i = 0; i < plan.volumes.length; i++) {
      const volume = volumes[i];
      if (Number.isNaN(volume.factor)) continue;
      if (this.find !== null)
        this.find(strike, volume, (target) => {
          if (canStrike(strike, target)) this.tryMeet(strike, volume, target, 1);
        });
      else if (plan.volumes[i].kind === 'ray') this.meetAlong(strike, volume, fighters);
      else
        for (let k = 0; k < fighters.length; k++) {
          const target = fighters[k];
          if (!canStrike(strike, target)) continue;
          const factor = this.overlapped(volume, target);
          if (factor >= 0) this.tryMeet(strike, volume, target, factor);
        }
    }
  }

  /** A ray meets who is first on it, as many as it may. */
  private meetAlong(strike: ActiveStrike, ray: Volume, fighters: readonly Fighter[]): void {
    const { r } = strike.by.c;
    const most = strike.plan.most - r[strike.own + S_COUNT];
    for (let n = 0; n < Math.max(most, 1); n++) {
      let first: Fighter | null = null;
      let nearest = 2;
      let factor = 1;
      for (let k = 0; k < fighters.length; k++) {
        const target = fighters[k];
        // One that was met before lets a ray of several pass, and stops one that may meet no more.
        if (!canStrike(strike, target) && (most > 0 || !hasMet(strike, target))) continue;
        const { hurts } = target;
        hurts.place(target.c);
        for (let i = 0; i < hurts.count; i++) {
          const part = enter(ray, hurts.volumes[i]);
          if (part >= nearest) continue;
          nearest = part;
          first = target;
          factor = hurts.volumes[i].factor;
        }
      }
      if (first === null) return;
      if (n + 1 >= most) this.endAt(strike, ray, nearest);
      if (most <= 0) return;
      this.tryMeet(strike, ray, first, factor);
    }
  }

  private endAt({ by, own }: ActiveStrike, ray: Volume, part: number): void {
    ray.bx = ray.x + (ray.bx - ray.x) * part;
    ray.by = ray.y + (ray.by - ray.y) * part;
    ray.bz = ray.z + (ray.bz - ray.z) * part;
    noteEnd(by.c.r, own, ray);
  }

  /** The factor of the first hurt volume that a volume overlaps, or -1. */
  private overlapped(volume: Volume, { c, hurts }: Fighter): number {
    hurts.place(c);
    if (hurts.count === 0 || !areNear(volume, hurts.around)) return -1;
    for (let i = 0; i < hurts.count; i++) if (overlap(volume, hurts.volumes[i])) return hurts.volumes[i].factor;
    return -1;
  }

  /** Notes that a strike has met somebody, and works out what it says about it. */
  private tryMeet(strike: ActiveStrike, volume: Volume, to: Fighter, factor: number): void {
    const { by, plan } = strike;
    if (plan.tells === null && isImmune(to, plan.kind)) return;
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
    const { around } = to.hurts;
    writeMiddle(STRUCK, to);
    STRUCK[3] = 1;
    plan.damage.run?.(c);
    plan.stun.run?.(c);
    plan.stop.run?.(c);
    const damage = r[plan.damage.at] * factor * volume.factor;
    values[W_DAMAGE] = Number.isNaN(damage) ? 0 : Math.max(0, damage);
    values[W_KIND] = kindIndex(c.plan, plan.kind);
    values[W_STUN] = Math.round(r[plan.stun.at]);
    blow.stop = Math.round(r[plan.stop.at]);
    plan.push?.(c, OUT);
    for (let i = 0; i < 3; i++) values[W_PUSH + i] = plan.push === null ? 0 : OUT[i];
    STRUCK[3] = 0;
    writeMiddle(OUT, by);
    for (let i = 0; i < 3; i++) values[W_FROM + i] = OUT[i];
    values[W_AT] = (Math.max(volume.x0, around.x0) + Math.min(volume.x1, around.x1)) / 2;
    values[W_AT + 1] = (Math.max(volume.y0, around.y0) + Math.min(volume.y1, around.y1)) / 2;
    values[W_AT + 2] = (Math.max(volume.z0, around.z0) + Math.min(volume.z1, around.z1)) / 2;
    for (let i = 0; i < plan.values.length; i++) {
      const { amount } = plan.values[i];
      amount.run?.(c);
      blow.more[i] = Number.isNaN(r[amount.at]) ? 0 : r[amount.at];
    }
  }
}

const OUT = new Float64Array(3);
const STRUCK_NOBODY = null as unknown as Fighter;

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

/** Whether a strike is for somebody, and may meet them now. */
function canStrike(strike: ActiveStrike, target: Fighter): boolean {
  const { by, plan, own } = strike;
  if (target === by) return false;
  if (plan.tells === null ? target.c.plan.hurt === null : !target.c.plan.indexes.event.has(plan.tells)) return false;
  if (plan.hits !== 'all' && areFoes(by, target) !== (plan.hits === 'foes')) return false;
  if (plan.on !== null && !sharesAny(plan.on, target)) return false;
  const { r } = by.c;
  const met = findTarget(strike, target);
  if (met < 0) return r[own + S_COUNT] < plan.most;
  return plan.again > 0 && r[T] - r[met + 1] >= plan.again;
}

function hasMet(strike: ActiveStrike, target: Fighter): boolean {
  return findTarget(strike, target) >= 0;
}

function sharesAny(tags: readonly string[], target: Fighter): boolean {
  for (let i = 0; i < tags.length; i++) {
    if (target.tags.includes(tags[i])) return true;
    const active = target.c.plan.tagged(tags[i]);
    if (active?.(target.c)) return true;
  }
  return false;
}

/** Where a strike has noted somebody whom it has met, or -1. */
function findTarget({ by, own }: ActiveStrike, { id }: Fighter): number {
  const { r } = by.c;
  const count = r[own + S_COUNT];
  for (let i = 0; i < count; i++) if (r[own + S_TARGETS + i * TARGET] === id) return own + S_TARGETS + i * TARGET;
  return -1;
}

function noteTarget(strike: ActiveStrike, target: Fighter): void {
  const { r } = strike.by.c;
  const { own } = strike;
  let at = findTarget(strike, target);
  if (at < 0) {
    at = own + S_TARGETS + r[own + S_COUNT] * TARGET;
    r[own + S_COUNT] += 1;
    r[at] = target.id;
  }
  r[at + 1] = r[T];
}

/** Publishes where a ray ends. */
function noteEnd(r: Float64Array, own: number, ray: Volume): void {
  bound(ray);
  r[own + S_END] = ray.bx;
  r[own + S_END + 1] = ray.by;
  r[own + S_END + 2] = ray.bz;
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
