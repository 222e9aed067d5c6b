import type { Mover } from '../motion/mover.js';
import { keepRoom } from '../motion/rooms.js';
import { askSweep, placeCast } from '../probes/ask-world.js';
import { BLOCK, C_MEETS, PASS } from '../record/combat.js';
import { SHAPE, VX, VY, VZ, X, Y, Z } from '../record/slots.js';
import type { Actor } from '../tick/actor.js';
import { mountOf } from '../tick/walk/ride.js';

/** Overlaps below this are touching. */
const TOUCH = 1e-6;

interface Body {
  readonly id: number;
  readonly c: Actor;
  awake: boolean;
}

/** Takes bodies that have moved into each other apart: level, as far as the world lets them. Each pair in the order of the arena. */
export function separateBodies(bodies: readonly Body[]): void {
  for (let i = 0; i < bodies.length; i++) {
    const a = bodies[i];
    const ways = waysOf(a);
    if (ways === PASS) continue;
    for (let k = i + 1; k < bodies.length; k++) {
      const others = waysOf(bodies[k]);
      if (others !== PASS && !areTied(a, bodies[k])) separate(a, bodies[k], ways, others);
    }
  }
}

/** Who rides somebody is not pushed off them. */
function areTied(a: Body, b: Body): boolean {
  return mountOf(a.c) === b.id || mountOf(b.c) === a.id;
}

/** How a body meets others now: one whose clock stands still gives no way. */
function waysOf({ c, awake }: Body): number {
  const { combatAt } = c.plan;
  const meets = combatAt < 0 ? PASS : c.r[combatAt + C_MEETS] | 0;
  return meets !== PASS && !awake ? BLOCK : meets;
}

/**
 * Brings back a body that has gone through one that gives no way in a single tick: to where they met, level. Which way both came is told by their
 * velocities, with which they have just moved.
 */
function stopPassing(a: Body, b: Body, waysOfB: number): void {
  const p = a.c.r;
  const q = b.c.r;
  const { dt, view } = a.c.plan;
  const one = a.c.plan.shapes[p[SHAPE]];
  const two = b.c.plan.shapes[q[SHAPE]];
  const mx = (p[VX] - q[VX]) * dt;
  const mz = view === 'open' ? (p[VZ] - q[VZ]) * dt : 0;
  const wide = one.hx + two.hx;
  const deep = view === 'open' ? one.hz + two.hz : Number.POSITIVE_INFINITY;
  // Slower ones are found where they overlap.
  if (Math.abs(mx) <= wide && Math.abs(mz) <= deep) return;
  const x = p[X] - mx - q[X];
  const z = p[Z] - mz - q[Z];
  const y = p[Y] - q[Y];
  const my = (p[VY] - q[VY]) * dt;
  PASS_AT[0] = 0;
  PASS_AT[1] = 1;
  if (!crosses(x, mx, wide) || !crosses(z, mz, deep)) return;
  if (!crosses(y - my + (one.height - two.height) / 2, my, (one.height + two.height) / 2)) return;
  const back = 1 - PASS_AT[0];
  if (PASS_AT[0] <= 0 || back <= 0) return;
  const moves = waysOfB === BLOCK ? a : b;
  const sign = moves === a ? -1 : 1;
  const towards = Math.abs(mx) >= Math.abs(mz) ? Math.sign(mx) : Math.sign(mz);
  WAY[0] = sign * mx * back;
  shift(moves.c, false);
  WAY[0] = sign * mz * back;
  shift(moves.c, true);
  stopInto(moves.c, -sign * towards, Math.abs(mx) < Math.abs(mz));
}

/** The part of the way in which two bodies overlap along all axes so far, from and to. */
const PASS_AT = new Float64Array(2);

/** Narrows that to one more axis: from where, how far, and at what distance they touch. Says whether there is any left. */
function crosses(from: number, way: number, touch: number): boolean {
  if (touch === Number.POSITIVE_INFINITY) return true;
  if (Math.abs(way) < TOUCH) return Math.abs(from) < touch - TOUCH;
  const one = (-touch - from) / way;
  const two = (touch - from) / way;
  PASS_AT[0] = Math.max(PASS_AT[0], Math.min(one, two));
  PASS_AT[1] = Math.min(PASS_AT[1], Math.max(one, two));
  return PASS_AT[0] < PASS_AT[1];
}

function separate(a: Body, b: Body, waysOfA: number, waysOfB: number): void {
  if (waysOfA === BLOCK || waysOfB === BLOCK) stopPassing(a, b, waysOfB);
  const p = a.c.r;
  const q = b.c.r;
  const one = a.c.plan.shapes[p[SHAPE]];
  const two = b.c.plan.shapes[q[SHAPE]];
  const dx = q[X] - p[X];
  const dz = q[Z] - p[Z];
  const overX = one.hx + two.hx - Math.abs(dx);
  if (overX <= TOUCH || p[Y] + one.height - q[Y] <= TOUCH || q[Y] + two.height - p[Y] <= TOUCH) return;
  const overZ = one.hz + two.hz - Math.abs(dz);
  if (overZ <= TOUCH) return;
  const alongZ = a.c.plan.view === 'open' && overZ < overX;
  // Bodies in the very same place go apart in the order of the arena.
  const sign = (alongZ ? dz : dx) < 0 ? -1 : 1;
  const over = alongZ ? overZ : overX;
  const yields = waysOfA === waysOfB ? 0.5 : waysOfA === BLOCK ? 0 : 1;
  // Numbers with a fraction are not passed, since they may be boxed.
  WAY[0] = -sign * over * yields;
  shift(a.c, alongZ);
  const first = WAY[1];
  WAY[0] = sign * (over - first);
  shift(b.c, alongZ);
  const second = WAY[1];
  // Where the other one could not give way, the first does.
  if (yields > 0 && first + second < over - TOUCH) {
    WAY[0] = -sign * (over - first - second);
    shift(a.c, alongZ);
  }
  if (waysOfA === BLOCK) stopInto(b.c, -sign, alongZ);
  if (waysOfB === BLOCK) stopInto(a.c, sign, alongZ);
}

/** How far a body is to go aside, and how far it got. */
const WAY = new Float64Array(2);

/** Moves a body aside as far as it goes. */
function shift(c: Actor, alongZ: boolean): void {
  const by = WAY[0];
  WAY[1] = 0;
  if (by === 0 || c.mover === null) return;
  const { r, plan } = c;
  const { world, cast, hit }: Mover = c.mover;
  placeCast(cast, plan.shapes[r[SHAPE]], r);
  cast.passes = null;
  cast.dx = alongZ ? 0 : by;
  cast.dy = 0;
  cast.dz = alongZ ? by : 0;
  const part = askSweep(world, cast, hit) ? hit.part : 1;
  r[alongZ ? Z : X] += by * part;
  keepRoom(plan, r, plan.shapes[r[SHAPE]]);
  WAY[1] = Math.abs(by * part);
}

/** A body that ran into one that gives no way loses its pace towards it. */
function stopInto({ r }: Actor, sign: number, alongZ: boolean): void {
  const v = alongZ ? VZ : VX;
  if (r[v] * sign > 0) r[v] = 0;
}
