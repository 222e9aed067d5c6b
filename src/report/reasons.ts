import { wantList, wantObject, wantText } from './arguments.js';
/** Why an ability may not start. `wordReason` makes a sentence of each. */
export type Reason =
  | { readonly code: 'running' }
  /** The lane does something that does not let it in. */
  | { readonly code: 'busy'; readonly by: string; readonly phase: string | null }
  /** Another request went first in the same tick: it started in the lane, or broke this ability. */
  | { readonly code: 'outranked'; readonly by: string }
  | { readonly code: 'from'; readonly stance: string; readonly allowed: readonly string[] }
  | { readonly code: 'follows'; readonly allowed: readonly string[] }
  | { readonly code: 'barred'; readonly by: string }
  /** Seconds left, or null while the event that it counts from has not come. */
  | { readonly code: 'cooldown'; readonly left: number | null }
  /** It is not learnt. */
  | { readonly code: 'locked' }
  /** It is not part of the active loadout. */
  | { readonly code: 'loadout'; readonly active: string | null }
  /** Seconds until the next one, or null when no time brings it. */
  | { readonly code: 'charges'; readonly left: number | null }
  | { readonly code: 'pool'; readonly pool: string; readonly have: number; readonly need: number }
  /** Its upkeep ran out; `need` is how much is needed to start again. */
  | { readonly code: 'restart'; readonly pool: string; readonly have: number; readonly need: number }
  /** The function for its cost returned no number. */
  | { readonly code: 'cost'; readonly pool: string }
  /** Its warp finds no place with room for the body, or there is none for whom it calls. */
  | { readonly code: 'room' }
  /** Its warp has no point or direction to go to: `wants` are those that it looks for. */
  | { readonly code: 'target'; readonly wants: string }
  | { readonly code: 'when'; readonly text: string; readonly facts: readonly ReasonFact[] };

/** A fact that a failed condition read, and its value. */
export interface ReasonFact {
  readonly text: string;
  readonly value: number | boolean;
}

/** One reason in a few words, for people: `wind 5 of 9`. */
export function wordReason(reason: Reason): string {
  wantObject('wordReason', 'a reason', reason);
  switch (reason.code) {
    case 'running':
      return 'already running';
    case 'busy':
      return `${reason.by}${reason.phase ? ` (${reason.phase})` : ''} is running and not open to it`;
    case 'outranked':
      return `${reason.by} went first in this tick`;
    case 'from':
      return `only in ${reason.allowed.join(' or ')}, not in ${reason.stance}`;
    case 'follows':
      return `only after ${reason.allowed.join(', ')}`;
    case 'barred':
      return `barred by ${reason.by}`;
    case 'cooldown':
      return reason.left === null
        ? 'on cooldown until its event is received'
        : `on cooldown for ${shortNumber(reason.left)} s`;
    case 'room':
      return 'no room there';
    case 'target':
      return `there is no ${reason.wants} to go to`;
    case 'locked':
      return 'not learnt';
    case 'loadout':
      return reason.active === null ? 'not in any active loadout' : `not in the loadout ${reason.active}`;
    case 'charges':
      return reason.left === null ? 'no charges left' : `no charges left, the next in ${shortNumber(reason.left)} s`;
    case 'pool':
      return `${reason.pool} ${shortNumber(reason.have)} of ${neededNumber(reason.need)}`;
    case 'cost':
      return `the function for its cost in ${reason.pool} returned no number`;
    case 'restart':
      return `${reason.pool} ran out: ${shortNumber(reason.have)} of ${neededNumber(reason.need)} needed to start again`;
    case 'when': {
      const facts = reason.facts.filter((fact) => fact.text !== reason.text);
      const values = facts.map(
        (fact) => `${fact.text} is ${typeof fact.value === 'number' ? shortNumber(fact.value) : fact.value}`,
      );
      return `"${reason.text}" does not hold${values.length > 0 ? `: ${values.join(', ')}` : ''}`;
    }
  }
}

/** Which reason a player should see, the first of these that there is: what waiting does not change comes first. */
const BY_WEIGHT: readonly Reason['code'][] = [
  ...([
    'locked',
    'loadout',
    'follows',
    'from',
    'when',
    'cooldown',
    'charges',
    'pool',
    'restart',
    'cost',
    'target',
    'room',
  ] as const),
  ...(['barred', 'busy', 'running', 'outranked'] as const),
];

/** Every code that a reason can have. */
export const REASONS = BY_WEIGHT;

/** The one reason to show where there is room for one; null for none. */
export function mainReason(reasons: readonly Reason[]): Reason | null {
  wantList('mainReason', 'its argument', reasons);
  for (const reason of reasons) wantObject('mainReason', 'a reason', reason);
  for (const code of BY_WEIGHT) {
    const found = reasons.find((reason) => reason.code === code);
    if (found) return found;
  }
  return null;
}

/** All reasons as one sentence. */
export function wordRefusal(ability: string, reasons: readonly Reason[]): string {
  wantText('wordRefusal', 'the ability', ability);
  wantList('wordRefusal', 'its reasons', reasons);
  if (reasons.length === 0) return `${ability} may start.`;
  return `${ability} may not start: ${reasons.map(wordReason).join('; ')}.`;
}

/** At most two decimals, rounded up for what one needs: 9.001 is not had with 9. */
function neededNumber(value: number): string {
  return String(Math.ceil(value * 100 - 1e-6) / 100);
}

/** At most two decimals, rounded down for what one has, so that 8.999 is not shown as 9. */
export function shortNumber(value: number): string {
  return String(Math.floor(value * 100 + 1e-6) / 100);
}
