import { HOST, STOP, T } from '../record/slots.js';
import { type Emitter, functionOf } from './emitter.js';

/** Writes how a tick begins: equal to `takeIn` of runtime/tick.ts. */
export function emitTakeIn(e: Emitter): string {
  const { names, forgets, combatAt } = e.plan;
  const hears = names.event.length > 0;
  return functionOf('Takes in what came through the door; says false while the clock stands still.', 'takeIn', 'c', [
    'const { r } = c;',
    `${e.use('beginTick')}(c);`,
    ...(hears ? [`${e.use('dropHandled')}(c);`] : []),
    'c.updateRoster();',
    `if (c.incoming.count > 0) ${e.use('takeRows')}(c);`,
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
