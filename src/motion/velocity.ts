import type { Plan } from '../compile/plan.js';
import {
  ACCEL,
  BRAKE,
  CAMERA_X,
  CAMERA_Z,
  FACE_LOCK,
  FALL,
  FX,
  FZ,
  GRAVITY,
  HELD,
  L_ABILITY,
  L_MOVE,
  LANE,
  MOVE,
  SPEED,
  STEER,
  UNAIMED,
  VX,
  VY,
  VZ,
  WANT_X,
  WANT_Z,
} from '../moveset/slots.js';

/**
 * Turns the stick, the folded effects and the running moves into what {@link driveBody} does with the velocity
 * from this tick on. Called when any of them may have changed.
 */
export function aimBody(plan: Plan, r: Float64Array): void {
  r[UNAIMED] = 0;
  if (plan.walkStick >= 0) aimWalk(plan, r);
  r[HELD] = 0;
  const { lanes } = plan.layout;
  const end = lanes + plan.names.lane.length * LANE;
  for (let lane = lanes; lane < end; lane += LANE) {
    if (r[lane + L_ABILITY] < 0) continue;
    hold(r, lane + L_MOVE);
    hold(r, lane + L_MOVE + MOVE);
  }
}

/** Where lanes hold the same part of the velocity, the later one counts. */
function hold(r: Float64Array, at: number): void {
  const parts = r[at];
  if (parts === 0) return;
  if (parts !== 2) {
    r[HELD + 1] = r[at + 1];
    r[HELD + 3] = r[at + 3];
  }
  if (parts >= 2) r[HELD + 2] = r[at + 2];
  r[HELD] |= parts;
}

function aimWalk(plan: Plan, r: Float64Array): void {
  const sx = r[plan.walkStick];
  const sy = r[plan.walkStick + 1];
  let x = 0;
  let z = 0;
  if (sx !== 0 || sy !== 0) {
    const open = plan.view === 'open';
    if (open) {
      x = sx * -r[CAMERA_Z] + sy * r[CAMERA_X];
      z = sx * r[CAMERA_X] + sy * r[CAMERA_Z];
    } else if (sy === 0) x = sx;
    else {
      // The stick's circle becomes a square, so that up or down held besides takes no pace away.
      x = (sx * Math.sqrt(sx * sx + sy * sy)) / Math.max(Math.abs(sx), Math.abs(sy));
    }
    if (r[FACE_LOCK] === 0 && (x !== 0 || z !== 0)) {
      const length = open ? Math.sqrt(x * x + z * z) : 1;
      r[FX] = open ? x / length : x > 0 ? 1 : -1;
      r[FZ] = open ? z / length : 0;
    }
  }
  r[WANT_X] = x * r[SPEED];
  r[WANT_Z] = z * r[SPEED];
}

/** This tick's velocity: walking, then gravity, then moves. */
export function driveBody(plan: Plan, r: Float64Array, withGravity: boolean): void {
  if (plan.walkStick >= 0 && (r[VX] !== r[WANT_X] || r[VZ] !== r[WANT_Z])) walk(plan, r);
  if (withGravity) r[VY] = Math.max(r[VY] - r[GRAVITY] * plan.dt, -r[FALL]);
  const held = r[HELD];
  if (held === 0) return;
  if (held !== 2) {
    r[VX] = r[HELD + 1];
    r[VZ] = r[HELD + 3];
  }
  if (held >= 2) r[VY] = r[HELD + 2];
}

function walk({ dt }: Plan, r: Float64Array): void {
  const steer = r[STEER] * dt;
  if (steer === 0) return;
  const x = r[WANT_X];
  const z = r[WANT_Z];
  const vx = r[VX];
  const vz = r[VZ];
  const onward = x * vx + z * vz;
  // Braking: the stick rests, points back, or asks for less than there is.
  const brakes = onward <= 0 ? vx !== 0 || vz !== 0 : vx * vx + vz * vz > x * x + z * z;
  const step = (brakes ? r[BRAKE] : r[ACCEL]) * steer;
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
