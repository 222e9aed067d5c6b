import { isBreaker } from '../compile/breakers.js';
import type { Plan } from '../compile/plan.js';
import {
  at,
  Block,
  commas,
  constant,
  item,
  js,
  type Lines,
  library,
  readFrom,
  referencesOf,
  when,
} from '../record/code.js';
import { LACKING, PENDING, RUNNING, STANCE, T } from '../record/slots.js';
import { DECIDE, MOVE, TAKE_IN } from '../record/stages.js';
import { Emitter, functionOf } from '../text/emitter.js';
import { type PrintedLines, Printer } from '../text/printer.js';
import { emitFold, type Fold } from '../tick/fold/fold-text.js';
import { emitRunning, type Running } from '../tick/phases/endings-text.js';
import { emitPools, emitWatching } from '../tick/pools/pools-text.js';
import {
  emitEvaluation,
  emitGrace,
  emitLatches,
  emitRequests,
  emitStance,
  emitStanceNow,
} from '../tick/requests/requests-text.js';
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
    emitButtons(e),
    emitPresses(e),
    emitStance(e),
    ...running.functions,
    ...emitRequests(e),
    fold.lines,
    tick(e, running, fold),
    code(e),
  ];
  const written = writePlan(printer);
  if (written === undefined) return undefined;
  return { ...printer.module(functions, written), uses: [...printer.uses].sort() };
}

/**
 * One function for all stages of a tick, so that what they share is read once: see interpret/tick.ts. Each call takes longer than what it
 * asks in most ticks.
 */
function tick(e: Emitter, running: Running, fold: Fold): Lines {
  const { walkStick } = e.plan;
  const shared = new Map([[T, 'now']]);
  if (walkStick >= 0) shared.set(walkStick, 'stickX').set(walkStick + 1, 'stickY');
  const stages = [
    new Block([isAsked('DECIDE', DECIDE), decide(e, running), js`}`]),
    new Block([isAsked('MOVE', MOVE), emitMove(e, fold), js`}`]),
  ];
  const read = new Set(referencesOf(stages).map((one) => (one.kind === 'slot' && !one.writes ? one.at : -1)));
  const comment = 'Those stages of a tick that are asked for; says false while the clock stands still.';
  return functionOf(comment, 'tick', 'c, stages', [
    js`const { r } = c;`,
    new Block([isAsked('TAKE_IN', TAKE_IN), emitTakeIn(e), js`}`]),
    ...[...shared].flatMap(([slot, name]) => (read.has(slot) ? [js`const ${name} = ${at(slot)};`] : [])),
    ...readFrom(shared, stages),
    js`return true;`,
  ]);
}

const isAsked = (name: string, stage: number) => js`if (stages & ${constant(name, stage)}) {`;

function decide(e: Emitter, { beats, due, endings }: Running): Lines {
  const { plan } = e;
  const { varyingPools, loadouts, layers, combatAt } = plan;
  const runs = js`${at(RUNNING)} > 0`;
  const latches = emitLatches(e);
  const later: Lines = [
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
    ...(endings.length > 0 ? [when(runs, endings)] : []),
    ...(loadouts.length > 0 ? [js`${library('useLoadout')}(c);`] : []),
    ...emitGrace(e),
    ...(plan.triggers.some(({ on }) => on === 'tick')
      ? [js`${library('noteMoments')}(c, c.roster.ticking, -1, 1);`]
      : []),
    ...emitEvaluation(e),
    ...(combatAt >= 0 ? [js`${library('countHits')}(c);`] : []),
    js`if (${at(plan.foldedAt)} === 0) fold(c);`,
    ...(layers.length > 0 ? [js`${library('foldClips')}(c);`] : []),
    ...emitFacing(e),
  ];
  return [
    ...(plan.varyingDrains ? [js`if (${runs}) ${library('updateDrains')}(c);`] : []),
    ...varyingPools.map(({ index }) => js`${library('updateVarying')}(c, ${item('pools', index)});`),
    ...emitWatching(e),
    ...emitStanceNow(e),
    js`if (stance !== ${at(STANCE)}) ${library('changeStance')}(c, stance);`,
    ...readFrom(new Map([[STANCE, 'stance']]), later),
  ];
}

/** What the plan does, and what only some movesets need: see `PlanCode` of compile/plan.ts. */
function code(e: Emitter): Lines {
  const { warps, probes, hurt, abilities, phases, names } = e.plan;
  const drawn = hurt !== null || [...abilities, ...phases].some(({ scope }) => scope.strikes.length > 0);
  const parts = [
    ...['buttonOf', 'notePress', 'fold', 'tick'],
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
