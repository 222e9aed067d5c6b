import type { AbilityPlan } from '../../compile/plan.js';
import {
  all,
  any,
  at,
  Block,
  type Code,
  constant,
  enclose,
  FALSE,
  js,
  type Lines,
  library,
  list,
  not,
  piecesOf,
  poolFunction,
  tight,
  to,
} from '../../record/code.js';
import { ENDED } from '../../record/event-codes.js';
import { ENOUGH } from '../../record/pool-line.js';
import { L_ABILITY, L_DUE, L_PHASE, L_TRIGGER, LANE, P_MIN, T } from '../../record/slots.js';
import type { Path } from '../../report/diagnostic.js';
import { type Emitter, functionOf } from '../../text/emitter.js';
import { type Case, overRunning, phasesOf, placeOf, type ScopeAt, switchOver } from '../../text/scopes.js';
import { constantName } from '../../text/slot-names.js';

/** Functions that are called in each tick while something runs, in their order; those that do nothing are left out. */
export interface Running {
  readonly functions: readonly Lines[];
  readonly beats: boolean;
  /** Lines that end phases whose time is up. */
  readonly due: Lines;
  /** Lines that end what is over by its conditions: all of them if they are few, else a call. */
  readonly endings: Lines;
}

/** A tick has no more lines of endings than this: engines compile long functions late. */
const FEW = 60;

/** Writes beats and what effects do in each tick, due phases and endings, lane by lane: see phases.ts. */
export function emitRunning(e: Emitter): Running {
  const { plan } = e;
  const beats: Lines[number][] = [];
  const due: Lines[number][] = [];
  const endings: Lines[number][] = [];
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const here = plan.abilities.filter(({ laneAt }) => laneAt === lane);
    beats.push(...overRunning(e, lane, (scope) => playing(e, scope)));
    if (here.length > 0) due.push(...dueIn(e, lane, here));
    const ways = here.map((a) => endingsOf(e, a));
    endings.push(...switchOver('ability', at(lane + L_ABILITY), ways));
  }
  const write = (comment: string, name: string, body: Lines): Lines =>
    body.length === 0 ? [] : functionOf(comment, name, 'c', [js`const { r } = c;`, ...body]);
  const many = [...piecesOf(endings)].length > FEW;
  const over = 'Abilities that end, and phases that are over, by their conditions.';
  return {
    functions: [
      write('Beats of what runs, and what effects do in each tick.', 'playBeats', beats),
      many ? write(over, 'checkEndings', endings) : [],
    ],
    beats: beats.length > 0,
    due,
    endings: many ? [js`checkEndings(c);`] : endings,
  };
}

/** What runs in a lane ends. */
function endBy(e: Emitter, lane: number, why: keyof typeof ENDED): Code {
  const by = constant(`BY_${constantName(why)}`, ENDED[why]);
  return js`${library('endAbility')}(c, ${e.lane(lane)}, ${by}, -1);`;
}

/** Phases of a lane whose time is up, unless something interrupts them in the same tick. */
function dueIn(e: Emitter, lane: number, here: readonly AbilityPlan[]): Lines {
  const { plan } = e;
  const interrupted = here.flatMap((a) =>
    phasesOf(e, a).flatMap((index): Case[] => {
      const own = e.any(a.interrupt, `abilities[${a.index}].interrupt`);
      const ofPhase = e.any(plan.phases[index].interrupt, `phases[${index}].interrupt`);
      const test = any(own, ofPhase);
      if (test === FALSE) return [];
      const origin: Path = ['abilities', a.name, 'phases', index - a.firstPhase];
      return [{ index, body: [js`interrupted = ${test};`.from(...origin, 'interrupt')] }];
    }),
  );
  const isDue = js`${at(lane + L_DUE)} <= ${at(T)}`;
  const leave = js`${library('leavePhase')}(c, ${e.lane(lane)});`;
  if (interrupted.length === 0) return [js`if (${isDue}) ${leave}`];
  return [
    new Block([
      js`if (${isDue}) {`,
      [
        js`let interrupted = false;`,
        ...switchOver('phase', at(lane + L_PHASE), interrupted),
        js`if (interrupted) ${endBy(e, lane, 'interrupted')}`,
        js`else ${leave}`,
      ],
      js`}`,
    ]),
  ];
}

