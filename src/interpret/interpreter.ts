import { FactView } from '../character/fact-view.js';
import type { Plan, PlanCode } from '../compile/plan.js';
import { askProbe } from '../probes/probe.js';
import type { Frame } from '../record/frame.js';
import { nearestName } from '../report/nearest.js';
import { showVolumes } from '../strikes/show.js';
import { foldEffects } from '../tick/fold/fold.js';
import { judgeAbility } from '../tick/judge/judge.js';
import { endAbility, leavePhase } from '../tick/phases/phases.js';
import { startAbility } from '../tick/phases/start-ability.js';
import { messageCode } from '../tick/presses/messages.js';
import { notePress } from '../tick/presses/presses.js';
import { warpCode } from '../tick/walk/warp-body.js';
import { tick } from './tick.js';

const INTERPRETER = {
  notePress,
  fold: foldEffects,
  tick,
  start: startAbility,
  end: endAbility,
  leave: leavePhase,
  judge: judgeAbility,
  warps: warpCode,
  messages: messageCode,
  probe: askProbe,
  volumes: showVolumes,
  facts: (plan: Plan, c: Frame) => new FactView(plan, c),
  nearest: nearestName,
} as unknown as PlanCode;

/** What plans do that are interpreted. */
export function interpreter(): PlanCode {
  return INTERPRETER;
}
