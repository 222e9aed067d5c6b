import type { TriggerPlan } from '../../compile/plan.js';
import {
  all,
  asked,
  at,
  Block,
  caseOf,
  closure,
  constant,
  item,
  js,
  type Lines,
  library,
  quoted,
  tight,
  to,
  when,
} from '../../record/code.js';
import { BUTTON, HOST, STOP, T } from '../../record/slots.js';
import { type Emitter, functionOf } from '../../text/emitter.js';
import { constantName } from '../../text/slot-names.js';
import { emitWake } from '../awake-text.js';

/** Lines with which a tick begins: equal to `takeIn` of interpret/tick.ts. */
export function emitTakeIn(e: Emitter): Lines {
  const { names, messages, forgets, combatAt, probes, following } = e.plan;
  const hears = names.event.length > 0;
  return [
    js`c.events.count = 0;`,
    js`c.reasons.count = 0;`,
    ...(messages.some(({ size }) => size > 0) ? [js`c.values.count = 0;`] : []),
    ...(probes.length > 0 ? [js`${asked('senseAgain')}();`] : []),
    js`${to(HOST)} += 1;`,
    js`${to(T)} += 1;`,
    ...(hears ? [js`${library('dropHandled')}(c);`] : []),
    js`${asked('updateRoster')}();`,
    ...(following.length > 0 ? [js`${library('followMarks')}(c);`] : []),
    js`if (!c.incoming.isEmpty) ${library('takeRows')}(c);`,
    ...(forgets ? [js`${library('endUnavailable')}(c);`] : []),
    when(js`${at(HOST)} < ${at(STOP)}`, [js`${to(T)} -= 1;`, js`return false;`]),
    ...(combatAt >= 0 ? [js`${library('takePush')}(c);`] : []),
    ...(hears ? [js`${library('handleMessages')}(c);`] : []),
  ];
}

/** Writes the index of each button by its name. */
export function emitButtons(e: Emitter): Lines {
  const cases = e.plan.names.button.map((name, i) => js`case ${quoted(name)}: return ${i};`);
  return functionOf('The index of a button by its name, or -1.', 'buttonOf', 'name', [
    ...(cases.length > 0 ? [new Block([js`switch (name) {`, cases, js`}`])] : []),
    js`return -1;`,
  ]);
}

/** Writes what the press of each button triggers: equal to presses.ts. */
export function emitPresses(e: Emitter): Lines {
  const { names, layout, triggers } = e.plan;
  const cases = names.button.flatMap((name, button) => {
    const slot = layout.buttons + button * BUTTON;
    const own = triggers.filter(({ button }) => button === slot);
    const pressing = own.filter(({ on }) => on === 'press');
    const woken = own.filter(({ on, latch, wokenByPress }) => (on === 'press' && !latch) || wokenByPress);
    const body = [...pressing.map((trigger) => pressed(e, trigger, slot)), ...emitWake(e, woken)];
    if (body.length === 0) return [];
    return caseOf(constant(`BUTTON_${constantName(name)}`, button), body);
  });
  const edges = triggers.some(({ on }) => on === 'edge');
  const replaces = e.plan.waitsLast.includes(1);
  const { buttons } = layout;
  return functionOf('What the press of a button triggers.', 'notePress', 'c, button', [
    ...(replaces ? [js`${library('replaceWaiting')}(c, c.roster.pressed[button]);`] : []),
    ...(cases.length > 0 ? [js`const { r } = c;`] : []),
    ...(cases.length > 0 ? [new Block([js`switch (button) {`, cases, js`}`])] : []),
    ...(edges ? [js`${library('noteMoments')}(c, c.roster.edges, ${buttons} + button * ${BUTTON}, 1);`] : []),
  ]);
}

function pressed(e: Emitter, trigger: TriggerPlan, button: number) {
  const { index, ability, at: slot, happens, latch, buffer } = trigger;
  const { name } = e.plan.abilities[ability];
  const happened = happens && tight(js`${closure(`triggers[${index}].happens`, 'happens')}(c, ${button})`);
  const note = latch
    ? js`${library('flipLatch')}(c, ${item('triggers', index)});`
    : js`${library('noteMoment')}(r, ${constant(`TRIGGER_${index}_AT`, slot)}, ${buffer});`;
  const test = happened ? all(e.here(ability), happened) : e.here(ability);
  return js`if (${test}) ${note}`.from('abilities', name, 'start');
}
