import type { AbilityPlan } from '../../compile/plan.js';
import type { ENDED } from '../../record/event-codes.js';
import { ENOUGH } from '../../record/pool-line.js';
import { L_ABILITY, L_DUE, L_PHASE, L_TRIGGER, LANE, P_MIN, T } from '../../record/slots.js';
import type { Path } from '../../report/diagnostic.js';
import { type Emitter, functionOf } from '../../text/emitter.js';
import { type Case, overRunning, phasesOf, type ScopeAt, switchOver } from '../../text/scopes.js';
import { endedBy } from './abilities-text.js';

/** Functions that are called in each tick while something runs, in their order; those that do nothing are left out. */
export interface Running {
  readonly text: string;
  readonly beats: boolean;
  /** Statements that end phases whose time is up. */
  readonly due: readonly string[];
  readonly endings: boolean;
}

/** Writes beats and what effects do in each tick, due phases and endings, lane by lane: see phases.ts. */
export function emitRunning(e: Emitter): Running {
  const { plan } = e;
  const beats: string[] = [];
  const due: string[] = [];
  const endings: string[] = [];
  for (let lane = plan.lanesAt; lane < plan.lanesEnd; lane += LANE) {
    const here = plan.abilities.filter(({ laneAt }) => laneAt === lane);
    beats.push(...overRunning(e, lane, (at) => playing(e, at)));
    if (here.length > 0) due.push(...dueIn(e, lane, here));
    endings.push(
      ...switchOver(
        e,
        'ability',
        `r[${lane + L_ABILITY}]`,
        here.map((a) => endingsOf(e, a)),
      ),
    );
  }
  const write = (comment: string, name: string, body: string[]) =>
    body.length === 0 ? [] : functionOf(comment, name, 'c', ['const { r } = c;', ...body]);
  return {
    text: [
      write('Beats of what runs, and what effects do in each tick.', 'playBeats', beats),
      write('Abilities that end, and phases that are over, by their conditions.', 'checkEndings', endings),
    ]
      .flat()
      .join('\n\n'),
    beats: beats.length > 0,
    due,
    endings: endings.length > 0,
  };
}

/** Phases of a lane whose time is up, unless something interrupts them in the same tick. */
function dueIn(e: Emitter, lane: number, here: readonly AbilityPlan[]): string[] {
  const { plan } = e;
  const interrupted = here.flatMap((a) =>
    phasesOf(e, a).flatMap((index): Case[] => {
      const own = e.any(a.interrupt, `abilities[${a.index}].interrupt`);
      const ofPhase = e.any(plan.phases[index].interrupt, `phases[${index}].interrupt`);
      const tests = [own, ofPhase].filter((test) => test !== 'false');
      if (tests.length === 0) return [];
      const origin: Path = ['abilities', a.name, 'phases', index - a.firstPhase];
      return [
        {
          index,
          body: [e.from(`interrupted = ${tests.map((test) => `(${test})`).join(' || ')};`, ...origin, 'interrupt')],
        },
      ];
    }),
  );
  const leave = `leave(c, ${e.lane(lane)});`;
  if (interrupted.length === 0) return [`if (r[${lane + L_DUE}] <= r[${T}]) ${leave}`];
  return [
    `if (r[${lane + L_DUE}] <= r[${T}]) {`,
    '  let interrupted = false;',
    ...switchOver(e, 'phase', `r[${lane + L_PHASE}]`, interrupted).map((one) => `  ${one}`),
    `  if (interrupted) end(c, ${e.lane(lane)}, ${endedBy(e, 'interrupted')}, -1);`,
    `  else ${leave}`,
    '}',
  ];
}

function playing(e: Emitter, { scope, path, origin, since }: ScopeAt): string[] {
  const beats = `${path}.beats, r[${T}] - r[${since}]`;
  return [
    ...(scope.eachs.length > 0 ? [`r[${e.plan.foldedAt}] = 0;`] : []),
    ...e.actions(scope.eachs, `${path}.eachs`, origin),
    ...(scope.beats.length > 0 ? [e.from(`${e.use('playScope')}(c, ${beats});`, ...origin, 'beats')] : []),
  ];
}

/** What ends an ability or its phase, in the order in which it is asked. */
function endingsOf(e: Emitter, a: AbilityPlan): Case {
  const { plan } = e;
  const path = `abilities[${a.index}]`;
  const lines: string[] = [];
  const chain = (test: string, body: readonly string[], ...key: string[]) => {
    if (test === 'false') return;
    if (lines.length > 0) lines.pop();
    const line = `${lines.length > 0 ? '} else ' : ''}if (${test}) {`;
    lines.push(e.from(line, 'abilities', a.name, ...key), ...body.map((one) => `  ${one}`), '}');
  };
  const end = (why: keyof typeof ENDED) => `${e.abilityNames[a.index].end}(c, ${endedBy(e, why)}, -1);`;
  chain(e.any(a.interrupt, `${path}.interrupt`), [end('interrupted')], 'interrupt');
  chain(e.any(a.end, `${path}.end`), [end('condition')], 'end');
  const empty = a.upkeeps.flatMap(({ pool, perTick }) => {
    const { at, value } = plan.pools[pool];
    // What drains was brought up to date as the tick began.
    return perTick === 0 ? [] : `r[${value}] <= r[${at + P_MIN}] + ${ENOUGH}`;
  });
  chain(
    empty.join(' || ') || 'false',
    [...(a.ranOutAt >= 0 ? [`r[${a.ranOutAt}] = 1;`] : []), end('ranOut')],
    'upkeep',
  );
  if (a.sustained.length > 0) {
    const held = a.sustained.flatMap(({ sustained, index }) =>
      sustained === null ? [] : e.part(sustained, `triggers[${index}].sustained`),
    );
    const indexes = a.sustained.map(({ index }) => index);
    const by = e.oneOf(`r[${a.laneAt + L_TRIGGER}]`, indexes, 'trigger');
    chain(`${by} && !(${held.join(' || ')})`, [end('released')], 'start');
  }
  const cases = phasesOf(e, a).map((i): Case => {
    const origin = ['abilities', a.name, 'phases', i - a.firstPhase];
    return { index: i, body: phaseOver(e, i, origin) };
  });
  const phases = switchOver(e, 'phase', `r[${a.laneAt + L_PHASE}]`, cases);
  if (phases.length > 0 && lines.length > 0) lines.splice(-1, 1, '} else {', ...phases.map((one) => `  ${one}`), '}');
  else lines.push(...phases);
  return { index: a.index, body: lines };
}

function phaseOver(e: Emitter, index: number, origin: Path): string[] {
  const { abilities, phases } = e.plan;
  const { until, interrupt, charge, ability } = phases[index];
  const path = `phases[${index}]`;
  const lane = e.lane(abilities[ability].laneAt);
  const lines: string[] = [];
  const add = (test: string, body: string, key: string) => {
    if (test !== 'false') lines.push(e.from(`${lines.length > 0 ? 'else ' : ''}if (${test}) ${body}`, ...origin, key));
  };
  const cut = `${e.abilityNames[ability].end}(c, ${endedBy(e, 'interrupted')}, -1);`;
  add(e.any(interrupt, `${path}.interrupt`), cut, 'interrupt');
  if (charge !== null) add(`${e.use('isButtonUp')}(c, ${lane})`, `${e.use('releaseCharge')}(c, ${lane});`, 'charge');
  add(e.any(until, `${path}.until`), `${e.phaseNames[index].leave}(c);`, 'until');
  return lines;
}
