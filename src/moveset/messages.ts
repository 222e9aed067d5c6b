import { isName, isPlain } from './read.js';

/** What a value of a message is. */
export const VALUE_TYPES = ['number', 'time', 'point', 'direction'] as const;

/** One value of a message. */
export interface MessageValue {
  readonly name: string;
  /** One of several words is kept as its index, -1 for none of them. */
  readonly type: (typeof VALUE_TYPES)[number] | 'word';
  readonly words: readonly string[];
  /** Its first number among those of the message, and how many it takes. */
  readonly at: number;
  readonly size: number;
}

/** An event that a moveset declares, and the values that it carries. */
export interface Message {
  readonly name: string;
  readonly values: readonly MessageValue[];
  /** How many numbers its values take. */
  readonly size: number;
  /** The character hears it, in the next tick, when it emits it itself. */
  readonly hearsOwn: boolean;
}

/** Most values that a moveset may declare for one event. */
export const MOST_VALUES = 8;

/** What an arena tells of a blow: first to whom it came, then to whom it came from. A moveset that wants one declares it. */
export const BLOWS = [
  'struck',
  'armoured',
  'blocked',
  'parried',
  'guardBroken',
  'hit',
  'hitBlocked',
  'hitParried',
  'clashed',
  'touched',
  'callerStruck',
] as const;

/** The values that each of them carries, before those that a moveset adds. */
export const BLOW_VALUES = {
  damage: 'number',
  kind: [],
  push: 'direction',
  stun: 'time',
  from: 'point',
  at: 'point',
  by: 'number',
  volume: 'number',
} as const;

/** The events of a moveset, read or not: what is faulty in them is left out. */
export function messagesOf({ events, kinds }: { events?: unknown; kinds?: unknown }): Message[] {
  const names = Array.isArray(events)
    ? events.filter((name): name is string => typeof name === 'string' && isName(name))
    : Object.keys(isPlain(events) ? events : {}).filter(isName);
  return names.map((name) => {
    const given = isPlain(events) ? events[name] : undefined;
    const { values, hears }: Record<string, unknown> = isPlain(given) ? given : {};
    const standard = (BLOWS as readonly string[]).includes(name) ? { ...BLOW_VALUES, kind: kinds ?? [] } : {};
    return { name, ...layOutValues({ ...standard, ...(isPlain(values) ? values : {}) }), hearsOwn: hears === 'own' };
  });
}

function layOutValues(declared: Record<string, unknown>): { values: MessageValue[]; size: number } {
  let size = 0;
  const values = Object.entries(declared).flatMap(([name, type]): MessageValue[] => {
    const words = Array.isArray(type) ? type.filter((word): word is string => typeof word === 'string') : [];
    const kind = Array.isArray(type) ? 'word' : VALUE_TYPES.find((known) => known === type);
    if (kind === undefined || !isName(name)) return [];
    const takes = kind === 'point' || kind === 'direction' ? 3 : 1;
    size += takes;
    return [{ name, type: kind, words, at: size - takes, size: takes }];
  });
  return { values, size };
}
