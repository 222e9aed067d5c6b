import type { AbilityPlan, ScopePlan } from '../../compile/plan.js';
import { CUT_SHORT, ENDED, EVENT } from '../../record/event-codes.js';
import {
  A_BROKEN,
  A_ENDED,
  C_LENGTH,
  C_READY,
  FACE_LOCK,
  L_ABILITY,
  L_DUE,
  L_PHASE,
  L_PHASE_SINCE,
  L_SINCE,
  L_TRIGGER,
  LANE,
  MARK,
  NEVER,
  RUNNING,
  T,
} from '../../record/slots.js';
import { writeNumber } from '../../record/written.js';
import type { Path } from '../../report/diagnostic.js';
import { type Emitter, functionOf, indexesOf } from '../../text/emitter.js';
import { type Case, phasesOf, switchOver } from '../../text/scopes.js';
import { constantName } from '../../text/slot-names.js';
import { emitWake } from '../awake-text.js';
import { hasCooldown } from '../cooldowns.js';
import { emitFacing } from '../walk/move-text.js';

/** Writes how an ability and its phases begin and end: equal to start-ability.ts and phases.ts. */
export function emitLife(e: Emitter, a: AbilityPlan): string[] {
  const phases = phasesOf(e, a).flatMap((i) => [beginPhase(e, i), closePhase(e, i), leavePhase(e, i)]);
  return [startAbility(e, a), ...phases.filter((one) => one !== ''), endAbility(e, a)];
}

/** Writes the same by what runs in a lane. */
export function emitLanes(e: Emitter): string {
  return [
    emitTurn(e),
    `const leaves = [${e.phaseNames.map(({ leave }) => leave).join(', ')}];`,
    functionOf('Ends the phase that runs in a lane, and goes on to the next.', 'leave', 'c, lane', [
      `leaves[c.r[lane + ${L_PHASE}]](c);`,
    ]),
    `const ends = [${e.abilityNames.map(({ end }) => end).join(', ')}];`,
    functionOf('Ends what runs in a lane.', 'end', 'c, lane, why, by', [`ends[c.r[lane + ${L_ABILITY}]](c, why, by);`]),
  ].join('\n\n');
}

/** Whether some warp may lead nowhere, or somebody who is called finds no room. */
function goesAstray({ plan }: Emitter): boolean {
  return plan.warps || plan.summonings.length > 0;
}

/** Why something ends, by its name. */
export function endedBy(e: Emitter, why: keyof typeof ENDED): string {
  return e.constant(`BY_${constantName(why)}`, ENDED[why]);
}

/** The ability of a phase, where the phase stands in the moveset, and what comments call it. */
function phaseOf(e: Emitter, index: number) {
  const { abilities, phases } = e.plan;
  const a = abilities[phases[index].ability];
  const origin: Path = ['abilities', a.name, 'phases', index - a.firstPhase];
  return { a, origin, name: `${phases[index].name} of ${a.name}` };
}

