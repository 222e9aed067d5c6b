import { want, wantList, wantObject, wantText } from './arguments.js';
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

type Says = { readonly [C in Reason['code']]: (reason: Extract<Reason, { code: C }>) => string };

/** Each reason in a few words; what waiting does not change comes first, and a player sees the first of these that there is. */
const SAYS: Says = {
  locked: () => 'not learnt',
  loadout: ({ active }) => (active === null ? 'not in any active loadout' : `not in the loadout ${active}`),
  follows: ({ allowed }) => `only after ${allowed.join(', ')}`,
  from: ({ allowed, stance }) => `only in ${allowed.join(' or ')}, not in ${stance}`,
  when: wordCondition,
  cooldown: ({ left }) =>
    left === null ? 'on cooldown until its event is received' : `on cooldown for ${shortNumber(left)} s`,
  charges: ({ left }) => (left === null ? 'no charges left' : `no charges left, the next in ${shortNumber(left)} s`),
  pool: ({ pool, have, need }) => `${pool} ${shortNumber(have)} of ${neededNumber(need)}`,
  restart: ({ pool, have, need }) =>
    `${pool} ran out: ${shortNumber(have)} of ${neededNumber(need)} needed to start again`,
  cost: ({ pool }) => `the function for its cost in ${pool} returned no number`,
  target: ({ wants }) => `there is no ${wants} to go to`,
  room: () => 'no room there',
  barred: ({ by }) => `barred by ${by}`,
  busy: ({ by, phase }) => `${by}${phase ? ` (${phase})` : ''} is running and not open to it`,
  running: () => 'already running',
  outranked: ({ by }) => `${by} went first in this tick`,
};

/** Every code that a reason can have, in the order in which a player sees them. */
export const REASONS = Object.keys(SAYS) as Reason['code'][];

function wordCondition({ text, facts }: Extract<Reason, { code: 'when' }>): string {
  const values = facts
    .filter((fact) => fact.text !== text)
    .map((fact) => `${fact.text} is ${typeof fact.value === 'number' ? shortNumber(fact.value) : fact.value}`);
  return `"${text}" does not hold${values.length > 0 ? `: ${values.join(', ')}` : ''}`;
}

/** One reason in a few words, for people: `wind 5 of 9`. Throws a UsageError for what is no reason. */
export function wordReason(reason: Reason): string {
  wantReason('wordReason', reason);
  return (SAYS[reason.code] as (reason: Reason) => string)(reason);
}

function wantReason(call: string, reason: Reason): void {
  wantObject(call, 'a reason', reason);
  want(Object.hasOwn(SAYS, reason.code), call, 'the "code" of a reason', `one of ${REASONS.join(', ')}`, reason.code);
}

/** The one reason to show where there is room for one; null for none. */
export function mainReason(reasons: readonly Reason[]): Reason | null {
  wantList('mainReason', 'its argument', reasons);
  for (const reason of reasons) wantReason('mainReason', reason);
  for (const code of REASONS) {
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
