import type { Plan } from '../../compile/plan.js';
import { settleBody } from '../../motion/move-body.js';
import { leaveRoom } from '../../motion/rooms.js';
import { E_DISTANCE, NO_FOE } from '../../record/combat.js';
import {
  A_BROKEN,
  A_ENDED,
  A_KNOWN,
  B_PRESSED,
  B_RELEASED,
  BASE_LOADOUT,
  BUTTON,
  C_READY,
  CAMERA_Z,
  CLIP,
  CLIP_LASTS,
  FX,
  GROUND_CHANGED,
  GROUND_NORMAL,
  HEADROOM,
  HOST,
  L_ABILITY,
  L_DUE,
  L_PHASE,
  LANDED,
  LANE,
  LAYER,
  LAYOUT_ID,
  LOADOUT,
  N_REFILL,
  NEVER,
  P_MAX,
  P_SINCE,
  PLACED,
  POOL,
  R_UNTIL,
  STANCE,
  STOP,
  T,
  TRIGGER,
  WARPED,
  X,
  Y,
  Z,
} from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { resetAbility } from '../cooldowns.js';
import { foldBase } from '../fold/fold.js';
import { initializeStance } from '../phases/stance.js';
import { setLine, updateLimits } from '../pools/pools.js';

export interface StartingState {
  readonly x: number;
  readonly y: number;
  readonly z: number;
  readonly facing: 1 | -1;
}

/** Writes the whole record as it is before the first tick, and what stands behind it. */
export function initializeRecord(plan: Plan, r: Float64Array, start: StartingState): void {
  const { layout, names } = plan;
  r.fill(0);
  for (const { at, value } of plan.constants) r[at] = value;
  leaveRoom(plan, r);
  r[T] = -1;
  r[HOST] = -1;
  r[STOP] = -NEVER;
  r[LAYOUT_ID] = plan.fingerprint;
  r[X] = start.x;
  r[Y] = start.y;
  r[Z] = start.z;
  r[FX] = start.facing;
  r[CAMERA_Z] = -1;
  r[HEADROOM] = 1;
  r[LANDED] = -NEVER;
  r[WARPED] = -NEVER;
  r[GROUND_NORMAL + 1] = 1;
  r[BASE_LOADOUT] = plan.loadouts.length > 0 ? 0 : -1;
  r[LOADOUT] = r[BASE_LOADOUT];
  for (let i = 0; i < plan.layers.length; i++) {
    r[layout.layers + i * LAYER + CLIP] = -1;
    r[layout.layers + i * LAYER + CLIP_LASTS] = NEVER;
  }
  for (let i = 0; i < names.button.length; i++)
    for (const slot of [B_PRESSED, B_RELEASED]) r[layout.buttons + i * BUTTON + slot] = -NEVER;
  for (let i = 0; i < names.lane.length; i++) {
    r[layout.lanes + i * LANE + L_ABILITY] = -1;
    r[layout.lanes + i * LANE + L_PHASE] = -1;
    r[layout.lanes + i * LANE + L_DUE] = NEVER;
  }
  for (const { at, chargesAt, eligibleAt, locked, cooldownAt } of plan.abilities) {
    r[at + A_KNOWN] = locked ? 0 : 1;
    r[at + A_ENDED] = -NEVER;
    r[at + A_BROKEN] = -NEVER;
    if (chargesAt >= 0) r[chargesAt + N_REFILL] = NEVER;
    if (eligibleAt >= 0) r[eligibleAt] = -NEVER;
    if (cooldownAt >= 0) r[cooldownAt + C_READY] = -NEVER;
  }
  for (let i = 0; i < plan.triggers.length; i++) r[layout.triggers + i * TRIGGER + R_UNTIL] = -NEVER;
  for (const at of layout.events) r[at] = -NEVER;
  r[plan.foeAt + E_DISTANCE] = NO_FOE;
  if (plan.combatAt >= 0) r[plan.blowAt] = -NEVER;
  for (const { heard } of plan.abilities) for (const { at } of heard) r[at] = -NEVER;
}

/** What a character begins with that follows from its place and its formulas. */
export function initializeActor(c: Actor): void {
  const { r, plan, mover } = c;
  if (mover !== null) {
    settleBody(plan, r, mover);
    r[PLACED] = 1;
    r[GROUND_CHANGED] = 0;
    r[LANDED] = -NEVER;
  }
  beginActor(c);
}

/**
 * What follows from where the body is: with an engine, that is known with its first contacts. What limits, the stance and charges go by may
 * read the others, so all is done twice: the second time they are there.
 */
export function beginActor(c: Actor): void {
  begin(c);
  begin(c);
  c.plan.code.fold(c);
}

function begin(c: Actor): void {
  const { r, plan } = c;
  r[STANCE] = 0;
  r.fill(0, plan.layout.pools, plan.layout.pools + plan.pools.length * POOL);
  foldBase(c);
  for (const pool of plan.pools) {
    updateLimits(c, pool);
    r[pool.value] = pool.start ?? r[pool.at + P_MAX];
    setLine(r, pool);
    r[pool.at + P_SINCE] = 0;
  }
  initializeStance(c);
  for (const a of plan.abilities) if (a.chargesAt >= 0) resetAbility(c, a);
}