function startAbility(e: Emitter, a: AbilityPlan): string {
  const { plan } = e;
  const lines = ['const { r } = c;'];
  const origin: Path = ['abilities', a.name];
  const itself = e.index('ability', a.index);
  const breaks = indexesOf(a.breaks);
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const running = `r[${lane + L_ABILITY}]`;
    const broken = e.oneOf(
      running,
      breaks.filter((index) => plan.abilities[index].laneAt === lane),
      'ability',
    );
    const stop = (why: string) => `end(c, ${e.lane(lane)}, ${why}, ${itself});`;
    if (broken !== 'false') lines.push(e.from(`if (${broken}) ${stop(endedBy(e, 'broken'))}`, ...origin, 'breaks'));
    if (lane === a.laneAt)
      lines.push(`${broken === 'false' ? '' : 'else '}if (${running} >= 0) ${stop(endedBy(e, 'followed'))}`);
  }
  lines.push(...turnBody(a));
  const costs = a.payPhase < 0 ? a.costs : [];
  plan.pools.forEach((_, i) => {
    if (!costs.some(({ pool }) => pool === i)) lines.push(`r[${paidAt(e, a, i)}] = 0;`);
  });
  for (const { pool, price } of costs)
    lines.push(
      e.from(`r[${paidAt(e, a, pool)}] = r[${price}];`, ...origin, 'cost', plan.pools[pool].name),
      `${e.use('spend')}(c, ${pool}, ${e.place(price)});`,
    );
  for (const at of [a.powerAt, a.resultAt, a.ranOutAt]) if (at >= 0) lines.push(`r[${at}] = 0;`);
  if (hasCooldown(a) && a.cooldownFrom === 'start') lines.push(...beginCooldown(e, a));
  if (hasCooldown(a) && a.cooldownFrom === 'event')
    lines.push(e.from(`${e.use('startCooldown')}(c, abilities[${a.index}]);`, ...origin, 'cooldown'));
  if (a.chargesAt >= 0) lines.push(e.from(`${e.use('takeCharge')}(c, abilities[${a.index}]);`, ...origin, 'charges'));
  const graced = plan.abilities.filter(({ eligibleAt, lane }) => eligibleAt >= 0 && lane === a.lane);
  if (graced.length > 0) lines.push('const { here } = c.roster;');
  for (const { index, eligibleAt } of graced) lines.push(`if (${e.here(index)}) r[${eligibleAt}] = -Infinity;`);
  lines.push(
    `r[${RUNNING}] += 1;`,
    `r[${a.laneAt + L_ABILITY}] = ${itself};`,
    `r[${a.laneAt + L_SINCE}] = r[${T}];`,
    `r[${a.laneAt + L_PHASE_SINCE}] = r[${T}];`,
    `r[${a.laneAt + L_TRIGGER}] = trigger.index;`,
    `c.events.add(${e.constant('EVENT_STARTED', EVENT.started)}, ${itself}, trigger.index);`,
  );
  if (a.heard.length > 0) lines.push(`${e.use('keepMessage')}(c, abilities[${a.index}], trigger.event);`);
  if (a.upkeeps.length > 0) lines.push(`${e.use('updateDrains')}(c);`);
  lines.push(...open(e, a.scope, `abilities[${a.index}].scope`, origin));
  if (a.firstPhase < 0) lines.push(`r[${plan.foldedAt}] = 0;`);
  const lane = e.lane(a.laneAt);
  if (goesAstray(e)) lines.push(`if (${e.use('endAstray')}(c, ${lane})) return;`);
  if (a.firstPhase >= 0) lines.push(begin(e, a, a.firstPhase, 'false'));
  if (a.loadout >= 0) lines.push(`${e.use('useLoadout')}(c);`);
  return functionOf(`Starts ${a.name}.`, e.abilityNames[a.index].start, 'c, trigger', lines, origin);
}

/** Facing follows the stick before a move is aimed by it, unless what still runs locks it. */
function turnBody(a: AbilityPlan): string[] {
  const keeps = a.triggers.filter(({ keepsFacing }) => keepsFacing);
  if (keeps.length === a.triggers.length) return [];
  return [keeps.length === 0 ? 'turn(c);' : 'if (!trigger.keepsFacing) turn(c);'];
}

function emitTurn(e: Emitter): string {
  const { foldedAt, probes } = e.plan;
  return functionOf('Turns to where the stick is pushed, unless what runs locks that.', 'turn', 'c', [
    'const { r } = c;',
    `if (r[${foldedAt}] === 0) fold(c);`,
    ...emitFacing(e),
    ...(probes.length > 0 ? [`if (r[${FACE_LOCK}] !== 1) c.senseAgain();`] : []),
  ]);
}

