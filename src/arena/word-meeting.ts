import { wantObject } from '../report/arguments.js';
import { shortNumber } from '../report/reasons.js';
import type { ArenaEvent } from './events.js';

/** What became of a blow, where its own word says too little. */
const OUTCOMES = {
  struck: 'struck',
  armoured: 'takes it on its armour',
  blocked: 'blocked',
  parried: 'parried',
  guardBroken: 'guard broken',
};

/**
 * What happened between two members, as people read it.
 * @param event One of `arena.events`.
 */
export function wordMeeting(event: ArenaEvent): string {
  wantObject('wordMeeting', 'an event', event);
  const { by, to } = event;
  if (event.kind === 'clash') return `the strike of ${by} clashes with that of ${to}, and is lost`;
  if (event.kind === 'touch') return `${by} touches ${to}: ${event.event}`;
  const { damage, damageKind, stun } = event;
  const hurts = damage > 0 ? `, ${shortNumber(damage)}${damageKind === null ? '' : ` ${damageKind}`}` : '';
  return `${by} strikes ${to}: ${OUTCOMES[event.outcome]}${hurts}${stun > 0 ? `, stun ${shortNumber(stun)} s` : ''}`;
}
