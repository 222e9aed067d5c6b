import type { BodyShape, Plan } from '../compile/plan.js';
import { askSweep, placeCast } from '../probes/ask-world.js';
import { GROUNDED, VX, VY, VZ, X, Y, Z } from '../record/slots.js';
import { clearContacts, GROUND_STEEPEST, noteHit, REACH, setGrounded } from './contacts.js';
import type { Mover } from './mover.js';

/** How often a body may be turned aside in one tick. */
const SLIDES = 4;

/** Moves a body by its velocity, along what it meets, and notes what it touches. */
export function slide({ dt }: Plan, r: Float64Array, shape: BodyShape, { world, cast, hit }: Mover): void {
  let dx = r[VX] * dt;
  let dy = r[VY] * dt;
  let dz = r[VZ] * dt;
  let grounded = 0;
  clearContacts(r);
  for (let i = 0; i < SLIDES; i++) {
    if (dx === 0 && dy === 0 && dz === 0) break;
    placeCast(cast, shape, r);
    cast.dx = dx;
    cast.dy = dy;
    cast.dz = dz;
    const stopped = askSweep(world, cast, hit);
    const part = stopped ? hit.part : 1;
    r[X] += dx * part;
    r[Y] += dy * part;
    r[Z] += dz * part;
    if (!stopped) break;
    const { nx, ny, nz } = hit;
    if (ny === 1 && !Number.isNaN(hit.height)) r[Y] = hit.height;
    if (noteHit(r, hit)) grounded = 1;
    const into = dx * nx + dy * ny + dz * nz;
    const left = 1 - part;
    dx = (dx - nx * into) * left;
    dy = (dy - ny * into) * left;
    dz = (dz - nz * into) * left;
    const against = r[VX] * nx + r[VY] * ny + r[VZ] * nz;
    if (against < 0) {
      r[VX] -= nx * against;
      r[VY] -= ny * against;
      r[VZ] -= nz * against;
    }
  }
  if (grounded === 0 && r[GROUNDED] === 1 && r[VY] <= 0 && askGround(r, shape, world, cast, hit)) {
    noteHit(r, hit);
    grounded = 1;
  }
  setGrounded(r, grounded, 1);
}

/** Whether there is ground within reach below the feet. */
export function askGround(
  r: Float64Array,
  shape: BodyShape,
  world: Mover['world'],
  cast: Mover['cast'],
  hit: Mover['hit'],
): boolean {
  placeCast(cast, shape, r);
  cast.dx = 0;
  cast.dy = -REACH;
  cast.dz = 0;
  return askSweep(world, cast, hit) && hit.ny > GROUND_STEEPEST;
}
