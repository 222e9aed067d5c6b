import { isBreaker } from '../compile/breakers.js';
import type { Plan } from '../compile/plan.js';
import type { Recipe } from '../record/recipes.js';
import { LACKING, P_WATCHED, PENDING, RUNNING, STANCE } from '../record/slots.js';
import { Emitter, functionOf, type Lines } from '../text/emitter.js';
import { emitFold } from '../tick/fold/fold-text.js';
import { emitLanes } from '../tick/phases/abilities-text.js';
import { emitRunning, type Running } from '../tick/phases/endings-text.js';
import { emitPools } from '../tick/pools/pools-text.js';
import { emitEvaluation, emitGrace, emitLatches, emitRequests, emitStance } from '../tick/requests/requests-text.js';
import { emitButtons, emitPresses, emitTakeIn } from '../tick/take-in/take-in-text.js';
import { emitFacing, emitMove } from '../tick/walk/move-text.js';
import { emitPlan } from './plan.js';

/**
 * Writes a tick of this moveset as plain JavaScript; it defines `code`, and reads `plan`. With recipes, it writes the plan, too, if
 * that can be written.
 */
export function emitTick(plan: Plan, recipes?: readonly Recipe[]): Lines & { readonly uses: readonly string[] } {
  const e = new Emitter(plan);
  const running = emitRunning(e);
  const fold = emitFold(e);
  const functions = [
    emitPools(e),
    emitTakeIn(e),
    emitButtons(e),
    emitPresses(e),
    emitStance(e),
    running.text,
    emitRequests(e),
    emitLanes(e),
    fold.text,
    decide(e, running),
    emitMove(e, fold),
    whole(e),
    code(e),
  ];
  const written = recipes && emitPlan(e, recipes);
  return {
    ...e.finish(
      functions.filter((one) => one !== ''),
      written,
    ),
    uses: [...e.uses].sort(),
  };
}

/** The order of a tick: see interpret/tick.ts. */
function decide(e: Emitter, { beats, due, endings }: Running): string {
  const { plan } = e;
  const { pools, varyingPools, loadouts, layers, combatAt } = plan;
  const lines = ['const { r } = c;'];
  if (plan.varyingDrains) lines.push(`if (r[${RUNNING}] > 0) ${e.use('updateDrains')}(c);`);
  for (const { index } of varyingPools) lines.push(`${e.use('updateVarying')}(c, pools[${index}]);`);
  for (const { index, at } of pools)
    lines.push(`if (r[${at + P_WATCHED}] !== 0) ${e.poolFunction('watch', index)}(c);`);
  lines.push('const stance = pickStance(c);');
  lines.push(`if (stance !== r[${STANCE}]) ${e.use('changeStance')}(c, stance);`);
  if (plan.triggers.some((trigger) => isBreaker(plan, trigger)))
    lines.push(`if (r[${RUNNING}] > 0 && r[${PENDING}] > 0) ${e.use('evaluateInterruptions')}(c);`);
  if (plan.restingBeats) lines.push(`${e.use('playRestingBeats')}(c);`);
  if (plan.abilities.length > 0)
    lines.push(`if (r[${RUNNING}] > 0) {`, ...(beats ? ['  playBeats(c);'] : []), ...due.map((one) => `  ${one}`), '}');
  if (plan.abilities.some(({ charges }) => charges !== null))
    lines.push(`if (r[${LACKING}] > 0) ${e.use('refillCharges')}(c);`);
  const latches = emitLatches(e);
  if (latches.length > 0) lines.push('const { known } = c.roster;', ...latches);
  if (endings) lines.push(`if (r[${RUNNING}] > 0) checkEndings(c);`);
  if (loadouts.length > 0) lines.push(`${e.use('useLoadout')}(c);`);
  const grace = emitGrace(e);
  if (grace.length > 0) lines.push('const { here } = c.roster;', ...grace);
  const ticking = plan.triggers.filter(({ on }) => on === 'tick');
  if (ticking.length > 0) lines.push(`${e.use('noteMoments')}(c, c.roster.ticking, -1, 1);`);
  lines.push(...emitEvaluation(e));
  if (combatAt >= 0) lines.push(`${e.use('countHits')}(c);`);
  lines.push(`if (r[${plan.foldedAt}] === 0) fold(c);`);
  if (layers.length > 0) lines.push(`${e.use('foldClips')}(c);`);
  lines.push(...emitFacing(e));
  return functionOf('What happens in a tick.', 'decide', 'c', lines);
}

function whole(e: Emitter): string {
  return functionOf('One tick of a character by itself.', 'tick', 'c', [
    'if (!takeIn(c)) return;',
    'decide(c);',
    'move(c);',
    ...(e.plan.probes.length > 0 ? ['c.senseAgain();'] : []),
  ]);
}

/** What the plan does, and what only some movesets need: see `PlanCode` of compile/plan.ts. */
function code(e: Emitter): string {
  const { warps, probes, hurt, abilities, phases, names } = e.plan;
  const drawn = hurt !== null || [...abilities, ...phases].some(({ scope }) => scope.strikes.length > 0);
  const parts = [
    ...[
      'takeIn',
      'buttonOf',
      'notePress',
      'decide',
      'fold',
      'move',
      'tick',
      `judge: ${e.use('judgeAbility')}`,
      'start',
      'end',
      'leave',
    ],
    ...(warps ? [`warps: ${e.use('warpCode')}`] : []),
    ...(names.event.length > 0 ? [`messages: ${e.use('messageCode')}`] : []),
    ...(probes.length > 0 ? [`probe: ${e.use('askProbe')}`] : []),
    ...(drawn ? [`volumes: ${e.use('showVolumes')}`] : []),
  ];
  return `const code = { ${parts.join(', ')} };`;
}
