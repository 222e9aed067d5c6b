import type { AbilityPlan, ScopePlan } from '../../compile/plan.js';
import {
  all,
  any,
  asked,
  at,
  Block,
  type Code,
  compare,
  constant,
  equal,
  FALSE,
  indexOf,
  js,
  type Lines,
  library,
  list,
  not,
  place,
  to,
} from '../../record/code.js';
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
import type { Path } from '../../report/diagnostic.js';
import { type Emitter, functionOf, indexesOf } from '../../text/emitter.js';
import { type Case, phasesOf, switchOver } from '../../text/scopes.js';
import { constantName } from '../../text/slot-names.js';
import { emitWake } from '../awake-text.js';
import { hasCooldown } from '../cooldowns.js';
import { emitFacing } from '../walk/move-text.js';

/** Writes how an ability and its phases begin and end: equal to start-ability.ts and phases.ts. */
export function emitLife(e: Emitter, a: AbilityPlan): Lines[] {
  const phases = phasesOf(e, a).flatMap((i) => [beginPhase(e, i), closePhase(e, i), leavePhase(e, i)]);
  return [startAbility(e, a), ...phases, endAbility(e, a)];
}

/** Writes the same by what runs in a lane. */
export function emitLanes(e: Emitter): Lines[] {
  return [
    emitTurn(e),
    [js`const leaves = [${e.phaseNames.map(({ leave }) => leave).join(', ')}];`],
    functionOf('Ends the phase that runs in a lane, and goes on to the next.', 'leave', 'c, lane', [
      js`leaves[c.r[lane + ${L_PHASE}]](c);`,
    ]),
    [js`const ends = [${e.abilityNames.map(({ end }) => end).join(', ')}];`],
    functionOf('Ends what runs in a lane.', 'end', 'c, lane, why, by', [
      js`ends[c.r[lane + ${L_ABILITY}]](c, why, by);`,
    ]),
  ];
}

/** Whether some warp may lead nowhere, or somebody who is called finds no room. */
function goesAstray({ plan }: Emitter): boolean {
  return plan.warps || plan.summonings.length > 0;
}

/** Why something ends, by its name. */
export function endedBy(why: keyof typeof ENDED): Code {
  return constant(`BY_${constantName(why)}`, ENDED[why]);
}

/** The ability of a phase, where the phase stands in the moveset, and what comments call it. */
function phaseOf(e: Emitter, index: number) {
  const { abilities, phases } = e.plan;
  const a = abilities[phases[index].ability];
  const origin: Path = ['abilities', a.name, 'phases', index - a.firstPhase];
  return { a, origin, name: `${phases[index].name} of ${a.name}` };
}

const ability = ({ index }: AbilityPlan): Code => js`${list('abilities')}[${index}]`;
const phase = (index: number): Code => js`${list('phases')}[${index}]`;

