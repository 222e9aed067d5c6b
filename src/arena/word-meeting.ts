import { shortNumber } from '../report/reasons.js';
import type { ArenaEvent } from './arena.js';

const OUTCOMES = {
  struck: 'is struck',
  armoured: 'takes it on its armour',
  blocked: 'blocks',
  parried: 'parries',
  guardBroken: 'has its guard broken',
};

/** What happened between two members, as people read it. */
export function wordMeeting(event: ArenaEvent): string {
  const { by, to } = event;
  if (event.kind === 'clash') return `the strike of ${by} clashes with that of ${to}, and is lost`;
  if (event.kind === 'touch') return `${by} touches ${to}: ${event.event}`;
  const { damage, damageKind, stun } = event;
  const hurts = damage > 0 ? `, ${shortNumber(damage)}${damageKind === null ? '' : ` ${damageKind}`}` : '';
  return `${to} ${OUTCOMES[event.outcome]} by ${by}${hurts}${stun > 0 ? `, stun ${shortNumber(stun)} s` : ''}`;
}
