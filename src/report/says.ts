/** Each reason in a few words; what stands in braces is filled in. */
export const REASON_TEXTS = {
  locked: 'not learnt',
  loadout: 'not in the loadout {active}',
  loadoutNone: 'not in any active loadout',
  follows: 'only after {allowed}',
  from: 'only in {allowed}, not in {stance}',
  when: '"{text}" does not hold',
  whenFacts: '"{text}" does not hold: {facts}',
  cooldown: 'on cooldown for {remaining} s',
  cooldownEvent: 'on cooldown until its event is received',
  charges: 'no charges left, the next in {remaining} s',
  chargesNone: 'no charges left',
  pool: '{pool} {have} of {need}',
  restart: '{pool} ran out: {have} of {need} needed to start again',
  cost: 'the function for its cost in {pool} returned no number',
  target: 'there is no {wants} to go to',
  room: 'no room there',
  barred: 'barred by {by}',
  busy: '{by} is running and not open to it',
  busyPhase: '{by} ({phase}) is running and not open to it',
  running: 'already running',
  outranked: '{by} went first in this tick',
  may: '{ability} may start.',
  mayNot: '{ability} may not start: {reasons}.',
  or: '{first} or {second}',
} as const;

/** What a text of a reason is for: its code, or a case of it. */
export type ReasonText = keyof typeof REASON_TEXTS;

/**
 * A player's words: for parts of a moveset by their names, and whole texts of reasons. All of it may be left out. `describe`
 * gives those that the moveset has; a table of the same form says it in another language.
 */
export interface Says {
  readonly abilities?: Readonly<Record<string, string>>;
  readonly pools?: Readonly<Record<string, string>>;
  readonly stances?: Readonly<Record<string, string>>;
  readonly loadouts?: Readonly<Record<string, string>>;
  /** What is said where a condition does not hold, by its name or by its text. */
  readonly conditions?: Readonly<Record<string, string>>;
  /** Other texts for reasons, like `{ cooldown: 'noch {remaining} s' }`. */
  readonly reasons?: Readonly<Partial<Record<ReasonText, string>>>;
}

export const SAYS_KEYS: readonly (keyof Says)[] = [
  'abilities',
  'pools',
  'stances',
  'loadouts',
  'conditions',
  'reasons',
];

/** The player's word for something; its name, where there is none. */
export function wordFor(says: Says | undefined, room: Exclude<keyof Says, 'reasons'>, name: string): string {
  const all = says?.[room];
  const word = all && Object.hasOwn(all, name) ? all[name] : undefined;
  return typeof word === 'string' ? word : name;
}

/** A text of the table with its places filled in. */
export function fillText(says: Says | undefined, key: ReasonText, values: Readonly<Record<string, string>>): string {
  const own = says?.reasons;
  const text = own && Object.hasOwn(own, key) ? own[key] : undefined;
  return (typeof text === 'string' ? text : REASON_TEXTS[key]).replace(/\{(\w+)\}/g, (all, name: string) =>
    Object.hasOwn(values, name) ? values[name] : all,
  );
}
