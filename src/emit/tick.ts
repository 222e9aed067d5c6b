import { isBreaker } from '../compile/breakers.js';
import type { Plan } from '../compile/plan.js';
import { asked, at, Block, commas, item, js, type Lines, library, poolFunction } from '../record/code.js';
import { LACKING, P_WATCHED, PENDING, RUNNING, STANCE } from '../record/slots.js';
import { Emitter, functionOf } from '../text/emitter.js';
import { type PrintedLines, Printer } from '../text/printer.js';
import { emitFold } from '../tick/fold/fold-text.js';
import { emitRunning, type Running } from '../tick/phases/endings-text.js';
import { emitPools } from '../tick/pools/pools-text.js';
import { emitEvaluation, emitGrace, emitLatches, emitRequests, emitStance } from '../tick/requests/requests-text.js';
import { emitButtons, emitPresses, emitTakeIn } from '../tick/take-in/take-in-text.js';
import { emitFacing, emitMove } from '../tick/walk/move-text.js';

/** A module, and what it takes from the library. */
export interface PrintedTick extends PrintedLines {
  readonly uses: readonly string[];
}

/**
 * Writes a tick of this moveset as plain JavaScript; it defines `code`, and reads `plan`, which comes before it. Undefined where the plan
 * cannot be written.
 */
export function emitTick(plan: Plan, writePlan: (printer: Printer) => string | undefined): PrintedTick | undefined {
  const e = new Emitter(plan);
  const printer = new Printer(e);
  const running = emitRunning(e);
  const fold = emitFold(e);
  const functions = [
    ...emitPools(e),
    emitTakeIn(e),
    emitButtons(e),
    emitPresses(e),
    emitStance(e),
    ...running.functions,
    ...emitRequests(e),
    fold.lines,
    decide(e, running),
    emitMove(e, fold),
    whole(e),
    code(e),
  ];
  const written = writePlan(printer);
  if (written === undefined) return undefined;
  return { ...printer.module(functions, written), uses: [...printer.uses].sort() };
}

/** The order of a tick: see interpret/tick.ts. */
function decide(e: Emitter, { beats, due, endings }: Running): Lines {
  const { plan } = e;
  const { pools, varyingPools, loadouts, layers, combatAt } = plan;
  const runs = js`${at(RUNNING)} > 0`;
  const latches = emitLatches(e);
  const grace = emitGrace(e);
  return functionOf('What happens in a tick.', 'decide', 'c', [
    js`const { r } = c;`,
    ...(plan.varyingDrains ? [js`if (${runs}) ${library('updateDrains')}(c);`] : []),
    ...varyingPools.map(({ index }) => js`${library('updateVarying')}(c, ${item('pools', index)});`),
    ...pools.map(({ index, at: pool }) => js`if (${at(pool + P_WATCHED)} !== 0) ${poolFunction('watch', index)}(c);`),
    js`const stance = pickStance(c);`,
    js`if (stance !== ${at(STANCE)}) ${library('changeStance')}(c, stance);`,
    ...(plan.triggers.some((trigger) => isBreaker(plan, trigger))
      ? [js`if (${runs} && ${at(PENDING)} > 0) ${library('evaluateInterruptions')}(c);`]
      : []),
    ...(plan.restingBeats ? [js`${library('playRestingBeats')}(c);`] : []),
    ...(plan.abilities.length > 0
      ? [new Block([js`if (${runs}) {`, [...(beats ? [js`playBeats(c);`] : []), ...due], js`}`])]
      : []),
    ...(plan.abilities.some(({ charges }) => charges !== null)
      ? [js`if (${at(LACKING)} > 0) ${library('refillCharges')}(c);`]
      : []),
    ...(latches.length > 0 ? [js`const { known } = c.roster;`, ...latches] : []),
    ...(endings ? [js`if (${runs}) checkEndings(c);`] : []),
    ...(loadouts.length > 0 ? [js`${library('useLoadout')}(c);`] : []),
    ...(grace.length > 0 ? [js`const { here } = c.roster;`, ...grace] : []),
    ...(plan.triggers.some(({ on }) => on === 'tick')
      ? [js`${library('noteMoments')}(c, c.roster.ticking, -1, 1);`]
      : []),
    ...emitEvaluation(e),
    ...(combatAt >= 0 ? [js`${library('countHits')}(c);`] : []),
    js`if (${at(plan.foldedAt)} === 0) fold(c);`,
    ...(layers.length > 0 ? [js`${library('foldClips')}(c);`] : []),
    ...emitFacing(e),
  ]);
}

function whole(e: Emitter): Lines {
  return functionOf('One tick of a character by itself.', 'tick', 'c', [
    js`if (!takeIn(c)) return;`,
    js`decide(c);`,
    js`move(c);`,
    ...(e.plan.probes.length > 0 ? [js`${asked('senseAgain')}();`] : []),
  ]);
}

/** What the plan does, and what only some movesets need: see `PlanCode` of compile/plan.ts. */
function code(e: Emitter): Lines {
  const { warps, probes, hurt, abilities, phases, names } = e.plan;
  const drawn = hurt !== null || [...abilities, ...phases].some(({ scope }) => scope.strikes.length > 0);
  const parts = [
    ...['takeIn', 'buttonOf', 'notePress', 'decide', 'fold', 'move', 'tick'],
    js`judge: ${library('judgeAbility')}`,
    js`start: ${library('startAbility')}`,
    js`end: ${library('endAbility')}`,
    js`leave: ${library('leavePhase')}`,
    ...(warps ? [js`warps: ${library('warpCode')}`] : []),
    ...(names.event.length > 0 ? [js`messages: ${library('messageCode')}`] : []),
    ...(probes.length > 0 ? [js`probe: ${library('askProbe')}`] : []),
    ...(drawn ? [js`volumes: ${library('showVolumes')}`] : []),
  ];
  return [js`const code = { ${commas(parts)} };`];
}