function startAbility(e: Emitter, a: AbilityPlan): Lines {
  const { plan } = e;
  const origin: Path = ['abilities', a.name];
  const itself = indexOf('ability', a.index);
  const costs = a.payPhase < 0 ? a.costs : [];
  const unpaid = plan.pools.flatMap((_, i) =>
    costs.some(({ pool }) => pool === i) ? [] : js`${to(paidAt(e, a, i))} = 0;`,
  );
  const graced = plan.abilities.filter(({ eligibleAt, lane }) => eligibleAt >= 0 && lane === a.lane);
  const cooldown = hasCooldown(a) ? a.cooldownFrom : null;
  const lane = e.lane(a.laneAt);
  return functionOf(
    `Starts ${a.name}.`,
    e.abilityNames[a.index].start,
    'c, trigger',
    [
      js`const { r } = c;`,
      ...breakIn(e, a),
      ...turnBody(a),
      ...unpaid,
      ...costs.flatMap(({ pool, price }) => [
        js`${to(paidAt(e, a, pool))} = ${at(price)};`.from(...origin, 'cost', plan.pools[pool].name),
        js`${library('spend')}(c, ${pool}, ${place(price)});`,
      ]),
      ...[a.powerAt, a.resultAt, a.ranOutAt].flatMap((slot) => (slot >= 0 ? js`${to(slot)} = 0;` : [])),
      ...(cooldown === 'start' ? beginCooldown(a) : []),
      ...(cooldown === 'event' ? [js`${library('startCooldown')}(c, ${ability(a)});`.from(...origin, 'cooldown')] : []),
      ...(a.chargesAt >= 0 ? [js`${library('takeCharge')}(c, ${ability(a)});`.from(...origin, 'charges')] : []),
      ...(graced.length > 0 ? [js`const { here } = c.roster;`] : []),
      ...graced.map(({ index, eligibleAt }) => js`if (${e.here(index)}) ${to(eligibleAt)} = -Infinity;`),
      js`${to(RUNNING)} += 1;`,
      js`${to(a.laneAt + L_ABILITY)} = ${itself};`,
      js`${to(a.laneAt + L_SINCE)} = ${at(T)};`,
      js`${to(a.laneAt + L_PHASE_SINCE)} = ${at(T)};`,
      js`${to(a.laneAt + L_TRIGGER)} = trigger.index;`,
      js`c.events.add(${constant('EVENT_STARTED', EVENT.started)}, ${itself}, trigger.index);`,
      ...(a.heard.length > 0 ? [js`${library('keepMessage')}(c, ${ability(a)}, trigger.event);`] : []),
      ...(a.upkeeps.length > 0 ? [js`${library('updateDrains')}(c);`] : []),
      ...open(e, a.scope, `abilities[${a.index}].scope`, origin),
      ...(a.firstPhase < 0 ? [js`${to(plan.foldedAt)} = 0;`] : []),
      ...(goesAstray(e) ? [js`if (${library('endAstray')}(c, ${lane})) return;`] : []),
      ...(a.firstPhase >= 0 ? [begin(e, a, a.firstPhase, 'false')] : []),
      ...(a.loadout >= 0 ? [js`${library('useLoadout')}(c);`] : []),
    ],
    origin,
  );
}

/** What it breaks ends, lane by lane, and what it follows. */
function breakIn(e: Emitter, a: AbilityPlan): Lines {
  const { plan } = e;
  const breaks = indexesOf(a.breaks);
  const lines: Code[] = [];
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const running = at(lane + L_ABILITY);
    const broken = e.oneOf(
      running,
      breaks.filter((index) => plan.abilities[index].laneAt === lane),
      'ability',
    );
    const stop = (why: Code) => js`end(c, ${e.lane(lane)}, ${why}, ${indexOf('ability', a.index)});`;
    if (broken !== FALSE) lines.push(js`if (${broken}) ${stop(endedBy('broken'))}`.from('abilities', a.name, 'breaks'));
    if (lane === a.laneAt)
      lines.push(js`${broken === FALSE ? '' : 'else '}if (${running} >= 0) ${stop(endedBy('followed'))}`);
  }
  return lines;
}

/** Facing follows the stick before a move is aimed by it, unless what still runs locks it. */
function turnBody(a: AbilityPlan): Lines {
  const keeps = a.triggers.filter(({ keepsFacing }) => keepsFacing);
  if (keeps.length === a.triggers.length) return [];
  return [keeps.length === 0 ? js`turn(c);` : js`if (!trigger.keepsFacing) turn(c);`];
}

function emitTurn(e: Emitter): Lines {
  const { foldedAt, probes } = e.plan;
  return functionOf('Turns to where the stick is pushed, unless what runs locks that.', 'turn', 'c', [
    js`const { r } = c;`,
    js`if (${at(foldedAt)} === 0) fold(c);`,
    ...emitFacing(e),
    ...(probes.length > 0 ? [js`if (${at(FACE_LOCK)} !== 1) ${asked('senseAgain')}();`] : []),
  ]);
}

