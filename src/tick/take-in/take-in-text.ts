import type { TriggerPlan } from '../../compile/plan.js';
import { BUTTON, HOST, STOP, T } from '../../record/slots.js';
import { writeData } from '../../record/written.js';
import { type Emitter, functionOf } from '../../text/emitter.js';
import { constantName } from '../../text/slot-names.js';
import { emitWake } from '../awake-text.js';

/** Writes how a tick begins: equal to `takeIn` of interpret/tick.ts. */
export function emitTakeIn(e: Emitter): string {
  const { names, messages, forgets, combatAt, probes, following } = e.plan;
  const hears = names.event.length > 0;
  return functionOf('Takes in what came through the door; says false while the clock stands still.', 'takeIn', 'c', [
    'const { r } = c;',
    'c.events.count = 0;',
    'c.reasons.count = 0;',
    ...(messages.some(({ size }) => size > 0) ? ['c.values.count = 0;'] : []),
    ...(probes.length > 0 ? ['c.senseAgain();'] : []),
    `r[${HOST}] += 1;`,
    `r[${T}] += 1;`,
    ...(hears ? [`${e.use('dropHandled')}(c);`] : []),
    'c.updateRoster();',
    ...(following.length > 0 ? [`${e.use('followMarks')}(c);`] : []),
    `if (!c.incoming.isEmpty) ${e.use('takeRows')}(c);`,
    ...(forgets ? [`${e.use('endUnavailable')}(c);`] : []),
    `if (r[${HOST}] < r[${STOP}]) {`,
    `  r[${T}] -= 1;`,
    '  return false;',
    '}',
    ...(combatAt >= 0 ? [`${e.use('takePush')}(c);`] : []),
    ...(hears ? [`${e.use('handleMessages')}(c);`] : []),
    'return true;',
  ]);
}

/** Writes the index of each button by its name. */
export function emitButtons(e: Emitter): string {
  const { button } = e.plan.names;
  return functionOf('The index of a button by its name, or -1.', 'buttonOf', 'name', [
    ...(button.length > 0 ? ['switch (name) {'] : []),
    ...button.map((name, i) => `  case ${writeData(name)}: return ${i};`),
    ...(button.length > 0 ? ['}'] : []),
    'return -1;',
  ]);
}

/** Writes what the press of each button triggers: equal to presses.ts. */
export function emitPresses(e: Emitter): string {
  const { names, layout, triggers } = e.plan;
  const cases = names.button.flatMap((name, button) => {
    const at = layout.buttons + button * BUTTON;
    const own = triggers.filter(({ button }) => button === at);
    const pressing = own.filter(({ on }) => on === 'press');
    const woken = own.filter(({ on, latch, wokenByPress }) => (on === 'press' && !latch) || wokenByPress);
    const body = [...pressing.flatMap((trigger) => pressed(e, trigger, at)), ...emitWake(e, woken)];
    return body.length === 0 ? [] : { name, button, body };
  });
  const edges = triggers.some(({ on }) => on === 'edge');
  const replaces = e.plan.waitsLast.includes(1);
  return functionOf('What the press of a button triggers.', 'notePress', 'c, button', [
    ...(replaces ? [`${e.use('replaceWaiting')}(c, c.roster.pressed[button]);`] : []),
    ...(cases.length > 0 ? ['const { r } = c;'] : []),
    ...(triggers.some(({ on }) => on === 'press') ? ['const { here } = c.roster;'] : []),
    ...(cases.length > 0 ? ['switch (button) {'] : []),
    ...cases.flatMap(({ name, button, body }) => [
      `  case ${e.constant(`BUTTON_${constantName(name)}`, button)}:`,
      ...body.map((one) => `    ${one}`),
      '    break;',
    ]),
    ...(cases.length > 0 ? ['}'] : []),
    ...(edges ? [`${e.use('noteMoments')}(c, c.roster.edges, ${layout.buttons} + button * ${BUTTON}, 1);`] : []),
  ]);
}

function pressed(e: Emitter, trigger: TriggerPlan, button: number): string[] {
  const { index, ability, at, happens, latch, buffer } = trigger;
  const { name } = e.plan.abilities[ability];
  const here = e.here(ability);
  const when = happens === null ? here : `${here} && ${e.keep(`triggers[${index}].happens`, 'happens')}(c, ${button})`;
  const note = latch
    ? `${e.use('flipLatch')}(c, triggers[${index}]);`
    : `${e.use('noteMoment')}(r, ${e.constant(`TRIGGER_${index}_AT`, at)}, ${buffer});`;
  return [e.from(`if (${when}) ${note}`, 'abilities', name, 'start')];
}