function endAbility(e: Emitter, a: AbilityPlan): string {
  const { plan } = e;
  const lines = ['const { r } = c;'];
  const origin: Path = ['abilities', a.name];
  const cases = phasesOf(e, a).map((i): Case => {
    const body = closes(e, i).length > 0 ? [`${e.phaseNames[i].close}(c);`] : [];
    return { index: i, body };
  });
  lines.push(...switchOver(e, 'phase', `r[${a.laneAt + L_PHASE}]`, cases));
  if (a.firstPhase >= 0) lines.push(...noPhase(a));
  lines.push(...close(e, a.scope, `abilities[${a.index}].scope`, origin), `r[${plan.foldedAt}] = 0;`);
  if (a.powerAt >= 0 && !a.keepsCharge) {
    const cut = CUT_SHORT.map((why) => `why === ${endedBy(e, why)}`);
    lines.push(`if (${cut.join(' || ')}) r[${a.powerAt}] = 0;`);
  }
  for (const mark of a.marks) for (let i = 0; i < MARK; i++) lines.push(`r[${mark + i}] = 0;`);
  const itself = e.index('ability', a.index);
  const breaks = plan.abilities.some(({ breaks, index }) => index !== a.index && breaks?.[a.index] === 1);
  const byCode = `why === ${endedBy(e, 'code')}`;
  const broken = breaks ? `(why === ${endedBy(e, 'broken')} && by !== ${itself}) || ${byCode}` : byCode;
  lines.push(
    `r[${RUNNING}] -= 1;`,
    `r[${a.laneAt + L_ABILITY}] = -1;`,
    `r[${a.at + A_ENDED}] = r[${T}];`,
    `if (${broken}) r[${a.at + A_BROKEN}] = r[${T}];`,
    // What keeps it up may begin it again.
    ...emitWake(e, a.sustained),
  );
  if (a.upkeeps.length > 0) lines.push(`${e.use('updateDrains')}(c);`);
  if (hasCooldown(a) && a.cooldownFrom === 'end') lines.push(...beginCooldown(e, a));
  if (a.refund !== null) lines.push(`${e.use('refundCosts')}(c, abilities[${a.index}], why);`);
  lines.push(`c.events.add(${e.constant('EVENT_ENDED', EVENT.ended)}, ${itself}, why, by);`);
  if (plan.triggers.some(({ after }) => after === a.index))
    lines.push(`${e.use('noteMoments')}(c, c.roster.endings[${itself}], why, 1);`);
  const comment = `Ends ${a.name}; "by" is what breaks it or follows it.`;
  return functionOf(comment, e.abilityNames[a.index].end, 'c, why, by', lines, origin);
}

function beginPhase(e: Emitter, index: number): string {
  const { plan } = e;
  const { a, origin, name } = phaseOf(e, index);
  const { when, next, lasts, time, charge, scope } = plan.phases[index];
  const lines = ['const { r } = c;'];
  const pay = () => `${e.use('payLater')}(c, abilities[${a.index}])`;
  const stop = (why: keyof typeof ENDED) => `${e.abilityNames[a.index].end}(c, ${endedBy(e, why)}, -1);`;
  if (when !== null) {
    // Where the phase that pays is skipped, what comes instead of it pays.
    const owes = index === a.payPhase ? 'true' : 'owes';
    const skip =
      next >= 0
        ? [begin(e, a, next, owes)]
        : a.payPhase < 0
          ? [stop('time')]
          : [`if (${owes === 'true' ? '' : 'owes && '}!${pay()}) ${stop('couldNotPay')}`, `else ${stop('time')}`];
    const test = e.not(e.test(when, `phases[${index}].when`));
    lines.push(e.from(`if (${test}) {`, ...origin, 'when'), ...skip.map((line) => `  ${line}`), '  return;', '}');
  }
  if (a.payPhase >= 0 && index >= a.payPhase)
    lines.push(
      e.from(`if (${index === a.payPhase ? '' : 'owes && '}!${pay()}) {`, 'abilities', a.name, 'cost'),
      `  ${stop('couldNotPay')}`,
      '  return;',
      '}',
    );
  const itself = e.index('phase', index);
  lines.push(
    `r[${a.laneAt + L_PHASE}] = ${itself};`,
    `r[${a.laneAt + L_PHASE_SINCE}] = r[${T}];`,
    time === null && !charge?.time
      ? `r[${a.laneAt + L_DUE}] = ${lasts === NEVER ? 'Infinity' : `r[${T}] + ${lasts}`};`
      : e.from(`${e.use('setDue')}(c, ${e.lane(a.laneAt)}, phases[${index}]);`, ...origin, 'for'),
    `c.events.add(${e.constant('EVENT_PHASE', EVENT.phase)}, ${e.index('ability', a.index)}, ${itself});`,
    ...open(e, scope, `phases[${index}].scope`, origin),
    `r[${plan.foldedAt}] = 0;`,
  );
  if (goesAstray(e)) lines.push(`${e.use('endAstray')}(c, ${e.lane(a.laneAt)});`);
  const parameters = a.payPhase >= 0 ? 'c, owes' : 'c';
  const comment = `Begins ${name}${when === null ? '' : ', or what comes after it'}.`;
  return functionOf(comment, e.phaseNames[index].begin, parameters, lines, origin);
}