function endAbility(e: Emitter, a: AbilityPlan): Lines {
  const { plan } = e;
  const origin: Path = ['abilities', a.name];
  const cases = phasesOf(e, a).map((i): Case => {
    const body = closes(e, i).length > 0 ? [js`${e.phaseNames[i].close}(c);`] : [];
    return { index: i, body };
  });
  const why = (one: keyof typeof ENDED) => equal(js`why`, endedBy(one));
  const itself = indexOf('ability', a.index);
  const breaks = plan.abilities.some(({ breaks, index }) => index !== a.index && breaks?.[a.index] === 1);
  const broken = breaks ? any(all(why('broken'), compare(js`by`, '!==', itself)), why('code')) : why('code');
  const after = plan.triggers.some(({ after }) => after === a.index);
  return functionOf(
    `Ends ${a.name}; "by" is what breaks it or follows it.`,
    e.abilityNames[a.index].end,
    'c, why, by',
    [
      js`const { r } = c;`,
      ...switchOver('phase', at(a.laneAt + L_PHASE), cases),
      ...(a.firstPhase >= 0 ? noPhase(a) : []),
      ...close(e, a.scope, `abilities[${a.index}].scope`, origin),
      js`${to(plan.foldedAt)} = 0;`,
      ...(a.powerAt >= 0 && !a.keepsCharge ? [js`if (${any(...CUT_SHORT.map(why))}) ${to(a.powerAt)} = 0;`] : []),
      ...a.marks.flatMap((mark) => Array.from({ length: MARK }, (_, i) => js`${to(mark + i)} = 0;`)),
      js`${to(RUNNING)} -= 1;`,
      js`${to(a.laneAt + L_ABILITY)} = -1;`,
      js`${to(a.at + A_ENDED)} = ${at(T)};`,
      js`if (${broken}) ${to(a.at + A_BROKEN)} = ${at(T)};`,
      // What keeps it up may begin it again.
      ...emitWake(e, a.sustained),
      ...(a.upkeeps.length > 0 ? [js`${library('updateDrains')}(c);`] : []),
      ...(hasCooldown(a) && a.cooldownFrom === 'end' ? beginCooldown(a) : []),
      ...(a.refund !== null ? [js`${library('refundCosts')}(c, ${ability(a)}, why);`] : []),
      js`c.events.add(${constant('EVENT_ENDED', EVENT.ended)}, ${itself}, why, by);`,
      ...(after ? [js`${library('noteMoments')}(c, c.roster.endings[${itself}], why, 1);`] : []),
    ],
    origin,
  );
}

function beginPhase(e: Emitter, index: number): Lines {
  const { plan } = e;
  const { a, origin, name } = phaseOf(e, index);
  const { when: condition, next, lasts, time, charge, scope } = plan.phases[index];
  const unpaid = (owes: boolean) => js`${owes ? '' : 'owes && '}!${library('payLater')}(c, ${ability(a)})`;
  const stop = (why: keyof typeof ENDED) => js`${e.abilityNames[a.index].end}(c, ${endedBy(why)}, -1);`;
  const skip = (): Lines => {
    // Where the phase that pays is skipped, what comes instead of it pays.
    const owes = index === a.payPhase;
    if (next >= 0) return [begin(e, a, next, owes ? 'true' : 'owes')];
    if (a.payPhase < 0) return [stop('time')];
    return [js`if (${unpaid(owes)}) ${stop('couldNotPay')}`, js`else ${stop('time')}`];
  };
  const itself = indexOf('phase', index);
  const due = lasts === NEVER ? js`Infinity` : js`${at(T)} + ${lasts}`;
  return functionOf(
    `Begins ${name}${condition === null ? '' : ', or what comes after it'}.`,
    e.phaseNames[index].begin,
    a.payPhase >= 0 ? 'c, owes' : 'c',
    [
      js`const { r } = c;`,
      ...(condition === null
        ? []
        : [
            new Block([
              js`if (${not(e.test(condition, `phases[${index}].when`))}) {`.from(...origin, 'when'),
              [...skip(), js`return;`],
              js`}`,
            ]),
          ]),
      ...(a.payPhase >= 0 && index >= a.payPhase
        ? [
            new Block([
              js`if (${unpaid(index === a.payPhase)}) {`.from('abilities', a.name, 'cost'),
              [stop('couldNotPay'), js`return;`],
              js`}`,
            ]),
          ]
        : []),
      js`${to(a.laneAt + L_PHASE)} = ${itself};`,
      js`${to(a.laneAt + L_PHASE_SINCE)} = ${at(T)};`,
      time === null && !charge?.time
        ? js`${to(a.laneAt + L_DUE)} = ${due};`
        : js`${library('setDue')}(c, ${e.lane(a.laneAt)}, ${phase(index)});`.from(...origin, 'for'),
      js`c.events.add(${constant('EVENT_PHASE', EVENT.phase)}, ${indexOf('ability', a.index)}, ${itself});`,
      ...open(e, scope, `phases[${index}].scope`, origin),
      js`${to(plan.foldedAt)} = 0;`,
      ...(goesAstray(e) ? [js`${library('endAstray')}(c, ${e.lane(a.laneAt)});`] : []),
    ],
    origin,
  );
}

