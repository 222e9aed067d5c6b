import type { Plan } from '../compile/plan.js';
import {
  ACCEL,
  BRAKE,
  CAMERA_X,
  CAMERA_Z,
  FALL,
  FORCED,
  FORCED_VELOCITY,
  FX,
  FZ,
  GRAVITY,
  GROUNDED,
  LEVEL,
  SPEED,
  STEEP,
  STEER,
  TOUCHES,
  UPRIGHT,
  VX,
  VY,
  VZ,
} from '../record/slots.js';

/** Turns the body to where the stick that walks is pushed. */
export function faceStick(plan: Plan, r: Float64Array): void {
  const at = plan.walkStick;
  if (at < 0) return;
  const sx = r[at];
  const sy = r[at + 1];
  if (plan.view === 'side') {
    if (sx !== 0) {
      r[FX] = sx > 0 ? 1 : -1;
      r[FZ] = 0;
    }
    return;
  }
  if (sx === 0 && sy === 0) return;
  const x = sx * -r[CAMERA_Z] + sy * r[CAMERA_X];
  const z = sx * r[CAMERA_X] + sy * r[CAMERA_Z];
  const length = Math.sqrt(x * x + z * z);
  r[FX] = x / length;
  r[FZ] = z / length;
}

/** Walking: brings the level velocity nearer to what the stick wants; one that rests, or does not steer, wants it to stand. */
export function walk(plan: Plan, r: Float64Array): void {
  const at = plan.walkStick;
  // On what is too steep, feet find no hold; in the air, what has no stick finds none.
  if (r[TOUCHES] & STEEP || (at < 0 && r[GROUNDED] === 0)) return;
  const steers = at >= 0 && r[STEER] !== 0;
  const sx = steers ? r[at] : 0;
  const sy = steers ? r[at + 1] : 0;
  let x = 0;
  let z = 0;
  if (plan.view === 'open') {
    x = (sx * -r[CAMERA_Z] + sy * r[CAMERA_X]) * r[SPEED];
    z = (sx * r[CAMERA_X] + sy * r[CAMERA_Z]) * r[SPEED];
  } else if (sy === 0) x = sx * r[SPEED];
  // The stick's circle becomes a square, so that up or down held besides takes no pace away.
  else if (sx !== 0) x = ((sx * Math.sqrt(sx * sx + sy * sy)) / Math.max(Math.abs(sx), Math.abs(sy))) * r[SPEED];

  const vx = r[VX];
  const vz = r[VZ];
  if (vx === x && vz === z) return;
  const onward = x * vx + z * vz;
  // Braking: the stick rests, points back, or asks for less than there is.
  const brakes = onward <= 0 ? vx !== 0 || vz !== 0 : vx * vx + vz * vz > x * x + z * z;
  const share = sx === 0 && sy === 0 ? plan.dt : r[STEER] * plan.dt;
  const step = (brakes ? r[BRAKE] : r[ACCEL]) * share;
  const dx = x - vx;
  const dz = z - vz;
  if (dz === 0) {
    // Seen from the side there is no root to take.
    r[VX] = dx > step ? vx + step : dx < -step ? vx - step : x;
    return;
  }
  const missing = dx * dx + dz * dz;
  if (missing <= step * step) {
    r[VX] = x;
    r[VZ] = z;
    return;
  }
  const scale = step / Math.sqrt(missing);
  r[VX] = vx + dx * scale;
  r[VZ] = vz + dz * scale;
}

export function applyGravity(plan: Plan, r: Float64Array): void {
  r[VY] = Math.max(r[VY] - r[GRAVITY] * plan.dt, -r[FALL]);
}

/** What running moves hold, whatever walking and gravity did. */
export function holdVelocity(r: Float64Array): void {
  const held = r[FORCED];
  if (held & LEVEL) {
    r[VX] = r[FORCED_VELOCITY];
    r[VZ] = r[FORCED_VELOCITY + 2];
  }
  if (held & UPRIGHT) r[VY] = r[FORCED_VELOCITY + 1];
}
