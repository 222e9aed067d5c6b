import { want, wantList, wantObject, wantOptions, wantText } from './arguments.js';
import { fillText, type ReasonText, SAYS_KEYS, type Says, wordFor } from './says.js';

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
  | { readonly code: 'cooldown'; readonly remaining: number | null }
  /** It is not learnt. */
  | { readonly code: 'locked' }
  /** It is not part of the active loadout. */
  | { readonly code: 'loadout'; readonly active: string | null }
  /** Seconds until the next one, or null when no time brings it. */
  | { readonly code: 'charges'; readonly remaining: number | null }
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

type Worded<C extends Reason['code']> = (
  reason: Extract<Reason, { code: C }>,
  says: Says | undefined,
) => readonly [text: ReasonText, values?: Readonly<Record<string, string>>];

/** Which text says a reason, and what is filled in; what waiting does not change comes first, and a player sees the first of these that there is. */
const WORDED: { readonly [C in Reason['code']]: Worded<C> } = {
  locked: () => ['locked'],
  loadout: ({ active }, says) =>
    active === null ? ['loadoutNone'] : ['loadout', { active: wordFor(says, 'loadouts', active) }],
  follows: ({ allowed }, says) => [
    'follows',
    { allowed: allowed.map((name) => wordFor(says, 'abilities', name)).join(', ') },
  ],
  from: ({ allowed, stance }, says) => [
    'from',
    { allowed: either(allowed, says), stance: wordFor(says, 'stances', stance) },
  ],
  when: wordCondition,
  cooldown: ({ remaining }) =>
    remaining === null ? ['cooldownEvent'] : ['cooldown', { remaining: shortNumber(remaining) }],
  charges: ({ remaining }) =>
    remaining === null ? ['chargesNone'] : ['charges', { remaining: shortNumber(remaining) }],
  pool: (reason, says) => ['pool', amounts(reason, says)],
  restart: (reason, says) => ['restart', amounts(reason, says)],
  cost: ({ pool }, says) => ['cost', { pool: wordFor(says, 'pools', pool) }],
  target: ({ wants }) => ['target', { wants }],
  room: () => ['room'],
  barred: ({ by }, says) => ['barred', { by: wordFor(says, 'abilities', by) }],
  busy: ({ by, phase }, says) =>
    phase === null
      ? ['busy', { by: wordFor(says, 'abilities', by) }]
      : ['busyPhase', { by: wordFor(says, 'abilities', by), phase }],
  running: () => ['running'],
  outranked: ({ by }, says) => ['outranked', { by: wordFor(says, 'abilities', by) }],
};

/** Stances with "or" between. */
function either(names: readonly string[], says: Says | undefined): string {
  const [first = '', ...others] = names.map((name) => wordFor(says, 'stances', name));
  return others.reduce((first, second) => fillText(says, 'or', { first, second }), first);
}

function amounts(
  { pool, have, need }: { readonly pool: string; readonly have: number; readonly need: number },
  says: Says | undefined,
): Record<string, string> {
  return { pool: wordFor(says, 'pools', pool), have: shortNumber(have), need: neededNumber(need) };
}

/** Every code that a reason can have, in the order in which a player sees them. */
export const REASONS = Object.keys(WORDED) as Reason['code'][];

function wordCondition({
  text,
  facts,
}: Extract<Reason, { code: 'when' }>): readonly [ReasonText, Record<string, string>] {
  const values = facts
    .filter((fact) => fact.text !== text)
    .map((fact) => `${fact.text} is ${typeof fact.value === 'number' ? shortNumber(fact.value) : fact.value}`);
  return values.length === 0 ? ['when', { text }] : ['whenFacts', { text, facts: values.join(', ') }];
}

/**
 * One reason in a few words, for people: `wind 5 of 9`; with a player's words, `Stamina 5 of 9`. A number in their
 * place is passed over, so that `reasons.map(wordReason)` works.
 * @param reason One of them.
 * @param says Texts of your own, by code; `{remaining}` and the like are filled in.
 * @throws {UsageError} for what is no reason.
 */
export function wordReason(reason: Reason, says?: Says | number): string {
  return wordFilled('wordReason', reason, typeof says === 'number' ? undefined : says);
}

function wordFilled(call: string, reason: Reason, says: Says | undefined): string {
  wantReason(call, reason);
  wantOptions(call, says, SAYS_KEYS);
  const own = reason.code === 'when' ? wordFor(says, 'conditions', reason.text) : undefined;
  if (reason.code === 'when' && own !== undefined && own !== reason.text) return own;
  const [text, values] = (WORDED[reason.code] as Worded<Reason['code']>)(reason as never, says);
  return fillText(says, text, values ?? {});
}

function wantReason(call: string, reason: Reason): void {
  wantObject(call, 'a reason', reason);
  want(Object.hasOwn(WORDED, reason.code), call, 'the "code" of a reason', `one of ${REASONS.join(', ')}`, reason.code);
}

/**
 * The one reason to show where there is room for one; null for none.
 * @param reasons All that stood against a request.
 */
export function mainReason(reasons: readonly Reason[]): Reason | null {
  wantList('mainReason', 'its argument', reasons);
  for (const reason of reasons) wantReason('mainReason', reason);
  for (const code of REASONS) {
    const found = reasons.find((reason) => reason.code === code);
    if (found) return found;
  }
  return null;
}

/**
 * All reasons as one sentence, in a player's words if there are any.
 * @param ability Its name.
 * @param reasons All that stood against it.
 * @param says Texts of your own, as `wordReason` takes them.
 */
export function wordRefusal(ability: string, reasons: readonly Reason[], says?: Says): string {
  wantText('wordRefusal', 'the ability', ability);
  wantList('wordRefusal', 'its reasons', reasons);
  wantOptions('wordRefusal', says, SAYS_KEYS);
  const named = { ability: wordFor(says, 'abilities', ability) };
  if (reasons.length === 0) return fillText(says, 'may', named);
  const worded = reasons.map((reason) => wordFilled('wordRefusal', reason, says));
  return fillText(says, 'mayNot', { ...named, reasons: worded.join('; ') });
}

/** At most two decimals, rounded up for what one needs: 9.001 is not had with 9. */
function neededNumber(value: number): string {
  return String(Math.ceil(value * 100 - 1e-6) / 100);
}

/** At most two decimals, rounded down for what one has, so that 8.999 is not shown as 9. */
export function shortNumber(value: number): string {
  return String(Math.floor(value * 100 + 1e-6) / 100);
}