/** A call that begins a phase. */
function begin(e: Emitter, a: AbilityPlan, phase: number, owes: string): Code {
  return js`${e.phaseNames[phase].begin}(c${a.payPhase >= 0 ? `, ${owes}` : ''});`;
}

function leavePhase(e: Emitter, index: number): Lines {
  const { a, origin, name } = phaseOf(e, index);
  const { next } = e.plan.phases[index];
  return functionOf(
    `Ends ${name}${next < 0 ? ', and with it the ability' : ''}.`,
    e.phaseNames[index].leave,
    'c',
    [
      js`const { r } = c;`,
      ...(closes(e, index).length > 0 ? [js`${e.phaseNames[index].close}(c);`] : []),
      // What comes next may ask which phase runs, or end the ability.
      ...(next >= 0 && e.plan.phases[next].when === null && a.payPhase < 0 ? [] : noPhase(a)),
      next < 0 ? js`${e.abilityNames[a.index].end}(c, ${endedBy('time')}, -1);` : begin(e, a, next, 'false'),
    ],
    origin,
  );
}

function noPhase({ laneAt }: AbilityPlan): Lines {
  return [js`${to(laneAt + L_PHASE)} = -1;`, js`${to(laneAt + L_DUE)} = Infinity;`];
}

/** What is done as a phase closes, if anything is. */
function closePhase(e: Emitter, index: number): Lines {
  const lines = closes(e, index);
  if (lines.length === 0) return [];
  const { origin, name } = phaseOf(e, index);
  return functionOf(`What ${name} leaves.`, e.phaseNames[index].close, 'c', [js`const { r } = c;`, ...lines], origin);
}

function closes(e: Emitter, index: number): Lines {
  const { phases } = e.plan;
  const { a, origin } = phaseOf(e, index);
  const { charge, scope } = phases[index];
  const power = charge === null ? [] : [js`${library('updatePower')}(r, ${ability(a)}, plan.phases, ${a.powerAt});`];
  return [...power, ...close(e, scope, `phases[${index}].scope`, origin)];
}

/** The numbers that its effects own are 0 while a scope is closed and as it opens. */
function open(e: Emitter, scope: ScopePlan, path: string, origin: Path): Lines {
  return [...clear(scope), ...e.actions(scope.begins, `${path}.begins`, origin)];
}

function close(e: Emitter, scope: ScopePlan, path: string, origin: Path): Lines {
  return [...e.actions(scope.ends, `${path}.ends`, origin), ...clear(scope)];
}

function clear({ ownAt, owns }: ScopePlan): Lines {
  if (owns > 8) return [js`r.fill(0, ${ownAt}, ${ownAt + owns});`];
  return Array.from({ length: owns }, (_, i) => js`${to(ownAt + i)} = 0;`);
}

function beginCooldown(a: AbilityPlan): Lines {
  const origin: Path = ['abilities', a.name, 'cooldown'];
  if (a.cooldownTime !== null) return [js`${library('beginCooldown')}(c, ${ability(a)});`.from(...origin)];
  const ready = js`${at(T)} + ${a.cooldown}`;
  return [
    new Block([
      js`if (${ready} > ${at(a.cooldownAt + C_READY)}) {`.from(...origin),
      [js`${to(a.cooldownAt + C_READY)} = ${ready};`, js`${to(a.cooldownAt + C_LENGTH)} = ${a.cooldown};`],
      js`}`,
    ]),
  ];
}

function paidAt({ plan }: Emitter, { lane }: AbilityPlan, pool: number): number {
  return plan.layout.paid + lane * plan.pools.length + pool;
}
