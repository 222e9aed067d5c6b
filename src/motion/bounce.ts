import type { Plan } from '../compile/plan.js';
import { C_BOUNCE } from '../record/combat.js';
import {
  CEILING,
  FALL,
  GRAVITY,
  GROUND_NORMAL,
  GROUNDED,
  TOUCHES,
  VX,
  VY,
  VZ,
  WALL,
  WALL_X,
  Y,
} from '../record/slots.js';
import { MET_CEILING, MET_WALL } from './contacts.js';
import { moveBody } from './move-body.js';
import type { Mover } from './mover.js';

/** Slower than this into what it meets, a body comes to rest there, per second. */
const LEAST = 1;

/** A wall whose normal has less upright is none that throws a body up or down. */
const UPRIGHT_WALL = 0.05;

/** The velocity with which a body meets something, and then that with which it goes on; and whether it has bounced. */
const V = new Float64Array(3);
const GROUND = new Float64Array(3);

/** Moves a body that may bounce: what it ran into turns its velocity back, as it was where they met. */
export function moveAndBounce(plan: Plan, r: Float64Array, mover: Mover): void {
  const share = r[plan.combatAt + C_BOUNCE];
  if (share < 0) {
    moveBody(plan, r, mover);
    return;
  }
  V[0] = r[VX];
  V[1] = r[VY];
  V[2] = r[VZ];
  const y = r[Y];
  const stood = r[GROUNDED] === 1;
  const pull = r[GRAVITY];
  MET_WALL.fill(0);
  moveBody(plan, r, mover);
  // Not to be passed: numbers with a fraction may be boxed.
  SHARE[0] = share;
  const down = V[1];
  if (!stood) V[1] = speedAt(r, y, pull);
  let bounces = false;
  let upright = false;
  if (r[TOUCHES] & WALL) {
    // What a room knows of its walls is that they are upright.
    if (MET_WALL[0] === 0 && MET_WALL[2] === 0) MET_WALL[0] = r[WALL_X];
    bounces = bounceOff(MET_WALL);
    upright = bounces && Math.abs(MET_WALL[1]) > UPRIGHT_WALL;
  }
  if (r[TOUCHES] & CEILING && bounceOff(MET_CEILING)) bounces = upright = true;
  const lands = r[GROUNDED] === 1 && !stood;
  const level = r[GROUND_NORMAL + 1] === 1;
  for (let k = 0; k < 3; k++) GROUND[k] = r[GROUND_NORMAL + k];
  const ground = lands && bounceOff(GROUND);
  if (!bounces && !ground) return;
  r[VX] = V[0];
  r[VZ] = V[2];
  if (ground && level) r[VY] = launch(r, y - r[Y], down, pull, plan.dt);
  else if (ground || (upright && !lands)) r[VY] = V[1];
}

const SHARE = new Float64Array(1);

/** The upright velocity where a body meets something that it has fallen or risen to in this tick. */
function speedAt(r: Float64Array, from: number, pull: number): number {
  const square = V[1] * V[1] + 2 * pull * (from - r[Y]);
  const speed = Math.sqrt(Math.max(0, square));
  return r[Y] < from || V[1] < 0 ? Math.max(-speed, -r[FALL]) : speed;
}

/**
 * The velocity upwards with which a body leaves level ground, so that it rises to its share of the height that it came from, at any tick rate. In
 * steps of `v -= g dt; y += v dt` it is g y + v^2 / 2 - g dt v / 2 that stays the same; `drop` is how far it fell in this tick.
 */
function launch(r: Float64Array, drop: number, down: number, pull: number, dt: number): number {
  const g = pull * dt;
  const capped = -down >= r[FALL];
  const energy = (down * down) / 2 - (g * down) / 2 + (capped ? 0 : pull * drop);
  return g / 2 + Math.sqrt(Math.max(0, (g * g) / 4 + 2 * SHARE[0] * SHARE[0] * energy));
}

/** Turns {@link V} back from a surface of this normal, if it is fast enough. */
function bounceOff(normal: Float64Array): boolean {
  const into = -(V[0] * normal[0] + V[1] * normal[1] + V[2] * normal[2]);
  if (into < LEAST || SHARE[0] === 0) return false;
  for (let k = 0; k < 3; k++) V[k] += normal[k] * into * (1 + SHARE[0]);
  return true;
}