function playing(e: Emitter, place: ScopeAt): Lines {
  const { kind, index, scope, origin, since } = place;
  const path = placeOf(place);
  const beats = js`${list(kind)}[${index}].scope.beats, ${at(T)} - ${at(since)}`;
  return [
    ...(scope.eachs.length > 0 ? [js`${to(e.plan.foldedAt)} = 0;`] : []),
    ...e.actions(scope.eachs, `${path}.eachs`, origin),
    ...(scope.beats.length > 0 ? [js`${library('playScope')}(c, ${beats});`.from(...origin, 'beats')] : []),
  ];
}

/** What ends an ability or its phase, in the order in which it is asked. */
function endingsOf(e: Emitter, a: AbilityPlan): Case {
  const { plan } = e;
  const path = `abilities[${a.index}]`;
  const parts: (Code | Lines)[] = [];
  const chain = (test: Code, body: Lines, ...key: string[]) => {
    if (test === FALSE) return;
    parts.push(js`${parts.length > 0 ? '} else ' : ''}if (${test}) {`.from('abilities', a.name, ...key), body);
  };
  const end = (why: keyof typeof ENDED) => endBy(e, a.laneAt, why);
  chain(e.any(a.interrupt, `${path}.interrupt`), [end('interrupted')], 'interrupt');
  chain(e.any(a.end, `${path}.end`), [end('condition')], 'end');
  const empty = a.upkeeps.flatMap(({ pool, perTick, rate }) => {
    const { at: slot, value } = plan.pools[pool];
    const dry = tight(js`${at(value)} <= ${at(slot + P_MIN)} + ${ENOUGH}`);
    if (perTick === 0) return [];
    // What drains was brought up to date as the tick began; by a formula it may drain nothing.
    return rate === null ? dry : enclose(js`${poolFunction('update', pool)}(r), ${dry}`);
  });
  chain(any(...empty), [...(a.ranOutAt >= 0 ? [js`${to(a.ranOutAt)} = 1;`] : []), end('ranOut')], 'upkeep');
  if (a.sustained.length > 0) {
    const held = a.sustained.flatMap(({ sustained, index }) =>
      sustained === null ? [] : e.test(sustained, `triggers[${index}].sustained`),
    );
    const indexes = a.sustained.map(({ index }) => index);
    chain(all(e.oneOf(at(a.laneAt + L_TRIGGER), indexes, 'trigger'), not(any(...held))), [end('released')], 'start');
  }
  const cases = phasesOf(e, a).map((i): Case => {
    const origin = ['abilities', a.name, 'phases', i - a.firstPhase];
    return { index: i, body: phaseOver(e, i, origin) };
  });
  const phases = switchOver('phase', at(a.laneAt + L_PHASE), cases);
  if (parts.length === 0) return { index: a.index, body: phases };
  if (phases.length > 0) parts.push(js`} else {`, phases);
  return { index: a.index, body: [new Block([...parts, js`}`])] };
}

function phaseOver(e: Emitter, index: number, origin: Path): Lines {
  const { abilities, phases } = e.plan;
  const { until, interrupt, charge, ability } = phases[index];
  const path = `phases[${index}]`;
  const { laneAt } = abilities[ability];
  const lane = e.lane(laneAt);
  const lines: Code[] = [];
  const add = (test: Code, body: Code, key: string) => {
    if (test !== FALSE) lines.push(js`${lines.length > 0 ? 'else ' : ''}if (${test}) ${body}`.from(...origin, key));
  };
  add(e.any(interrupt, `${path}.interrupt`), endBy(e, laneAt, 'interrupted'), 'interrupt');
  if (charge !== null)
    add(js`${library('isButtonUp')}(c, ${lane})`, js`${library('releaseCharge')}(c, ${lane});`, 'charge');
  add(e.any(until, `${path}.until`), js`${library('leavePhase')}(c, ${lane});`, 'until');
  return lines;
}
