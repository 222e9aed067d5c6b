import type { Plan } from '../compile/plan.js';
import { S_END, S_ENDS, type VolumePlan } from '../record/combat.js';
import { L_ABILITY, L_PHASE, LANE, SHAPE } from '../record/slots.js';
import type { ShownVolume } from '../report/shown-volume.js';
import { placeBody, placeVolume, Volume } from './volume.js';

/** Every volume of a character: what it strikes and touches with, and where it can be struck. */
export function showVolumes(plan: Plan, r: Float64Array): ShownVolume[] {
  const shown: ShownVolume[] = [];
  const show = (part: ShownVolume['part'], volume: VolumePlan, own = -1) => {
    const placed = new Volume();
    placeVolume(placed, volume, r);
    // A ray ends where the last tick has found.
    if (own >= 0 && volume.kind === 'ray' && r[own + S_ENDS] === 1)
      [placed.bx, placed.by, placed.bz] = [r[own + S_END], r[own + S_END + 1], r[own + S_END + 2]];
    shown.push(viewOf(part, placed));
  };
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const running = [plan.abilities[r[lane + L_ABILITY]], plan.phases[r[lane + L_PHASE]]];
    for (const part of running)
      for (const { plan: strike, own } of part?.scope.strikes ?? [])
        for (const volume of strike.volumes) show(strike.tells === null ? 'hit' : 'touch', volume, own);
  }
  if (plan.hurt === null) return shown;
  const declared = plan.hurt.volumes[r[SHAPE]];
  if (declared !== null) for (const volume of declared) show('hurt', volume);
  else {
    const { hx, hy, hz } = plan.shapes[r[SHAPE]];
    const placed = new Volume();
    placeBody(placed, hx, hy, hz, r);
    shown.push(viewOf('hurt', placed));
  }
  return shown;
}

function viewOf(part: ShownVolume['part'], v: Volume): ShownVolume {
  const from = { x: v.x, y: v.y, z: v.z };
  if (v.round) return { part, shape: 'capsule', from, to: { x: v.bx, y: v.by, z: v.bz }, radius: v.radius };
  const facing = { x: v.fx, y: 0, z: v.fz };
  return { part, shape: 'box', middle: from, width: v.hx * 2, height: v.hy * 2, depth: v.hz * 2, facing };
}