/** A call that begins a phase. */
function begin(e: Emitter, a: AbilityPlan, phase: number, owes: string): string {
  return `${e.phaseNames[phase].begin}(c${a.payPhase >= 0 ? `, ${owes}` : ''});`;
}

function leavePhase(e: Emitter, index: number): string {
  const { a, origin, name } = phaseOf(e, index);
  const { next } = e.plan.phases[index];
  return functionOf(
    `Ends ${name}${next < 0 ? ', and with it the ability' : ''}.`,
    e.phaseNames[index].leave,
    'c',
    [
      'const { r } = c;',
      ...(closes(e, index).length > 0 ? [`${e.phaseNames[index].close}(c);`] : []),
      // What comes next may ask which phase runs, or end the ability.
      ...(next >= 0 && e.plan.phases[next].when === null && a.payPhase < 0 ? [] : noPhase(a)),
      next < 0 ? `${e.abilityNames[a.index].end}(c, ${endedBy(e, 'time')}, -1);` : begin(e, a, next, 'false'),
    ],
    origin,
  );
}

function noPhase({ laneAt }: AbilityPlan): string[] {
  return [`r[${laneAt + L_PHASE}] = -1;`, `r[${laneAt + L_DUE}] = Infinity;`];
}

/** What is done as a phase closes, if anything is. */
function closePhase(e: Emitter, index: number): string {
  const lines = closes(e, index);
  if (lines.length === 0) return '';
  const { origin, name } = phaseOf(e, index);
  return functionOf(`What ${name} leaves.`, e.phaseNames[index].close, 'c', ['const { r } = c;', ...lines], origin);
}

function closes(e: Emitter, index: number): string[] {
  const { phases } = e.plan;
  const { a, origin } = phaseOf(e, index);
  const { charge, scope } = phases[index];
  const power =
    charge === null ? [] : [`${e.use('updatePower')}(r, abilities[${a.index}], plan.phases, ${a.powerAt});`];
  return [...power, ...close(e, scope, `phases[${index}].scope`, origin)];
}

/** The numbers that its effects own are 0 while a scope is closed and as it opens. */
function open(e: Emitter, scope: ScopePlan, path: string, origin: Path): string[] {
  return [...clear(scope), ...e.actions(scope.begins, `${path}.begins`, origin)];
}

function close(e: Emitter, scope: ScopePlan, path: string, origin: Path): string[] {
  return [...e.actions(scope.ends, `${path}.ends`, origin), ...clear(scope)];
}

function clear({ ownAt, owns }: ScopePlan): string[] {
  if (owns > 8) return [`r.fill(0, ${ownAt}, ${ownAt + owns});`];
  return Array.from({ length: owns }, (_, i) => `r[${ownAt + i}] = 0;`);
}

function beginCooldown(e: Emitter, a: AbilityPlan): string[] {
  if (a.cooldownTime !== null)
    return [e.from(`${e.use('beginCooldown')}(c, abilities[${a.index}]);`, 'abilities', a.name, 'cooldown')];
  const ready = `r[${T}] + ${writeNumber(a.cooldown)}`;
  return [
    e.from(`if (${ready} > r[${a.cooldownAt + C_READY}]) {`, 'abilities', a.name, 'cooldown'),
    `  r[${a.cooldownAt + C_READY}] = ${ready};`,
    `  r[${a.cooldownAt + C_LENGTH}] = ${a.cooldown};`,
    '}',
  ];
}

function paidAt({ plan }: Emitter, { lane }: AbilityPlan, pool: number): number {
  return plan.layout.paid + lane * plan.pools.length + pool;
}
