import { wantObject } from './arguments.js';
import type { LoggiaEvent, Values } from './events.js';
import { shortNumber, wordReason } from './reasons.js';

const ENDS: Record<string, string> = {
  time: 'ends',
  condition: 'ends by its condition',
  released: 'ends: released',
  ranOut: 'ends: its pool ran out',
  code: 'is ended by code',
  interrupted: 'is interrupted',
  couldNotPay: 'ends: could not pay',
  unavailable: 'ends: no longer available',
};

/** `: loud 3, where 1, 2` */
function wordValues(values: Values = {}): string {
  const words = Object.entries(values).map(([name, value]) => `${name} ${wordValue(value)}`);
  return words.length === 0 ? '' : `: ${words.join(', ')}`;
}

function wordValue(value: Values[string]): string {
  if (value === null) return 'none';
  if (typeof value === 'string') return value;
  if (typeof value === 'number') return shortNumber(value);
  const { x, y, z } = value;
  return `(${[x, y, ...(z === 0 ? [] : [z])].map(shortNumber).join(', ')})`;
}

/**
 * An event as people read it in the story of a run.
 * @param event One of `readout.events`.
 */
export function wordEvent(event: LoggiaEvent): string {
  wantObject('wordEvent', 'an event', event);
  switch (event.kind) {
    case 'started':
      return `${event.ability} starts`;
    case 'phase':
      return `${event.ability}: ${event.phase}`;
    case 'ended':
      if (event.why === 'followed') return `${event.ability} ends: followed by ${event.by}`;
      if (event.why === 'broken') return `${event.ability} is broken by ${event.by}`;
      return `${event.ability} ${ENDS[event.why]}`;
    case 'refused': {
      const kept = event.kept > 0 ? ` (kept for ${shortNumber(event.kept)} s)` : '';
      const rule = event.via === 'rule' ? ' (rule)' : '';
      return `${event.ability} refused${rule}: ${event.reasons.map(wordReason).join('; ')}${kept}`;
    }
    case 'stance':
      return `stance ${event.to}`;
    case 'landed':
      return 'lands';
    case 'airborne':
      return 'leaves the ground';
    case 'stuck':
      return 'is stuck inside something solid';
    case 'fell':
      return 'falls out of the world';
    case 'warped':
      return `warps to ${shortNumber(event.x)}, ${shortNumber(event.y)}${event.z === 0 ? '' : `, ${shortNumber(event.z)}`}`;
    case 'emitted':
      return `emits ${event.event}${wordValues(event.values)}`;
    case 'received':
      return `receives ${event.event}${wordValues(event.values)}`;
    case 'summoned':
      return `calls ${event.who}`;
    case 'gone':
      return 'leaves the arena';
    case 'lost':
      return `loses ${event.event}: too many messages in one tick`;
    case 'clip':
      return `${event.clip === null ? 'no clip' : `clip ${event.clip}`}${event.layer === 'base' ? '' : ` on ${event.layer}`}`;
    case 'loadout':
      return `loadout ${event.loadout}`;
    case 'emptied':
      return `${event.pool} is empty`;
    case 'latched':
      return `${event.ability} latched`;
    case 'unlatched':
      return `${event.ability} unlatched`;
  }
}
