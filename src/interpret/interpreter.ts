import type { Plan, PlanCode } from '../compile/plan.js';
import { askProbe } from '../probes/probe.js';
import type { Frame } from '../record/frame.js';
import { nearestName } from '../report/nearest.js';
import { suggestBy } from '../report/usage-error.js';
import type { Actor } from '../runtime/actor.js';
import { FactView } from '../runtime/fact-view.js';
import { foldEffects } from '../runtime/fold.js';
import { judge } from '../runtime/judge.js';
import { messageCode } from '../runtime/messages.js';
import { moveAll } from '../runtime/move.js';
import { endAbility, leavePhase } from '../runtime/phases.js';
import { notePress } from '../runtime/presses.js';
import { warpCode } from '../runtime/warp-body.js';
import { showVolumes } from '../strikes/show.js';
import { decide, takeIn, tick } from './tick.js';

const INTERPRETER = {
  takeIn,
  notePress,
  decide,
  fold: foldEffects,
  move: moveAll,
  tick,
  end: endAbility,
  leave: leavePhase,
  judge: (c: Actor, ability: number) => judge(c, c.plan.abilities[ability]),
  warps: warpCode,
  messages: messageCode,
  probe: askProbe,
  volumes: showVolumes,
  facts: (plan: Plan, c: Frame) => new FactView(plan, c),
} as unknown as PlanCode;

/** What plans do that are interpreted. */
export function interpreter(): PlanCode {
  suggestBy(nearestName);
  return INTERPRETER;
}
