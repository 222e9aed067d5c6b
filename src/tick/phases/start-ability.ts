import type { AbilityPlan, TriggerPlan } from '../../compile/plan.js';
import { faceStick } from '../../motion/velocity.js';
import { ENDED, EVENT } from '../../record/event-codes.js';
import {
  FACE_LOCK,
  L_ABILITY,
  L_DUE,
  L_PHASE,
  L_PHASE_SINCE,
  L_SINCE,
  L_TRIGGER,
  LANE,
  NEVER,
  RUNNING,
  T,
} from '../../record/slots.js';
import type { Actor } from '../actor.js';
import { startCooldown, takeCharge } from '../cooldowns.js';
import { forgetPaid, payPrice } from '../pools/costs.js';
import { updateDrains } from '../pools/pools.js';
import { openScope } from '../scopes.js';
import { useLoadout } from './loadout.js';
import { endAbility, endAstray, enterPhase } from './phases.js';

/** Commits a request that was judged, in one step: what it breaks ends, it is paid, its first phase begins. */
export function startAbility(c: Actor, trigger: TriggerPlan): void {
  const { r, plan } = c;
  const a = plan.abilities[trigger.ability];
  const lane = a.laneAt;
  for (let at = plan.lanesAt; at < plan.lanesEnd; at += LANE) {
    const other = r[at + L_ABILITY];
    if (other < 0) continue;
    const breaks = a.breaks?.[other] === 1;
    if (breaks || at === lane) endAbility(c, at, breaks ? ENDED.broken : ENDED.followed, a.index);
  }
  turnBody(c, trigger);
  forgetPaid(c, a);
  if (a.payPhase < 0) payPrice(c, a);
  if (a.powerAt >= 0) r[a.powerAt] = 0;
  if (a.resultAt >= 0) r[a.resultAt] = 0;
  if (a.ranOutAt >= 0) r[a.ranOutAt] = 0;
  startCooldown(c, a);
  if (a.chargesAt >= 0) takeCharge(c, a);
  endGrace(c, a);

  r[RUNNING] += 1;
  r[lane + L_ABILITY] = a.index;
  r[lane + L_PHASE] = -1;
  r[lane + L_SINCE] = r[T];
  r[lane + L_PHASE_SINCE] = r[T];
  r[lane + L_DUE] = NEVER;
  r[lane + L_TRIGGER] = trigger.index;
  c.events.add(EVENT.started, a.index, trigger.index);
  if (a.heard.length > 0) keepMessage(c, a, trigger.event);
  if (a.upkeeps.length > 0) updateDrains(c);
  openScope(c, a.scope);
  if (endAstray(c, lane)) return;
  if (a.firstPhase >= 0) enterPhase(c, lane, a.firstPhase);
  if (a.loadout >= 0) useLoadout(c);
}

/** What runs reads the message that started it, whatever comes later. */
export function keepMessage({ r, plan }: Actor, { heard }: AbilityPlan, event: number): void {
  for (let i = 0; i < heard.length; i++) {
    const { at, size, event: own } = heard[i];
    if (own !== event) {
      r[at] = -NEVER;
      r.fill(0, at + 1, at + 1 + size);
    } else {
      const from = plan.layout.events[event];
      for (let k = 0; k <= size; k++) r[at + k] = r[from + k];
    }
  }
}

/** Facing follows the stick before a move is aimed by it, unless what still runs locks it. */
function turnBody(c: Actor, { keepsFacing }: TriggerPlan): void {
  if (keepsFacing) return;
  const { code, foldedAt } = c.plan;
  if (c.r[foldedAt] === 0) code.fold(c);
  if (c.r[FACE_LOCK] === 1) return;
  faceStick(c.plan, c.r);
  c.senseAgain();
}

/** What has just started in a lane has not slipped off an edge: see decisions/grace-is-not-after-a-start.md. */
function endGrace({ r, roster }: Actor, { lane }: AbilityPlan): void {
  const { graced } = roster;
  for (let i = 0; i < graced.length; i++) if (graced[i].lane === lane) r[graced[i].eligibleAt] = -NEVER;
}
