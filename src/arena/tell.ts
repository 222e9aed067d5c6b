import type { Plan } from '../compile/plan.js';
import type { MessageValue } from '../moveset/messages.js';
import { W_AT, W_BY, W_DAMAGE, W_FROM, W_KIND, W_PUSH, W_STUN, W_VOLUME } from '../record/combat.js';
import type { Blow } from '../strikes/gather.js';
import type { Actor } from '../tick/actor.js';
import { deliverMessage } from '../tick/presses/messages.js';

/** Where the values that an arena knows stand among those of a blow, by their names. */
const KNOWN: ReadonlyMap<string, number> = new Map([
  ['damage', W_DAMAGE],
  ['kind', W_KIND],
  ['push', W_PUSH],
  ['stun', W_STUN],
  ['from', W_FROM],
  ['at', W_AT],
  ['by', W_BY],
  ['volume', W_VOLUME],
]);

const VALUES = new Float64Array(64);

/** Tells somebody what a strike or touch says, if their moveset has such an event: the values that it declares, by their names. */
export function tell(c: Actor, name: string, blow: Blow): boolean {
  const event = c.plan.indexes.event.get(name);
  if (event === undefined) return false;
  writeValues(c.plan, event, blow);
  deliverMessage(c, event, VALUES, 0);
  return true;
}

function writeValues(plan: Plan, event: number, { values, plan: { values: more }, more: amounts }: Blow): void {
  const declared = plan.messages[event].values;
  for (let i = 0; i < declared.length; i++) {
    const { name, type, at, size } = declared[i];
    const own = indexOfMore(more, name);
    const known = KNOWN.get(name);
    for (let k = 0; k < size; k++) {
      if (own >= 0) VALUES[at + k] = k === 0 ? furtherAs(type, more[own].time, amounts[own], plan.rate) : 0;
      else VALUES[at + k] = known === undefined ? (type === 'word' ? -1 : 0) : values[known + k];
    }
  }
}

/** A further value as who hears it declares it: seconds and ticks are turned into each other. */
function furtherAs(type: MessageValue['type'], isTime: boolean, amount: number, rate: number): number {
  if (type === 'time') return isTime ? amount : Math.max(0, Math.round(amount * rate));
  if (type === 'number') return isTime ? amount / rate : amount;
  return type === 'word' ? -1 : 0;
}

function indexOfMore(more: Blow['plan']['values'], name: string): number {
  for (let i = 0; i < more.length; i++) if (more[i].name === name) return i;
  return -1;
}
