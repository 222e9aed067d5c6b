import type { Chart, ChartAbility, ChartArrow } from '../analysis/chart.js';
import { escapeMarkup } from './html.js';

/**
 * A chart as State Chart XML (W3C Recommendation of 1 September 2015): lanes and the stance as parallel regions, abilities as states, phases as
 * states within. Events are the ways to start, without what conditions, costs and cooldowns say besides.
 */
export function chartScxml(chart: Chart): string {
  const { moveset, lanes, stances } = chart;
  const regions = lanes.flatMap((lane) => region(chart, lane));
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    `<scxml xmlns="http://www.w3.org/2005/07/scxml" version="1.0" datamodel="null" name="${token(moveset)}" initial="the.moveset">`,
    '  <parallel id="the.moveset">',
    '    <state id="the.stances">',
    ...stances.map((stance) => `      <state id="stance.${stance}"/>`),
    '    </state>',
    ...regions.map((line) => `    ${line}`),
    '  </parallel>',
    '</scxml>',
    '',
  ].join('\n');
}

function region(chart: Chart, lane: string): string[] {
  const inside = chart.abilities.filter((ability) => ability.lane === lane);
  const rest = `lane.${lane}.rest`;
  const free = inside.filter(({ name }) => !chart.arrows.some((arrow) => arrow.follows && arrow.to === name));
  return [
    `<state id="lane.${lane}" initial="${rest}">`,
    `  <state id="${rest}">`,
    ...free.flatMap((ability) => entries(chart, ability).map((line) => `    ${line}`)),
    '  </state>',
    ...inside.flatMap((ability) => abilityState(chart, ability, rest)).map((line) => `  ${line}`),
    '</state>',
  ];
}

/** How it is entered: one transition for each stance that it starts from, since a condition names one state only. */
function entries({ stances }: Chart, ability: ChartAbility): string[] {
  const events = eventsOf(ability);
  const where = ability.stances.length === stances.length ? [undefined] : ability.stances;
  return where.map(
    (stance) =>
      `<transition event="${events}"${stance === undefined ? '' : ` cond="In('stance.${stance}')"`} target="${ability.name}"/>`,
  );
}

function abilityState(chart: Chart, ability: ChartAbility, rest: string): string[] {
  const { name, phases } = ability;
  const ids = idsOf(ability);
  const ways = chart.arrows.filter(({ from, gathered }) => from === name && !gathered);
  const out = (phase: number) => ways.filter((way) => way.phase === phase).map((way) => transition(chart, way));
  const over = `<transition event="${phases.length > 0 ? `done.state.${name}` : `end.${name}`}" target="${rest}"/>`;
  if (phases.length === 0)
    return [`<state id="${name}">`, ...out(-1).map((line) => `  ${line}`), `  ${over}`, '</state>'];
  return [
    `<state id="${name}" initial="${ids[0]}">`,
    ...out(-1).map((line) => `  ${line}`),
    `  ${over}`,
    ...phases.flatMap(({ ticks }, i) => [
      `  <state id="${ids[i]}">`,
      ...out(i).map((line) => `    ${line}`),
      `    <transition event="${ticks === null ? 'until' : `after.${ticks}f`}" target="${ids[i + 1] ?? `${name}.over`}"/>`,
      '  </state>',
    ]),
    `  <final id="${name}.over"/>`,
    '</state>',
  ];
}

/** An id for each phase: phases of one ability may be called the same, or have names that no id can have. */
function idsOf({ name, phases }: ChartAbility): string[] {
  const ids: string[] = [];
  for (const [i, phase] of phases.entries()) {
    const id = `${name}.${phase.name}`;
    const fits = /^[A-Za-z_][\w-]*$/.test(phase.name) && phase.name !== 'over' && !ids.includes(id);
    ids.push(fits ? id : `${name}.${i + 1}`);
  }
  return ids;
}

function transition({ abilities }: Chart, { to }: ChartArrow): string {
  const target = abilities.find(({ name }) => name === to);
  return `<transition event="${target ? eventsOf(target) : to}" target="${to}"/>`;
}

/** Ways to start as names of events; joined without points, since `gaff` would match `gaff.up`. */
function eventsOf({ name, starts }: ChartAbility): string {
  const events = starts.map((start) => start.replace(/ s$/, 's').replace(/[^\w.]+/g, '-'));
  return events.length > 0 ? events.join(' ') : `request.${name}`;
}

function token(text: string): string {
  return escapeMarkup(text.replace(/\s+/g, '-'));
}
