import type { Plan } from '../compile/plan.js';
import { C_BOUNCE } from '../record/combat.js';
import { CEILING, GROUND_NORMAL, GROUNDED, TOUCHES, VX, VY, VZ, WALL, WALL_X, WALL_Z } from '../record/slots.js';
import { moveBody } from './move-body.js';
import type { Mover } from './mover.js';

/** Slower than this into what it meets, a body comes to rest there, per second. */
const LEAST = 1;

/** Moves a body that may bounce: what it ran into turns its velocity back, as it was before the move. */
export function moveAndBounce(plan: Plan, r: Float64Array, mover: Mover): void {
  const share = r[plan.combatAt + C_BOUNCE];
  if (share < 0) {
    moveBody(plan, r, mover);
    return;
  }
  const vx = r[VX];
  const vy = r[VY];
  const vz = r[VZ];
  const stood = r[GROUNDED] === 1;
  moveBody(plan, r, mover);
  if (r[TOUCHES] & WALL) reflect(r, r[WALL_X], 0, r[WALL_Z], vx, 0, vz, share);
  if (r[TOUCHES] & CEILING) reflect(r, 0, -1, 0, 0, vy, 0, share);
  if (r[GROUNDED] === 1 && !stood)
    reflect(r, r[GROUND_NORMAL], r[GROUND_NORMAL + 1], r[GROUND_NORMAL + 2], vx, vy, vz, share);
}

function reflect(
  r: Float64Array,
  nx: number,
  ny: number,
  nz: number,
  vx: number,
  vy: number,
  vz: number,
  share: number,
): void {
  const into = -(vx * nx + vy * ny + vz * nz);
  if (into < LEAST || share === 0) return;
  r[VX] += nx * into * share;
  r[VY] += ny * into * share;
  r[VZ] += nz * into * share;
}
